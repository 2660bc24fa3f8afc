import { mean } from '../numeric/mean.ts'
import type { Chart } from '../chart.ts'
import { roundText, sayNumber } from '../quantity/round.ts'
import { printedUnit } from '../quantity/units.ts'
import type { Measured } from './measured-reference.ts'
import { againstBaseline, baselineTrend, grubbs, normalisedError, repeatedRuns } from './reference-check.ts'

/** What a reading was held against. */
export const REFERENCES = {
  portable: 'Portable meter',
  tank: 'Tank, by level and time',
  bucket: 'Bucket and scale',
  pulses: 'Reference meter, by its pulses',
  total: 'Totalizer',
  certificate: 'Certificate',
  other: 'Another reference',
} as const
export type ReferenceKind = keyof typeof REFERENCES

export interface ComparisonRun {
  readonly reference: number
  readonly indicated: number
  /** Path of a two-path meter; null for the meter as a whole. */
  readonly path: 1 | 2 | null
  /** What the reference was reckoned from, where it was caught or drawn. */
  readonly measured?: Measured | undefined
}
export interface ReferenceTask {
  readonly kind: ReferenceKind
  readonly unit: string
  /** Expanded uncertainties, k = 2, % of reading. */
  readonly Uref_pct: number
  readonly Umeter_pct: number
  readonly tolerance_pct: number
  readonly runs: readonly ComparisonRun[]
}
/** An earlier comparison that later ones are held against. */
export interface PastComparison {
  readonly at: string
  readonly U_pct: number
  readonly points: readonly { readonly at: number; readonly error_pct: number }[]
}
export interface ReferenceResult {
  readonly errors_pct: readonly number[]
  readonly En: readonly number[]
  readonly U_pct: number
  readonly mean_pct: number
  readonly outlier: number | null
  readonly baseline: ReturnType<typeof againstBaseline> | null
  readonly says: readonly string[]
  readonly passes: boolean
}

const LEAST_REPEATS = 3
const YEAR_MS = 365.25 * 86_400_000
const signed = (x: number) => `${x > 0 ? '+' : ''}${roundText(x, 2)}`

/**
 * A reading or total against a reference, run by run, with what the record knows from before.
 * @param past - oldest first
 * @param at - when it was compared; without it nothing is said of a trend
 */
