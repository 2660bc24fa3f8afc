import { z } from 'zod'
import { MOST_ROWS, settingProblem, type Typed } from '../quantity/setting.ts'
import { refused, type Refused } from '../refused.ts'
import type { Family } from './family.ts'

const Value = z.union([
  z.number(),
  z.string().max(400),
  z.boolean(),
  z
    .array(z.tuple([z.number(), z.number()]).readonly())
    .max(MOST_ROWS)
    .readonly(),
])

/** What was entered for a device, by its family's names and units; nothing derived. */
export const SetUp = z.strictObject({
  values: z.record(z.string().max(60), Value),
  /** The plant's sensor that it has, by its identifier; what its plate says stands among the values. */
  sensor: z.uuid().optional(),
  /** How the plant calls its kind of device, where several of one kind of meter ask in different orders. */
  device: z.string().trim().max(40, 'At most 40 characters.').optional(),
  /** Units in which the device asks for what the sheet says in others: `mm` in `in`. */
  units: z.record(z.string().max(20), z.string().max(20)).optional(),
  /** How well an entry is known, half width in its unit, where somebody said so. */
  tolerances: z.record(z.string().max(60), z.number().min(0, 'A tolerance is not negative.')).optional(),
})
export type SetUp = z.output<typeof SetUp>

/** Entries that cannot be: out of range, or not of this family. */
export const setUpProblems = (family: Family, values: Typed): Refused[] =>
  Object.entries(values).flatMap(([name, value]): Refused[] => {
    const setting = family.settings.find((s) => s.name === name)
    const says = setting ? settingProblem(setting, value) : `${family.title} has no ${name}.`
    return says ? [refused(says, name, 'ENTRY')] : []
  })
