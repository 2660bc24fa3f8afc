import { createHash, randomBytes } from 'node:crypto'
import type { FactorState } from '@calm/contract/people'
import { factorBegun, factorEnded, factorRecovered } from '@calm/core/record/plant-log/kinds/people'
import { and, eq, isNotNull, isNull } from 'drizzle-orm'
import { generateSecret, generateURI, verify } from 'otplib'
import { toString as pictureOf } from 'qrcode'
import type { Database, Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { conflict, wrongValues } from '../http/problems.ts'
import { note } from '../plant-log/note.ts'
import { secondFactors } from './schema.ts'

interface Whose {
  readonly id: string
  readonly name: string
  readonly shownName: string
}
/** A clock of a phone may be off by one step. @see RFC 6238, 5.2 */
const STEP_S = 30
const RECOVERY_CODES = 10
const digest = (code: string) =>
  createHash('sha256')
    .update(code.toLowerCase().replace(/[^0-9a-z]/g, ''))
    .digest('hex')
const rowOf = (id: string) => ({ table: 'second_factors', key: id }) as const

export async function factorOf(db: Executor, personId: string): Promise<FactorState> {
  const [row] = await db
    .select()
    .from(secondFactors)
    .where(and(eq(secondFactors.personId, personId), isNotNull(secondFactors.since)))
  return row?.since
    ? { since: isoInstant(row.since), codesLeft: row.recovery.length }
    : { since: null, codesLeft: 0 }
}

/**
 * A second factor that counts once a code of it was typed; until then it is kept with the session alone.
 * @throws HttpProblem 409 where there is one already
 */
export async function offerFactor(db: Executor, who: Whose) {
  if ((await factorOf(db, who.id)).since !== null)
    throw conflict('There is a second factor already. End it first.')
  const secret = generateSecret()
  const uri = generateURI({ issuer: 'Calm Loop', label: who.name, secret })
  return { secret, uri, picture: await pictureOf(uri, { type: 'svg', margin: 1 }) }
}

/** The time step of a right code that was not used before; null for any other. */
async function stepOf(secret: string, code: string, lastStep: number, at: Date): Promise<number | null> {
  if (!/^\d{6}$/.test(code)) return null
  const told = await verify({
    secret,
    token: code,
    epoch: Math.floor(at.getTime() / 1000),
    epochTolerance: STEP_S,
    afterTimeStep: lastStep,
  })
  return told.valid && 'timeStep' in told ? told.timeStep : null
}

/**
 * The first code makes it count.
 * @param secret - as it was offered; undefined where none was
 * @returns recovery codes, each good once: told now and kept nowhere
 */
export async function confirmFactor(
  db: Database,
  who: Whose,
  secret: string | undefined,
  code: string,
  at: Date,
): Promise<string[]> {
  if (secret === undefined) throw conflict('No second factor was begun. Begin again.')
  const step = await stepOf(secret, code.replace(/\s/g, ''), 0, at)
  if (step === null)
    throw wrongValues([
      { path: 'code', says: 'This is not the code of now. Look whether the phone’s clock is right.' },
    ])
  const codes = Array.from({ length: RECOVERY_CODES }, () =>
    randomBytes(5)
      .toString('hex')
      .replace(/(.{5})/, '$1-'),
  )
  await db.transaction(async (tx) => {
    const set = { secret, since: at, lastStep: step, recovery: codes.map(digest) }
    const made = await tx
      .insert(secondFactors)
      .values({ personId: who.id, ...set })
      .onConflictDoUpdate({ target: secondFactors.personId, set, setWhere: isNull(secondFactors.since) })
      .returning({ id: secondFactors.personId })
    if (made.length === 0) throw conflict('There is a second factor already. End it first.')
    const payload = { shownName: who.shownName }
    await note(tx, { kind: factorBegun, payload, by: who.id, subject: who.id, row: rowOf(who.id) }, at)
  })
  return codes
}

/**
 * Holds a code against a person's second factor; a code is good once, also for two servers at once.
 * @returns whether none is needed, one is asked for, or the one given is right or wrong
 */
export async function checkCode(
  db: Database,
  who: Whose,
  code: string | undefined,
  at: Date,
): Promise<'none' | 'asked' | 'right' | 'wrong'> {
  return db.transaction(async (tx) => {
    const [row] = await tx
      .select()
      .from(secondFactors)
      .where(and(eq(secondFactors.personId, who.id), isNotNull(secondFactors.since)))
      .for('update')
    if (!row) return 'none'
    if (code === undefined || code === '') return 'asked'
    const step = await stepOf(row.secret, code.replace(/\s/g, ''), row.lastStep, at)
    if (step !== null) {
      await tx.update(secondFactors).set({ lastStep: step }).where(eq(secondFactors.personId, who.id))
      return 'right'
    }
    const used = digest(code)
    if (!row.recovery.includes(used)) return 'wrong'
    const recovery = row.recovery.filter((r) => r !== used)
    await tx.update(secondFactors).set({ recovery }).where(eq(secondFactors.personId, who.id))
    const payload = { shownName: who.shownName, left: recovery.length }
    await note(tx, { kind: factorRecovered, payload, by: who.id, subject: who.id, row: rowOf(who.id) }, at)
    return 'right'
  })
}

/** No second factor any more. @returns whether there was one */
export async function endFactor(
  tx: Executor,
  who: Pick<Whose, 'id' | 'shownName'>,
  why: string,
  by: string,
  at: Date,
): Promise<boolean> {
  const ended = await tx
    .update(secondFactors)
    .set({ since: null, secret: '', recovery: [], lastStep: 0 })
    .where(and(eq(secondFactors.personId, who.id), isNotNull(secondFactors.since)))
    .returning({ id: secondFactors.personId })
  if (ended.length === 0) return false
  const payload = { shownName: who.shownName, why }
  await note(tx, { kind: factorEnded, payload, by, subject: who.id, row: rowOf(who.id) }, at)
  return true
}
