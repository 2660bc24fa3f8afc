import type { Table } from '../chart.ts'
import { roundText, sayNumber } from '../quantity/round.ts'
import { cyclesOf, effectiveness } from './cycle-times.ts'
import { debounce, type Edge } from './debounce.ts'
import { contradictions, performanceCause, type Counted } from './effect-causes.ts'

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
  /** Cycles outside the limits, when they ended. */
  readonly alarms: readonly Alarm[]
  readonly inLimits: boolean
}
/** A cycle that was too short or too long: when it ended, and how long it took. */
export interface Alarm {
  readonly at_s: number
  readonly cycle_s: number
  readonly kind: 'too short' | 'too long'
}

/** A longer gap is a stop of the machine, not a slow cycle. */
const STOP_S = 120

const sayCycles = (n: number) => (n === 1 ? '1 cycle is' : `${n} cycles are`)

/** Counts an input over a window and judges its cycles; the filter is the one of the input card. */
export function checkInput(t: InputTask): InputResult {
  const accepted = debounce(t.edges, t.filter_ms / 1000, t.to_s)
  const rising = accepted.filter((e) => e.level).map((e) => e.t)
  const cycles = cyclesOf(rising, t.ideal_s, STOP_S)
  const gaps = rising.slice(1).map((x, i) => x - (rising[i] ?? 0))
  const tooShort = gaps.filter((g) => g < t.least_s).length
  const tooLong = gaps.filter((g) => g > t.most_s).length
  const planned_s = t.planned_s ?? t.to_s - t.from_s
  const good = t.good ?? rising.length
  const asked: Counted = {
    gaps,
    total: rising.length,
    good,
    window_s: t.to_s - t.from_s,
    planned_s,
    downtime_s: cycles.downtime_s,
    ideal_s: t.ideal_s,
    least_s: t.least_s,
  }
  const wrong = contradictions(asked)
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
          `${sayCycles(tooShort)} shorter than ${sayNumber(t.least_s)} s: bounces that come through, or parts counted twice?`,
        ]
      : []),
    ...(tooLong > 0 ? [`${sayCycles(tooLong)} longer than ${sayNumber(t.most_s)} s.`] : []),
    ...wrong,
    wrong.length > 0
      ? 'Availability, performance and quality are not given until these agree.'
      : effect.idealWrong
        ? performanceCause(asked, effect.P)
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
    alarms: alarmsOf(rising, t),
    inLimits: rising.length > 1 && tooShort === 0 && !effect.idealWrong && wrong.length === 0,
  }
}

/** Every cycle outside its limits, in order. */
function alarmsOf(rising: readonly number[], t: Pick<InputTask, 'least_s' | 'most_s'>): Alarm[] {
  return rising.slice(1).flatMap((at_s, i): Alarm[] => {
    const cycle_s = at_s - (rising[i] ?? 0)
    if (cycle_s < t.least_s) return [{ at_s, cycle_s, kind: 'too short' }]
    return cycle_s > t.most_s ? [{ at_s, cycle_s, kind: 'too long' }] : []
  })
}

/** What a cycle was lost to, in the words of the losses. */
const lossOf = (cycle_s: number, ideal_s: number): string =>
  cycle_s > STOP_S ? 'standstill' : cycle_s > 1.5 * ideal_s ? 'short stop' : cycle_s > ideal_s ? 'slow' : ''

/**
 * Counts and cycles as a table to hand on: every count with its time, its cycle, what it lost and its alarm.
 * @param zero_ms - the instant at which its times are 0, ms since 1970
 */
export function countTable(r: InputResult, t: Pick<InputTask, 'ideal_s'>, zero_ms: number): Table {
  const rising = r.accepted.filter((e) => e.level).map((e) => e.t)
  const kinds = new Map(r.alarms.map((a) => [a.at_s, a.kind]))
  return {
    title: 'Counts and cycles',
    columns: ['count', 'time', 'cycle, s', 'lost to', 'alarm'],
    rows: rising.map((at_s, i) => {
      const before = rising[i - 1]
      const cycle_s = before === undefined ? null : at_s - before
      return [
        String(i + 1),
        new Date(zero_ms + Math.round(at_s * 1000)).toISOString(),
        cycle_s === null ? '' : roundText(cycle_s, 3),
        cycle_s === null ? '' : lossOf(cycle_s, t.ideal_s),
        kinds.get(at_s) ?? '',
      ]
    }),
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
