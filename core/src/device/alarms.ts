import { alertsOf, movedAt_s, settled, type Alert, type StandIn } from './stand-in.ts'

/** An alarm as the device keeps it: when it came, and when it was gone. */
export interface Alarm {
  readonly code: string
  readonly says: string
  readonly at_s: number
  readonly gone_s: number | null
}
const KEPT = 200

/** The list after a look at a time: what is new comes in, what is over is closed. */
function noted(alarms: readonly Alarm[], standing: readonly Alert[], t_s: number): readonly Alarm[] {
  const still = (a: Alarm) => standing.some((s) => s.code === a.code)
  const known = alarms.map((a) => (a.gone_s !== null || still(a) ? a : { ...a, gone_s: t_s }))
  const fresh = standing
    .filter((s) => !known.some((a) => a.gone_s === null && a.code === s.code))
    .map((s) => ({ ...s, at_s: t_s, gone_s: null }))
  return [...known, ...fresh].slice(-KEPT)
}

/** The device looks at itself so often, s, as long as something is on its way; and for so long after that. */
const [EVERY_S, LOOKS] = [5, 18]

/**
 * Moments at which the device has looked at itself since its list was noted last: every five seconds after it was moved,
 * started or settled, for as long as that takes; after that nothing changes by itself.
 */
function moments(d: StandIn, t_s: number): number[] {
  const ends = d.task ? [d.task.from_s + d.task.takes_s] : []
  const from = d.alarmsAt_s ?? t_s
  return [movedAt_s(d), ...ends, from]
    .flatMap((begin) => Array.from({ length: LOOKS }, (_, i) => Math.max(begin, from) + i * EVERY_S))
    .filter((t) => t > from && t < t_s)
    .sort((a, b) => a - b)
}

/** The alarm list at a time, whether or not anybody has looked since it was noted last. */
export function alarmsNow(d: StandIn, t_s: number): readonly Alarm[] {
  return [...moments(d, t_s), t_s].reduce<readonly Alarm[]>(
    (list, t) => noted(list, alertsOf(settled(d, t), t), t),
    d.alarms,
  )
}
