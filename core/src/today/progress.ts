import { RESULT_STATE, RESULT_WORDS, type Result } from '../procedure/outcome.ts'
import { VERDICT_WORDS, type VerdictClass } from '../verify/verdict.ts'
import type { Mark } from './entries.ts'
import { VERIFY, VISIT, type Does } from './does.ts'

/** A run as its row tells it. */
export interface RunRow {
  readonly kind: 'verification' | 'procedure'
  readonly title: string
  /** Identifier of the procedure; null for a verification. */
  readonly procedure: string | null
  readonly state: string
  readonly verdict: string | null
  readonly startedAt: string
  readonly byName: string
  /** Why it was given up. */
  readonly reason: string | null
}
export interface MarkRow extends Mark {
  readonly at: string
  readonly byName: string
}
/** gone: the record asks for it no more, and nothing proves that it was done. */
export type ProgressState = 'open' | 'begun' | 'done' | 'stopped' | 'impossible' | 'gone'
/** Where a job stands, what says so, and since when. */
export interface Progress {
  readonly state: ProgressState
  readonly says: string
  readonly at: string | null
  readonly byName: string
}
const NOTHING: Progress = { state: 'open', says: '', at: null, byName: '' }

const lowered = (text: string) => text.charAt(0).toLowerCase() + text.slice(1)
const CLOSED = new Set(['ready', 'signed', 'countersigned'])
/** What of a loop's record may prove a job. */
export interface Proof {
  readonly does: Does
  readonly since: string | null
}
/** Whether a run speaks of a job at all: trimming a transmitter is no replacing of its gasket, and none asked for later. */
export function speaksOf(
  r: Pick<RunRow, 'kind' | 'procedure' | 'startedAt'>,
  { does, since }: Proof,
): boolean {
  if (since !== null && r.startedAt < since) return false
  return (
    does === VISIT || (does === VERIFY ? r.kind === 'verification' : does !== null && r.procedure === does)
  )
}

/**
 * What the newest run of the day says of a job.
 * @param isAsked - the record asks for a visit still: what ended without a verdict on its loop has not done it
 */
function ofRun(r: RunRow, isAsked: boolean): Progress {
  const base = { at: r.startedAt, byName: r.byName }
  if (r.kind === 'verification') {
    if (!CLOSED.has(r.state)) return { ...base, state: 'begun', says: `${r.title} is under way.` }
    const words = r.verdict !== null && r.verdict in VERDICT_WORDS ? r.verdict : null
    if (words === null && isAsked)
      return { ...base, state: 'open', says: `${r.title}: not judged, so it is asked for still.` }
    return {
      ...base,
      state: 'done',
      says:
        words === null
          ? `${r.title}: not judged.`
          : `${r.title}: ${lowered(VERDICT_WORDS[words as VerdictClass])}.`,
    }
  }
  const result = r.verdict !== null && r.verdict in RESULT_WORDS ? (r.verdict as Result) : null
  if (r.state === 'running' || r.state === 'aborting')
    return { ...base, state: 'begun', says: `${r.title} is under way.` }
  if (r.state === 'aborted')
    return {
      ...base,
      state: 'stopped',
      says: `${r.title} was given up${r.reason === null ? '' : `: ${r.reason}`}.`,
    }
  if (r.state === 'handedOver')
    return { ...base, state: 'begun', says: `${r.title} went on by another procedure.` }
  if (r.state === 'outOfService')
    return { ...base, state: 'stopped', says: `${r.title}: the loop is out of service.` }
  const says = `${r.title}: ${result === null ? 'not judged' : RESULT_WORDS[result]}.`
  if (result === 'notDone') return { ...base, state: 'stopped', says }
  // A zero that was set is no verification; one that ended out of its limits was found, whatever comes next.
  return isAsked && !foundBad(r)
    ? { ...base, state: 'open', says: `${says} A verification is asked for still.` }
    : { ...base, state: 'done', says }
}

const MARK_SAYS = { begun: 'Begun', done: 'Done', stopped: 'Stopped', impossible: 'Not possible', open: '' }

/**
 * Where a job of a day stands: by what the record has of its loop since the day began, or by what somebody said of it,
 * whichever is newer.
 * @param runs - of its loop since the day began
 * @param isGone - the record asks for it no more
 * @param proof - what of the record speaks of it
 */
export function progressOf(
  runs: readonly RunRow[],
  marks: readonly MarkRow[],
  isGone: boolean,
  proof: Proof,
): Progress {
  const run = runs
    .filter((r) => speaksOf(r, proof))
    .sort((a, b) => a.startedAt.localeCompare(b.startedAt))
    .at(-1)
  const mark = [...marks].sort((a, b) => a.at.localeCompare(b.at)).at(-1)
  const byRun = run ? ofRun(run, !isGone && (proof.does === VISIT || proof.does === VERIFY)) : null
  if (mark && (!byRun || mark.at > (byRun.at ?? ''))) {
    if (mark.mark === 'open') return byRun ?? NOTHING
    const says = `${MARK_SAYS[mark.mark]}${mark.reason === '' ? '' : `: ${mark.reason}`}.`
    return { state: mark.mark, says, at: mark.at, byName: mark.byName }
  }
  if (byRun) return byRun
  return isGone ? { ...NOTHING, state: 'gone', says: 'The record asks for it no more.' } : NOTHING
}

/** Whether something was found that the next shift has to know. */
export function foundBad(r: RunRow): boolean {
  return r.kind === 'verification'
    ? // While it is under way nothing is found yet: the adjustment may come.
      CLOSED.has(r.state) && (r.verdict === 'FAIL' || r.verdict === 'CONDITIONAL_FAIL')
    : r.verdict !== null && r.verdict in RESULT_STATE && RESULT_STATE[r.verdict as Result] === 'stop'
}
