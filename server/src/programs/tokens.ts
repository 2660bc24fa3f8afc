import { createHash, randomBytes, randomUUID } from 'node:crypto'
import type { Token } from '@calm/contract/programs'
import type { Person } from '@calm/contract/people'
import { tokenEnded, tokenMade } from '@calm/core/record/plant-log/kinds/programs'
import { and, desc, eq, gt, isNull, lt, or, sql } from 'drizzle-orm'
import type { Database, Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { tellWindows } from '../http/live.ts'
import { conflict, notFound } from '../http/problems.ts'
import { people } from '../people/schema.ts'
import { note } from '../plant-log/note.ts'
import { apiTokens } from './schema.ts'

/** What a secret begins with: whoever finds one in a file knows what it is. */
const BEGINS = 'calm_'
const DAY_MS = 86_400_000
/** When it was used last is written down so often. */
const NOTE_EVERY_MS = 60_000
const digestOf = (secret: string) => createHash('sha256').update(secret).digest('hex')

export async function allTokens(db: Executor): Promise<Token[]> {
  const rows = await db
    .select({ t: apiTokens, madeBy: people.shownName })
    .from(apiTokens)
    .innerJoin(people, eq(people.id, apiTokens.by))
    .orderBy(desc(apiTokens.madeAt))
  return rows.map(({ t, madeBy }) => ({
    id: t.id,
    name: t.name,
    scope: t.scope,
    madeBy,
    madeAt: isoInstant(t.madeAt),
    until: isoInstant(t.until),
    usedAt: t.usedAt && isoInstant(t.usedAt),
    endedAt: t.endedAt && isoInstant(t.endedAt),
  }))
}

/** A new token. @returns it with its secret, which is kept nowhere */
export async function makeToken(
  db: Database,
  { name, scope, days }: { name: string; scope: Token['scope']; days: number },
  person: Pick<Person, 'id'>,
  at: Date,
): Promise<{ token: Token; secret: string }> {
  const secret = BEGINS + randomBytes(32).toString('base64url')
  const id = randomUUID()
  const until = new Date(at.getTime() + days * DAY_MS)
  const all = await db.transaction(async (tx) => {
    await tx
      .insert(apiTokens)
      .values({ id, name, scope, digest: digestOf(secret), by: person.id, madeAt: at, until })
    const payload = { name, scope, until: isoInstant(until).slice(0, 10) }
    await note(tx, { kind: tokenMade, payload, by: person.id, subject: id }, at)
    await tellWindows(tx, { what: 'programs' })
    return allTokens(tx)
  })
  const token = all.find((t) => t.id === id)
  if (!token) throw new Error('the token that was just made is not there')
  return { token, secret }
}

/** @throws HttpProblem 404, 409 where it ended already */
export async function endToken(
  db: Database,
  id: string,
  person: Pick<Person, 'id'>,
  at: Date,
): Promise<Token[]> {
  return db.transaction(async (tx) => {
    const [token] = await tx.select().from(apiTokens).where(eq(apiTokens.id, id)).for('update')
    if (!token) throw notFound('token')
    if (token.endedAt !== null) throw conflict(`${token.name} ended already.`)
    await tx.update(apiTokens).set({ endedAt: at }).where(eq(apiTokens.id, id))
    await note(tx, { kind: tokenEnded, payload: { name: token.name }, by: person.id, subject: id }, at)
    await tellWindows(tx, { what: 'programs' })
    return allTokens(tx)
  })
}

/** The token that a secret is of, where it is good now; its use is written down once a minute. */
export async function tokenOf(
  db: Database,
  secret: string,
  at: Date,
): Promise<{ readonly name: string; readonly scope: Token['scope'] } | null> {
  if (!secret.startsWith(BEGINS)) return null
  const [token] = await db
    .select()
    .from(apiTokens)
    .where(and(eq(apiTokens.digest, digestOf(secret)), isNull(apiTokens.endedAt), gt(apiTokens.until, at)))
  if (!token) return null
  const before = new Date(at.getTime() - NOTE_EVERY_MS)
  await db
    .update(apiTokens)
    .set({ usedAt: sql`greatest(${apiTokens.usedAt}, ${at.toISOString()}::timestamptz)` })
    .where(and(eq(apiTokens.id, token.id), or(isNull(apiTokens.usedAt), lt(apiTokens.usedAt, before))))
  return { name: token.name, scope: token.scope }
}
