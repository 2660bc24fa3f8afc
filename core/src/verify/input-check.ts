import type { Table } from '../chart.ts'
import { roundText, sayNumber } from '../quantity/round.ts'
import { cyclesOf, effectiveness } from './cycle-times.ts'
import { debounce, type Edge } from './debounce.ts'

/** What an input is judged by: its filter, and what a cycle should take. */
export interface InputTask {
  readonly edges: readonly Edge[]
  readonly from_s: number
  readonly to_s: number
  readonly filter_ms: number
  readonly ideal_s: number
  readonly least_s: number
  readonly most_s: number
  /** Planned time of the window, s; the whole of it where nothing else is told. */
  readonly planned_s: number | null
  /** Good ones of those counted; all where nothing else is told. */
  readonly good: number | null
}
export interface InputResult {
  readonly accepted: readonly Edge[]
  /** Edges that the filter took away. */
  readonly bounced: number
  readonly count: number
  readonly cycles: ReturnType<typeof cyclesOf>
  readonly tooShort: number
  readonly tooLong: number
  readonly effect: ReturnType<typeof effectiveness>
  readonly planned_s: number
  readonly good: number
  readonly says: readonly string[]
  readonly inLimits: boolean
}

/** A longer gap is a stop of the machine, not a slow cycle. */
const STOP_S = 120

/** Counts an input over a window and judges its cycles; the filter is the one of the input card. */
export function checkInput(t: InputTask): InputResult {
  const accepted = debounce(t.edges, t.filter_ms / 1000, t.to_s)
  const rising = accepted.filter((e) => e.level).map((e) => e.t)
  const cycles = cyclesOf(rising, t.ideal_s, STOP_S)
  const gaps = rising.slice(1).map((x, i) => x - (rising[i] ?? 0))
  const tooShort = gaps.filter((g) => g < t.least_s).length
  const tooLong = gaps.filter((g) => g > t.most_s).length
  const planned_s = t.planned_s ?? t.to_s - t.from_s
  const good = Math.min(t.good ?? rising.length, rising.length)
  const effect = effectiveness(
    planned_s,
    Math.min(planned_s, cycles.downtime_s),
    t.ideal_s,
    rising.length,
    good,
  )
  const bounced = t.edges.length - accepted.length
  const pct = (x: number) => `${roundText(100 * x, 1)} %`
  const says = [
    `${rising.length} counted${bounced > 0 ? `, ${bounced} bounces taken away by the filter` : ''}.`,
    ...(tooShort > 0
      ? [
          `${tooShort} cycles are shorter than ${sayNumber(t.least_s)} s: bounces that come through, or parts counted twice?`,
        ]
      : []),
    ...(tooLong > 0 ? [`${tooLong} cycles are longer than ${sayNumber(t.most_s)} s.`] : []),
    effect.idealWrong
      ? `Performance comes to ${pct(effect.P)}: nothing is faster than its ideal, so the ideal cycle of ${sayNumber(t.ideal_s)} s is wrong.`
      : `Availability ${pct(effect.A)} × performance ${pct(effect.P)} × quality ${pct(effect.Q)} = ${pct(effect.OEE)}.`,
  ]
  return {
    accepted,
    bounced,
    count: rising.length,
    cycles,
    tooShort,
    tooLong,
    effect,
    planned_s,
    good,
    says,
    inLimits: rising.length > 1 && tooShort === 0 && !effect.idealWrong,
  }
}

/** Statistics and losses for reading and printing. */
export function inputTable(r: InputResult): Table {
  const s = (x: number) => `${roundText(x, 2)} s`
  const min = (x: number) => `${roundText(x / 60, 1)} min`
  return {
    title: 'Cycles and losses',
    columns: ['', ''],
    rows: [
      ['Mean', s(r.cycles.mean)],
      ['Standard deviation', s(r.cycles.sd)],
      ['Median', s(r.cycles.median)],
      ['90 of 100 within', s(r.cycles.p90)],
      ['Lost to slow cycles', min(r.cycles.slowLoss_s)],
      [`Lost to ${r.cycles.microStops} short stops`, min(r.cycles.microLoss_s)],
      ['Lost to standstill', min(r.cycles.downtime_s)],
    ],
  }
}
