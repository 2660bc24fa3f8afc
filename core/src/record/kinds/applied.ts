import { z } from 'zod'
import { THERMOCOUPLES } from '../../family/temperature/thermocouple.ts'
import { isUnitSymbol } from '../../quantity/units.ts'

/** What a standard gives where that is not the loop's own quantity, and how one follows from the other. */
export const AppliedLaw = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('resistance'),
    /** Ω at 0 °C. */
    r0_ohm: z.number().positive('Above 0 Ω.').max(10_000, 'At most 10 000 Ω.'),
  }),
  z.strictObject({
    kind: z.literal('thermocouple'),
    type: z.enum(THERMOCOUPLES),
    /** Where the wires end at the device: measured there, never the room’s. */
    junction_C: z.number().min(-40, 'Not below -40 °C.').max(100, 'At most 100 °C.'),
  }),
  z
    .strictObject({
      kind: z.literal('linear'),
      unit: z.string().refine(isUnitSymbol, 'This unit is not known. Pick one from the list.'),
      /** What is set for the lower and for the upper end of the transmitter’s range. */
      low: z.number().min(-1e9).max(1e9),
      high: z.number().min(-1e9).max(1e9),
    })
    .refine((l) => l.low !== l.high, {
      path: ['high'],
      message: 'Both ends are equal: nothing would be applied.',
    }),
])
export type AppliedLaw = z.output<typeof AppliedLaw>
