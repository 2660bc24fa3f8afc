import { z } from 'zod'
import { ChangeEquipment, Equipment, EquipmentPast, NewEquipment, RetireEquipment } from '../equipment.ts'
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
} as const satisfies Readonly<Record<string, Endpoint>>
