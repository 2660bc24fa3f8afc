import type { Finding } from '../finding.ts'
import { sayNumber } from '../quantity/round.ts'
import { printedUnit } from '../quantity/units.ts'
import { contactCloses, relayState, soundTrip, type RelayPlan } from './relay-plan.ts'
import { endsOfTrip } from './trip.ts'

/** Where a relay acts: the unit of its loop, its range, and what else is known of the place. */
export interface RelayPlace {
  readonly unit: string
  readonly range: { readonly low: number; readonly high: number }
  /** A distance from above as a level; absent where the loop does not measure one. */
  readonly level?: ((distance: number) => number) | undefined
}

export interface RelayMoment {
  readonly t: number
  /** Value; null while it is invalid. */
  readonly x: number | null
  readonly relay: boolean
  /** Whether the contact of the plan is closed. */
  readonly closed: boolean
}

/** The value over a demonstration: through both points and back, with waves; it is lost near the end. */
export function demonstration(plan: RelayPlan, moments = 240): RelayMoment[] {
  const [low, high] = endsOfTrip(soundTrip(plan.trip))
  const centre = (low + high) / 2
  const reach = Math.max(high - low, Math.abs(low) * 0.3, plan.waves * 2, Math.abs(high) * 0.05 || 0.1) * 1.3
  const lost = (t: number) => t > 0.9 && t < 0.95
  let relay = plan.startUp
  return Array.from({ length: moments }, (_, i) => {
    const t = i / (moments - 1)
    const sweep = Math.abs(((t * 2) % 2) - 1) * 2 - 1
    const x = lost(t) ? null : centre + sweep * reach + (plan.waves / 2) * Math.sin(t * 110)
    relay = relayState(plan, x, relay)
    return { t, x, relay, closed: contactCloses(plan, relay) }
  })
}

/** A value at which the alarm condition is surely there, and one at which all is safe. */
function sides(plan: RelayPlan): { readonly alarm: number; readonly safe: number } {
  const [low, high] = endsOfTrip(soundTrip(plan.trip))
  const wide = Math.max(high - low, 0.1) + plan.waves + 1
  return plan.alarm === 'low'
    ? { alarm: low - wide, safe: high + wide }
    : { alarm: high + wide, safe: low - wide }
}

const RULE = 'the alarm state is the de-energised state'

