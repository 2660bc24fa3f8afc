import { OwnPlan } from '@calm/core/record/kinds/own-plan'
import { askedIn, PLANT_UNITS } from '@calm/core/quantity/asked-in'
import { WATERS } from '@calm/core/quantity/water-column'
import { FAMILIES } from '@calm/core/family/index'
import { ANY_KIND } from '@calm/core/loop/usual'
import { PAPER_NAMES } from '@calm/core/paper'
import { DATE_FORMS } from '@calm/core/quantity/date-form'
import { DECIMAL_SIGNS } from '@calm/core/quantity/decimal-sign'
import { INPUT_WORDS } from '@calm/core/part/input-words'
import { SCHOOLS } from '@calm/core/part/wiring'
import { MEANINGS } from '@calm/core/signing/meanings'
import { GateNumbers, USUAL_GATES } from '@calm/core/procedure/gate-numbers'
import { DECISION_RULES } from '@calm/core/verify/decision'
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
/** By kind of meter, or by it and a device of the plant: `coriolis`, `coriolis/field transmitter`. */
const sheetOrder = z.record(z.string().max(100), z.array(z.string().max(120)).max(120, 'At most 120 lines.'))
/** Units in which the plant wants entries and results: `mm` in `in`. */
const wantedUnits = z
  .record(
    z
      .string()
      .refine((u) => PLANT_UNITS.some((p) => p.unit === u), 'For this unit no other one can be chosen.'),
    z.string().max(20),
  )
  .check((ctx) => {
    for (const [unit, as] of Object.entries(ctx.value))
      if (!askedIn(unit).includes(as))
        ctx.issues.push({
          code: 'custom',
          input: as,
          path: [unit],
          message: `${as} is not said for ${unit}. Possible are ${askedIn(unit).join(', ')}.`,
        })
  })
const planName = z.string().trim().min(1, 'A plan needs a name.').max(40, 'At most 40 characters.')
const MOST_PLANS = 30

/** What is usually asked of one kind of meter; null: nobody has said. */
const ofKind = z.strictObject({
  tolerance_pct: z
    .number('Type a number.')
    .gt(0, 'Nothing could pass a tolerance of 0.')
    .max(50, 'At most 50 % of span.')
    .nullable(),
  interval_months: z
    .int('Whole months.')
    .min(1, 'At least 1 month.')
    .max(120, 'At most 120 months.')
    .nullable(),
  /** How many people sign its verifications: who did it, who reviewed it, and one more. */
  signatures: z.int().min(1).max(3, 'At most three people sign.').nullable(),
})
const kindName = z
  .string()
  .refine((k) => k === ANY_KIND || FAMILIES.some((f) => f.id === k), 'There is no such kind of meter.')