export function compareWithReference(
  t: ReferenceTask,
  past: readonly PastComparison[] = [],
  at: string | null = null,
): ReferenceResult {
  const usable = t.runs.filter((r) => r.reference !== 0)
  const errors_pct = usable.map((r) => (100 * (r.indicated - r.reference)) / Math.abs(r.reference))
  const En = usable.map(
    (r) =>
      normalisedError(
        r.indicated,
        r.reference,
        (t.Umeter_pct * Math.abs(r.reference)) / 100,
        (t.Uref_pct * Math.abs(r.reference)) / 100,
      ).En,
  )
  const says: string[] = []
  if (usable.length === 0)
    return {
      errors_pct,
      En,
      U_pct: 0,
      mean_pct: 0,
      outlier: null,
      baseline: null,
      says: ['Nothing to compare yet.'],
      passes: false,
    }
  const uB = Math.hypot(t.Uref_pct, t.Umeter_pct) / 2
  const repeated = errors_pct.length >= LEAST_REPEATS ? repeatedRuns(errors_pct, uB) : null
  const U_pct = repeated?.U ?? 2 * uB
  const mean_pct = mean(errors_pct)
  const outlier = errors_pct.length >= LEAST_REPEATS ? grubbs(errors_pct).outlier : null
  const passes = Math.abs(mean_pct) <= t.tolerance_pct
  says.push(
    `Reads ${signed(mean_pct)} % against the ${REFERENCES[t.kind].toLowerCase()}, known to ±${sayNumber(U_pct, 2)} %; ±${sayNumber(t.tolerance_pct, 3)} % is allowed.`,
  )
  const far = En.filter((e) => Math.abs(e) > 1).length
  says.push(
    far === 0
      ? 'Meter and reference agree within their uncertainties at every run.'
      : `They do not agree within their uncertainties at ${far} of ${En.length} runs: that is an error, not scatter.`,
  )
  const apart = outlier === null ? undefined : usable[outlier]
  if (apart)
    says.push(
      `Run ${(outlier ?? 0) + 1} (${sayNumber(apart.indicated, 5)} ${printedUnit(t.unit)}) stands apart from the others. Leave it out only for a reason that was seen.`,
    )
  const [one, two] = ([1, 2] as const).map((p) => errors_pct.filter((_, i) => usable[i]?.path === p))
  if (one && two && one.length > 0 && two.length > 0) {
    const between = mean(two) - mean(one)
    says.push(
      `Path 2 reads ${signed(between)} % against path 1${Math.abs(between) > t.tolerance_pct ? ': swirl, or one of them is mounted or set up wrongly' : ''}.`,
    )
  }
  const first = past[0]
  const now = usable.map((r, i) => ({ at: r.reference, error: errors_pct[i] ?? 0 }))
  const baseline = first
    ? againstBaseline(
        first.points.map((p) => ({ at: p.at, error: p.error_pct })),
        now,
        first.U_pct,
        U_pct,
      )
    : null
  if (baseline && first) {
    const known = baseline.points.flatMap((p) => (p.delta === null ? [] : [p.delta]))
    const outside = baseline.points.length - known.length
    if (known.length > 0)
      says.push(
        `Since the baseline of ${first.at.slice(0, 10)} it moved by ${signed(mean(known))} %${baseline.agrees ? ', within the uncertainties' : ': more than the uncertainties explain'}.`,
      )
    if (outside > 0)
      says.push(
        `${outside === 1 ? '1 run lies' : `${outside} runs lie`} outside the flows of the baseline, not compared with it.`,
      )
    says.push(...(at === null ? [] : trendSays(past, mean_pct, at)))
  }
  return { errors_pct, En, U_pct, mean_pct, outlier, baseline, says, passes }
}

/** Slope over the years where there are three comparisons or more. */
function trendSays(past: readonly PastComparison[], now_pct: number, at: string): string[] {
  const years = [...past.map((p) => p.at), at].map((t) => Date.parse(t) / YEAR_MS)
  const means = [...past.map((p) => mean(p.points.map((x) => x.error_pct))), now_pct]
  const trend = baselineTrend(years, means)
  if (!trend) return []
  return [
    trend.significant
      ? `Over ${means.length} comparisons it moves by ${signed(trend.slope)} % a year.`
      : `Over ${means.length} comparisons no trend is shown (${signed(trend.slope)} ± ${sayNumber(trend.half, 2)} % a year).`,
  ]
}

/** Errors over the flow, now and at every earlier comparison. */
export function comparisonChart(
  t: ReferenceTask,
  r: ReferenceResult,
  past: readonly PastComparison[],
): Chart | null {
  const usable = t.runs.filter((x) => x.reference !== 0)
  if (usable.length === 0 && past.length === 0) return null
  const xs = [...usable.map((x) => x.reference), ...past.flatMap((p) => p.points.map((x) => x.at))]
  const [low, high] = [Math.min(...xs), Math.max(...xs)]
  const limit = (y: number, name: string) =>
    ({
      name,
      kind: 'limit',
      points: [
        [low, y],
        [high, y],
      ],
    }) as const
  return {
    title: 'Error against the reference',
    says: r.says[0] ?? '',
    x: { label: 'Reference', unit: t.unit },
    y: { label: 'Error', unit: '%' },
    series: [
      ...past.map((p, i) => ({
        name: i === 0 ? `baseline, ${p.at.slice(0, 10)}` : p.at.slice(0, 10),
        kind: 'line' as const,
        points: [...p.points].sort((a, b) => a.at - b.at).map((x): [number, number] => [x.at, x.error_pct]),
      })),
      {
        name: 'now',
        kind: 'points' as const,
        points: usable.map((x, i): [number, number] => [x.reference, r.errors_pct[i] ?? 0]),
      },
      limit(t.tolerance_pct, 'allowed'),
      limit(-t.tolerance_pct, 'allowed, below'),
    ],
  }
}
