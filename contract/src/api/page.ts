import { z } from 'zod'

const MOST = 10_000
const whole = (least: number, most: number) =>
  z.coerce
    .number({ error: 'A whole number.' })
    .int('A whole number.')
    .min(least, `At least ${least}.`)
    .max(most, `At most ${most}.`)

/** A part of a list: all of it where nothing is asked. */
export const Page = z.object({
  /** Rows left out at the beginning. */
  from: whole(0, 1e9).default(0),
  most: whole(1, MOST).optional(),
})
export type Page = z.output<typeof Page>

/** The same of the plant's list: what is in use, or what is archived. */
export const LoopsAsked = Page.extend({ archived: z.enum(['no', 'yes']).default('no') })
export type LoopsAsked = z.output<typeof LoopsAsked>

const MOST_LABELS = 300
/** Labels: of these tags, else of an area, else of all loops in use. */
export const LabelsAsked = z.object({
  tags: z
    .string()
    .max(12_000)
    .transform((text) =>
      text
        .split(',')
        .map((t) => t.trim())
        .filter((t) => t !== ''),
    )
    .refine((list) => list.length <= MOST_LABELS, `At most ${MOST_LABELS} labels at once.`)
    .optional(),
  area: z.string().trim().max(80).optional(),
})

/** A part of a record: events after one of them, in their order. */
export const Since = z.object({
  /** Position of the last event that is known already. */
  since: whole(0, 1e9).default(0),
  most: whole(1, MOST).optional(),
})
