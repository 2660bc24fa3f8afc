import { z } from 'zod'
import { sayNumber } from '../quantity/round.ts'
import { keysOf } from '../quantity/setting.ts'
import { endsOfTrip, TRIP_FORMS, tripState, type Trip } from './trip.ts'

const point = z.number('Type a number.')
const TripSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('points'),
    onAt: point,
    offAt: point,
    /** Which way it switches on where both points are the same. */
    same: z.enum(['falling', 'rising']),
  }),
  z.strictObject({ kind: z.literal('band'), from: point, to: point, onInside: z.boolean() }),
])

/**
 * A relay that acts on the loop's value: one plan for the bench, the trip test, the check and the paper. Its points
 * are in the unit of the loop's range.
 */
export const RelayPlanSchema = z.strictObject({
  name: z.string().trim().min(1, 'A relay needs a name.').max(40, 'At most 40 characters.'),
  trip: TripSchema,
  /** Which end of the loop's own axis is the alarm; none where it only controls. */
  alarm: z.enum(['high', 'low', 'none']),
  /** The contact that the permit, or the motor, hangs on. */
  contact: z.enum(['no', 'nc']),
  /** As it comes up between its two points. */
  startUp: z.boolean(),
  /** Lost echo, broken wire, failure current. */
  onInvalid: z.enum(['off', 'on', 'hold']),
  /** Waves or noise that it must not follow, crest to trough. */
  waves: point.min(0, 'Waves are not negative.'),
  /** How the controller's menu asks for the same trip. */
  form: z.enum(keysOf(TRIP_FORMS)),
})
export type RelayPlan = z.output<typeof RelayPlanSchema>
export const MOST_RELAYS = 8

/** A plan to begin with: between a quarter and three quarters of a range. */
export function usualRelay(name: string, low: number, high: number): RelayPlan {
  const at = (share: number) => Number((low + (high - low) * share).toPrecision(3))
  return {
    name,
    trip: { kind: 'points', onAt: at(0.75), offAt: at(0.7), same: 'rising' },
    alarm: 'none',
    contact: 'no',
    startUp: false,
    onInvalid: 'off',
    waves: 0,
    form: 'points',
  }
}

/** Both ends of what a trip hangs on, lower first; a band that was typed the other way round is the same band. */
export const soundTrip = (t: Trip): Trip =>
  t.kind === 'band' && t.from > t.to ? { ...t, from: t.to, to: t.from } : t

/**
 * Whether the relay is energised for one value.
 * @param x - value in the plan's unit; null is an invalid one
 * @param before - state so far
 */
export const relayState = (plan: RelayPlan, x: number | null, before: boolean): boolean =>
  x !== null
    ? tripState(soundTrip(plan.trip), x, before)
    : plan.onInvalid === 'hold'
      ? before
      : plan.onInvalid === 'on'

/** Whether the contact that the plan hangs on is closed. */
export const contactCloses = (plan: Pick<RelayPlan, 'contact'>, energised: boolean): boolean =>
  plan.contact === 'no' ? energised : !energised

/** Its switching points with what they are called: one where both are the same. */
export function pointsOf(plan: RelayPlan): readonly (readonly [name: string, at: number])[] {
  const { trip, name } = plan
  if (trip.kind === 'band')
    return [
      [`${name}, lower end`, Math.min(trip.from, trip.to)],
      [`${name}, upper end`, Math.max(trip.from, trip.to)],
    ]
  return trip.onAt === trip.offAt
    ? [[name, trip.onAt]]
    : [
        [`${name}, on`, trip.onAt],
        [`${name}, off`, trip.offAt],
      ]
}
const PRINTED = 6
/** A plan in one line: “K1: on at 4 ft falling, off at 9 ft”. @param unit - as printed */
export function sayRelay(plan: RelayPlan, unit: string): string {
  const say = (x: number) => `${sayNumber(x, PRINTED)}${unit === '' ? '' : ` ${unit}`}`
  const { trip } = plan
  if (trip.kind === 'band') {
    const [low, high] = endsOfTrip(soundTrip(trip))
    return `${plan.name}: on ${trip.onInside ? 'inside' : 'outside'} ${sayNumber(low, PRINTED)} to ${say(high)}`
  }
  const way = trip.onAt === trip.offAt ? trip.same : trip.onAt < trip.offAt ? 'falling' : 'rising'
  return `${plan.name}: on at ${say(trip.onAt)} ${way}, off at ${say(trip.offAt)}`
}

/** What the relays see: the plan, and what 4 and 20 mA stand for in its unit. */
export interface Relays {
  readonly plans: readonly RelayPlan[]
  readonly at4: number
  readonly at20: number
  readonly unit: string
}

/** Failure currents are no measurement. @see NAMUR NE 43 */
const VALID_A = { from: 3.6e-3, to: 21e-3 }
/** The value that a current stands for; null for a failure current. */
export function valueOf(r: Pick<Relays, 'at4' | 'at20'>, current_A: number): number | null {
  const eps = 1e-7
  if (current_A <= VALID_A.from + eps || current_A >= VALID_A.to - eps) return null
  return r.at4 + ((current_A * 1000 - 4) / 16) * (r.at20 - r.at4)
}
/** The current that stands for a value, mA. */
export const currentFor_mA = (r: Pick<Relays, 'at4' | 'at20'>, x: number): number =>
  4 + (16 * (x - r.at4)) / (r.at20 - r.at4)

/** Every point at which a planned relay changes over, as a check ramps to it. */
export interface PlannedPoint {
  readonly says: string
  readonly at: number
  /** How far back it must go before it changes again; null where its plan does not say it. */
  readonly deadband: number | null
}
export function plannedPoints(plans: readonly RelayPlan[], unit: string): PlannedPoint[] {
  const say = (x: number) => `${sayNumber(x, PRINTED)}${unit === '' ? '' : ` ${unit}`}`
  return plans.flatMap(({ name, trip }): PlannedPoint[] => {
    if (trip.kind === 'band')
      return [
        { says: `${name}, changes at ${say(trip.from)}`, at: trip.from, deadband: null },
        { says: `${name}, changes at ${say(trip.to)}`, at: trip.to, deadband: null },
      ]
    const deadband = Math.abs(trip.onAt - trip.offAt)
    return [
      { says: `${name}, on at ${say(trip.onAt)}`, at: trip.onAt, deadband: deadband === 0 ? null : deadband },
      ...(deadband === 0 ? [] : [{ says: `${name}, off at ${say(trip.offAt)}`, at: trip.offAt, deadband }]),
    ]
  })
}
