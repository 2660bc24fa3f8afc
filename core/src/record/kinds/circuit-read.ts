import { z } from 'zod'
import { sayNumber } from '../../quantity/round.ts'
import { defineKind } from './kind.ts'

/** What a meter showed at the test points of a loop's wiring, in one state of it, as it was judged. */
export const circuitRead = defineKind({
  type: 'circuit.read',
  of: 'loop',
  payload: z.strictObject({
    revision: z.int().min(1),
    /** What the loop was doing. */
    state: z.string().max(80),
    /** The instrument, by its name and serial; null where nobody said. */
    instrument: z.string().max(160).nullable(),
    equipment: z.array(z.uuid()).max(1).default([]),
    readings: z
      .array(
        z.strictObject({
          place: z.string().max(160),
          value: z.number(),
          unit: z.enum(['V', 'mA']),
          expected: z.number(),
          allowed: z.number(),
          fits: z.boolean(),
        }),
      )
      .min(1)
      .max(200),
    says: z.string().max(600),
    causes: z.array(z.string().max(300)).max(20),
  }),
  title: 'Circuit read',
  says: (p) =>
    [
      `${p.says} At ${p.state}${p.instrument === null ? ', instrument not named' : `, with ${p.instrument}`}.`,
      ...p.readings.map(
        (r) =>
          `${r.place}: ${sayNumber(r.value, 5)} ${r.unit}, expected ${sayNumber(r.expected, 5)} ±${sayNumber(r.allowed, 2)}${r.fits ? '' : ', off'}`,
      ),
      ...p.causes,
    ].join('\n'),
})
