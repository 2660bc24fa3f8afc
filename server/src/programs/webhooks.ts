import { randomBytes, randomUUID } from 'node:crypto'
import type { Webhook } from '@calm/contract/programs'
import type { Person } from '@calm/contract/people'
import { webhookBegun, webhookEnded } from '@calm/core/record/plant-log/kinds/programs'
import { and, desc, eq, isNull, sql } from 'drizzle-orm'
import type { Database, Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { tellWindows } from '../http/live.ts'
import { conflict, notFound } from '../http/problems.ts'
import { note } from '../plant-log/note.ts'
import { webhooks, webhookSends } from './schema.ts'

const iso = (text: string | null) => text && isoInstant(new Date(text))

export async function allWebhooks(db: Executor): Promise<Webhook[]> {
  const of = (what: ReturnType<typeof sql>) =>
    sql`(select ${what} from ${webhookSends} where ${webhookSends.webhookId} = ${webhooks.id})`
  const rows = await db
    .select({
      w: webhooks,
      waiting: sql<number>`${of(sql`count(*) filter (where next_at is not null)`)}::int`,
      givenUp: sql<number>`${of(sql`count(*) filter (where next_at is null and arrived_at is null)`)}::int`,
      arrivedAt: sql<string | null>`${of(sql`max(arrived_at)`)}`,
      trouble: sql<
        string | null
      >`(select trouble from ${webhookSends} where ${webhookSends.webhookId} = ${webhooks.id} and arrived_at is null
         and trouble is not null order by position desc limit 1)`,
    })
    .from(webhooks)
    .orderBy(desc(webhooks.begunAt))
  return rows.map(({ w, waiting, givenUp, arrivedAt, trouble }) => ({
    id: w.id,
    url: w.url,
    about: w.about,
    begunAt: isoInstant(w.begunAt),
    endedAt: w.endedAt && isoInstant(w.endedAt),
    waiting,
    givenUp,
    arrivedAt: iso(arrivedAt),
    trouble,
  }))
}

/** Tells an address from now on. @returns it with the secret that signs what it is sent */
export async function beginWebhook(
  db: Database,
  { url, about }: { url: string; about: Webhook['about'] },
  person: Pick<Person, 'id'>,
  at: Date,
): Promise<{ webhook: Webhook; secret: string }> {
  const secret = `whsec_${randomBytes(24).toString('base64')}`
  const id = randomUUID()
  const all = await db.transaction(async (tx) => {
    await note(tx, { kind: webhookBegun, payload: { url, about }, by: person.id, subject: id }, at)
    await tx.insert(webhooks).values({ id, url, secret, about, begunAt: at })
    await tellWindows(tx, { what: 'programs' })
    return allWebhooks(tx)
  })
  const webhook = all.find((w) => w.id === id)
  if (!webhook) throw new Error('the webhook that was just begun is not there')
  return { webhook, secret }
}

/** @throws HttpProblem 404, 409 where it ended already */
export async function endWebhook(
  db: Database,
  id: string,
  person: Pick<Person, 'id'>,
  at: Date,
): Promise<Webhook[]> {
  return db.transaction(async (tx) => {
    const [hook] = await tx.select().from(webhooks).where(eq(webhooks.id, id)).for('update')
    if (!hook) throw notFound('webhook')
    if (hook.endedAt !== null) throw conflict('It ended already.')
    await tx.update(webhooks).set({ endedAt: at }).where(eq(webhooks.id, id))
    // What waits is not sent any more.
    await tx.delete(webhookSends).where(and(eq(webhookSends.webhookId, id), isNull(webhookSends.arrivedAt)))
    await note(tx, { kind: webhookEnded, payload: { url: hook.url }, by: person.id, subject: id }, at)
    await tellWindows(tx, { what: 'programs' })
    return allWebhooks(tx)
  })
}
