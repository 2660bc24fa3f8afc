import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import { endsOfTrip, tripSequence, type Trip } from './trip.ts'

/** A trip relay on a distance from above, and the contact that the permit hangs on. */
export interface TripPlan {
  readonly trip: Trip
  /** What must be stopped: a level too high or too low. */
  readonly protects: 'highLevel' | 'lowLevel'
  readonly contact: 'no' | 'nc'
  readonly startUp: boolean
  readonly onInvalid: 'off' | 'on' | 'hold'
  /** Height of the sensor above the tank's bottom, m; turns distance into level. */
  readonly mounting_m: number
  /** Height of the waves, m. */
  readonly waves_m: number
}

export interface TripMoment {
  readonly t: number
  /** Distance, m; null while the echo is lost. */
  readonly x: number | null
  readonly relay: boolean
  /** Whether the contact in the permit is closed. */
  readonly permit: boolean
}

/** Distance over a demonstration: down to the near end, back up, with waves; the echo is lost near the end. */
export function demonstration(plan: TripPlan, moments = 240): TripMoment[] {
  const [low, high] = endsOfTrip(plan.trip)
  const centre = (low + high) / 2
  const reach = Math.max(high - low, low * 0.3, 0.1) * 1.3
  const lost = (t: number) => t > 0.9 && t < 0.95
  const x = Array.from({ length: moments }, (_, i) => {
    const t = i / (moments - 1)
    if (lost(t)) return null
    const sweep = Math.abs(((t * 2) % 2) - 1) * 2 - 1
    return centre + sweep * reach + (plan.waves_m / 2) * Math.sin(t * 110)
  })
  const relay = tripSequence(plan.trip, x, plan.startUp, plan.onInvalid)
  return x.map((value, i) => {
    const on = relay[i] ?? false
    return { t: i / (moments - 1), x: value, relay: on, permit: plan.contact === 'no' ? on : !on }
  })
}

/** Distance at which the alarm condition is surely there, and one at which all is safe. */
function sides(plan: TripPlan): { alarm: number; safe: number } {
  const [low, high] = endsOfTrip(plan.trip)
  const wide = Math.max(high - low, 0.1) + plan.waves_m + 1
  return plan.protects === 'highLevel'
    ? { alarm: low - wide, safe: high + wide }
    : { alarm: high + wide, safe: low - wide }
}

/** Whether the plan fails to the safe side, and whether it will chatter. */
export function judgeTrip(plan: TripPlan): Finding[] {
  const out: Finding[] = []
  const say = (
    code: string,
    severity: Finding['severity'],
    says: string,
    evidence: Finding['evidence'] = [],
  ) =>
    out.push({
      code,
      severity,
      where: ['trip'],
      says,
      evidence,
      rule: 'the alarm state is the de-energised state',
    })
  const { alarm, safe } = sides(plan)
  const [whenSafe, inAlarm] = tripSequence(plan.trip, [safe, alarm], plan.startUp, plan.onInvalid)
  const permit = (relay: boolean | undefined) => (plan.contact === 'no' ? relay === true : relay !== true)
  const what = plan.protects === 'highLevel' ? 'high level' : 'low level'
  const [low, high] = endsOfTrip(plan.trip)
  // What protects is the end that the alarm comes to first.
  const at = plan.protects === 'highLevel' ? low : high
  const level = plan.mounting_m - at
  if (whenSafe === inAlarm)
    say(
      'NO_TRIP',
      'stop',
      `This relay stands the same with a safe level and with ${what}: it trips nothing. Let it switch between the two.`,
    )
  else if (permit(inAlarm))
    say(
      'PERMIT_IN_ALARM',
      'stop',
      `At ${what} the contact is closed: the permit stays. Take the other contact.`,
    )
  else {
    say('TRIPS', 'good', `At ${what} the contact opens and takes the permit away.`, [
      { label: 'trip at distance', value: at, unit: 'm' },
      { label: 'that is a level of', value: level, unit: 'm' },
    ])
    const powerLost = permit(false)
    if (powerLost)
      say(
        'POWER_LOSS_HIDES',
        'stop',
        'When power is lost or the cable is cut the contact stays closed: a dead relay looks healthy. Energise the relay while all is safe and take its NO contact.',
      )
    else say('FAILS_SAFE', 'good', 'Power loss and a cut wire look like the alarm: the contact opens.')
    const invalid = tripSequence(plan.trip, [safe, null], plan.startUp, plan.onInvalid)[1]
    if (permit(invalid))
      say(
        'LOST_ECHO_HIDES',
        plan.onInvalid === 'hold' ? 'stop' : 'warn',
        `A lost echo leaves the permit on (“${plan.onInvalid}”). For a protective trip let it count as the alarm.`,
      )
  }
  const band = high - low
  if (plan.trip.kind === 'band') {
    if (band <= 0) say('NO_BAND', 'stop', 'A band of 0 m is a single point: give it a width.')
  } else if (band <= plan.waves_m)
    say(
      'CHATTERS',
      'warn',
      band === 0
        ? `With waves of ${sayNumber(plan.waves_m)} m one point for on and off switches on every crest. Give it two points: between them it holds.`
        : `The distance of ${sayNumber(band)} m between on and off is not wider than the waves of ${sayNumber(plan.waves_m)} m: it will chatter.`,
    )
  if (level < 0 || level > plan.mounting_m)
    say(
      'OUTSIDE_TANK',
      'warn',
      `A distance of ${sayNumber(at)} m is outside a tank with the sensor at ${sayNumber(plan.mounting_m)} m.`,
    )
  if (plan.protects === 'highLevel')
    say(
      'NEAR_IS_HIGH',
      'note',
      'Measured from above a small distance is a high level: a falling distance is a rising level.',
    )
  return out
}
