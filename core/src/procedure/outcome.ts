import type { ProcedureRun } from './run.ts'

/** What a procedure came to; always from readings after the last write and the limits, never from its last step. */
export const RESULTS = [
  'untouched',
  'adjusted',
  'notVerified',
  'notJudged',
  'reference',
  'asPlanned',
  'look',
  'out',
  'refused',
  'notDone',
] as const
export type Result = (typeof RESULTS)[number]

export interface Outcome {
  readonly result: Result
  /** What it rests on, in sentences. */
  readonly says: readonly string[]
}

export const RESULT_WORDS: Readonly<Record<Result, string>> = {
  untouched: 'good, untouched',
  adjusted: 'adjusted, good',
  notVerified: 'adjusted, not verified',
  notJudged: 'not judged',
  reference: 'reference taken',
  asPlanned: 'done as planned',
  look: 'reported',
  out: 'out of its limits',
  refused: 'refused by the device',
  notDone: 'not done',
}
/** Good stands for a proof; whatever is not proved is to be looked at. */
export const RESULT_STATE: Readonly<Record<Result, 'good' | 'look' | 'stop'>> = {
  untouched: 'good',
  adjusted: 'good',
  notVerified: 'look',
  notJudged: 'look',
  reference: 'good',
  asPlanned: 'good',
  look: 'look',
  out: 'stop',
  refused: 'stop',
  notDone: 'look',
}

/** Whether the run wrote anything into the device that was not put back. */
export const wrote = (run: ProcedureRun): boolean =>
  run.done.some((d) => d.step.kind === 'write') && !run.done.some((d) => d.step.id === 'abort-revertTrim')

/** When the run last changed what the device reads; null where it did not, or it was put back. */
export function changedAt(run: ProcedureRun): string | null {
  const changes = run.done.filter((d) => d.step.kind === 'write' || d.step.keysIn)
  const back = run.done.some((d) => d.step.id === 'abort-revertTrim')
  // What was keyed in from a plate is not put back with a trim.
  return (back ? changes.filter((d) => d.step.keysIn) : changes).at(-1)?.at ?? null
}

/** Gates that were passed over, with who did it and why. */
export const overruledOf = (run: ProcedureRun) =>
  run.done.flatMap((d) => (d.overruled ? [{ step: d.step, by: d.by, at: d.at, ...d.overruled }] : []))

/** A result that is good, held back where one of its readings was taken against a gate. */
export function heldBack(run: ProcedureRun, o: Outcome): Outcome {
  if (RESULT_STATE[o.result] !== 'good') return o
  // A check against itself, or a mark against a stack, asks for no tolerance.
  if (run.started.context.toleranceAssumed && ['adjusted', 'untouched'].includes(o.result))
    return {
      result: wrote(run) ? 'notVerified' : 'notJudged',
      says: [
        ...o.says,
        'Nobody has told what this loop allows: what is usual was taken. Enter its tolerance.',
      ],
    }
  const phase = wrote(run) ? 'asLeft' : 'asFound'
  const against = overruledOf(run).filter(
    (x) => x.step.kind !== 'write' && (x.step.phase === phase || x.step.phase === undefined),
  )
  if (against.length === 0) return o
  return {
    result: wrote(run) ? 'notVerified' : 'notJudged',
    says: [
      ...o.says,
      `${against.map((x) => `“${x.step.title}”`).join(', ')} ${against.length === 1 ? 'was' : 'were'} taken against a gate: ${against.map((x) => x.reason).join('; ')}.`,
    ],
  }
}
