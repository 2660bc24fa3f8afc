import { circuitRead } from '@calm/core/record/kinds/circuit-read'
import { z } from 'zod'

/** What was read at a loop's test points, as a page sends it; the server judges it by the saved wiring. */
export const KeepCircuitReadings = z.strictObject({
  id: z.uuid(),
  at: z.iso.datetime(),
  state: z.string().max(80),
  equipment: z.uuid().nullable(),
  readings: z
    .array(z.strictObject({ id: z.string().max(120), value: z.number('Type a number.') }))
    .min(1, 'Read one test point at least.')
    .max(200),
})
export type KeepCircuitReadings = z.output<typeof KeepCircuitReadings>

export const CircuitReadings = z.object(circuitRead.payload.shape)
export type CircuitReadings = z.output<typeof CircuitReadings>
