import { seriesOf, valuesOfStep, type ProcedureRun } from '../run.ts'
import type { Advice, Procedure, Step } from '../step.ts'
import { judgePoints } from '../../verify/input-verdict.ts'
import { beginningClosed, endingClosed } from './common.ts'

function relayAdvice(run: ProcedureRun): Advice {
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

export const RELAY_TRIP: Procedure = {
  id: 'relay-trip',
  title: 'Relay trip test',
  purpose: 'The trip is made to happen with its output bypassed, three times, and its reset is read as well.',
  minutes: 30,
  tools: ['current source or the process itself'],
  permissions: ['bypass of the trip’s output, listed'],
  cautions: [
    'The trip stops a plant: its output is bypassed and somebody watches it.',
    'The permit is here and names this tag.',
  ],
  advise: relayAdvice,
  steps: (c) => [
    ...beginningClosed(c, [
      'The trip stops a plant: its output is bypassed and somebody watches it.',
      'The permit is here and names this tag.',
    ]),
    {
      id: 'point',
      kind: 'read',
      title: 'The point, and how it is ramped',
      says: 'Slowly: what scan and filter take is taken out, and a fast ramp hides more than it shows.',
      fields: [
        { name: 'setpoint', label: 'Setpoint', unit: c.range.unit },
        { name: 'allowed', label: 'Allowed ±', unit: c.range.unit },
        { name: 'rate', label: 'Ramp a second, negative when falling trips', unit: c.range.unit },
        { name: 'latency_s', label: 'Delay of scan and filter', unit: 's', preset: 0.2 },
      ],
    },
    ...[1, 2, 3].map((n): Step => ({
      id: `trip-${n}`,
      series: 'trip',
      kind: 'read',
      title: `Trip ${n} of 3`,
      says: 'Ramp slowly towards the trip until the contact moves, then back until it resets.',
      fields: [
        { name: 'trip', label: 'Trips at', unit: c.range.unit },
        { name: 'reset', label: 'Resets at', unit: c.range.unit },
      ],
    })),
    {
      id: 'decide',
      judged: true,
      kind: 'decide',
      title: 'Accept, or report',
      says: 'Trip, reset and deadband with the delay taken out.',
      choices: [
        { value: 'accept', title: 'Accept' },
        { value: 'report', title: 'Report: set it again, then repeat the test' },
      ],
    },
    ...endingClosed(c),
  ],
}
