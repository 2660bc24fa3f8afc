import type { Person, Role } from '@calm/contract/people'
import { eq, sql } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { people } from './schema.ts'

type Row = typeof people.$inferSelect
const shown = {
  id: people.id,
  name: people.name,
  shownName: people.shownName,
  role: people.role,
  areas: people.areas,
}
const asPerson = ({ id, name, shownName, role, areas }: Pick<Row, keyof typeof shown>): Person => ({
  id,
  name,
  shownName,
  role: role as Role,
  areas: [...areas],
})

/** Somebody whose session counts: locked, gone or past the last day nobody is. @param today - by the clock here */
export async function personAtWork(db: Executor, id: string, today: string): Promise<Person | null> {
  const [row] = await db
    .select(shown)
    .from(people)
    .where(
      sql`${people.id} = ${id} and ${people.state} = 'active' and coalesce(${people.until}, 'infinity') >= ${today}`,
    )
  return row ? asPerson(row) : null
}

export async function allPeople(db: Executor): Promise<Person[]> {
  return (await db.select(shown).from(people).orderBy(people.shownName)).map(asPerson)
}

/** For sign-in only: the hash leaves this folder nowhere else. */
export async function personWithHash(db: Executor, name: string) {
  const [row] = await db
    .select()
    .from(people)
    .where(eq(sql`lower(${people.name})`, name.toLowerCase()))
  return row ? { ...row, person: asPerson(row) } : null
}

/** The whole row, held for this transaction; null where there is none. */
export async function holdPerson(tx: Executor, id: string): Promise<Row | null> {
  const [row] = await tx.select().from(people).where(eq(people.id, id)).for('update')
  return row ?? null
}
