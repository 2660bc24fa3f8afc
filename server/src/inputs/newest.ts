import type { InputVerified } from '@calm/contract/inputs'
import { and, desc, eq } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { events } from '../runs/schema.ts'

export const INPUT_VERIFIED = 'input.verified'

/** How the newest verification of an input came out; null without one. */
export async function newestInput(
  db: Executor,
  loopId: string,
): Promise<{ passes: boolean; on: string } | null> {
  const [row] = await db
    .select({ at: events.at, payload: events.payload })
    .from(events)
    .where(and(eq(events.loopId, loopId), eq(events.type, INPUT_VERIFIED)))
    .orderBy(desc(events.seq))
    .limit(1)
  return row ? { passes: (row.payload as InputVerified).passes, on: isoInstant(row.at).slice(0, 10) } : null
}
