import type { Person } from '@calm/contract/people'
import connectPgSimple, { type PGStoreOptions } from 'connect-pg-simple'
import { and, eq, gt, sql } from 'drizzle-orm'
import session, { type SessionData } from 'express-session'
import type { Clock } from '../clock.ts'
import type { Connection } from '../db/connection.ts'
import { atWorkOn, asPerson, shownOfPerson } from '../people/store.ts'
import { prepared } from '../db/prepared.ts'
import { people } from '../people/schema.ts'
import { sessions } from './schema.ts'

declare module 'express-session' {
  interface SessionData {
    /** Who that is, read anew with every request: locked, gone or past the last day nobody is. Never stored. */
    person?: Person | null | undefined
  }
}

const Store = connectPgSimple(session)

const sessionWithPerson = prepared('session_with_person', (db) =>
  db
    .select({ sess: sessions.sess, person: shownOfPerson })
    .from(sessions)
    .leftJoin(
      people,
      and(
        sql`${people.id} = (${sessions.sess} ->> 'personId')::uuid`,
        atWorkOn(sql`${sql.placeholder('today')}::date`),
        // People of the demo plant are nobody outside it, also where they came in while it was one.
        sql`(${sql.placeholder('withDemo')}::boolean or not ${people.demo})`,
      ),
    )
    .where(and(eq(sessions.sid, sql.placeholder('sid')), gt(sessions.expire, sql`now()`))),
)

/**
 * Sessions of the database, each read with its person in one statement: every request asks for both, and a statement
 * more for each look of a hundred windows is what a plant waits for.
 */
export class PersonStore extends Store {
  constructor(
    private readonly connection: Connection,
    private readonly clock: Clock,
    private readonly isDemo: boolean,
    options: PGStoreOptions,
  ) {
    super({ ...options, pool: connection.pool })
  }
  override get(sid: string, done: (error: unknown, session?: SessionData | null) => void): void {
    this.read(sid).then(
      (found) => {
        done(null, found)
      },
      (error: unknown) => {
        done(error)
      },
    )
  }
  override set(sid: string, kept: SessionData, done?: (error?: unknown) => void): void {
    // Left out of what is stored: JSON has no undefined.
    super.set(sid, { ...kept, person: undefined }, done)
  }
  private async read(sid: string): Promise<SessionData | null> {
    const [row] = await sessionWithPerson(this.connection.db, {
      sid,
      withDemo: this.isDemo,
      today: this.clock().toISOString().slice(0, 10),
    })
    return row ? { ...(row.sess as SessionData), person: row.person && asPerson(row.person) } : null
  }
}
