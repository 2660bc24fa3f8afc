import type { Person, Role } from '@calm/contract/people'
import { eq, sql } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { people } from './schema.ts'

const shown = { id: people.id, name: people.name, shownName: people.shownName, role: people.role }
const asPerson = ({ id, name, shownName, role }: Record<keyof typeof shown, string>): Person => ({
  id,
  name,
  shownName,
  role: role as Role,
})

export async function personById(db: Executor, id: string): Promise<Person | null> {
  const [row] = await db.select(shown).from(people).where(eq(people.id, id))
  return row ? asPerson(row) : null
}

export async function allPeople(db: Executor): Promise<Person[]> {
  return (await db.select(shown).from(people).orderBy(people.shownName)).map(asPerson)
}

/** For sign-in only: the hash leaves this module nowhere else. */
export async function personWithHash(db: Executor, name: string) {
  const [row] = await db
    .select({ ...shown, passwordHash: people.passwordHash })
    .from(people)
    .where(eq(sql`lower(${people.name})`, name.toLowerCase()))
  return row ? { person: asPerson(row), passwordHash: row.passwordHash } : null
}

export async function addPerson(db: Executor, person: Person, passwordHash: string): Promise<void> {
  await db
    .insert(people)
    .values({ ...person, passwordHash })
    .onConflictDoNothing()
}
