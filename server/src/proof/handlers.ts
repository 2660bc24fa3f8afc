import { plant, plantLog } from '@calm/contract/api/addresses'
import type { Connection } from '../db/connection.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { grownOutOf } from './grown.ts'
import { provePlant } from './prove.ts'

export const proofHandlers = ({ db }: Connection): Bound[] => [
  bind(plant.proof, () => provePlant(db)),
  bind(plantLog.grown, ({ body }) => grownOutOf(db, body)),
]
