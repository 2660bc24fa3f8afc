import type { z } from 'zod'
import { applyProcedureEvent } from '../../procedure/engine.ts'
import type { ProcedureEventBody } from '../../procedure/events.ts'
import type { ProcedureRun } from '../../procedure/run.ts'
import type { FoldedKind } from './kind.ts'

/** A kind of a guided procedure: the engine tells what it does to it. */
export function defineProcedureKind<T extends ProcedureEventBody['type'], P extends z.ZodType>(kind: {
  readonly type: T
  readonly payload: P
  readonly title: string
  readonly says: (payload: z.output<P>) => string
  readonly body: (payload: z.output<P>) => ProcedureEventBody
}): FoldedKind<T, P, ProcedureRun> {
  const { body, ...rest } = kind
  return {
    ...rest,
    of: 'procedure',
    fold: (run, { payload, by, at }) => applyProcedureEvent(run, { body: body(payload), by, at }),
  }
}
