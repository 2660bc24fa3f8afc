import { Equipment, NewEquipment } from '@calm/contract/equipment'
import { z } from 'zod'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { endpoint, EVERYONE, WORKERS, type Endpoint } from '../http/endpoint.ts'
import { addEquipment, allEquipment } from './store.ts'

const dayOf = (clock: Clock) => clock().toISOString().slice(0, 10)

export const equipmentRoutes = (db: Database, clock: Clock): Endpoint[] => [
  endpoint({
    method: 'get',
    path: '/api/equipment',
    summary: 'Test equipment with its certificates',
    allow: EVERYONE,
    response: z.array(Equipment),
    handle: async () => (await allEquipment(db)).map((e) => ({ ...e, valid: e.dueOn >= dayOf(clock) })),
  }),
  endpoint({
    method: 'post',
    path: '/api/equipment',
    summary: 'Add an instrument',
    allow: WORKERS,
    body: NewEquipment,
    response: Equipment,
    status: 201,
    async handle({ body }) {
      await addEquipment(db, body)
      return { ...body, valid: body.dueOn >= dayOf(clock) }
    },
  }),
]
