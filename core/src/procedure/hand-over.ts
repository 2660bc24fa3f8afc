import { procedureOf } from './catalogue.ts'
import { recommendationOf } from './general/trim-advice.ts'
import { contextMadeFor, stepsOf } from './made-for.ts'
import { OPENING, type OpeningEvent, type WorkEvent } from './order-of-work.ts'
import { wrote } from './outcome.ts'
import type { ProcedureRun } from './run.ts'
import type { Procedure } from './step.ts'
import { adviceFor } from './advice.ts'
import { asLoopHasIt, PROCEDURE_OF_ACTION, TRIM_IDS } from './general/right-one.ts'

const has = (run: ProcedureRun, work: WorkEvent): boolean => run.done.some((d) => d.step.work === work)

/** What was done to the loop and stands: who goes on need not call, isolate and connect again. */
export const standingWork = (run: ProcedureRun): OpeningEvent[] =>
  OPENING.filter((w) => has(run, w) || run.started.after?.did.includes(w) === true)

/** What has to be in the end of a procedure that takes over what stands. */
const UNDOES: Partial<Readonly<Record<OpeningEvent, WorkEvent>>> = {
  notify: 'close',
  manual: 'auto',
  bypassTrips: 'unbypass',
  connect: 'disconnect',
}

/** Between these nothing stands at the loop besides the work of its opening: no shut flow, no probe drawn out. */
const TRIMS: ReadonlySet<string> = new Set(TRIM_IDS)

/** Why a procedure cannot go on from here; null where it can. */
function targetProblem(run: ProcedureRun, to: Procedure): string | null {
  if (to.id === run.started.procedure) return 'That is the procedure under way.'
  if (!TRIMS.has(run.started.procedure) || !TRIMS.has(to.id))
    return 'Only from one trim to another: lead the loop back first, then begin.'
  const did = standingWork(run)
  const started = { ...run.started, procedure: to.id, after: { run: '', did, held: run.fixedCurrent } }
  const unfit = to.unfit?.(contextMadeFor(started))
  if (unfit) return unfit.says
  const steps = stepsOf(to, started)
  if (did.includes('connect') && steps.some((s) => s.gates?.includes('process')))
    return `${to.title} is done in the process, and the standard is connected: lead the loop back first.`
  const open = did.find((w) => {
    const end = UNDOES[w]
    return end !== undefined && !steps.some((s) => s.work === end)
  })
  return open === undefined
    ? null
    : `${to.title} would leave the loop as it is now: lead it back first, then begin.`
}

/**
 * Why the work cannot go on by another procedure just now; null where it can. As found is closed, nothing half written,
 * and the way back not begun. A current that is held is released first by the one that goes on.
 */
export function handOverProblem(run: ProcedureRun, to: string): string | null {
  const target = procedureOf(to)
  if (!target) return `There is no procedure “${to}”.`
  if (run.state !== 'running') return 'It is on its way back: go on with that.'
  const decides = run.left[0]?.judged === true || run.done.some((d) => d.step.judged)
  if (!decides && !has(run, 'finishAsFound'))
    return 'Close the as-found readings first: they are the only proof there is.'
  const half = run.left.some((s) => s.phase === 'asLeft' || s.kind === 'write' || s.adjusting)
  if (wrote(run) && half) return 'Something was written: read it as left first.'
  if (has(run, 'disconnect') || has(run, 'restore') || has(run, 'check'))
    return 'The way back has begun: finish it.'
  return targetProblem(run, target)
}

/**
 * The procedures that the readings ask for instead of this one, or after it; the first of them first.
 * @param ofLoop - those that its kind of meter has: nobody trims the sensor of a flow meter with a pump
 */
export function rightOnes(run: ProcedureRun, ofLoop: readonly Pick<Procedure, 'id'>[]): string[] {
  const judged = run.left[0]?.judged === true
  const asked = judged
    ? (adviceFor(run)?.instead ?? [])
    : has(run, 'finishAsLeft')
      ? (recommendationOf(run, 'asLeft')?.actions ?? []).flatMap((a) => PROCEDURE_OF_ACTION[a] ?? [])
      : []
  const theirs = asked.flatMap((id) => asLoopHasIt(id, ofLoop) ?? [])
  return [...new Set(theirs)].filter((id) => handOverProblem(run, id) === null)
}
