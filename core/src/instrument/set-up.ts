import { z } from 'zod'
import { MOST_ROWS, settingProblem, settingsOf } from '../quantity/setting.ts'
import { NOT_LIVE, settingsOfFamily, type Live, type SetUpResult } from './family.ts'
import { familyOf } from './index.ts'

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
export const SetUp = z
  .strictObject({
    family: z.string().max(40),
    values: z.record(z.string().max(60), Value),
    /** How well an entry is known, half width in its unit, where somebody said so. */
    tolerances: z.record(z.string().max(60), z.number().min(0, 'A tolerance is not negative.')).optional(),
  })
  .superRefine((s, ctx) => {
    const family = familyOf(s.family)
    if (!family) {
      ctx.addIssue({ code: 'custom', path: ['family'], message: `There is no family “${s.family}”.` })
      return
    }
    const settings = settingsOfFamily(family)
    for (const [name, value] of Object.entries(s.values)) {
      const setting = settings.find((x) => x.name === name)
      const says = setting ? settingProblem(setting, value) : `${family.title} has no ${name}.`
      if (says) ctx.addIssue({ code: 'custom', path: ['values', name], message: says })
    }
  })
export type SetUp = z.output<typeof SetUp>

/** What follows from a set-up; null for a family that is not known. */
export function computeSetUp(s: SetUp, live: Live = NOT_LIVE): SetUpResult | null {
  const family = familyOf(s.family)
  return family ? family.compute(settingsOf(settingsOfFamily(family), s.values), live) : null
}
