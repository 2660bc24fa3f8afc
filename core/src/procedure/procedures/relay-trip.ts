import type { Procedure, Step } from '../step.ts'
import { beginningClosed, endingClosed } from './common.ts'

export const RELAY_TRIP: Procedure = {
  id: 'relay-trip',
  title: 'Relay trip test',
  purpose: 'The trip is made to happen with its output bypassed, three times, and its reset is read as well.',
  minutes: 30,
  fits: () => true,
  tools: ['current source or the process itself'],
  permissions: ['bypass of the trip’s output, listed'],
  cautions: [
    'The trip stops a plant: its output is bypassed and somebody watches it.',
    'The permit is here and names this tag.',
  ],
  steps: (c) => [
    ...beginningClosed(c, [
      'The trip stops a plant: its output is bypassed and somebody watches it.',
      'The permit is here and names this tag.',
    ]),
    ...[1, 2, 3].map((n): Step => ({
      id: `trip-${n}`,
      kind: 'read',
      title: `Trip ${n} of 3`,
      says: 'Ramp slowly towards the trip until the contact moves, then back until it resets.',
      fields: [
        { name: 'trip', label: 'Trips at', unit: c.range.unit },
        { name: 'reset', label: 'Resets at', unit: c.range.unit },
      ],
    })),
    ...endingClosed(c),
  ],
}
