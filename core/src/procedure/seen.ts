import { z } from 'zod'
import { fitLine } from '../numeric/fit-line.ts'
import { isStill } from './still.ts'

/** What a device says about itself besides its reading: mean and scatter over a while in which nothing was moved. */
const SignalSeen = z.strictObject({
  value: z.number(),
  scatter: z.number().min(0),
  slope: z.number(),
  n: z.int().min(1).max(10_000),
  over_s: z.number().min(0).max(3600),
})
export type SignalSeen = z.output<typeof SignalSeen>

/** What stood on a linked device in the moment a step was done, over a window begun after the input moved last. */
export const SeenSchema = z.strictObject({
  /** By the device's own clock, s. */
  t_s: z.number(),
  /** How many samples, and over how long, s. */
  n: z.int().min(0).max(10_000),
  window_s: z.number().min(0).max(3600),
  /** How long it has to be, from the damping, s. */
  least_s: z.number().min(0).max(3600),
  /** Mean, scatter about its line and slope a second, of the reading and of the current. */
  pv: z.number(),
  pvScatter: z.number().min(0),
  pvSlope: z.number(),
  mA: z.number(),
  mAScatter: z.number().min(0),
  mASlope: z.number(),
  /** What the standard shows; null with the process on the sensor. */
  standard: z.number().nullable(),
  /** Current that the output was told to hold; null where it follows. */
  held_mA: z.number().nullable(),
  /** The range that it was really told, where it says so. */
  range: z.strictObject({ LRV: z.number(), URV: z.number() }).nullable(),
  /** It measures nothing: what stands for its reading is none. */
  silent: z.literal(true).optional(),
  /** Its signals by name, where it has any. */
  signals: z.record(z.string().max(40), SignalSeen).optional(),
})
export type Seen = z.output<typeof SeenSchema>

/** A sample of a device: its clock, reading and current. */
export interface Sample {
  readonly t_s: number
  readonly PV: number
  readonly mA: number
  readonly measures?: false | undefined
}
/** What of a device a window is made from. */
export interface Looked {
  /** Oldest first. */
  readonly samples: readonly Sample[]
  /** Device time at which input or output were moved last. */
  readonly moved_s: number
  readonly standard: number | null
  readonly held_mA: number | null
  /** The slowest of what is between input and reading, s. */
  readonly tau_s: number
  /** How long the plant wants a reading looked at, s. */
  readonly still_s: number
  readonly range: { readonly LRV: number; readonly URV: number } | null
  /** What may be wrong of reading and current: a noise that hides that is looked at for longer. */
  readonly allowed?: { readonly pv: number; readonly mA: number } | undefined
  readonly signals?: Readonly<Record<string, SignalSeen>> | undefined
}

const TIME_CONSTANTS = 5
/** No longer than what is kept of a device. */
export const MOST_WINDOW_S = 110
/** A window is this much longer than it has to be: samples come every so often. */
const SPARE_S = 1

/** How long a reading has to be looked at, s. @param tau_s - damping, s @param still_s - what the plant asks at least */
export const windowFor_s = (tau_s: number, still_s: number): number =>
  Math.min(MOST_WINDOW_S, Math.max(still_s, TIME_CONSTANTS * tau_s))

/** Each try looks so many times as far back as the one before. */
const LONGER = 1.5

const lineOf = (window: readonly Sample[], pick: (s: Sample) => number, first: Sample) => {
  const fitted = fitLine(window.map((s) => [s.t_s, pick(s)] as const))
  return fitted
    ? { mean: fitted.meanY, scatter: fitted.scatter, slope: fitted.slope }
    : { mean: pick(first), scatter: 0, slope: 0 }
}
/** The samples after a time, and their lines; null where there are none. */
function windowFrom(samples: readonly Sample[], from_s: number, end_s: number) {
  const window = samples.filter((s) => s.t_s > from_s)
  const first = window[0]
  if (!first) return null
  return {
    n: window.length,
    window_s: end_s - first.t_s,
    pv: lineOf(window, (s) => s.PV, first),
    mA: lineOf(window, (s) => s.mA, first),
    silent: window.some((s) => s.measures === false),
  }
}
type Looks = NonNullable<ReturnType<typeof windowFrom>>
const standsStill = ({ n, window_s, pv, mA }: Looks, allowed: NonNullable<Looked['allowed']>): boolean =>
  isStill({ n, window_s, ...pv }, allowed.pv) && isStill({ n, window_s, ...mA }, allowed.mA)

/**
 * The window of a device at its last sample; null while there is none. It is as long as the damping asks, and longer
 * where the noise asks for it: the first one that stands still, never from before something was moved.
 */
export function seenOf(looked: Looked): Seen | null {
  const { samples, moved_s, standard, held_mA, tau_s, still_s, range, allowed, signals } = looked
  const end = samples.at(-1)?.t_s
  if (end === undefined) return null
  const least_s = windowFor_s(tau_s, still_s)
  const shortest = windowFrom(samples, Math.max(moved_s, end - least_s - SPARE_S), end)
  if (!shortest) return null
  let best = shortest
  for (let long_s = least_s * LONGER; allowed && !standsStill(best, allowed); long_s *= LONGER) {
    const longer = windowFrom(
      samples,
      Math.max(moved_s, end - Math.min(MOST_WINDOW_S, long_s) - SPARE_S),
      end,
    )
    if (longer && standsStill(longer, allowed)) best = longer
    else if (long_s >= MOST_WINDOW_S) break
  }
  const { n, window_s, pv, mA, silent } = best
  return {
    t_s: end,
    n,
    window_s,
    least_s,
    pv: pv.mean,
    pvScatter: pv.scatter,
    pvSlope: pv.slope,
    mA: mA.mean,
    mAScatter: mA.scatter,
    mASlope: mA.slope,
    standard,
    held_mA,
    range,
    ...(silent ? { silent: true as const } : {}),
    ...(signals && Object.keys(signals).length > 0 ? { signals } : {}),
  }
}
