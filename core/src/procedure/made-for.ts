import type { ProcedureStarted } from './events.ts'
import type { WorkEvent } from './order-of-work.ts'
import type { Procedure, ProcedureContext, Step, Way } from './step.ts'

/** Steps that have an operator's part: there is none where the loop is not in service. */
const OPERATORS: ReadonlySet<WorkEvent> = new Set([
  'notify',
  'manual',
  'bypassTrips',
  'unbypass',
  'auto',
  'close',
])
/** Steps that have a process in them: there is none in the workshop. */
const PROCESS: ReadonlySet<WorkEvent> = new Set(['isolate', 'vent', 'restore', 'check'])

const leftOut: Readonly<Record<Way, readonly ReadonlySet<WorkEvent>[]>> = {
  inService: [],
  commissioning: [OPERATORS],
  bench: [OPERATORS, PROCESS],
}
/** Whether a step of the work belongs to a way. */
export const belongsTo = (way: Way, step: Pick<Step, 'work'>): boolean =>
  step.work === undefined || !leftOut[way].some((s) => step.work !== undefined && s.has(step.work))

export const contextMadeFor = (started: ProcedureStarted): ProcedureContext => ({
  ...started.context,
  way: started.way ?? 'inService',
  linked: started.withDevice,
})

/** The steps of a procedure for the loop and the way that were written down at its beginning. */
export function stepsOf(procedure: Procedure, started: ProcedureStarted): readonly Step[] {
  const way = started.way ?? 'inService'
  return procedure.steps(contextMadeFor(started)).filter((s) => belongsTo(way, s))
}
