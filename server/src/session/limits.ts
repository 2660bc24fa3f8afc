import { and, asc, desc, eq, gt, sql } from 'drizzle-orm'
import type { Database, Executor } from '../db/connection.ts'
import { HttpProblem } from '../http/problems.ts'
import { signatureFailed } from '@calm/core/record/plant-log/kinds/keys'
import { plantEvents } from '../plant-log/schema.ts'
import { signIns } from './schema.ts'

const WINDOW_MS = 15 * 60_000
/** Wrong passwords for one name before it has to wait, and from one address. */
const MOST_BY_NAME = 5
const MOST_BY_ADDRESS = 30
/** The first wait; each further try doubles it. */
const FIRST_WAIT_MS = 30_000

export interface Tried {
  readonly name: string
  readonly address: string
  readonly at: Date
}

/** Tries since the last right one, newest first. */
async function triesSince(tx: Executor, t: Tried, by: 'name' | 'address'): Promise<Date[]> {
  const column = by === 'name' ? signIns.name : signIns.address
  const since = new Date(t.at.getTime() - WINDOW_MS)
  const rows = await tx
    .select({ at: signIns.at, outcome: signIns.outcome })
    .from(signIns)
    .where(and(eq(column, t[by]), gt(signIns.at, since)))
    .orderBy(desc(signIns.at), asc(signIns.outcome))
    .limit(500)
  const last = rows.findIndex((r) => r.outcome === 'right')
  // Others at the same address do not clear what one of them did wrong.
  const open = by === 'name' && last >= 0 ? rows.slice(0, last) : rows
  const right = by === 'address' ? rows.filter((r) => r.outcome === 'right').length : 0
  return open
    .filter((r) => r.outcome === 'tried')
    .slice(right)
    .map((r) => r.at)
}

const wait = (ms: number) =>
  new HttpProblem(
    'too-many',
    `Too many tries. Wait ${ms >= 90_000 ? `${Math.ceil(ms / 60_000)} minutes` : `${Math.ceil(ms / 1000)} seconds`}, then try again.`,
  )

/**
 * Takes a try to sign in, or refuses it: five for a name in a quarter of an hour, then a wait that grows; thirty
 * from an address. Counted in the database, so that every server knows, and before the password is looked at, so
 * that many at the same time are many.
 */
export async function takeTry(db: Database, t: Tried): Promise<void> {
  await db.transaction(async (tx) => {
    await tx.execute(sql`select pg_advisory_xact_lock(7412, hashtext(${t.name}))`)
    const byAddress = await triesSince(tx, t, 'address')
    const oldest = byAddress[MOST_BY_ADDRESS - 1]
    if (oldest) throw wait(oldest.getTime() + WINDOW_MS - t.at.getTime())
    const byName = await triesSince(tx, t, 'name')
    const newest = byName[0]
    if (newest && byName.length >= MOST_BY_NAME) {
      const until =
        newest.getTime() + Math.min(WINDOW_MS, FIRST_WAIT_MS * 2 ** (byName.length - MOST_BY_NAME))
      if (t.at.getTime() < until) throw wait(until - t.at.getTime())
    }
    await tx.insert(signIns).values({ ...t, outcome: 'tried' })
  })
}

/** How it came out; kept for ever, under the name that was typed. */
export const noteTry = (db: Database, t: Tried, outcome: 'right' | 'wrong') =>
  db.insert(signIns).values({ ...t, outcome })

/** A signing key is handed out no more while its password was wrong too often. @throws HttpProblem 429 */
export async function refuseGuesses(db: Executor, personId: string, at: Date): Promise<void> {
  const wrong = await db
    .select({ at: plantEvents.at })
    .from(plantEvents)
    .where(
      and(
        eq(plantEvents.type, signatureFailed.type),
        eq(plantEvents.subject, personId),
        gt(plantEvents.at, new Date(at.getTime() - WINDOW_MS)),
      ),
    )
    .orderBy(desc(plantEvents.at))
    .limit(MOST_BY_NAME)
  const oldest = wrong[MOST_BY_NAME - 1]
  if (oldest) throw wait(oldest.at.getTime() + WINDOW_MS - at.getTime())
}
