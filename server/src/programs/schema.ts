import { index, integer, jsonb, pgTable, text, timestamp, uuid } from 'drizzle-orm/pg-core'
import type { TOKEN_SCOPES, WEBHOOK_ABOUT } from '@calm/contract/programs'
import { people } from '../people/schema.ts'

const instant = () => timestamp({ withTimezone: true, precision: 3 })

/** Tokens by which the plant's other programs look: the token itself is kept nowhere. Not in backups, as sessions. */
export const apiTokens = pgTable('api_tokens', {
  id: uuid().primaryKey(),
  name: text().notNull(),
  scope: text().$type<(typeof TOKEN_SCOPES)[number]>().notNull(),
  digest: text().notNull().unique(),
  by: uuid()
    .notNull()
    .references(() => people.id),
  madeAt: instant().notNull(),
  until: instant().notNull(),
  usedAt: instant(),
  endedAt: instant(),
})

/** Addresses that are told what is recorded. A plant restored elsewhere tells nobody: not in backups. */
export const webhooks = pgTable('webhooks', {
  id: uuid().primaryKey(),
  url: text().notNull(),
  secret: text().notNull(),
  about: jsonb().$type<(typeof WEBHOOK_ABOUT)[number][]>().notNull(),
  begunAt: instant().notNull(),
  endedAt: instant(),
})

/** What waits for a webhook, what arrived, and what was given up: put here by a trigger, with what is recorded. */
export const webhookSends = pgTable(
  'webhook_sends',
  {
    position: integer().primaryKey().generatedAlwaysAsIdentity(),
    webhookId: uuid()
      .notNull()
      .references(() => webhooks.id),
    eventId: uuid().notNull(),
    body: jsonb().notNull(),
    tries: integer().notNull().default(0),
    nextAt: instant().defaultNow(),
    arrivedAt: instant(),
    trouble: text(),
  },
  (t) => [index('webhook_sends_next').on(t.nextAt)],
)
