import { alertsOf, type StandIn } from './stand-in.ts'

/** An alarm as the device keeps it: when it came, and when it was gone. */
export interface Alarm {
  readonly code: string
  readonly says: string
  readonly at_s: number
  readonly gone_s: number | null
}
const KEPT = 200

/** The alarm list at a time: what is new comes in, what is over is closed. */
export function alarmsNow(d: StandIn, t_s: number): readonly Alarm[] {
  const standing = alertsOf(d, t_s)
  const still = (a: Alarm) => standing.some((s) => s.code === a.code)
  const known = d.alarms.map((a) => (a.gone_s !== null || still(a) ? a : { ...a, gone_s: t_s }))
  const fresh = standing
    .filter((s) => !known.some((a) => a.gone_s === null && a.code === s.code))
    .map((s) => ({ ...s, at_s: t_s, gone_s: null }))
  return [...known, ...fresh].slice(-KEPT)
}
