import { randomBytes } from 'node:crypto'
import connectPgSimple from 'connect-pg-simple'
import { eq } from 'drizzle-orm'
import type { RequestHandler } from 'express'
import session from 'express-session'
import type { Connection } from '../db/connection.ts'
import { settings } from './schema.ts'

declare module 'express-session' {
  interface SessionData {
    personId: string
  }
}

const TWELVE_HOURS_MS = 12 * 3600 * 1000
const SECRET_KEY = 'session secret'

/** The secret that signs the cookies, made once and kept in the database for every server on it. */
async function sessionSecret({ db }: Connection): Promise<string> {
  await db
    .insert(settings)
    .values({ key: SECRET_KEY, value: randomBytes(32).toString('base64url') })
    .onConflictDoNothing()
  const [row] = await db.select().from(settings).where(eq(settings.key, SECRET_KEY))
  if (typeof row?.value !== 'string') throw new Error('no session secret in the database')
  return row.value
}

/** Sessions by signed cookie, stored in the database: a restart signs nobody out. */
export async function sessions(connection: Connection): Promise<RequestHandler> {
  const Store = connectPgSimple(session)
  return session({
    name: 'calm.sid',
    secret: await sessionSecret(connection),
    store: new Store({
      pool: connection.pool,
      tableName: 'sessions',
      disableTouch: true,
      pruneSessionInterval: 900,
    }),
    resave: false,
    saveUninitialized: false,
    cookie: { httpOnly: true, sameSite: 'strict', secure: 'auto', maxAge: TWELVE_HOURS_MS },
  })
}
