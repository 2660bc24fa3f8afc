import { decimalsFor, roundText, sayNumber } from '../quantity/round.ts'
import { printedUnit } from '../quantity/units.ts'
import { errorComponents, type ErrorComponents } from './components.ts'
import { decideBy, type Decision, type DecisionRule } from './decision.ts'
import type { PlanPoint } from './plan.ts'
import {
  ERROR_KINDS,
  pointErrors,
  type ErrorKind,
  type LoopScale,
  type PointErrors,
  type Reading,
} from './reading-errors.ts'
import { atMost, type Tolerance } from './tolerance.ts'

/** Where an error stands against its tolerance T when it is known to ±U. */
export type VerdictClass = 'PASS' | 'CONDITIONAL_PASS' | 'CONDITIONAL_FAIL' | 'FAIL'

/**
 * Class of one error.
 * @param U - expanded uncertainty of the error in the same unit; 0 gives simple acceptance.
 * @see ILAC-G8, guard band equal to the expanded uncertainty
 */
export function classify(error: number, T: number, U: number): VerdictClass {
  const e = Math.abs(error)
  if (atMost(e, T - U)) return 'PASS'
  if (atMost(e, T)) return 'CONDITIONAL_PASS'
  return atMost(e, T + U) && U > 0 ? 'CONDITIONAL_FAIL' : 'FAIL'
}

const RANK: readonly VerdictClass[] = ['PASS', 'CONDITIONAL_PASS', 'CONDITIONAL_FAIL', 'FAIL']

export const VERDICT_WORDS: Readonly<Record<VerdictClass, string>> = {
  PASS: 'In tolerance',
  CONDITIONAL_PASS: 'In tolerance, but not for certain',
  CONDITIONAL_FAIL: 'Out of tolerance, but not for certain',
  FAIL: 'Out of tolerance',
}

export interface PartJudgement {
  readonly kind: ErrorKind
  readonly title: string
  readonly largest_pct: number
  readonly atIndex: number
  readonly components: ErrorComponents | null
}

export interface Judgement {
  readonly class: VerdictClass
  readonly sentence: string
  /** The point that decided. */
  readonly worst: PointErrors
  readonly points: readonly PointErrors[]
  readonly parts: readonly PartJudgement[]
  /** Points of the plan that have no usable reading. */
  readonly missing: readonly number[]
  /** What has to be looked at again before this is a verdict; empty where nothing is open. */
  readonly open: readonly string[]
  /** By the rule that was agreed. */
  readonly decision: Decision
}

export interface JudgeInput {
  readonly scale: LoopScale
  readonly tolerance: Tolerance
  readonly plan: readonly PlanPoint[]
  readonly readings: readonly Reading[]
  /** Expanded uncertainty of the whole comparison, percent of span; 0 when it was not stated. */
  readonly U_pct: number
  readonly phase: 'asFound' | 'asLeft'
  readonly rule?: DecisionRule | undefined
  /** Questions about the readings that nobody has answered yet. */
  readonly open?: readonly string[]
}

/** The verdict to go by: none while readings that cannot all be true were not looked at again. */
export const verdictOf = (j: Pick<Judgement, 'class' | 'open'> | null): VerdictClass | null =>
  j === null || j.open.length > 0 ? null : j.class

const valueOf: Readonly<Record<ErrorKind, (p: PointErrors) => number | null>> = {
  sensor: (p) => p.sensor_pct,
  output: (p) => p.output_pct,
  receiver: (p) => p.receiver_pct,
  loop: (p) => p.loop_pct,
}

function partOf(kind: ErrorKind, points: readonly PointErrors[]): PartJudgement | null {
  const series = points.flatMap((p) => {
    const error_pct = valueOf[kind](p)
    return error_pct === null || p.withinTolerance === null
      ? []
      : [{ level_pct: p.level_pct, direction: p.direction, error_pct, index: p.index }]
  })
  const worst = [...series].sort((a, b) => Math.abs(b.error_pct) - Math.abs(a.error_pct))[0]
  return worst
    ? {
        kind,
        title: ERROR_KINDS[kind],
        largest_pct: worst.error_pct,
        atIndex: worst.index,
        components: errorComponents(series),
      }
    : null
}

