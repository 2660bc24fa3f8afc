import { procedureOf } from './catalogue.ts'
import { heldBack, RESULT_WORDS, wrote, type Outcome } from './outcome.ts'
import type { ProcedureRun } from './run.ts'
import type { Step } from './step.ts'

/** Stopped, refused, or as the procedure judges it by its readings; null while it is under way. */
export function outcomeOf(run: ProcedureRun): Outcome | null {
  if (run.state === 'running' || run.state === 'aborting') return null
  if (run.state === 'handedOver')
    return {
      ...standing(run),
      says: [
        ...standing(run).says,
        `The work went on by ${procedureOf(run.handed?.to ?? '')?.title ?? 'another procedure'}.`,
      ],
    }
  if (run.state === 'outOfService')
    return { result: 'out', says: ['It did not read what the process is: out of service, bypass listed.'] }
  if (run.started.rules === undefined)
    return {
      result: 'notJudged',
      says: ['Done before results were judged by their as-left readings.'],
    }
  if (run.state === 'aborted')
    return wrote(run)
      ? { ...standing(run), says: [`Stopped: ${run.abort?.reason ?? ''}.`, ...standing(run).says] }
      : { result: 'notDone', says: [`Stopped: ${run.abort?.reason ?? ''}. Nothing is changed.`] }
  return standing(run)
}

/** What the readings taken so far come to. */
export function standing(run: ProcedureRun): Outcome {
  const judged = procedureOf(run.started.procedure)?.judge(run)
  return heldBack(run, judged ?? { result: 'notJudged', says: ['This procedure is no longer known.'] })
}

/** What is said at a step: of the last radio call what was found; else as the step says, from what was read. */
export function sayOf(step: Step, run: ProcedureRun): string {
  if (step.work === 'close' && run.state === 'running' && run.started.rules !== undefined) {
    const failed = run.done.some((d) => d.step.work === 'check' && d.choice === 'fails')
    const { tag } = run.started.context
    return failed
      ? `“${tag} stays out of service: in manual, its bypasses listed. Do not use its reading.”`
      : `“${tag} is yours again: ${RESULT_WORDS[standing(run).result]}.” ${step.says}`
  }
  return step.saysFrom?.(run) ?? step.says
}
