import type { StationId } from '../../signal/stage.ts'
import { LINKS, type Link } from './links.ts'

/** How often the fault lies in each link, before anything is known; can be changed. */
export const PRIOR: Readonly<Record<Link, number>> = {
  'IN>PV': 0.3,
  'PV>PCT': 0.08,
  'PCT>MA': 0.12,
  'MA>V': 0.15,
  'V>CNT': 0.1,
  'CNT>EU': 0.15,
  'EU>DSP': 0.1,
}
/** Minutes that a reading costs. */
export const MINUTES: Partial<Readonly<Record<StationId, number>>> = {
  PV: 2,
  PCT: 2,
  MA: 5,
  V: 5,
  CNT: 3,
  EU: 1,
}
export const MISS = 0.05
export const FALSE_ALARM = 0.02
/** One segment this likely is found. */
const FOUND = 0.9
const EQUAL = 1e-9

export type Weights = Partial<Readonly<Record<Link, number>>>
export interface Gain {
  readonly at: StationId
  readonly gain_bit: number
  readonly perMinute: number
  readonly minutes: number
  readonly pGood: number
}
export interface NextMeasurement {
  readonly entropy_bit: number
  readonly posterior: Weights
  readonly gains: readonly Gain[]
  readonly bestByGain: StationId | null
  readonly bestPerMinute: StationId | null
  /** The link that is found, when one is likely enough. */
  readonly found: Link | null
}
export interface NextTask {
  /** Weights of the segments that are there, in order; the defaults where left out. */
  readonly weights?: Weights
  readonly links?: readonly Link[]
  /** What has been read: a station that was good or bad. */
  readonly readings: readonly { readonly at: StationId; readonly good: boolean }[]
  readonly miss?: number
  readonly falseAlarm?: number
  readonly minutes?: Partial<Readonly<Record<StationId, number>>>
}

const entropy = (p: readonly number[]) => -p.reduce((s, x) => (x > 0 ? s + x * Math.log2(x) : s), 0)

/** The reading that tells most about where one fault lies, by information and by information a minute. */
export function nextMeasurement(task: NextTask): NextMeasurement {
  const links = LINKS.filter((l) => (task.links ?? LINKS).includes(l))
  const miss = task.miss ?? MISS
  const falseAlarm = task.falseAlarm ?? FALSE_ALARM
  const minutes = task.minutes ?? MINUTES
  const behind = (l: Link) => (l.split('>')[1] ?? '') as StationId
  const normal = (xs: readonly number[]) => {
    const sum = xs.reduce((a, b) => a + b, 0)
    return xs.map((x) => x / sum)
  }
  let P = normal(links.map((l) => task.weights?.[l] ?? PRIOR[l]))
  /** Probability that a reading behind the link k is bad, by where the fault lies. */
  const bad = (k: number) => links.map((_, s) => (s <= k ? 1 - miss : falseAlarm))
  for (const r of task.readings) {
    const k = links.findIndex((l) => behind(l) === r.at)
    if (k < 0) continue
    P = normal(P.map((p, s) => p * (r.good ? 1 - (bad(k)[s] ?? 0) : (bad(k)[s] ?? 0))))
  }
  const H = entropy(P)
  const read = new Set(task.readings.map((r) => r.at))
  const gains = links.slice(0, -1).flatMap((l, k): Gain[] => {
    const at = behind(l)
    if (read.has(at)) return []
    const b = bad(k)
    const pBad = P.reduce((s, p, i) => s + p * (b[i] ?? 0), 0)
    const onBad = P.map((p, i) => (p * (b[i] ?? 0)) / pBad)
    const onGood = P.map((p, i) => (p * (1 - (b[i] ?? 0))) / (1 - pBad))
    const gain_bit = H - pBad * entropy(onBad) - (1 - pBad) * entropy(onGood)
    const cost = minutes[at] ?? 5
    return [{ at, gain_bit, perMinute: gain_bit / cost, minutes: cost, pGood: 1 - pBad }]
  })
  const best = (value: (g: Gain) => number): StationId | null => {
    let top: Gain | null = null
    for (const g of gains) {
      if (top === null || value(g) > value(top) + EQUAL) top = g
      else if (Math.abs(value(g) - value(top)) <= EQUAL && g.minutes < top.minutes) top = g
    }
    return top?.at ?? null
  }
  const foundAt = P.findIndex((p) => p >= FOUND)
  return {
    entropy_bit: H,
    posterior: Object.fromEntries(links.map((l, i) => [l, P[i] ?? 0])),
    gains,
    bestByGain: best((g) => g.gain_bit),
    bestPerMinute: best((g) => g.perMinute),
    found: foundAt >= 0 ? (links[foundAt] ?? null) : null,
  }
}
