import { WATERS } from '@calm/core/quantity/water-column'
import { z } from 'zod'

/** What a plant decides once for all its loops; null: nobody has said it yet. */
export const PlantRules = z.strictObject({
  /** How dense the water of its water columns is taken, where the unit does not say it. */
  water: z.enum(WATERS).nullable(),
})
export type PlantRules = z.output<typeof PlantRules>
export const NO_RULES: PlantRules = { water: null }

/** How a person wants the screens, at whatever device. */
export const Preferences = z.strictObject({
  /** Benches on which the signal path was made small, or opened. */
  smallPath: z
    .record(z.string().regex(/^[a-z-]{1,20}$/, 'A bench is named by its address.'), z.boolean())
    .refine((x) => Object.keys(x).length <= 20, 'There are not so many benches.'),
})
export type Preferences = z.output<typeof Preferences>
export const NO_PREFERENCES: Preferences = { smallPath: {} }
