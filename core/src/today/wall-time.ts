import { localClock } from '../logs/sniff/local-time.ts'

const HM = /^([01]\d|2[0-3]):([0-5]\d)$/
const MINUTE_MS = 60_000

/**
 * A clock time of a day in the plant's zone as an instant, ms. One that the clock jumped over is moved on by the gap; of
 * one that it showed twice the first is meant.
 * @param day - YYYY-MM-DD; time - HH:MM
 * @throws RangeError for a time that is none: a fault of ours, what people type is checked before
 */
export function instantOf(day: string, time: string, zone: string): number {
  if (!HM.test(time)) throw new RangeError(`no clock time: ${time}`)
  return localClock(zone, { wall: null, isSecond: false })(Date.parse(`${day}T${time}:00Z`)).utc
}

/** From one clock time to another on a day, as instants; an end at or before the beginning is of the day after. */
export function spanOf(
  day: string,
  s: { readonly from: string; readonly to: string },
  zone: string,
): { readonly from: number; readonly to: number } {
  const from = instantOf(day, s.from, zone)
  const to = instantOf(day, s.to, zone)
  if (to > from) return { from, to }
  const next = new Date(Date.parse(`${day}T00:00:00Z`) + 1440 * MINUTE_MS).toISOString().slice(0, 10)
  return { from, to: instantOf(next, s.to, zone) }
}

/** Day and clock time of an instant in a zone. */
export function wallOf(ms: number, zone: string): { readonly day: string; readonly time: string } {
  const parts = new Intl.DateTimeFormat('en-US', {
    timeZone: zone,
    hourCycle: 'h23',
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    hour: '2-digit',
    minute: '2-digit',
  }).formatToParts(new Date(ms))
  const of = (type: string) => parts.find((p) => p.type === type)?.value ?? ''
  return { day: `${of('year')}-${of('month')}-${of('day')}`, time: `${of('hour')}:${of('minute')}` }
}
export const minuteIso = (ms: number): string => `${new Date(ms).toISOString().slice(0, 16)}Z`
