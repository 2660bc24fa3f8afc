import { authorOf, isForeign, nameOfAuthor, type Taken } from '@calm/core/signing/authors'
import { packageTaken } from '@calm/core/record/kinds/package-taken'
import { eq, sql } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { prepared } from '../db/prepared.ts'
import { people } from '../people/schema.ts'
import { loops } from './schema.ts'

/** What a record's own events say of the packages that it came with, also those of plants before. */
export const takenIn = (
  all: readonly { readonly type: string; readonly by: string; readonly payload?: unknown }[],
): Taken[] =>
  all.flatMap((e) => {
    if (e.type !== packageTaken.type) return []
    const { events: n, people } = packageTaken.payload.parse(e.payload)
    return [{ events: n, by: e.by, names: Object.fromEntries(people.map((p) => [p.id, p.shownName])) }]
  })

/** Which packages brought a loop's record here, as its row keeps it. */
export async function takenOf(db: Executor, loopId: string): Promise<readonly Taken[]> {
  const [row] = await db.select({ taken: loops.taken }).from(loops).where(eq(loops.id, loopId))
  return row?.taken ?? []
}

/** Names for the authors of a loop's events; foreign ones are shown as such. */
export interface Authors {
  readonly author: (seq: number, by: string) => string
  readonly foreign: (seq: number, by: string) => boolean
  /** Name of an author as a fold keeps it. */
  readonly name: (author: string) => string
}
const takenAndNames = prepared('taken_and_names', (db) =>
  db
    .select({
      taken: loops.taken,
      names: sql<
        Record<string, string>
      >`(select json_object_agg(${people.id}, ${people.shownName}) from ${people})`,
    })
    .from(loops)
    .where(eq(loops.id, sql.placeholder('loopId'))),
)
export async function authorsOf(db: Executor, loopId: string): Promise<Authors> {
  const [row] = await takenAndNames(db, { loopId })
  const taken = row?.taken ?? []
  const here = new Map(Object.entries(row?.names ?? {}))
  return {
    author: (seq, by) => authorOf(seq, by, taken),
    foreign: (seq, by) => isForeign(seq, by, taken),
    name: (author) => nameOfAuthor(author, here, taken),
  }
}
