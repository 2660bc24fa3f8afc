import { z } from 'zod'
import { fitLine } from '../numeric/fit-line.ts'

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
  readonly range: { readonly LRV: number; readonly URV: number } | null
}

const TIME_CONSTANTS = 5
const LEAST_S = 10
/** No longer than what is kept of a device. */
const MOST_S = 110
/** A window is this much longer than it has to be: samples come every so often. */
const SPARE_S = 1

/** How long a reading has to be looked at, s. @param tau_s - damping, s */
export const windowFor_s = (tau_s: number): number =>
  Math.min(MOST_S, Math.max(LEAST_S, TIME_CONSTANTS * tau_s))

/** The window of a device at its last sample; null while there is none. */
export function seenOf({ samples, moved_s, standard, held_mA, tau_s, range }: Looked): Seen | null {
  const end = samples.at(-1)?.t_s
  if (end === undefined) return null
  const least_s = windowFor_s(tau_s)
  const from = Math.max(moved_s, end - least_s - SPARE_S)
  const window = samples.filter((s) => s.t_s > from)
  const first = window[0]
  if (!first) return null
  const line = (pick: (s: Sample) => number) => {
    const fitted = fitLine(window.map((s) => [s.t_s, pick(s)] as const))
    return fitted
      ? { mean: fitted.meanY, scatter: fitted.scatter, slope: fitted.slope }
      : { mean: pick(first), scatter: 0, slope: 0 }
  }
  const [pv, mA] = [line((s) => s.PV), line((s) => s.mA)]
  return {
    t_s: end,
    n: window.length,
    window_s: end - first.t_s,
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
    ...(window.some((s) => s.measures === false) ? { silent: true as const } : {}),
  }
}
