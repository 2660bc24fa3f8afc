import { z } from 'zod'

/** What a token opens: everything that a viewer may look at, or the calendar of due days alone. */
export const TOKEN_SCOPES = ['look', 'calendar'] as const

const name = z.string().trim().min(1, 'Say what it is for.').max(80, 'At most 80 characters.')
const MOST_DAYS = 400

export const NewToken = z.strictObject({
  name,
  scope: z.enum(TOKEN_SCOPES),
  /** For how many days it is good. */
  days: z.int('Whole days.').min(1, 'At least one day.').max(MOST_DAYS, `At most ${MOST_DAYS} days.`),
})
export const Token = z.object({
  id: z.uuid(),
  name: z.string(),
  scope: z.enum(TOKEN_SCOPES),
  madeBy: z.string(),
  madeAt: z.string(),
  until: z.string(),
  usedAt: z.string().nullable(),
  endedAt: z.string().nullable(),
})
export type Token = z.output<typeof Token>
/** A token with its secret: told once and kept nowhere. */
export const MadeToken = z.object({ token: Token, secret: z.string() })

/** What a webhook can be told of. */
export const WEBHOOK_ABOUT = ['records of loops', 'the log of the plant', 'heads of the record'] as const

export const NewWebhook = z.strictObject({
  url: z
    .url({ protocol: /^https?$/, error: 'An address as https://history.plant.example/calm.' })
    .max(500, 'At most 500 characters.'),
  about: z.array(z.enum(WEBHOOK_ABOUT)).min(1, 'Choose what it is told of.'),
})
export const Webhook = z.object({
  id: z.uuid(),
  url: z.string(),
  about: z.array(z.enum(WEBHOOK_ABOUT)),
  begunAt: z.string(),
  endedAt: z.string().nullable(),
  /** What waits to be sent, and what was given up. */
  waiting: z.int(),
  givenUp: z.int(),
  /** When something arrived last. */
  arrivedAt: z.string().nullable(),
  /** Why the newest one that did not arrive did not. */
  trouble: z.string().nullable(),
})
export type Webhook = z.output<typeof Webhook>
export const MadeWebhook = z.object({ webhook: Webhook, secret: z.string() })

/** A view for programs that read the database, and its columns. */
export const SqlView = z.object({
  name: z.string(),
  says: z.string(),
  columns: z.array(z.object({ name: z.string(), type: z.string() })),
})
export type SqlView = z.output<typeof SqlView>