/** Signatures: what a second one may mean, and who is too near to the work to give it. */
const signing = z.strictObject({
  second: z
    .array(z.enum(MEANINGS).exclude(['performed']))
    .min(1, 'A second signature means at least one of them.'),
  apart: z.enum(['signed', 'worked']),
})
/** How papers say days and times. */
const dates = z.strictObject({
  form: z.enum(DATE_FORMS),
  timeZone: z.string().refine((zone) => {
    try {
      new Intl.DateTimeFormat('en', { timeZone: zone })
      return true
    } catch {
      return false
    }
  }, 'Not a time zone of this machine. Write it as Europe/Berlin or UTC.'),
})
const RULES_OF_PLANT = {
  paper: z.enum(PAPER_NAMES),
  dates,
  /** How papers write decimals. */
  decimalSign: z.enum(DECIMAL_SIGNS),
  /** How an error is accepted where nothing else is agreed. */
  decision: z.enum(DECISION_RULES),
  signing,
  /** What it asks of a reading in a procedure before it counts. */
  gates: GateNumbers,
  /** School of colours for a wiring that is begun from now on. */
  wireColours: z.enum(SCHOOLS),
  /** After what 24 V inputs are called sinking and sourcing. */
  inputWords: z.enum(INPUT_WORDS),
  /** For how long records are to be kept; the program deletes none. */
  retention_years: z.int('Whole years.').min(1, 'At least 1 year.').max(100, 'At most 100 years.').nullable(),
} as const
const UNTIL_SAID = {
  paper: 'A4',
  dates: { form: 'iso', timeZone: 'UTC' },
  decimalSign: 'point',
  decision: 'simple',
  signing: { second: ['reviewed', 'approved', 'witnessed'], apart: 'signed' },
  gates: USUAL_GATES,
  wireColours: 'iec',
  inputWords: 'card',
  retention_years: null,
} as const
/** What a plant decides once for all its loops; null: nobody has said it yet. */
export const PlantRules = z.strictObject({
  /** How dense the water of its water columns is taken, where the unit does not say it. */
  water,
  /** By kind of meter, the lines of its settings sheet in the order in which the plant's devices ask for them. */
  sheetOrder: sheetOrder.default({}),
  letterhead: letterhead.default({ name: '', address: '', country: '' }),
  /** Test plans of its own, by their names. */
  plans: z.record(planName, OwnPlan).default({}),
  byKind: z.record(kindName, ofKind).default({}),
  units: wantedUnits.default({}),
  paper: RULES_OF_PLANT.paper.default(UNTIL_SAID.paper),
  dates: dates.default(UNTIL_SAID.dates),
  decimalSign: RULES_OF_PLANT.decimalSign.default(UNTIL_SAID.decimalSign),
  decision: RULES_OF_PLANT.decision.default(UNTIL_SAID.decision),
  signing: signing.default({ ...UNTIL_SAID.signing, second: [...UNTIL_SAID.signing.second] }),
  gates: GateNumbers.default(UNTIL_SAID.gates),
  wireColours: RULES_OF_PLANT.wireColours.default(UNTIL_SAID.wireColours),
  inputWords: RULES_OF_PLANT.inputWords.default(UNTIL_SAID.inputWords),
  retention_years: RULES_OF_PLANT.retention_years.default(UNTIL_SAID.retention_years),
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
  /** Kinds decided anew; null takes one away. */
  byKind: z.record(kindName, ofKind.nullable()).optional(),
  /** Units decided anew; one that is said in itself is as the program ships. */
  units: wantedUnits.optional(),
  ...z.object(RULES_OF_PLANT).partial().shape,
  /** Why; it stands in the log. */
  reason: z.string().trim().max(300, 'At most 300 characters.').optional(),
})
export type ChangeRules = z.output<typeof ChangeRules>
export type PlantRules = z.output<typeof PlantRules>
export const NO_RULES: PlantRules = {
  water: null,
  sheetOrder: {},
  letterhead: { name: '', address: '', country: '' },
  plans: {},
  byKind: {},
  units: {},
  ...UNTIL_SAID,
  signing: { ...UNTIL_SAID.signing, second: [...UNTIL_SAID.signing.second] },
}

/** One decision about the rules: who, when, why, and what it changed. */
export const RulesRevision = z.object({
  number: z.int(),
  at: z.string(),
  byName: z.string(),
  reason: z.string(),
  changes: z.array(z.object({ path: z.string(), before: z.string(), after: z.string() })),
})
export type RulesRevision = z.output<typeof RulesRevision>

/** All rules as they were after an earlier decision; 0: as the program ships. */
export const RestoreRules = z.strictObject({
  number: z.int('A whole number.').min(0, 'Decisions are counted from 1; 0 is as the program ships.'),
  reason: z.string().trim().min(1, 'Say why: it stands in the log.').max(300, 'At most 300 characters.'),
})
export type RestoreRules = z.output<typeof RestoreRules>

/** A picture for the head of papers, small, as a data address. */
export const Logo = z.strictObject({
  image: z
    .string()
    .max(120_000, 'The picture is too large: at most 80 KB.')
    .regex(/^data:image\/(png|jpeg);base64,[A-Za-z0-9+/=]+$/, 'A PNG or JPEG picture.')
    .nullable(),
})
export type Logo = z.output<typeof Logo>

/** How a person wants the screens, at whatever device. */
export const Preferences = z.strictObject({
  /** Benches on which the signal path was made small, or opened. */
  smallPath: z
    .record(z.string().regex(/^[a-z-]{1,20}$/, 'A bench is named by its address.'), z.boolean())
    .refine((x) => Object.keys(x).length <= 20, 'There are not so many benches.'),
})
export type Preferences = z.output<typeof Preferences>
export const NO_PREFERENCES: Preferences = { smallPath: {} }
