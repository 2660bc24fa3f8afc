import { plant, plantLog } from '@calm/contract/api/addresses'
import type { Connection } from '../db/connection.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { keptHeads } from '../plant-log/heads-file.ts'
import { grownOutOf } from './grown.ts'
import { provePlant } from './prove.ts'

/** @param headsFile - the heads that left the database, if any were kept here */
export const proofHandlers = ({ db }: Connection, headsFile: string | null): Bound[] => [
  bind(plant.proof, () => provePlant(db, keptHeads(headsFile))),
  bind(plantLog.grown, ({ body }) => grownOutOf(db, body)),
]
