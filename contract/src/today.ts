import { Day, HandJob, Mark, Reason, Wish } from '@calm/core/today/entries'
import { HelperSchema, JOB_KINDS, NeedSchema } from '@calm/core/today/job'
import { PlantAtWork, Shift } from '@calm/core/today/plant-at-work'
import { LIFTS } from '@calm/core/plan/reasons'
import { z } from 'zod'

const id = z.uuid()
const job = z.string().min(1).max(120)

const Work = z.object({
  procedure: z.string(),
  standard_min: z.int(),
  setup_min: z.int(),
  kit: z.string().nullable(),
  helper: HelperSchema,
  needs: z.array(NeedSchema).readonly(),
  uses: z.record(z.string(), z.number()),
  tools: z.array(z.string()).readonly(),
  permissions: z.array(z.string()).readonly(),
})
/** A job with its reason, what it takes, and what was agreed about it. */
export const JobTold = z.object({
  key: job,
  title: z.string(),
  kind: z.enum(JOB_KINDS),
  loop: z.object({ id, tag: z.string(), service: z.string() }).nullable(),
  area: z.string(),
  floor: z.int(),
  why: z.string(),
  to: z.string().nullable(),
  due: Day,
  importance: z.int(),
  work: Work,
  after: z.array(job).readonly(),
  /** What of its loop's record proves that it is done: visit, verify or a procedure; null: somebody says it. */
  does: z.string().nullable(),
  /** What happened before proves nothing; null: whatever happened counts. */
  since: z.string().nullable(),
  wish: Wish,
  minutes: z.int(),
  /** How many runs its usual time was learnt from; 0: nobody has done it yet, it is the standard's. */
  learntFrom: z.int(),
})
export type JobTold = z.output<typeof JobTold>

export const NewHandJob = HandJob.extend({ id }).strict()
export type NewHandJob = z.input<typeof NewHandJob>
export const ChangeJob = z.strictObject({ id, wish: Wish })
export const LetGoJob = z.strictObject({ id, reason: Reason })
export const JobsFile = z.strictObject({
  text: z.string().max(1_000_000, 'At most 1 MB. Split the list.'),
})
export const JobsImported = z.object({
  created: z.int(),
  same: z.int(),
  wrong: z.array(z.object({ row: z.int(), says: z.string() })),
})
export type JobsImported = z.output<typeof JobsImported>

const PlacingTold = z.object({
  job,
  person: id,
  helper: id.nullable(),
  instruments: z.array(z.string()),
  start: z.string(),
  /** Whose day it is, also after midnight. */
  day: Day,
  end: z.string(),
  /** When the way there begins. */
  leaves: z.string(),
  locked: z.boolean(),
  says: z.string(),
})
export type PlacingTold = z.output<typeof PlacingTold>
const ProgressTold = z.object({
  job,
  state: z.enum(['open', 'begun', 'done', 'stopped', 'impossible', 'gone']),
  says: z.string(),
  at: z.string().nullable(),
  byName: z.string(),
  /** Something was found that the next shift has to know. */
  bad: z.boolean(),
})
export type ProgressTold = z.output<typeof ProgressTold>
const KitLine = z.object({
  what: z.string(),
  for: z.array(z.string()).readonly(),
  instrument: id.nullable(),
  certificateEnds: z.string().nullable(),
  /** Others who need it too: it is handed on. */
  shared: z.array(id),
})
/** A day, or several, as planned, and as it went. */
export const PlanTold = z.object({
  day: Day,
  days: z.int(),
  now: z.string(),
  zone: z.string(),
  people: z.array(
    z.object({
      id,
      name: z.string(),
      turns: z.array(
        z.object({
          day: Day,
          from: z.string(),
          to: z.string(),
          breaks: z.array(z.object({ from: z.string(), to: z.string() })),
          /** Whether what is left of it ends in time, by how long it usually takes; null where nothing is left. */
          chance: z
            .object({
              /** As people say it: about 7 times in 10. */
              says: z.string(),
              low: z.boolean(),
              ends: z.string(),
            })
            .nullable(),
        }),
      ),
      /** Jobs of a kind that this person has done before: how long they take, and in 9 of 10 cases at most. */
      usual: z.array(z.object({ job, minutes: z.int(), slow: z.int(), runs: z.int() })),
    }),
  ),
  jobs: z.array(JobTold),
  /** Jobs that other days have. */
  elsewhere: z.array(z.object({ job, day: Day })),
  placings: z.array(PlacingTold),
  /** Of jobs that have no place: why, and what would make them fit. */
  left: z.array(
    z.object({
      job,
      says: z.string(),
      lift: z.enum([...LIFTS, 'SEVERAL']).nullable(),
    }),
  ),
  /** Rules that the plan breaks, in sentences. */
  broken: z.array(z.object({ job: job.nullable(), says: z.string() })),
  made: z
    .object({
      id,
      at: z.string(),
      byName: z.string(),
      how: z.string(),
      worked: z
        .object({
          unplaced: z.number(),
          points: z.number(),
          bound: z.object({ unplaced: z.number(), points: z.number() }),
          proved: z.boolean(),
          seed: z.int(),
          steps: z.int(),
        })
        .nullable(),
      mayUndo: z.boolean(),
    })
    .nullable(),
  progress: z.array(ProgressTold),
  kits: z.array(
    z.object({
      person: id,
      instruments: z.array(KitLine),
      tools: z.array(KitLine),
      uses: z.array(
        z.object({
          item: z.string(),
          amount: z.number(),
          /** What is left; null: nobody counts it. */
          stock: z.number().nullable(),
          /** So much of it was packed, and is out of the stock already. */
          packed: z.number(),
          for: z.array(z.string()).readonly(),
        }),
      ),
      /** Things of it that are packed. */
      packed: z.array(z.string()),
    }),
  ),
  /** Instruments of the plan that do not serve any more, with what does; needs that nothing in the register serves. */
  missing: z.array(z.string()),
  notes: z.array(z.object({ id, area: z.string(), says: z.string(), at: z.string(), byName: z.string() })),
})
export type PlanTold = z.output<typeof PlanTold>

