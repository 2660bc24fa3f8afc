import { z } from 'zod'
import { HelperSchema, HoldSchema } from './job.ts'
import { Shift } from './plant-at-work.ts'

const text = (max: number) => z.string().trim().max(max, `At most ${max} characters.`)
const reason = z.string().trim().min(1, 'Say why: it stands in the log.').max(300, 'At most 300 characters.')
const INSTANT = /^\d{4}-\d{2}-\d{2}T\d{2}:\d{2}Z$/
const Instant = z.string().regex(INSTANT, 'An instant to the whole minute, as 2026-11-24T06:00Z.')
export const Day = z.iso
  .date('Write the date as 2026-11-23.')
  .refine((d) => d >= '2000' && d < '2200', 'A day from 2000 to 2199.')
const Key = z.string().min(1).max(120)
const minutes = z.int('Whole minutes.').min(1, 'At least a minute.').max(1440, 'At most a day.')
const importance = z.int().min(1, 'From 1 to 5.').max(5, 'From 1 to 5.')

/** What was agreed or entered about a job, over what the record says of it. */
export const Wish = z.strictObject({
  minutes: minutes.optional(),
  importance: importance.optional(),
  windows: z
    .array(
      z.strictObject({ from: Instant, to: Instant }).refine((w) => w.from < w.to, {
        path: ['to'],
        message: 'It must end after it begins.',
      }),
    )
    .max(20, 'At most 20 windows.')
    .optional(),
  helper: HelperSchema.optional(),
  abilities: z.array(text(80).min(1)).max(10, 'At most 10.').optional(),
  holds: z.array(HoldSchema).max(10, 'At most 10.').optional(),
  after: z.array(Key).max(20).optional(),
  /** Instruments come from elsewhere: the plant's own are not asked for. */
  borrowed: z.boolean().optional(),
  /** Number of the work order. */
  order: text(60).optional(),
  /** What operations agreed to, and with whom. */
  agreed: text(300).optional(),
  /** Not before this day. */
  notBefore: Day.nullable().optional(),
})
export type Wish = z.output<typeof Wish>

/** A job that somebody entered. */
export const HandJob = z.strictObject({
  title: text(60).min(1, 'Say in a few words what is to be done.'),
  loop: text(80).nullable(),
  area: text(80).min(1, 'Give the area.'),
  why: text(300),
  due: Day,
  minutes,
  importance,
  /** What in the record of its loop proves it: `verify`, or a procedure; nothing where it is left out. */
  does: text(80).min(1).nullable().optional(),
})
export type HandJob = z.output<typeof HandJob>

export const MARKS = ['begun', 'done', 'stopped', 'impossible', 'open'] as const
/** What became of a job where the record cannot tell it. */
export const Mark = z
  .strictObject({ mark: z.enum(MARKS), reason: text(300) })
  .refine((m) => m.reason !== '' || !['stopped', 'impossible'].includes(m.mark), {
    path: ['reason'],
    message: 'Say why: whoever goes on with it reads it.',
  })
export type Mark = z.output<typeof Mark>

const Placing = z.strictObject({
  job: Key,
  person: z.uuid(),
  helper: z.uuid().nullable(),
  instruments: z.array(z.uuid()).max(20).readonly(),
  start: Instant,
  day: Day,
})
/** A plan as it was made, moved or taken back. */
export const PlanMade = z.strictObject({
  how: z.enum(['planned', 'from now', 'moved', 'agreed', 'undone']),
  days: z.int().min(1).max(7),
  placings: z.array(Placing).max(400).readonly(),
  /** Jobs that stay where they are. */
  locked: z.array(Key).max(400).readonly(),
  /** The plan that it replaced; what undo goes back to. */
  before: z.uuid().nullable(),
  /** Of a plan that was worked out: how good it is, and how it can be made again. */
  worked: z
    .strictObject({
      unplaced: z.number(),
      points: z.number(),
      bound: z.strictObject({ unplaced: z.number(), points: z.number() }).readonly(),
      proved: z.boolean(),
      seed: z.int(),
      steps: z.int(),
    })
    .readonly()
    .nullable(),
})
export type PlanMade = z.output<typeof PlanMade>

/** Everything that is kept of the days of a plant, by kind: only ever added to; the newest of a subject counts. */
export const DAY_ENTRIES = {
  /** By job; null: it is needed no more. */
  job: z.strictObject({ job: HandJob.nullable(), reason: text(300) }),
  /** By job. */
  wish: Wish,
  /** By person and day; null: as usual again. */
  presence: z.strictObject({ shift: Shift.nullable(), usual: z.boolean(), reason: text(300) }),
  /** By job and day. */
  mark: Mark,
  /** By person and thing, and day. */
  packed: z.strictObject({
    packed: z.boolean(),
    /** So much of what is used up was taken out of the stock. */
    takes: z.number().min(0, 'Not below 0.').max(1e9).optional(),
  }),
  note: z.strictObject({ area: text(80), says: text(1000).min(1, 'Write a word to the next shift.') }),
  /** By its first day. */
  plan: PlanMade,
} as const satisfies Readonly<Record<string, z.ZodType>>
export type DayEntryKind = keyof typeof DAY_ENTRIES
export type DayEntry<K extends DayEntryKind> = z.output<(typeof DAY_ENTRIES)[K]>
export { reason as Reason }
