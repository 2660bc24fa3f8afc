import type { OpenSession } from '@calm/contract/people'
import { createHash, randomBytes } from 'node:crypto'
import { promisify } from 'node:util'
import { eq, sql } from 'drizzle-orm'
import type { Request, RequestHandler } from 'express'
import session from 'express-session'
import { z } from 'zod'
import type { Clock } from '../clock.ts'
import type { Connection, Database, Executor } from '../db/connection.ts'
import { tellEnded } from '../http/live.ts'
import { settings } from '../db/schema.ts'
import { PersonStore } from './person-store.ts'
import { sessions as table } from './schema.ts'

declare module 'express-session' {
  interface SessionData {
    personId: string
    /** By the server's clock, ms. */
    begunAt: number
    seenAt: number
    address: string
    agent: string
    /** A second factor that was offered and not confirmed yet. */
    offered?: string
  }
}

const HOUR_MS = 3_600_000
/** However busy it is, a session ends after a week. */
const LONGEST_MS = 7 * 24 * HOUR_MS
/** When it was seen last is written down so often; more would be a write for every look. */
const NOTE_EVERY_MS = 60_000
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

/**
 * What the cookie is called: where everything goes by https, so that no other host and no plain connection can set it.
 * @see RFC 6265bis, 4.1.3.2
 */
export const cookieName = (onlyHttps: boolean): string => (onlyHttps ? '__Host-calm.sid' : 'calm.sid')

/** Sessions by signed cookie, stored in the database: a restart signs nobody out. */
export async function sessions(
  connection: Connection,
  clock: Clock,
  onlyHttps: boolean,
  isDemo: boolean,
): Promise<RequestHandler> {
  return session({
    name: cookieName(onlyHttps),
    secret: await sessionSecret(connection),
    store: new PersonStore(connection, clock, isDemo, {
      tableName: 'sessions',
      disableTouch: true,
      pruneSessionInterval: 900,
      // A lost connection here is told by the next request; it is no reason to fill the terminal.
      errorLog: () => undefined,
    }),
    resave: false,
    saveUninitialized: false,
    cookie: { httpOnly: true, sameSite: 'strict', secure: onlyHttps || 'auto', maxAge: LONGEST_MS },
  })
}

/** Ends sessions that nobody has used for a while, and those that are too old. */
export const endsWhenIdle =
  (idleHours: number): RequestHandler =>
  (req, _res, next) => {
    const { personId, begunAt = 0, seenAt = 0 } = req.session
    const now = Date.now()
    const over = now - seenAt > idleHours * HOUR_MS || now - begunAt > LONGEST_MS
    if (personId !== undefined && over) {
      req.session.regenerate((error) => {
        next(error)
      })
      return
    }
    if (personId !== undefined && now - seenAt > NOTE_EVERY_MS) req.session.seenAt = now
    next()
  }

/** Begins a session for a person; the cookie of before opens nothing any more. */
export async function beginSession(req: Request, personId: string): Promise<void> {
  await promisify(req.session.regenerate.bind(req.session))()
  const now = Date.now()
  const agent = (req.get('User-Agent') ?? '').slice(0, 200)
  Object.assign(req.session, { personId, begunAt: now, seenAt: now, address: req.ip ?? '', agent })
  await promisify(req.session.save.bind(req.session))()
}

/** Ends this session, with its windows. */
export async function endSession(db: Database, req: Request): Promise<void> {
  const id = req.sessionID
  await promisify(req.session.destroy.bind(req.session))()
  await tellEnded(db, [id])
}

/** Ends every session of a person, on every machine. @param but - one that goes on. @returns how many */
export async function endSessionsOf(db: Executor, personId: string, but = ''): Promise<number> {
  const gone = await db
    .delete(table)
    .where(sql`${table.sess} ->> 'personId' = ${personId} and ${table.sid} <> ${but}`)
    .returning({ sid: table.sid })
  await tellEnded(
    db,
    gone.map((g) => g.sid),
  )
  return gone.length
}

/** What names a session without opening it. */
const nameOf = (sid: string) => createHash('sha256').update(sid).digest('hex').slice(0, 32)

const Kept = z.object({
  personId: z.string(),
  begunAt: z.number(),
  seenAt: z.number(),
  address: z.string().default(''),
  agent: z.string().default(''),
})

/** Where people are signed in: of one person, or of all. @param here - the session that asks */
export async function openSessions(
  db: Executor,
  personId: string | null,
  here = '',
): Promise<(OpenSession & { readonly personId: string })[]> {
  const rows = await db
    .select({ sid: table.sid, sess: table.sess })
    .from(table)
    .where(
      sql`${table.expire} > now() and ${personId === null ? sql`${table.sess} ->> 'personId' is not null` : sql`${table.sess} ->> 'personId' = ${personId}`}`,
    )
  return rows
    .flatMap(({ sid, sess }) => {
      const kept = Kept.safeParse(sess)
      if (!kept.success) return []
      const { begunAt, seenAt, ...rest } = kept.data
      const at = { begunAt: new Date(begunAt).toISOString(), seenAt: new Date(seenAt).toISOString() }
      return [{ id: nameOf(sid), ...rest, ...at, here: sid === here }]
    })
    .sort((a, b) => b.seenAt.localeCompare(a.seenAt))
}

/** Ends one session of a person, by its name. @returns whether there was one */
export async function endNamed(db: Executor, personId: string, name: string): Promise<boolean> {
  const rows = await db
    .select({ sid: table.sid })
    .from(table)
    .where(sql`${table.sess} ->> 'personId' = ${personId}`)
  const found = rows.find((r) => nameOf(r.sid) === name)
  if (!found) return false
  await db.delete(table).where(eq(table.sid, found.sid))
  await tellEnded(db, [found.sid])
  return true
}
