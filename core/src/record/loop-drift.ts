import { mean } from '../numeric/mean.ts'
import { normalCdf } from '../statistics/normal.ts'
import type { Chart } from '../chart.ts'
import { sayNumber } from '../quantity/round.ts'
import type { Stage } from '../signal/stage.ts'
import { driftOf, staircase_months, type Drift } from '../verify/drift.ts'
import type { Judgement } from '../verify/verdict.ts'
import { judgeRun } from './judge-run.ts'
import type { Run } from './run.ts'

/** Errors of a closed verification by level, % of span: all that drift needs to know of it. */
export interface PastErrors {
  readonly at: string
  readonly found: readonly (readonly [level_pct: number, error_pct: number])[]
  readonly left: readonly (readonly [level_pct: number, error_pct: number])[]
  /** Tolerance in the middle of the range, % of span. */
  readonly T_pct: number
  /** Largest share of its tolerance that any point used as found. */
  readonly used: number
  /** A certificate from before this record, entered later. */
  readonly entered?: true
}

const DAY_MS = 86_400_000
export const DAYS_PER_MONTH = 30.4375
/** Levels of two verifications belong together when they differ by less than this. */
const SAME_LEVEL_PCT = 2
const CLOSED: readonly Run['state'][] = ['ready', 'signed', 'countersigned']

/** Mean over both directions at each level. */
function byLevel(j: Judgement | null): [number, number][] {
  const levels: { level: number; errors: number[] }[] = []
  for (const p of [...(j?.points ?? [])].sort((a, b) => a.level_pct - b.level_pct)) {
    if (p.loop_pct === null || p.withinTolerance === null) continue
    const last = levels.at(-1)
    if (last && p.level_pct - last.level < SAME_LEVEL_PCT) last.errors.push(p.loop_pct)
    else levels.push({ level: p.level_pct, errors: [p.loop_pct] })
  }
  return levels.map((l) => [l.level, mean(l.errors)])
}

/** What a verification leaves for drift; null while it is open or has no usable reading. */
export function pastErrors(run: Run, stages: readonly Stage[]): PastErrors | null {
  if (!CLOSED.includes(run.state)) return null
  const asFound = judgeRun(run, stages, 'asFound')
  if (!asFound) return null
  const found = byLevel(asFound)
  const left = run.leftAsFound ? found : byLevel(judgeRun(run, stages, 'asLeft'))
  const judged = asFound.points.filter((p) => p.loop_pct !== null && p.withinTolerance !== null)
  const middle = [...asFound.points].sort(
    (a, b) => Math.abs(a.level_pct - 50) - Math.abs(b.level_pct - 50),
  )[0]
  return {
    at: run.startedAt,
    found,
    left,
    T_pct: middle?.allowed_pct ?? asFound.worst.allowed_pct,
    used: Math.max(0, ...judged.map((p) => Math.abs(p.loop_pct ?? 0) / p.allowed_pct)),
  }
}

export interface LoopDrift {
  readonly verifications: number
  /** Level that leaves its tolerance first, or shows the most drift, % of span; null without enough history. */
  readonly level_pct: number | null
  readonly drift: Drift
  readonly T_pct: number
  /** As left last at that level. */
  readonly a0_pct: number
  readonly lastAt: string
  /** Share of the tolerance that was used the last time. */
  readonly used: number
  readonly staircase_months: number
  /** By the drift, where it is significant. */
  readonly byDrift_months: number | null
  readonly recommended_months: number
}

const dayOf = (at: string) => Date.parse(at) / DAY_MS
const near = (list: PastErrors['found'], level: number): number | null =>
  list.find(([l]) => Math.abs(l - level) < SAME_LEVEL_PCT)?.[1] ?? null

/** Periods at one level: as-found less the as-left before it, never across an adjustment. */
function periodsAt(past: readonly PastErrors[], level: number): { dt: number; d: number }[] {
  return past.flatMap((p, i) => {
    const before = past[i - 1]
    const found = near(p.found, level)
    const left = before ? near(before.left, level) : null
    const dt = before ? dayOf(p.at) - dayOf(before.at) : 0
    return found !== null && left !== null && dt > 0 ? [{ dt, d: found - left }] : []
  })
}
/** How soon a level matters: leaving first, then the larger rate. */
const urgency = (d: Drift): number =>
  !d.enough ? Infinity : d.significant && d.earliest_days !== null ? d.earliest_days : 1e9 - Math.abs(d.rate)

/** Drift of a loop over its verifications, and when to come back; null without any. @param past - oldest first */
export function loopDrift(past: readonly PastErrors[], interval_months: number | null): LoopDrift | null {
  const last = past.at(-1)
  if (!last) return null
  const levels = last.left.map(([level, a0]) => ({
    level,
    a0,
    drift: driftOf(periodsAt(past, level), a0, last.T_pct),
  }))
  const worst = levels.reduce<(typeof levels)[number] | null>(
    (a, b) => (a === null || urgency(b.drift) < urgency(a.drift) ? b : a),
    null,
  )
  const drift: Drift = worst?.drift ?? { enough: false, periods: 0 }
  const staircase = staircase_months(
    interval_months ?? 12,
    past.map((p) => p.used),
  )
  const byDrift =
    drift.enough && drift.significant && drift.earliest_days !== null
      ? Math.min(60, Math.max(1, Math.floor(drift.earliest_days / DAYS_PER_MONTH)))
      : null
  return {
    verifications: past.length,
    level_pct: drift.enough ? (worst?.level ?? null) : null,
    drift,
    T_pct: last.T_pct,
    a0_pct: worst?.a0 ?? 0,
    lastAt: last.at,
    used: last.used,
    staircase_months: staircase,
    byDrift_months: byDrift,
    recommended_months: byDrift === null ? staircase : Math.min(byDrift, staircase),
  }
}

