import type { OwnKey, WrappedKey } from '@calm/contract/people'
import { keyBegun, keyEnded, keyWrapped } from '@calm/core/record/plant-log/kinds/keys'
import { and, eq, isNull } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { conflict, HttpProblem } from '../http/problems.ts'
import { note } from '../plant-log/note.ts'
import { fingerprintOf } from '../plant-log/plant-key.ts'
import { personKeys } from './schema.ts'

interface Whose {
  readonly id: string
  readonly shownName: string
}

/** The key that a person signs with now; null without one. */
export async function keyOf(db: Executor, personId: string): Promise<OwnKey | null> {
  const [row] = await db
    .select()
    .from(personKeys)
    .where(and(eq(personKeys.personId, personId), isNull(personKeys.until)))
  if (!row) return null
  const { fingerprint, publicKey, salt, iv, wrapped, rounds, from } = row
  return { fingerprint, publicKey, salt, iv, wrapped, rounds, from: isoInstant(from) }
}

/** Every key there ever was: what old signatures are held against. */
export const allKeys = (db: Executor) => db.select().from(personKeys)

const rowOf = (key: string) => ({ table: 'person_keys', key }) as const

/** Registers a key that somebody's browser made. @throws HttpProblem 409 where there is one already */
export async function beginKey(
  tx: Executor,
  whose: Whose,
  key: WrappedKey,
  by: string | null,
  at: Date,
): Promise<void> {
  if (await keyOf(tx, whose.id)) throw conflict('There is a signing key already.')
  const fingerprint = fingerprintOf(key.publicKey)
  const stored = await tx
    .insert(personKeys)
    .values({ ...key, fingerprint, personId: whose.id, from: at })
    .onConflictDoNothing()
    .returning({ key: personKeys.fingerprint })
  if (stored.length === 0)
    throw new HttpProblem('wrong-values', 'Some values cannot be used.', [
      { path: 'key.publicKey', says: 'This key was used here before. Make another.' },
    ])
  await note(
    tx,
    {
      kind: keyBegun,
      payload: { shownName: whose.shownName, fingerprint },
      by,
      subject: whose.id,
      row: rowOf(fingerprint),
    },
    at,
  )
}

/** The same key under another password. @throws HttpProblem 422 where it is another key */
export async function wrapAnew(tx: Executor, whose: Whose, key: WrappedKey, at: Date): Promise<void> {
  const now = await keyOf(tx, whose.id)
  if (now?.publicKey !== key.publicKey)
    throw new HttpProblem('wrong-values', 'Some values cannot be used.', [
      { path: 'key.publicKey', says: 'This is not the signing key of now. Reload the page and try again.' },
    ])
  await tx.update(personKeys).set(key).where(eq(personKeys.fingerprint, now.fingerprint))
  const { fingerprint } = now
  await note(
    tx,
    {
      kind: keyWrapped,
      payload: { shownName: whose.shownName, fingerprint },
      by: whose.id,
      subject: whose.id,
      row: rowOf(fingerprint),
    },
    at,
  )
}

/** Ends a person's key: it signs nothing from now on, and what it signed before stays signed. @returns whether there was one */
export async function endKey(
  tx: Executor,
  whose: Whose,
  why: string,
  by: string | null,
  at: Date,
): Promise<boolean> {
  const now = await keyOf(tx, whose.id)
  if (!now) return false
  await tx
    .update(personKeys)
    .set({ until: at, ended: why })
    .where(eq(personKeys.fingerprint, now.fingerprint))
  await note(
    tx,
    {
      kind: keyEnded,
      payload: { shownName: whose.shownName, fingerprint: now.fingerprint, why },
      by,
      subject: whose.id,
      row: rowOf(now.fingerprint),
    },
    at,
  )
  return true
}
