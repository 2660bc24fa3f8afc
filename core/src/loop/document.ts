import { z } from 'zod'
import '../plain-issues.ts'
import { familyOf } from '../family/index.ts'
import { SetUp, setUpProblems } from '../family/set-up.ts'
import { Wiring } from '../part/wiring.ts'
import { MOST_RELAYS, RelayPlanSchema } from '../signal/relay-plan.ts'
import { StageSchema } from '../signal/schema.ts'
import { FloorSchema } from './floor.ts'

const number = z.number('Type a number.')
const text = (max: number) => z.string().trim().max(max, `At most ${max} characters.`)

export const ToleranceSchema = z
  .strictObject({
    mode: z.enum(['max', 'sum', 'min']),
    pctSpan: number.min(0, 'A tolerance is not negative.').max(50, 'At most 50 % of span.'),
    pctReading: number.min(0, 'A tolerance is not negative.').max(50, 'At most 50 % of reading.'),
    abs: number.min(0, 'A tolerance is not negative.'),
  })
  .refine((t) => t.pctSpan + t.pctReading + t.abs > 0, {
    path: ['pctSpan'],
    message: 'Give at least one part of the tolerance; nothing could pass a tolerance of 0.',
  })

export const TagSchema = z
  .string()
  .trim()
  .min(1, 'A loop needs a tag.')
  .max(40, 'At most 40 characters.')
  .regex(/^[\p{L}\p{N}][\p{L}\p{N}._/-]*$/u, 'A tag is letters, digits and - . _ / without spaces.')

/**
 * What is saved of a loop: what was typed, its unit, and nothing derived. Documents of older versions are
 * brought up to this one when they are read.
 */
export const LoopDocument = z
  .strictObject({
    version: z.literal(4, 'This page is older than the server. Reload it; what was changed here is kept.'),
    tag: TagSchema,
    service: text(200),
    area: text(80),
    /** Silent: nobody has told; it is looked for on the ground. */
    floor: FloorSchema.optional(),
    /** Who looks after it, as the plant calls them; silent or empty: nobody in particular. */
    assignee: text(80).optional(),
    /** In the plant's own words: "pressure", "flow, clamp-on". For people; no program reads them again. */
    type: text(80),
    /** In the plant's own words: "4-20 mA HART", "PNP NO". For people as well. */
    signal: text(80),
    /** What kind of meter it is, by the family's id; null where nobody has told. */
    family: z.string().max(40).nullable(),
    /** Along the line, process first; empty for a switch. */
    path: z.array(StageSchema).max(12),
    /** Parts and wires; null where nobody has drawn any. */
    wiring: Wiring.nullable(),
    /** What the device was told, by the family's names and units; null where nobody has. */
    setUp: SetUp.nullable(),
    /** Relays that act on the loop's value, in the unit of its range; of a controller's relay, in m. */
    trips: z.array(RelayPlanSchema).max(MOST_RELAYS),
    /** Settings that a receiver lost when its input type was changed, until they are keyed in again. */
    toKeyIn: z.array(z.strictObject({ of: text(40), says: text(60), value: text(80) })).max(40),
    tolerance: ToleranceSchema.nullable(),
    interval_months: z.int().min(1, 'At least 1 month.').max(120, 'At most 120 months.').nullable(),
    /** As the plant's list told it, before the first record here. */
    lastCalibrated: z.iso.date('Not a date of the calendar. Write it as 2026-11-23.').nullable(),
    remark: text(2000),
    /** What a person typed, by field path, kept beside the value used. */
    asTyped: z.record(z.string().max(120), z.string().max(80)),
    /** Field paths that hold a default nobody has confirmed. */
    unconfirmed: z.array(z.string().max(120)).max(200),
  })
  .superRefine((d, ctx) => {
    const kinds = d.path.map((s) => s.kind)
    const names = d.trips.map((t) => t.name)
    names.forEach((name, i) => {
      if (names.indexOf(name) !== i)
        ctx.addIssue({ code: 'custom', path: ['trips', i, 'name'], message: `“${name}” stands twice.` })
    })
    if (new Set(kinds).size !== kinds.length)
      ctx.addIssue({ code: 'custom', path: ['path'], message: 'A stage stands twice on the path.' })
    if (d.path.length > 0 && !kinds.includes('transmitter'))
      ctx.addIssue({ code: 'custom', path: ['path'], message: 'A signal path needs a transmitter.' })
    const family = familyOf(d.family)
    if (d.family !== null && !family)
      ctx.addIssue({ code: 'custom', path: ['family'], message: `There is no family “${d.family}”.` })
    if (!d.setUp) return
    if (!family)
      ctx.addIssue({
        code: 'custom',
        path: ['setUp'],
        message: 'A set-up belongs to a kind of meter. Say first what this loop is.',
      })
    else
      for (const p of setUpProblems(family, d.setUp.values))
        ctx.addIssue({ code: 'custom', path: ['setUp', 'values', p.where], message: p.says })
  })
export type LoopDocument = z.output<typeof LoopDocument>
