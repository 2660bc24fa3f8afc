import type { Person } from '@calm/contract/people'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { DAY_ENTRIES, type DayEntry, type DayEntryKind } from '@calm/core/today/entries'
import type { PlantKind } from '@calm/core/record/plant-log/kinds/plant-kind'
import { and, asc, desc, eq, gte, inArray, lte, type SQL } from 'drizzle-orm'
import type { z } from 'zod'
import type { Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { conflict } from '../http/problems.ts'
import { tellWindows } from '../http/live.ts'
import { people } from '../people/schema.ts'
import { note } from '../plant-log/note.ts'
import { dayEntries } from './schema.ts'

/** An entry as it is read back. */
export interface Kept<K extends DayEntryKind> {
  readonly id: string
  readonly day: string | null
  readonly subject: string
  readonly payload: DayEntry<K>
  readonly at: string
  readonly byName: string
}
export interface NewEntry<K extends DayEntryKind, N extends PlantKind> {
  readonly id: string
  readonly kind: K
  readonly day: string | null
  readonly subject: string
  readonly payload: DayEntry<K>
  /** How the log of the plant tells of it; null where it proves nothing. */
  readonly noted: {
    readonly kind: N
    readonly payload: z.output<N['payload']>
    readonly reason?: string
  } | null
}

/**
 * Keeps an entry, once: the same again changes nothing.
 * @returns whether it was new
 * @throws HttpProblem 409 for another entry under its identifier
 */
export async function keepEntry<K extends DayEntryKind, N extends PlantKind>(
  tx: Executor,
  e: NewEntry<K, N>,
  person: Pick<Person, 'id'>,
  now: Date,
): Promise<boolean> {
  const { id, kind, day, subject, payload, noted } = e
  const stored = await tx
    .insert(dayEntries)
    .values({ id, kind, day, subject, payload, by: person.id, at: now })
    .onConflictDoNothing()
    .returning({ id: dayEntries.id })
  if (stored.length === 0) {
    const [there] = await tx.select().from(dayEntries).where(eq(dayEntries.id, id))
    const isSame =
      there?.kind === kind &&
      there.subject === subject &&
      there.by === person.id &&
      canonicalJson(there.payload) === canonicalJson(payload)
    if (!isSame) throw conflict('Something else is stored under this identifier. Load the page again.')
    return false
  }
  if (noted)
    await note(
      tx,
      {
        kind: noted.kind,
        payload: noted.payload,
        by: person.id,
        subject,
        reason: noted.reason ?? '',
        row: { table: 'day_entries', key: id },
      },
      now,
    )
  await tellWindows(tx, { what: 'today' })
  return true
}

async function select<K extends DayEntryKind>(
  db: Executor,
  kind: K,
  where: SQL | undefined,
): Promise<Kept<K>[]> {
  const rows = await db
    .select({ e: dayEntries, byName: people.shownName })
    .from(dayEntries)
    .innerJoin(people, eq(people.id, dayEntries.by))
    .where(and(eq(dayEntries.kind, kind), where))
    .orderBy(asc(dayEntries.position))
  return rows.flatMap(({ e, byName }) => {
    const told = DAY_ENTRIES[kind].safeParse(e.payload)
    // What a newer program kept and this one cannot read is as if nobody had said it.
    return told.success
      ? [
          {
            id: e.id,
            day: e.day,
            subject: e.subject,
            payload: told.data as DayEntry<K>,
            at: isoInstant(e.at),
            byName,
          },
        ]
      : []
  })
}
const newest = <K extends DayEntryKind>(list: readonly Kept<K>[], key: (e: Kept<K>) => string) =>
  new Map(list.map((e) => [key(e), e]))

/** The newest entry of each job: what was entered, or that it is needed no more. */
export const handJobs = async (db: Executor) => newest(await select(db, 'job', undefined), (e) => e.subject)
export const wishes = async (db: Executor) => newest(await select(db, 'wish', undefined), (e) => e.subject)
/** Of every person and day in a stretch. */
export const presences = async (db: Executor, from: string, to: string) =>
  newest(
    await select(db, 'presence', and(gte(dayEntries.day, from), lte(dayEntries.day, to))),
    (e) => `${e.subject} ${e.day ?? ''}`,
  )
/** All marks of jobs, the oldest first. */
export const marksOf = (db: Executor, jobs: readonly string[]) =>
  jobs.length === 0 ? Promise.resolve([]) : select(db, 'mark', inArray(dayEntries.subject, [...jobs]))
export const allMarks = (db: Executor) => select(db, 'mark', undefined)
export const packed = async (db: Executor, day: string) =>
  newest(await select(db, 'packed', eq(dayEntries.day, day)), (e) => e.subject)
export const packedBetween = async (db: Executor, from: string, to: string) =>
  newest(
    await select(db, 'packed', and(gte(dayEntries.day, from), lte(dayEntries.day, to))),
    (e) => `${e.subject} ${e.day ?? ''}`,
  )
export const notesBetween = (db: Executor, from: string, to: string) =>
  select(db, 'note', and(gte(dayEntries.day, from), lte(dayEntries.day, to)))

/** More plans are not looked through: older ones are of days long gone. */
const MOST_PLANS = 400
/** Plans that begin in a stretch of days, the newest first. */
export async function plansAround(db: Executor, from: string, to: string): Promise<Kept<'plan'>[]> {
  const ids = await db
    .select({ id: dayEntries.id })
    .from(dayEntries)
    .where(and(eq(dayEntries.kind, 'plan'), gte(dayEntries.day, from), lte(dayEntries.day, to)))
    .orderBy(desc(dayEntries.position))
    .limit(MOST_PLANS)
  if (ids.length === 0) return []
  const list = await select(
    db,
    'plan',
    inArray(
      dayEntries.id,
      ids.map((r) => r.id),
    ),
  )
  return list.reverse()
}
