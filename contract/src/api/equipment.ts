import { z } from 'zod'
import { Equipment, NewEquipment } from '../equipment.ts'
import { equipment } from './addresses.ts'
import { EVERYONE, WORKERS, type Endpoint } from './endpoint.ts'

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
} as const satisfies Readonly<Record<string, Endpoint>>
