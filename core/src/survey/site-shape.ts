import { z } from 'zod'
import '../plain-issues.ts'

/** The sensor put somewhere, and the signal that it had there. */
export const PositionTry = z.strictObject({
  /** As the rail of the pair is read: mm, or its index. */
  at: z.number().min(-2000).max(10_000),
  signal_pct: z.number().min(0, 'A signal is 0 to 100 %.').max(100, 'A signal is 0 to 100 %.'),
})
export type PositionTry = z.output<typeof PositionTry>

/** A day on which several places are measured with a portable meter. */
export const SurveyHead = z.strictObject({
  id: z.uuid(),
  title: z
    .string()
    .trim()
    .min(1, 'Give the survey a name by which it is found again.')
    .max(120, 'At most 120 characters.'),
  on: z.iso
    .date('Write the date as 2026-11-23.')
    .refine((d) => d >= '2000' && d < '2200', 'A day from 2000 to 2199.'),
})
export type SurveyHead = z.output<typeof SurveyHead>

/** A place as it was found: what was entered and tried there. */
export const SiteFoundShape = z.strictObject({
  values: z.record(z.string().max(60), z.union([z.number(), z.string().max(400), z.boolean()])),
  tries: z.array(PositionTry).max(60, 'At most 60 tries.'),
  note: z.string().trim().max(1000, 'At most 1000 characters.'),
})

/** What a log says of a site, worked out where its samples are. */
export const LogOfSite = z.strictObject({
  id: z.uuid(),
  title: z.string().max(120),
  rows: z.int().min(1),
  /** Lines that could not be read: nothing is known of them. */
  unread: z.int().min(0),
  simulated: z.boolean(),
  /** Whether a reference recorded it, as a portable meter is one; the loop's own meter says nothing of this place. */
  of: z.enum(['installed', 'reference']),
  /** First and last day on which it was recorded; null where its file told no date. */
  days: z.tuple([z.iso.date(), z.iso.date()]).nullable(),
  channel: z.string().max(120),
  unit: z.string().max(40).nullable(),
  mean: z.number().nullable(),
  /** Half width at k = 2; null where the log was too long for it. */
  U: z.number().nullable(),
  /** Share of samples with a signal of at least 50 %; null where it has no such channel. */
  heard_pct: z.number().min(0).max(100).nullable(),
  /** null: too long to be judged at once. */
  stops: z.array(z.string().max(400)).max(20).nullable(),
  looks: z.array(z.string().max(400)).max(20).nullable(),
})
export type LogOfSite = z.output<typeof LogOfSite>
