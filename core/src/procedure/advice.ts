import { procedureOf } from './catalogue.ts'
import type { ProcedureRun } from './run.ts'
import type { Advice } from './step.ts'

/** Advice for the decision of a running procedure: the procedure brings it. */
export const adviceFor = (run: ProcedureRun): Advice | null =>
  procedureOf(run.started.procedure)?.advise?.(run) ?? null
