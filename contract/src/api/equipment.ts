import { z } from 'zod'
import {
  ChangeEquipment,
  Equipment,
  EquipmentPast,
  InstrumentPictures,
  NewEquipment,
  NewInstrumentPictures,
  RetireEquipment,
} from '../equipment.ts'
import { equipment } from './addresses.ts'
import { EVERYONE, WORKERS, type Endpoint } from './endpoint.ts'

const one = z.object({ instrument: z.uuid() })

export const equipmentApi = {
  [equipment.list]: {
    says: 'Instruments with their certificates',
    allow: EVERYONE,
    answer: z.array(Equipment),
  },
  [equipment.add]: {
    says: 'Add an instrument',
    allow: WORKERS,
    body: NewEquipment,
    answer: Equipment,
    status: 201,
    problems: ['conflict'],
  },
  [equipment.change]: {
    says: 'A new certificate, or a correction; what stood there before is kept',
    allow: WORKERS,
    params: one,
    body: ChangeEquipment,
    answer: z.array(Equipment),
    problems: ['not-found', 'conflict'],
  },
  [equipment.retire]: {
    says: 'Take an instrument out of use, or back in',
    allow: WORKERS,
    params: one,
    body: RetireEquipment,
    answer: z.array(Equipment),
    problems: ['not-found', 'conflict'],
  },
  [equipment.past]: {
    says: 'What the register had of an instrument, the newest first',
    allow: EVERYONE,
    params: one,
    answer: z.array(EquipmentPast),
  },
  [equipment.pictures]: {
    says: 'Photographs of an instrument, the newest first',
    allow: EVERYONE,
    params: one,
    answer: z.array(InstrumentPictures),
  },
  [equipment.keepPictures]: {
    says: 'Keep photographs of an instrument; the same ones again are kept once',
    allow: WORKERS,
    params: one,
    body: NewInstrumentPictures,
    answer: z.array(InstrumentPictures),
    problems: ['not-found', 'conflict'],
  },
  [equipment.picture]: {
    says: 'A photograph of an instrument, by its SHA-256',
    allow: EVERYONE,
    params: one.extend({ picture: z.string().regex(/^[0-9a-f]{64}$/, 'A SHA-256.') }),
    answer: 'image/jpeg',
    problems: ['not-found'],
  },
} as const satisfies Readonly<Record<string, Endpoint>>
