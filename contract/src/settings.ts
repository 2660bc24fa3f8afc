import { OwnPlan } from '@calm/core/record/kinds/own-plan'
import { WATERS } from '@calm/core/quantity/water-column'
import { z } from 'zod'

const water = z.enum(WATERS).nullable()
/** Whose papers they are: stands at the head of every certificate. */
const letterhead = z.strictObject({
  name: z.string().trim().max(120, 'At most 120 characters.'),
  address: z.string().trim().max(300, 'At most 300 characters.'),
  /** Two letters; empty while nobody has said. */
  country: z
    .string()
    .trim()
    .toUpperCase()
    .regex(/^([A-Z]{2})?$/, 'Two letters, as DE or US.')
    .default(''),
})
const sheetOrder = z.record(z.string().max(40), z.array(z.string().max(120)).max(120, 'At most 120 lines.'))
const planName = z.string().trim().min(1, 'A plan needs a name.').max(40, 'At most 40 characters.')
const MOST_PLANS = 30
/** What a plant decides once for all its loops; null: nobody has said it yet. */
export const PlantRules = z.strictObject({
  /** How dense the water of its water columns is taken, where the unit does not say it. */
  water,
  /** By kind of meter, the lines of its settings sheet in the order in which the plant's devices ask for them. */
  sheetOrder: sheetOrder.default({}),
  letterhead: letterhead.default({ name: '', address: '', country: '' }),
  /** Test plans of its own, by their names. */
  plans: z.record(planName, OwnPlan).default({}),
})
/** One or several of them decided anew; the others stay. */
export const ChangeRules = z.strictObject({
  water: water.optional(),
  sheetOrder: sheetOrder.optional(),
  letterhead: letterhead.optional(),
  /** Plans to be kept by these names; null takes one away. */
  plans: z
    .record(planName, OwnPlan.nullable())
    .refine((x) => Object.keys(x).length <= MOST_PLANS, `At most ${MOST_PLANS} plans.`)
    .optional(),
})
export type ChangeRules = z.output<typeof ChangeRules>
export type PlantRules = z.output<typeof PlantRules>
export const NO_RULES: PlantRules = {
  water: null,
  sheetOrder: {},
  letterhead: { name: '', address: '', country: '' },
  plans: {},
}

/** How a person wants the screens, at whatever device. */
export const Preferences = z.strictObject({
  /** Benches on which the signal path was made small, or opened. */
  smallPath: z
    .record(z.string().regex(/^[a-z-]{1,20}$/, 'A bench is named by its address.'), z.boolean())
    .refine((x) => Object.keys(x).length <= 20, 'There are not so many benches.'),
})
export type Preferences = z.output<typeof Preferences>
export const NO_PREFERENCES: Preferences = { smallPath: {} }
