import { sayNumber } from '../quantity/round.ts'

/** A trip relay by where it switches, in the unit of what is measured; how a controller asks for it is a conversion. */
export type Trip =
  | {
      readonly kind: 'points'
      readonly onAt: number
      readonly offAt: number
      /** Which way it switches on where both points are the same. */
      readonly same: 'falling' | 'rising'
    }
  | { readonly kind: 'band'; readonly from: number; readonly to: number; readonly onInside: boolean }

/** Both ends of what a trip hangs on, lower first. */
export const endsOfTrip = (t: Trip): readonly [low: number, high: number] =>
  t.kind === 'band' ? [t.from, t.to] : [Math.min(t.onAt, t.offAt), Math.max(t.onAt, t.offAt)]

/**
 * State of a trip relay for one value. An edge counts as reached: 1.1 + 0.3 is not 1.4 in binary, the relay
 * must switch all the same.
 * @param before - state so far; between the two points it stays.
 */
export function tripState(t: Trip, x: number, before: boolean): boolean {
  const [low, high] = endsOfTrip(t)
  const eps = 1e-9 * (1 + Math.abs(low) + Math.abs(high))
  const atMost = (limit: number) => x <= limit + eps
  const atLeast = (limit: number) => x >= limit - eps
  if (t.kind === 'band') return (atLeast(low) && atMost(high)) === t.onInside
  if (t.onAt === t.offAt) return t.same === 'falling' ? atMost(t.onAt) : atLeast(t.onAt)
  const falling = t.onAt < t.offAt
  const [on, off] = falling ? [atMost(t.onAt), atLeast(t.offAt)] : [atLeast(t.onAt), atMost(t.offAt)]
  return on ? true : off ? false : before
}

/** A whole sequence of values; null is an invalid one (lost echo, failure current). */
export function tripSequence(
  trip: Trip,
  x: readonly (number | null)[],
  startUp: boolean,
  onInvalid: 'off' | 'on' | 'hold',
): boolean[] {
  let state = startUp
  return x.map((value) => {
    if (value !== null) state = tripState(trip, value, state)
    else if (onInvalid !== 'hold') state = onInvalid === 'on'
    return state
  })
}

/** How a controller may ask for the same trip. */
export const TRIP_FORMS = {
  points: { title: 'on and off point' },
  above: { title: 'set point, deadband above it' },
  below: { title: 'set point, deadband below it' },
  centred: { title: 'set point, deadband around it' },
  width: { title: 'start, width and direction' },
} as const
export type TripForm = keyof typeof TRIP_FORMS

/** The trip as lines of a settings sheet, in the form that the controller asks for. @param unit - of the points, as printed */
export function tripSheet(t: Trip, form: TripForm, unit: string): { says: string; value: string }[] {
  const line = (says: string, value: number) => ({ says, value: `${sayNumber(value, 6)} ${unit}` })
  const [low, high] = endsOfTrip(t)
  if (t.kind === 'band')
    return form === 'width'
      ? [
          line('Start', low),
          line('Width', high - low),
          { says: 'On', value: t.onInside ? 'inside' : 'outside' },
        ]
      : [line('From', low), line('To', high), { says: 'On', value: t.onInside ? 'inside' : 'outside' }]
  const falling = t.onAt === t.offAt ? t.same === 'falling' : t.onAt < t.offAt
  const direction = { says: 'On', value: falling ? 'falling' : 'rising' }
  switch (form) {
    case 'points':
      return [line('On at', t.onAt), line('Off at', t.offAt), ...(t.onAt === t.offAt ? [direction] : [])]
    case 'above':
      return [line('Set point', low), line('Deadband above', high - low), direction]
    case 'below':
      return [line('Set point', high), line('Deadband below', high - low), direction]
    case 'centred':
      return [line('Set point', (low + high) / 2), line('Deadband, whole width', high - low), direction]
    case 'width':
      return [line('Start', t.onAt), line('Width', high - low), direction]
  }
}
