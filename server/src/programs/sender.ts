import { createHmac } from 'node:crypto'
import { and, eq, lt, sql } from 'drizzle-orm'
import type { Logger } from 'pino'
import type { Database } from '../db/connection.ts'
import { again } from '../work/again.ts'
import { webhooks, webhookSends } from './schema.ts'

const EVERY_MS = 1_000
const AT_ONCE = 20
const ANSWER_MS = 10_000
const MINUTE_MS = 60_000
/** After each try that did not arrive it waits longer; after the last of them it is given up. */
const WAITS_MS = [5, 30, 120, 600, 3_600, 14_400, 43_200].map((s) => s * 1000)
const KEPT_DAYS = 30
const DAY_MS = 86_400_000

/**
 * What signs a message: its identifier, its time and its very bytes.
 * @see Standard Webhooks 1.0.0, symmetric signatures (HMAC-SHA256, base64, `v1,`)
 */
export function signatureOf(secret: string, id: string, timestamp_s: number, body: string): string {
  const key = Buffer.from(secret.replace(/^whsec_/, ''), 'base64')
  return `v1,${createHmac('sha256', key).update(`${id}.${timestamp_s}.${body}`).digest('base64')}`
}

interface Due {
  readonly position: number
  readonly eventId: string
  readonly body: unknown
  readonly tries: number
  readonly url: string
  readonly secret: string
}

/** Takes what is due; another server on the same database does not take it meanwhile. */
async function takeDue(db: Database, now: Date): Promise<Due[]> {
  return db.transaction(async (tx) => {
    const due = await tx
      .select({
        position: webhookSends.position,
        eventId: webhookSends.eventId,
        body: webhookSends.body,
        tries: webhookSends.tries,
        url: webhooks.url,
        secret: webhooks.secret,
      })
      .from(webhookSends)
      .innerJoin(webhooks, eq(webhooks.id, webhookSends.webhookId))
      .where(lt(webhookSends.nextAt, now))
      .orderBy(webhookSends.position)
      .limit(AT_ONCE)
      .for('update', { of: webhookSends, skipLocked: true })
    for (const d of due)
      await tx
        .update(webhookSends)
        .set({ nextAt: new Date(now.getTime() + MINUTE_MS) })
        .where(eq(webhookSends.position, d.position))
    return due
  })
}

/** Sends one. @returns why it did not arrive; null where it did */
async function send({ eventId, body, url, secret }: Due, now: Date): Promise<string | null> {
  const text = JSON.stringify(body)
  const timestamp_s = Math.floor(now.getTime() / 1000)
  try {
    const res = await fetch(url, {
      method: 'POST',
      redirect: 'manual',
      headers: {
        'Content-Type': 'application/json',
        'webhook-id': eventId,
        'webhook-timestamp': String(timestamp_s),
        'webhook-signature': signatureOf(secret, eventId, timestamp_s, text),
      },
      body: text,
      signal: AbortSignal.timeout(ANSWER_MS),
    })
    await res.body?.cancel()
    return res.ok ? null : `answered ${res.status}`
  } catch (error) {
    return error instanceof Error && error.name === 'TimeoutError' ? 'no answer in 10 s' : 'not reached'
  }
}

/** Sends what is due now. @returns how many were tried */
export async function sendDue(db: Database, now: Date): Promise<number> {
  const due = await takeDue(db, now)
  await Promise.all(
    due.map(async (d) => {
      const trouble = await send(d, now)
      const wait_ms = WAITS_MS[d.tries]
      await db
        .update(webhookSends)
        .set(
          trouble === null
            ? { arrivedAt: now, nextAt: null, tries: d.tries + 1 }
            : {
                trouble,
                tries: d.tries + 1,
                nextAt: wait_ms === undefined ? null : new Date(now.getTime() + wait_ms),
              },
        )
        .where(eq(webhookSends.position, d.position))
    }),
  )
  return due.length
}

/** Sends every second what is due; what arrived long ago is forgotten. @returns how to stop it */
export function startSender(db: Database, log: Pick<Logger, 'warn'>): () => Promise<void> {
  let pruned = 0
  const once = async () => {
    try {
      while ((await sendDue(db, new Date())) === AT_ONCE);
      if (Date.now() - pruned < DAY_MS) return
      pruned = Date.now()
      await db
        .delete(webhookSends)
        .where(
          and(sql`next_at is null`, lt(webhookSends.arrivedAt, new Date(Date.now() - KEPT_DAYS * DAY_MS))),
        )
    } catch (error) {
      log.warn({ err: error instanceof Error ? error.message : 'unknown' }, 'webhooks not sent')
    }
  }
  return again(EVERY_MS, once)
}
