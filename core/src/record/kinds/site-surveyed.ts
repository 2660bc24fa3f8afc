import { z } from 'zod'
import { LogOfSite, SiteFoundShape, SurveyHead } from '../../survey/site-shape.ts'
import { defineKind } from './kind.ts'
import { NotePicture } from './note-kept.ts'

/** A place of the loop was measured with a portable meter, on a day with others: as it was found, and what that is worth. */
export const siteSurveyed = defineKind({
  type: 'site.surveyed',
  of: 'loop',
  payload: z.strictObject({
    survey: SurveyHead,
    site: z.uuid(),
    /** How often this site was kept, this time included: the last one counts. */
    keeping: z.int().min(1).max(1000),
    found: SiteFoundShape,
    log: LogOfSite.nullable(),
    pictures: z.array(NotePicture).max(4, 'At most four pictures.'),
    /** The verdict as it was, and every point of it. */
    state: z.enum(['notYet', 'good', 'look', 'stop']),
    says: z.string().max(2000),
    points: z
      .array(
        z.strictObject({
          of: z.string().max(40),
          state: z.enum(['notYet', 'good', 'look', 'stop']),
          says: z.array(z.string().max(1000)).max(60),
        }),
      )
      .max(20),
  }),
  title: 'Site surveyed',
  says: (p) =>
    `${String(p.found.values['site'] ?? '')} in “${p.survey.title}”${p.keeping > 1 ? ` (kept ${p.keeping} times)` : ''}: ${p.says}${p.log?.simulated ? ' (simulated)' : ''}`,
})
