import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { equipment } from '@calm/contract/api/addresses'
import { bind, type Bound } from '../http/endpoint.ts'
import { addEquipment, allEquipment } from './store.ts'

const dayOf = (clock: Clock) => clock().toISOString().slice(0, 10)

export const equipmentHandlers = (db: Database, clock: Clock): Bound[] => [
  bind(equipment.list, async () =>
    (await allEquipment(db)).map((e) => ({ ...e, valid: e.dueOn >= dayOf(clock) })),
  ),
  bind(equipment.add, async ({ body, person }) => {
    await db.transaction((tx) => addEquipment(tx, body, person.id, clock()))
    return { ...body, valid: body.dueOn >= dayOf(clock) }
  }),
]
