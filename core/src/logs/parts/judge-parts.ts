import { median } from '../../numeric/median.ts'
import { LOG_FINDINGS, type JudgeSettings, type LogFinding } from '../findings/finding.ts'
import { judgeLog } from '../findings/judge.ts'
import { joinedPieces } from './join.ts'
import type { PartJudged, PartTotal, Slow } from './piece.ts'

/** What many parts show together and none of them by itself. */
const SLOW = new Set<LogFinding['code']>(['PERIODIC', 'STEP', 'DRIFT'])
/** Blocks in which steps are looked for: a step of the whole lies within so many of them of its place. */
const STEP_WITHIN = 2 / 128
/** Whoever sees less than ten periods of a wave takes it for steps and drifts: from trough to crest twice its amplitude. */
const OF_A_WAVE = 2.5
/** Slow values on either side of a step that have to bear it out. */
const AROUND = 50
/** A period is told by a part from ten of them on. */
const FEWEST_PERIODS = 10

const number = (f: LogFinding, key: string) => Number(f.evidence[key] ?? 0)
const sizeOf = (f: LogFinding) => Math.abs(number(f, f.code === 'DRIFT' ? 'total' : 'size'))
const isOneWave = (a: LogFinding, b: LogFinding) =>
  Math.abs(number(a, 'period_s') - number(b, 'period_s')) <= 0.05 * number(b, 'period_s')

/** One value for each few samples of all parts, as a log of its own. */
function slowLog(parts: readonly PartJudged[]) {
  const of = (key: keyof Slow) => Float64Array.from(parts.flatMap((p) => [...p.slow[key]]))
  const t = of('t')
  const long = (t.at(-1) ?? 0) - (t[0] ?? 0)
  return { t, v: of('v'), long }
}

/**
 * Whether a level is another one behind a step than before it. An excursion shorter than the blocks in which steps are
 * looked for leaves a pair of steps where nothing happened.
 */
function isBorneOut(
  step: LogFinding,
  { t, v }: { readonly t: Float64Array; readonly v: Float64Array },
): boolean {
  let at = 0
  while (at < t.length && (t[at] ?? 0) < step.from) at++
  const before = v.subarray(Math.max(0, at - AROUND), at)
  const behind = v.subarray(at, at + AROUND)
  if (before.length === 0 || behind.length === 0) return false
  const change = median(behind) - median(before)
  return change * Math.sign(number(step, 'size')) >= sizeOf(step) / 2
}

/**
 * Findings of a log that is too long to be judged at once, from its parts in their order: each of its own stretch, what
 * goes on beyond a seam as one, and what is too slow for any of them from one value for each 64 samples.
 */
export function judgeParts(parts: readonly PartJudged[], s: JudgeSettings): readonly LogFinding[] {
  const slow = slowLog(parts)
  // Ends of the range and signals were judged by the parts.
  const whole = judgeLog(slow, { ...s, range: undefined, limits: [] }).filter(
    (f) => SLOW.has(f.code) && (f.code !== 'STEP' || isBorneOut(f, slow)),
  )
  const near = joinedPieces(
    parts.map((p) => p.pieces),
    s,
  )
  const slowest = slow.long / Math.max(1, parts.length) / (2 * FEWEST_PERIODS)
  const wave = whole.find((f) => f.code === 'PERIODIC' && number(f, 'period_s') * 1000 > slowest)
  const drift = whole.find((f) => f.code === 'DRIFT')
  const isHere = (f: LogFinding, at: LogFinding, within: number) =>
    at.from >= f.from - within && at.from <= f.to + within
  /** Sizes of the steps of the whole that a part saw at this place: the nearest one that goes the same way. */
  const sizeOfWhole = new Map<LogFinding, number>()
  for (const w of whole.filter((f) => f.code === 'STEP')) {
    const [nearest] = near
      .filter((f) => f.code === 'STEP' && isHere(f, w, STEP_WITHIN * slow.long))
      .filter((f) => Math.sign(number(f, 'size')) === Math.sign(number(w, 'size')))
      .sort((a, b) => Math.abs(a.from - w.from) - Math.abs(b.from - w.from))
    // The whole may tell one step as two beside each other: its place is not known to a sample there.
    if (nearest) sizeOfWhole.set(nearest, (sizeOfWhole.get(nearest) ?? 0) + number(w, 'size'))
  }

  const kept = near.flatMap((f): readonly LogFinding[] => {
    if (f.code === 'DRIFT') {
      // A piece of the drift of the whole is no finding of its own.
      const ratio = drift ? number(f, 'perHour') / number(drift, 'perHour') : NaN
      if (ratio > 0.5 && ratio < 2) return []
    }
    if (!wave || (f.code !== 'STEP' && f.code !== 'DRIFT')) return [f]
    // Its part saw the wave as a level that moves: the place is well known, the size only with the wave taken out.
    const size = sizeOfWhole.get(f)
    if (size !== undefined) return [{ ...f, evidence: { size } }]
    return sizeOf(f) <= OF_A_WAVE * number(wave, 'amplitude') ? [] : [f]
  })
  const isTold = (f: LogFinding) =>
    kept.some(
      (k) => ['STEP', 'DRIFT', 'UNIT_CHANGED'].includes(k.code) && isHere(k, f, STEP_WITHIN * slow.long),
    )
  const added = whole.filter((f) => {
    if (f.code === 'PERIODIC')
      return f === wave && !near.some((k) => k.code === 'PERIODIC' && isOneWave(k, f))
    return f.code === 'DRIFT' || !isTold(f)
  })
  const order = (f: LogFinding) => LOG_FINDINGS.indexOf(f.code)
  return [...kept, ...added].sort((x, y) => x.from - y.from || order(x) - order(y))
}

/** Totals of parts that lie one behind the other; null where one has none. */
export function totalOfParts(parts: readonly PartJudged[]): PartTotal | null {
  const all = parts.flatMap((p) => p.total ?? [])
  if (all.length === 0 || all.length < parts.length) return null
  const sum = (of: (p: PartTotal) => number) => all.reduce((x, p) => x + of(p), 0)
  return {
    forward: sum((p) => p.forward),
    reverse: sum((p) => p.reverse),
    net: sum((p) => p.net),
    // The noise of one part knows nothing of that of another.
    U: Math.sqrt(sum((p) => p.U ** 2)),
    complete: all.every((p) => p.complete),
    gaps: sum((p) => p.gaps),
  }
}
