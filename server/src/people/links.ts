import { createHash, randomBytes } from 'node:crypto'
import type { PasswordLink } from '@calm/contract/people'
import { and, desc, eq, gt, isNull } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { notFound } from '../http/problems.ts'
import { invitations } from './schema.ts'

/** A link to set a password is good for a day. */
const GOOD_MS = 86_400_000

/** Random enough that a plain digest keeps it. */
const hashOf = (token: string) => createHash('sha256').update(token).digest('hex')

/** Makes a link for a person; those of before open nothing any more. */
export async function makeLink(tx: Executor, personId: string, at: Date): Promise<PasswordLink> {
  await endLinks(tx, personId, at)
  const token = randomBytes(32).toString('base64url')
  const until = new Date(at.getTime() + GOOD_MS)
  await tx.insert(invitations).values({ tokenHash: hashOf(token), personId, until })
  return { token, until: isoInstant(until) }
}

/** Links of a person that nobody used open nothing any more. */
export async function endLinks(tx: Executor, personId: string, at: Date): Promise<void> {
  await tx
    .update(invitations)
    .set({ usedAt: at })
    .where(and(eq(invitations.personId, personId), isNull(invitations.usedAt)))
}

/** Until when the link of each person is good. */
export async function openLinks(db: Executor, at: Date): Promise<ReadonlyMap<string, string>> {
  const rows = await db
    .select()
    .from(invitations)
    .where(and(isNull(invitations.usedAt), gt(invitations.until, at)))
    .orderBy(desc(invitations.until))
  return new Map(rows.map((r) => [r.personId, isoInstant(r.until)]))
}

/** Whose link it is. @throws HttpProblem 404 where it was used, is over, or never was */
export async function personOfLink(tx: Executor, token: string, at: Date): Promise<string> {
  const [row] = await tx
    .select()
    .from(invitations)
    .where(
      and(eq(invitations.tokenHash, hashOf(token)), isNull(invitations.usedAt), gt(invitations.until, at)),
    )
    .for('update')
  if (!row) throw notFound('link')
  return row.personId
}
