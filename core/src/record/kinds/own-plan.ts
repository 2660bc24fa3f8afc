import { z } from 'zod'
import { MOST_POINTS, pointsOf, WAYS, type Way } from '../../verify/plan.ts'

/** Levels outside the range by this much are still something to read: the limits of the current lie there. */
const LEVEL = z.number().min(-10, 'Not below -10 %.').max(110, 'At most 110 %.')
/** Levels of one’s own, in any order, as often as wanted. */
export const OwnPlan = z
  .strictObject({
    levels_pct: z.array(LEVEL).min(2, 'At least two levels.').max(MOST_POINTS).readonly(),
    way: z.enum(Object.keys(WAYS) as [Way, ...Way[]]),
    repeats: z.int().min(1, 'At least once.').max(10, 'At most ten times.'),
    seed: z.int().min(0),
  })
  .superRefine((p, ctx) => {
    if (new Set(p.levels_pct).size < 2)
      ctx.addIssue({ code: 'custom', path: ['levels_pct'], message: 'At least two different levels.' })
    else if (pointsOf(p).length > MOST_POINTS)
      ctx.addIssue({
        code: 'custom',
        path: ['levels_pct'],
        message: `${pointsOf(p).length} readings; at most ${MOST_POINTS} are possible.`,
      })
  })
