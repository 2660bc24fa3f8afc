import { siteSurveyed } from '@calm/core/record/kinds/site-surveyed'
import { SiteFound } from '@calm/core/survey/site'
import { SurveyHead } from '@calm/core/survey/site-shape'
import { z } from 'zod'
import { NotePictures } from './notes.ts'

/** A place as it was found, to be kept in the record of its loop. */
export const KeepSite = z.strictObject({
  /** Made by the client, so that a repeated send is stored once. */
  id: z.uuid(),
  at: z.iso.datetime({ offset: true }),
  survey: SurveyHead,
  site: z.uuid(),
  /** How often it had been kept when it was last looked at: what somebody else kept since is not overruled. */
  after: z.int().min(0),
  found: SiteFound,
  /** A log of the loop that was recorded here. */
  log: z.uuid().nullable(),
  /** New ones, as data addresses. */
  pictures: NotePictures,
  /** Of those that were kept with it before, the ones that stay. */
  stay: z
    .array(z.string().regex(/^[0-9a-f]{64}$/))
    .max(4, 'At most four pictures.')
    .default([]),
})
export type KeepSite = z.output<typeof KeepSite>

/** A place as it stands: kept last, by whom, and what it is worth. */
export const SurveyedSite = siteSurveyed.payload.omit({ survey: true }).extend({
  tag: z.string(),
  service: z.string(),
  /** Of the demo plant: made up. */
  demo: z.boolean(),
  by: z.string(),
  byName: z.string(),
  at: z.string(),
})
export type SurveyedSite = z.output<typeof SurveyedSite>

export const Survey = SurveyHead.extend({ sites: z.array(SurveyedSite) })
export type Survey = z.output<typeof Survey>

export const SurveyRow = SurveyHead.extend({
  sites: z.array(
    SurveyedSite.pick({ tag: true, site: true, state: true, byName: true, at: true }).extend({
      name: z.string(),
    }),
  ),
})
export type SurveyRow = z.output<typeof SurveyRow>
