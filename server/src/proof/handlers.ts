import { plant } from '@calm/contract/api/addresses'
import type { Connection } from '../db/connection.ts'
import { bind, type Bound } from '../http/endpoint.ts'
import { provePlant } from './prove.ts'

export const proofHandlers = ({ db }: Connection): Bound[] => [bind(plant.proof, () => provePlant(db))]
