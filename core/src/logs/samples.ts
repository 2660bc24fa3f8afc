import { median, percentileOf } from '../numeric/median.ts'

/** One channel of a log as it came, in the order of arrival: times in ms since 1970, values, signal quality in %. */
export interface Channel {
  readonly t: ArrayLike<number>
  /** null: no sample. */
  readonly v: ArrayLike<number | null>
  readonly q?: ArrayLike<number | null> | null | undefined
}

/** How one sample stands to the largest time before it. */
export type Arrival = 'first' | 'forward' | 'duplicate' | 'backwards'

/** The samples of a channel that are samples, and how they came. */
export interface Arrived {
  readonly n: number
  readonly t: Float64Array
  readonly v: Float64Array
  /** NaN where no quality was given. */
  readonly q: Float64Array | null
  readonly arrival: readonly Arrival[]
  /** The largest time before each sample, ms; the sample's own for the first. */
  readonly latest: Float64Array
  readonly nulls: number
  /** Duplicates and backwards samples. */
  readonly left: number
}

/** Takes the nulls out and says of each sample whether its time rises, stands or falls. */
export function arrived({ t, v, q }: Channel): Arrived {
  const count = Math.min(t.length, v.length)
  const times = new Float64Array(count)
  const values = new Float64Array(count)
  const quality = q ? new Float64Array(count) : null
  const latest = new Float64Array(count)
  const arrival: Arrival[] = []
  let [n, left, most] = [0, 0, -Infinity]
  for (let i = 0; i < count; i++) {
    const value = v[i]
    if (value === null || value === undefined) continue
    const time = t[i] ?? NaN
    const how: Arrival =
      n === 0 ? 'first' : time > most ? 'forward' : time === most ? 'duplicate' : 'backwards'
    if (how === 'duplicate' || how === 'backwards') left++
    times[n] = time
    values[n] = value
    if (quality) quality[n] = q?.[i] ?? NaN
    latest[n] = n === 0 ? time : most
    arrival.push(how)
    most = Math.max(most, time)
    n++
  }
  return {
    n,
    t: times.subarray(0, n),
    v: values.subarray(0, n),
    q: quality?.subarray(0, n) ?? null,
    arrival,
    latest: latest.subarray(0, n),
    nulls: count - n,
    left,
  }
}

/** How often samples come, and from which step on one is missing. */
export interface Pace {
  /** Median of the rising steps, ms; 0 where there is none. */
  readonly interval: number
  readonly p95: number
  /** A step longer than this, ms, is a gap. */
  readonly gapAbove: number
}

export function paceOf(a: Arrived, gapFactor: number): Pace {
  const steps: number[] = []
  for (let i = 1; i < a.n; i++) if (a.arrival[i] === 'forward') steps.push((a.t[i] ?? 0) - (a.latest[i] ?? 0))
  if (steps.length === 0) return { interval: 0, p95: 0, gapAbove: Infinity }
  const interval = median(steps)
  const p95 = percentileOf(Float64Array.from(steps).sort(), 95)
  return { interval, p95, gapAbove: gapFactor * (p95 > 2 * interval ? p95 : interval) }
}

/** A series whose times rise: what statistics, stretches, totals and comparisons rest on. */
export interface Series {
  readonly n: number
  readonly t: Float64Array
  readonly v: Float64Array
  readonly pace: Pace
}

/** A channel without nulls, duplicates and backwards samples, and what was left out. */
export interface Risen extends Series {
  readonly nulls: number
  readonly left: number
}

export function risen(channel: Channel, gapFactor = 5): Risen {
  const a = arrived(channel)
  const t = new Float64Array(a.n - a.left)
  const v = new Float64Array(a.n - a.left)
  let n = 0
  for (let i = 0; i < a.n; i++)
    if (a.arrival[i] === 'first' || a.arrival[i] === 'forward') {
      t[n] = a.t[i] ?? 0
      v[n++] = a.v[i] ?? 0
    }
  return { n, t, v, pace: paceOf(a, gapFactor), nulls: a.nulls, left: a.left }
}
