import { endsOfTrip } from '../../signal/trip.ts'
import { sayRelay, soundTrip, type RelayPlan } from '../../signal/relay-plan.ts'
import { sayNumber } from '../../quantity/round.ts'
import { printedUnit } from '../../quantity/units.ts'
import { seriesOf, valuesOfStep, type ProcedureRun } from '../run.ts'
import type { Advice, Procedure, ProcedureContext, Step, StepField } from '../step.ts'
import { judgePoints } from '../../verify/input-verdict.ts'
import { acceptOrReport, callAndBypass, checkAndCall } from '../parts.ts'
import type { Outcome } from '../outcome.ts'
import { allowedOf } from '../allowed.ts'

/** How often each point is gone through. */
const TIMES = [1, 2, 3] as const
const OPENS = 'opens'
const CAUTION = 'The trip stops a plant: its output is bypassed and somebody watches it.'

/** A relay’s own points, on and off; what a band has instead is its two ends. */
const pointsOfPlan = (plan: RelayPlan): readonly [first: number, second: number] => {
  const [low, high] = endsOfTrip(soundTrip(plan.trip))
  return plan.trip.kind === 'points' ? [plan.trip.onAt, plan.trip.offAt] : [low, high]
}
const WORDS = {
  points: ['Switches on at', 'Switches off at'],
  band: ['Changes at the lower end', 'Changes at the upper end'],
} as const

/** The relay of a loop without a plan: one setpoint, typed. */
function adviceOnTyped(run: ProcedureRun): Advice {
  const { setpoint = NaN, allowed = NaN, rate = 0, latency_s = 0 } = valuesOfStep(run, 'point')
  const readings = seriesOf(run, 'trip')
  const v = judgePoints({
    setpoint,
    rate,
    latency_s,
    trips: readings.map((r) => r['trip'] ?? NaN),
    resets: readings.map((r) => r['reset'] ?? NaN),
    T: allowed,
    unit: run.started.context.range.unit,
  })
  return { choice: v.passes ? 'accept' : 'report', says: v.says }
}

/** Each relay against its plan: both points, the delay taken out, and what a lost signal does. */
function adviceOnPlans(run: ProcedureRun, plans: readonly RelayPlan[]): Advice {
  const { allowed = NaN, rate = 0, latency_s = 0 } = valuesOfStep(run, 'point')
  const { unit } = run.started.context.range
  const u = printedUnit(unit)
  const results = plans.flatMap((plan, i) => {
    const readings = seriesOf(run, `relay-${i + 1}`)
    const points = pointsOfPlan(plan)
    const falling = plan.trip.kind === 'points' && plan.trip.onAt < plan.trip.offAt
    const judged = (['on', 'off'] as const).map((name, k) => {
      const setpoint = points[k] ?? NaN
      // It is gone to from its own side: on falling, off rising, or the other way round.
      const way = (name === 'on') === falling ? -1 : 1
      const v = judgePoints({
        setpoint,
        rate: way * Math.abs(rate),
        latency_s,
        trips: readings.map((r) => r[name] ?? NaN),
        resets: [],
        T: allowed,
        unit,
      })
      return {
        passes: v.passes,
        says: v.says.map((s) => `${plan.name}, ${name} at ${sayNumber(setpoint, 5)} ${u}: ${s}`),
      }
    })
    const lost = run.done.find((d) => d.step.id === `lost-${i + 1}`)?.choice
    const seen = run.done.find((d) => d.step.id === `seen-${i + 1}`)?.choice
    return [
      ...judged,
      {
        passes: lost === OPENS || plan.onInvalid !== 'off',
        says:
          lost === OPENS
            ? [`${plan.name}: a lost signal opens its contact.`]
            : [
                `${plan.name}: its contact stays closed without a signal${plan.onInvalid === 'off' ? ', and the plan says it opens' : ', as planned'}.`,
              ],
      },
      {
        passes: seen === 'follows',
        says: seen === 'follows' ? [] : [`${plan.name}: what it acts on did not follow its contact.`],
      },
    ]
  })
  return {
    choice: results.every((r) => r.passes) ? 'accept' : 'report',
    says: results.flatMap((r) => r.says),
  }
}