/** Whether the relay fails to the safe side, whether it will chatter, and whether its points can be reached. */
export function judgeRelay(plan: RelayPlan, place: RelayPlace): Finding[] {
  const out: Finding[] = []
  const unit = printedUnit(place.unit)
  const say = (
    code: string,
    severity: Finding['severity'],
    says: string,
    evidence: Finding['evidence'] = [],
  ) => out.push({ code, severity, where: [plan.name], says: `${plan.name}: ${says}`, evidence, rule: RULE })
  const [low, high] = endsOfTrip(soundTrip(plan.trip))
  const { alarm, safe } = sides(plan)
  const whenSafe = relayState(plan, safe, plan.startUp)
  const inAlarm = relayState(plan, alarm, whenSafe)
  const closed = (relay: boolean) => contactCloses(plan, relay)
  if (plan.alarm === 'none') {
    if (whenSafe === inAlarm && plan.trip.kind === 'points')
      say('NO_TRIP', 'stop', 'it stands the same at both ends: it switches nothing.')
    else if (closed(relayState(plan, null, false)) && closed(relayState(plan, null, true)))
      say(
        'RUNS_ON_LOST',
        'warn',
        'a lost signal leaves its contact closed: what it drives goes on without a measurement.',
      )
    else if (plan.onInvalid === 'hold')
      say('HOLDS_ON_LOST', 'warn', 'on a lost signal it stays as it was: what it drives may go on.')
    else say('STOPS_ON_LOST', 'good', 'a lost signal opens its contact.')
  } else {
    const what = plan.alarm === 'high' ? 'a value too high' : 'a value too low'
    // What protects is the end that the alarm comes to last: there it must have switched.
    const tripsAt = plan.alarm === 'high' ? high : low
    if (whenSafe === inAlarm)
      say('NO_TRIP', 'stop', `it stands the same with a safe value and with ${what}: it trips nothing.`)
    else if (closed(inAlarm))
      say(
        'PERMIT_IN_ALARM',
        'stop',
        `at ${what} the contact is closed: the permit stays. Take the other contact, or exchange its points.`,
      )
    else {
      say('TRIPS', 'good', `at ${what} the contact opens and takes the permit away.`, [
        { label: 'at the latest at', value: tripsAt, unit },
        ...(place.level ? [{ label: 'that is a level of', value: place.level(tripsAt), unit }] : []),
      ])
      if (closed(false))
        say(
          'POWER_LOSS_HIDES',
          'stop',
          'when power is lost or the cable is cut the contact stays closed: a dead relay looks healthy. Energise it while all is safe and take its NO contact.',
        )
      else say('FAILS_SAFE', 'good', 'power loss and a cut wire look like the alarm: the contact opens.')
      if (closed(relayState(plan, null, whenSafe)))
        say(
          'LOST_ECHO_HIDES',
          plan.onInvalid === 'hold' ? 'stop' : 'warn',
          `a lost signal leaves the permit on (“${plan.onInvalid}”). For a protective trip let it count as the alarm.`,
        )
    }
  }
  const band = high - low
  if (plan.trip.kind === 'band') {
    if (band <= 0) say('NO_BAND', 'stop', `a band of 0 ${unit} is a single point: give it a width.`)
  } else if (band <= plan.waves)
    say(
      'CHATTERS',
      'warn',
      band === 0
        ? `one point for on and off${plan.waves > 0 ? ` with waves of ${sayNumber(plan.waves)} ${unit} switches on every crest` : ' switches with every wave'}. Give it two points: between them it holds.`
        : `the ${sayNumber(band)} ${unit} between on and off are not wider than the waves of ${sayNumber(plan.waves)} ${unit}: it will chatter.`,
    )
  const { range } = place
  const [from, to] = [Math.min(range.low, range.high), Math.max(range.low, range.high)]
  const beyond = [...new Set([low, high])].filter((v) => v < from || v > to)
  if (beyond.length > 0)
    say(
      'OUTSIDE_RANGE',
      'stop',
      `${beyond.map((v) => sayNumber(v)).join(' and ')} ${unit} ${beyond.length === 1 ? 'lies' : 'lie'} outside the range of ${sayNumber(from)} to ${sayNumber(to)} ${unit}: the signal never gets there.`,
    )
  return out
}

/** How many values a sweep between the ends of two relays looks at. */
const SWEEP = 200

/** Relays that can work against each other: both contacts closed at once, on the way up, down, or at power. */
export function judgeRelaysTogether(plans: readonly RelayPlan[], unit: string): Finding[] {
  const controls = plans.filter((p) => p.alarm === 'none')
  const out: Finding[] = []
  controls.forEach((a, i) => {
    for (const b of controls.slice(i + 1)) {
      const ends = [a, b].flatMap((p) => endsOfTrip(soundTrip(p.trip)))
      const [from, to] = [Math.min(...ends), Math.max(...ends)]
      const step = (to - from) / SWEEP || 1
      const up = Array.from({ length: SWEEP + 3 }, (_, k) => from + (k - 1) * step)
      const bothAt = (way: readonly number[]): number | undefined => {
        const on = [a.startUp, b.startUp]
        return way.find((x) =>
          [a, b].every((p, k) => contactCloses(p, (on[k] = relayState(p, x, on[k] ?? false)))),
        )
      }
      const together = bothAt(up) ?? bothAt([...up].reverse()) ?? bothAt([(from + to) / 2])
      if (together !== undefined)
        out.push({
          code: 'BOTH_ON',
          severity: 'warn',
          where: [a.name, b.name],
          says: `${a.name} and ${b.name} can both be closed, at ${sayNumber(together, 4)} ${printedUnit(unit)} for one. If they drive one thing two ways, part their bands.`,
        })
    }
  })
  return out
}
