/** The kinds of what a log can be found to have, in the order of work. */
export const LOG_FINDINGS = [
  'BACKWARDS',
  'DUPLICATE',
  'GAP',
  'SIGNAL_LOW',
  'OUT_OF_RANGE',
  'AT_LIMIT',
  'FROZEN',
  'QUANTISED',
  'SPIKE',
  'PERIODIC',
  'NOISE_CHANGED',
  'UNIT_CHANGED',
  'STEP',
  'DRIFT',
] as const
export type LogFindingCode = (typeof LOG_FINDINGS)[number]

/** What was found, and the stretch of the log it speaks of: times in ms, evidence in the unit of the values. */
export interface LogFinding {
  readonly code: LogFindingCode
  readonly from: number
  readonly to: number
  readonly evidence: Readonly<Record<string, number | boolean>>
}

/** With fewer usable samples values are not judged, only their times and signal: nothing found is then no good. */
export const FEWEST_JUDGED = 64

/** Thresholds of the judgement: engineering choices, each can be set. */
export interface JudgeSettings {
  readonly range?: { readonly lo: number; readonly hi: number } | undefined
  /** Values at which a signal stands when it can go no further; absent: the ends of the range. */
  readonly limits?: readonly number[] | undefined
  readonly gapFactor: number
  /** Signal quality below which a value is not used, %. */
  readonly qualityLimit: number
  readonly zeroShare: number
  readonly spikeK: number
  readonly c: number
  readonly cNoise: number
  readonly cPeriodic: number
  readonly noiseRatio: number
  /** Fewest equal values in a row that are frozen. */
  readonly minRun: number
  /** Most samples between two that still belong together. */
  readonly join: number
}

export const USUAL_JUDGEMENT: JudgeSettings = {
  gapFactor: 5,
  qualityLimit: 50,
  zeroShare: 0.4,
  spikeK: 8,
  c: 30,
  cNoise: 35,
  cPeriodic: 30,
  noiseRatio: 1.5,
  minRun: 30,
  join: 10,
}

/** Values a judgement looks at, in the order of arrival, on a clock that never goes back. */
export interface Values {
  readonly n: number
  /** As recorded, ms. */
  readonly t: Float64Array
  /** Rising seconds since the first sample: a wrong clock does not make the values wrong. */
  readonly clock: Float64Array
  readonly x: Float64Array
}

/** The samples of which a mark is 1. */
export function onlyWhere(s: Values, keep: ArrayLike<number>): Values {
  // `filter` and `from` call back for each sample: a quarter of the time of a whole judgement.
  const [t, clock, x] = [new Float64Array(s.n), new Float64Array(s.n), new Float64Array(s.n)]
  let n = 0
  for (let i = 0; i < s.n; i++) {
    if (keep[i] !== 1) continue
    t[n] = s.t[i] ?? 0
    clock[n] = s.clock[i] ?? 0
    x[n] = s.x[i] ?? 0
    n++
  }
  return { n, t: t.slice(0, n), clock: clock.slice(0, n), x: x.slice(0, n) }
}

/** Samples from..to, both included, of which `count` are meant. */
export interface Run {
  readonly from: number
  readonly to: number
  readonly count: number
}

/** Runs of samples that are meant, with at most `join` others between two of them. */
export function joinedRuns(n: number, isMeant: (i: number) => boolean, join: number): Run[] {
  const runs: Run[] = []
  for (let i = 0; i < n; i++) {
    if (!isMeant(i)) continue
    const last = runs.at(-1)
    if (last && i - last.to - 1 <= join)
      runs[runs.length - 1] = { from: last.from, to: i, count: last.count + 1 }
    else runs.push({ from: i, to: i, count: 1 })
  }
  return runs
}
