import { allProcedures } from '../family/procedures.ts'
import type { Procedure } from './step.ts'

/** Every guided procedure there is: what the families bring, each once. */
export const PROCEDURES: readonly Procedure[] = allProcedures()
const byId = new Map(PROCEDURES.map((p) => [p.id, p]))
export const procedureOf = (id: string): Procedure | null => byId.get(id) ?? null
