import { ending } from './parts.ts'
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
  ...(started.gates ? { asks: started.gates } : {}),
})

/** What the procedure before held is let go before anything is read. */
const RELEASE: Step = {
  id: 'release-before',
  kind: 'apply',
  title: 'Release the held current',
  says: 'The output follows the measurement again.',
  holdCurrent_mA: null,
}

/** What a procedure that connects nothing itself has to take off at its end, where it goes on from one that did. */
function takenOff(c: ProcedureContext, steps: readonly Step[], did: ReadonlySet<WorkEvent>): readonly Step[] {
  if (!did.has('connect') || steps.some((s) => s.work === 'disconnect')) return steps
  const off = ending(c).filter((s) => s.work === 'disconnect' || s.work === 'restore')
  const back = steps.findIndex((s) => s.work === 'check')
  return back < 0 ? steps : [...steps.slice(0, back), ...off, ...steps.slice(back)]
}

/**
 * The steps of a procedure for the loop and the way that were written down at its beginning. What stands from the
 * procedure that it goes on from is not done again, and undone at its end. What was begun by older rules has their steps.
 */
export function stepsOf(procedure: Procedure, started: ProcedureStarted): readonly Step[] {
  const way = started.way ?? 'inService'
  const c = contextMadeFor(started)
  const did: ReadonlySet<WorkEvent> = new Set(started.after?.did ?? [])
  const steps = [
    ...(started.after?.held === true ? [RELEASE] : []),
    ...procedure.steps(c).filter((s) => s.work === undefined || !did.has(s.work)),
  ]
  return takenOff(c, steps, did).filter((s) => belongsTo(way, s) && (s.since ?? 0) <= (started.rules ?? 0))
}
