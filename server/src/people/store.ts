import type { Person, Role } from '@calm/contract/people'
import { and, eq, sql, type SQL } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { people } from './schema.ts'

type Row = typeof people.$inferSelect
export const shownOfPerson = {
  id: people.id,
  name: people.name,
  shownName: people.shownName,
  role: people.role,
  areas: people.areas,
  areaRoles: people.areaRoles,
}
export const asPerson = ({
  id,
  name,
  shownName,
  role,
  areas,
  areaRoles,
}: Pick<Row, keyof typeof shownOfPerson>): Person => ({
  id,
  name,
  shownName,
  role: role as Role,
  areas: [...areas],
  areaRoles: { ...areaRoles },
})

/** Whose session counts: locked, gone or past the last day nobody is. @param today - by the clock here */
export const atWorkOn = (today: string | SQL) =>
  sql`${people.state} = 'active' and coalesce(${people.until}, 'infinity') >= ${today}`

/** Somebody whose session counts. */
export async function personAtWork(db: Executor, id: string, today: string): Promise<Person | null> {
  const [row] = await db
    .select(shownOfPerson)
    .from(people)
    .where(and(eq(people.id, id), atWorkOn(today)))
  return row ? asPerson(row) : null
}

export async function allPeople(db: Executor): Promise<Person[]> {
  return (await db.select(shownOfPerson).from(people).orderBy(people.shownName)).map(asPerson)
}

/** For sign-in only: the hash leaves this folder nowhere else. */
export async function personWithHash(db: Executor, name: string) {
  const [row] = await db
    .select()
    .from(people)
    .where(eq(sql`lower(${people.name})`, name.toLowerCase()))
  return row ? { ...row, person: asPerson(row) } : null
}

/** Whether somebody has no password here, but the plant's own sign-in. */
export async function signsInElsewhere(db: Executor, id: string): Promise<boolean> {
  const [row] = await db.select({ provider: people.provider }).from(people).where(eq(people.id, id))
  return (row?.provider ?? null) !== null
}

/** The whole row, held for this transaction; null where there is none. */
export async function holdPerson(tx: Executor, id: string): Promise<Row | null> {
  const [row] = await tx.select().from(people).where(eq(people.id, id)).for('update')
  return row ?? null
}
