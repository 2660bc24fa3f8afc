import type { Keyed } from './keyed.ts'
import type { StandIn } from './stand-in.ts'

/** As a device was up to a time: what its readings of then followed from. */
export interface Past extends Pick<StandIn, 'motion' | 'standard' | 'started' | 'place_mm'> {
  readonly until_s: number
  readonly state: StandIn['transmitter']['state']
  readonly damping_s: number
  /** Only where the lines were changed at its end. */
  readonly keyed?: Keyed
}
/** What was before the oldest of so many is remembered as that one. */
const MOST_PAST = 24

/** What a device remembers of itself when a command has changed what its readings follow from. */
export function withPast(before: StandIn, after: StandIn, t_s: number): readonly Past[] {
  const { motion, standard, started, place_mm, applied, transmitter } = before
  const piece: Past = {
    ...{ until_s: t_s, motion, standard, started, place_mm },
    state: transmitter.state,
    damping_s: applied.damping_s,
    ...(applied.keyed === after.applied.keyed ? {} : { keyed: applied.keyed }),
  }
  return [...(before.past ?? []), piece].slice(-MOST_PAST)
}

/** The device as it was at a time, as far as its readings go: what was trimmed since then has not changed them. */
export function asThen(d: StandIn, t_s: number): StandIn {
  const later = (d.past ?? []).filter((p) => p.until_s > t_s)
  const [then] = later
  if (!then) return d
  const { motion, standard, started, place_mm, state, damping_s } = then
  const keyed = later.find((p) => p.keyed)?.keyed ?? d.applied.keyed
  return {
    ...d,
    ...{ motion, standard, started, place_mm },
    transmitter: { ...d.transmitter, state },
    applied: { ...d.applied, damping_s, keyed },
  }
}