function relayAdvice(run: ProcedureRun): Advice {
  const plans = run.started.context.relays ?? []
  return plans.length > 0 ? adviceOnPlans(run, plans) : adviceOnTyped(run)
}
/** By on and off points and what a lost signal does; whoever accepts against that changes nothing of it. */
function judgeRelays(run: ProcedureRun): Outcome {
  if (!run.done.some((d) => d.step.id === 'decide'))
    return { result: 'notDone', says: ['The test was not done to its end.'] }
  const { choice, says } = relayAdvice(run)
  if (choice !== 'accept') return { result: 'out', says }
  const { allowed = NaN } = valuesOfStep(run, 'point')
  const most = allowedOf(run.started.context).pv
  const unit = printedUnit(run.started.context.range.unit)
  return allowed <= most * (1 + 1e-9)
    ? { result: 'untouched', says }
    : {
        result: 'notJudged',
        says: [
          ...says,
          `It was allowed ±${sayNumber(allowed, 4)} ${unit}, more than the loop’s ±${sayNumber(most, 3)}: good by that is nobody’s limit.`,
        ],
      }
}

const ramp = (c: ProcedureContext): readonly StepField[] => [
  { name: 'allowed', label: 'Allowed ±', unit: c.range.unit, preset: allowedOf(c).pv },
  { name: 'rate', label: 'Ramp a second', unit: c.range.unit },
  { name: 'latency_s', label: 'Delay of scan and filter', unit: 's', preset: 0.2 },
]
function stepsOfPlan(plan: RelayPlan, i: number, c: ProcedureContext): Step[] {
  const n = i + 1
  const [on, off] = WORDS[plan.trip.kind]
  return [
    ...TIMES.map((time): Step => ({
      id: `relay-${n}-${time}`,
      series: `relay-${n}`,
      kind: 'read',
      title: `${plan.name}, ${time} of ${TIMES.length}`,
      says: `${sayRelay(plan, printedUnit(c.range.unit))}. Ramp slowly through both points and back; read where the contact moves.`,
      fields: [
        { name: 'on', label: on, unit: c.range.unit },
        { name: 'off', label: off, unit: c.range.unit },
      ],
    })),
    {
      id: `seen-${n}`,
      kind: 'decide',
      title: `${plan.name}: what it acts on`,
      says: 'Look at the receiver itself, not at the relay’s lamp.',
      choices: [
        { value: 'follows', title: 'It follows the contact' },
        { value: 'not', title: 'It does not' },
      ],
    },
    {
      id: `lost-${n}`,
      kind: 'decide',
      title: `${plan.name}: take the signal away`,
      says: 'Open the loop, or take the echo away, with the contact closed.',
      choices: [
        { value: OPENS, title: 'The contact opens' },
        { value: 'stays', title: 'It stays closed' },
      ],
    },
  ]
}

export const RELAY_TRIP: Procedure = {
  id: 'relay-trip',
  judges: 'trips',
  title: 'Relay trip test',
  purpose:
    'Every relay of the loop’s plan goes through both its points, three times, with what it acts on bypassed; then without a signal.',
  minutes: 30,
  tools: ['current source or the process itself'],
  permissions: ['bypass of the trip’s output, listed'],
  cautions: [CAUTION, 'The permit is here and names this tag.'],
  advise: relayAdvice,
  judge: judgeRelays,
  steps: (c) => {
    const plans = c.relays ?? []
    return [
      ...callAndBypass(c, [CAUTION, 'The permit is here and names this tag.']),
      {
        id: 'point',
        kind: 'read',
        title: plans.length > 0 ? 'How it is ramped' : 'The point, and how it is ramped',
        says: 'Slowly: what scan and filter take is taken out, and a fast ramp hides more than it shows.',
        fields:
          plans.length > 0
            ? ramp(c)
            : [
                { name: 'setpoint', label: 'Setpoint', unit: c.range.unit },
                { name: 'allowed', label: 'Allowed ±', unit: c.range.unit, preset: allowedOf(c).pv },
                { name: 'rate', label: 'Ramp a second, negative when falling trips', unit: c.range.unit },
                { name: 'latency_s', label: 'Delay of scan and filter', unit: 's', preset: 0.2 },
              ],
      },
      ...(plans.length > 0
        ? plans.flatMap((plan, i) => stepsOfPlan(plan, i, c))
        : TIMES.map((n): Step => ({
            id: `trip-${n}`,
            series: 'trip',
            kind: 'read',
            title: `Trip ${n} of 3`,
            says: 'Ramp slowly towards the trip until the contact moves, then back until it resets.',
            fields: [
              { name: 'trip', label: 'Trips at', unit: c.range.unit },
              { name: 'reset', label: 'Resets at', unit: c.range.unit },
            ],
          }))),
      acceptOrReport(
        'Points with the delay taken out, and what a lost signal does.',
        'Accept',
        'Report: set it again, then repeat the test',
      ),
      ...checkAndCall(c),
    ]
  },
}