/** Digits enough that the printed error and the printed tolerance cannot contradict the verdict. */
function decimalsThatTell(e: number, T: number): number {
  const inside = atMost(e, T)
  for (let d = Math.max(1, decimalsFor(T, 2)); d < 10; d++) {
    const shownInside = Number(roundText(e, d)) <= Number(roundText(T, d))
    if (shownInside === inside) return d
  }
  return 10
}

/**
 * Judges a set of readings against the loop's tolerance: the worst point decides.
 * @returns null while no point has both an applied value and something read.
 */
export function judge(input: JudgeInput): Judgement | null {
  const points = [...input.readings]
    .sort((a, b) => a.index - b.index)
    .flatMap((r) => pointErrors(input.scale, input.tolerance, r) ?? [])
  const judged = points.filter((p) => p.withinTolerance !== null)
  const ranked = [...judged].sort(
    (a, b) => Math.abs(b.loop_pct ?? 0) - b.allowed_pct - (Math.abs(a.loop_pct ?? 0) - a.allowed_pct),
  )
  const worst = ranked[0]
  if (!worst) return null
  const verdict = classify(worst.loop_pct ?? 0, worst.allowed_pct, input.U_pct)
  const worstClass = judged
    .map((p) => classify(p.loop_pct ?? 0, p.allowed_pct, input.U_pct))
    .reduce((a, b) => (RANK.indexOf(b) > RANK.indexOf(a) ? b : a), verdict)
  const read = new Set(points.filter((p) => p.loop_pct !== null).map((p) => p.index))
  return {
    class: worstClass,
    sentence:
      input.open?.[0] === undefined
        ? `${soFar(read.size, input.plan.length)}${sentenceOf(worstClass, worst, input)}`
        : `Not judged yet: ${input.open[0]}`,
    open: input.open ?? [],
    worst,
    points,
    decision: decideBy(input.rule ?? 'simple', worst.loop_pct ?? 0, worst.allowed_pct, input.U_pct),
    parts: (Object.keys(ERROR_KINDS) as ErrorKind[]).flatMap((k) => partOf(k, points) ?? []),
    missing: input.plan.filter((p) => !read.has(p.index)).map((p) => p.index),
  }
}

/** A plan that is not read through proves only what was read. */
const soFar = (read: number, of: number): string =>
  read < of ? `So far, ${read} of ${of} ${of === 1 ? 'point' : 'points'} read: ` : ''

function sentenceOf(verdict: VerdictClass, p: PointErrors, input: JudgeInput): string {
  const e = p.loop_pct ?? 0
  const d = decimalsThatTell(Math.abs(e), p.allowed_pct)
  const when = input.phase === 'asFound' ? 'as found' : 'as left'
  const loop = p.loop
  const inputUnit = printedUnit(input.scale.input.unit)
  const where = `at ${sayNumber(p.applied)} ${inputUnit} ${p.direction === 'up' ? 'rising' : 'falling'}`
  const size = loop
    ? `reads ${sayNumber(Math.abs(loop.error), 4)} ${printedUnit(loop.unit)} ${loop.error < 0 ? 'low' : 'high'} ${where}`
    : where
  const known =
    input.U_pct > 0 ? `, known to ±${sayNumber(input.U_pct, 2)} %` : '; uncertainty was not stated'
  const sign = e > 0 ? '+' : ''
  return `${VERDICT_WORDS[verdict]} ${when}: ${size}, ${sign}${roundText(e, d)} % of span. Tolerance is ±${roundText(p.allowed_pct, d)} %${known}.`
}

/** One error for a table column in percent, with its sign and always three decimals. */
export const sayPct = (error_pct: number | null): string =>
  error_pct === null ? '' : `${error_pct > 0 ? '+' : ''}${roundText(error_pct, 3)}`
