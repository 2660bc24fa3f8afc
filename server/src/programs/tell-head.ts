import type { SignedHead } from '@calm/contract/plant-log'
import { sql } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'

/**
 * Puts a signed head of the record before the webhooks that are told of heads: a witness that no one at the database
 * can take back. Each is told at most once in a day, on whichever server it is sealed.
 */
export async function tellHead(db: Executor, head: SignedHead): Promise<void> {
  const body = JSON.stringify({ type: 'head.signed', timestamp: head.at, data: head })
  await db.execute(sql`
    insert into webhook_sends (webhook_id, event_id, body)
    select w.id, gen_random_uuid(), ${body}::jsonb
    from webhooks w
    where w.ended_at is null and w.about @> '["heads of the record"]'::jsonb
      and not exists (
        select from webhook_sends s
        where s.webhook_id = w.id and s.body ->> 'type' = 'head.signed'
          and (s.body ->> 'timestamp')::timestamptz > ${head.at}::timestamptz - interval '1 day'
      )`)
}