/** Day on which the tolerance may be left at the earliest; null where no drift is shown. */
export function leavesOn(d: LoopDrift): string | null {
  if (!d.drift.enough || !d.drift.significant || d.drift.earliest_days === null) return null
  return new Date(Date.parse(d.lastAt) + d.drift.earliest_days * DAY_MS).toISOString().slice(0, 10)
}

/**
 * Chance that the loop is found out of its tolerance after so many months, by the drift that was seen; null without
 * enough history.
 */
export function riskAfter(d: LoopDrift, after_months: number): number | null {
  if (!d.drift.enough) return null
  const days = after_months * DAYS_PER_MONTH
  const mean = d.a0_pct + d.drift.rate * days
  const sd = Math.hypot(d.drift.s, days * d.drift.uRate)
  if (sd === 0) return Math.abs(mean) > d.T_pct ? 1 : 0
  return 1 - normalCdf((d.T_pct - mean) / sd) + normalCdf((-d.T_pct - mean) / sd)
}

const YEAR_DAYS = 365.25
const months = (n: number) => `${n} month${n === 1 ? '' : 's'}`
/** Drift and interval in sentences. */
export function sayDrift(d: LoopDrift): string[] {
  const stairs = `As found it had used ${sayNumber(100 * d.used, 2)} % of its tolerance: that asks for ${months(d.staircase_months)}.`
  if (!d.drift.enough)
    return [`Too little history for a drift: ${d.drift.periods} of 3 periods between verifications.`, stairs]
  const rate = `${sayNumber(d.drift.rate * YEAR_DAYS, 2)} % of span a year at ${sayNumber(d.level_pct ?? 0, 3)} %`
  if (!d.drift.significant)
    return [
      `No drift shown over ${d.drift.periods} periods (${rate}, lost in its scatter): keep the interval.`,
      stairs,
    ]
  const on = leavesOn(d)
  return [
    `It drifts by ${rate}.`,
    on === null
      ? 'It does not leave its tolerance in a hundred years.'
      : `It may leave ±${sayNumber(d.T_pct, 3)} % from ${on} on${d.drift.extrapolated ? ', farther ahead than anything that was seen' : ''}: ${months(d.byDrift_months ?? 1)}.`,
    stairs,
  ]
}

/** As found and as left over the years at the level that matters, with what is allowed and where it goes. */
export function driftChart(past: readonly PastErrors[], d: LoopDrift): Chart | null {
  const level = d.level_pct ?? past.at(-1)?.left[0]?.[0] ?? null
  if (level === null) return null
  const year = (at: string) => 1970 + dayOf(at) / YEAR_DAYS
  const points = (which: 'found' | 'left') =>
    past.flatMap((p): [number, number][] => {
      const e = near(p[which], level)
      return e === null ? [] : [[year(p.at), e]]
    })
  const from = year(past[0]?.at ?? d.lastAt)
  const lastYear = year(d.lastAt)
  const ahead =
    d.drift.enough && d.drift.significant ? Math.min(4, (d.drift.central_days ?? 730) / YEAR_DAYS) : 1
  const to = lastYear + Math.max(0.5, ahead)
  const limit = (y: number, name: string) =>
    ({
      name,
      kind: 'limit',
      points: [
        [from, y],
        [to, y],
      ],
    }) as const
  const line = (k: number): [number, number][] => {
    const { drift } = d
    if (!drift.enough) return []
    return Array.from({ length: 13 }, (_, i) => {
      const x = ((to - lastYear) * i) / 12
      const days = x * YEAR_DAYS
      const half = drift.t * Math.sqrt(drift.s ** 2 + (days * drift.uRate) ** 2)
      return [lastYear + x, d.a0_pct + drift.rate * days + k * half]
    })
  }
  return {
    title: `Error at ${sayNumber(level, 3)} % over the years`,
    says: sayDrift(d).join(' '),
    // Whole years: nobody says 2024.5.
    x: { label: 'Year', unit: '', from: Math.floor(from), to: Math.ceil(to), step: to - from > 8 ? 2 : 1 },
    y: { label: 'Error', unit: '%' },
    series: [
      { name: 'as found', kind: 'points', points: points('found') },
      { name: 'as left', kind: 'line', points: points('left') },
      limit(d.T_pct, 'allowed'),
      limit(-d.T_pct, 'allowed, below'),
      ...(d.drift.enough
        ? ([
            { name: 'where it goes', kind: 'line', points: line(0) },
            { name: 'at the earliest', kind: 'line', points: line(Math.sign(d.drift.rate) || 1) },
          ] as const)
        : []),
    ],
  }
}