const stretch = { day: Day, days: z.int().min(1).max(7) }
export const MakePlan = z.strictObject({
  id,
  ...stretch,
  how: z.enum(['planned', 'from now']),
  /** What was planned on: another plan since is told, not overwritten. */
  base: id.nullable(),
  seed: z.int().min(0).max(1_000_000).default(20_317),
  /** How long it may be searched for a better one. */
  milliseconds: z.int().min(50).max(10_000).default(2000),
})
export type MakePlan = z.input<typeof MakePlan>
export const Place = z.strictObject({
  id,
  ...stretch,
  base: id.nullable(),
  job,
  /** At a time, behind another job of that person's (null: first of the day), or where there is room; null: off the plan. */
  to: z
    .union([
      z.strictObject({ person: id, start: z.string().max(40) }),
      z.strictObject({ person: id, after: job.nullable(), day: Day }),
      z.strictObject({ room: z.literal(true) }),
    ])
    .nullable(),
  /** Agreed: it stays there when all is planned anew. */
  locked: z.boolean().optional(),
})
export type Place = z.input<typeof Place>
export const Undo = z.strictObject({ id, ...stretch, base: id })
export const NewMark = z.strictObject({ id, day: Day, job, ...Mark.shape }).superRefine((m, ctx) => {
  if (m.reason.trim() === '' && (m.mark === 'stopped' || m.mark === 'impossible'))
    ctx.addIssue({ code: 'custom', path: ['reason'], message: 'Say why: whoever goes on with it reads it.' })
})
export const Pack = z.strictObject({
  id,
  day: Day,
  person: id,
  /** What is packed; of what is used up its item. */
  what: z.string().min(1).max(200),
  packed: z.boolean(),
  /** So much of it comes out of the stock. */
  takes: z.number().min(0, 'Not below 0.').max(1e9).optional(),
})
export const SetPresence = z.strictObject({
  id,
  person: id,
  day: Day,
  shift: Shift.nullable(),
  /** As on every other day again. */
  usual: z.boolean().default(false),
  reason: z.string().trim().max(300, 'At most 300 characters.').default(''),
})
export type SetPresence = z.input<typeof SetPresence>
export const NewShiftNote = z.strictObject({
  id,
  day: Day,
  area: z.string().trim().max(80).default(''),
  says: z.string().trim().min(1, 'Write a word to the next shift.').max(1000, 'At most 1000 characters.'),
})
export const ChangePlant = z.strictObject({
  plant: PlantAtWork,
  reason: z.string().trim().max(300, 'At most 300 characters.').default(''),
})
/** Which days are asked for; today and one day where it is silent. */
export const DaysAsked = z.object({
  day: Day.optional(),
  days: z.coerce.number().int().min(1).max(7).default(1),
})
export { PlantAtWork }
