import { randomUUID } from 'node:crypto'
import { personCame, personChanged } from '@calm/core/record/plant-log/kinds/people'
import { eq } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { tellWindows } from '../http/live.ts'
import { people } from '../people/schema.ts'
import { note } from '../plant-log/note.ts'
import type { Identity } from './provider.ts'
import { endSessionsOf } from './session.ts'

/** Why somebody whom the plant's own sign-in knows does not come in; the sign-in page has the sentences. */
export type KeptOut = 'role' | 'taken' | 'locked' | 'first'

const byProvider = (tx: Executor, subject: string) =>
  tx.select().from(people).where(eq(people.provider, subject)).for('update')

/**
 * The person that the plant's own sign-in tells of. Who was never here comes with the role that is told; who has another
 * role there has it here too, and every session under the old one ends.
 */
export async function personFrom(
  tx: Executor,
  who: Identity,
  now: Date,
): Promise<{ readonly id: string; readonly shownName: string } | KeptOut> {
  const [found] = await byProvider(tx, who.subject)
  const row = (id: string) => ({ table: 'people' as const, key: id })
  if (!found) {
    if (who.role === null) return 'role'
    const { name, shownName, role } = who
    // Whoever came first and administers nothing would leave the plant without anybody who lets others in.
    const [anybody] = await tx.select({ id: people.id }).from(people).limit(1)
    if (!anybody && role !== 'administrator') return 'first'
    const [made] = await tx
      .insert(people)
      .values({ id: randomUUID(), name, shownName, role, provider: who.subject })
      .onConflictDoNothing()
      .returning({ id: people.id, shownName: people.shownName })
    // Somebody here has that name and a password of their own: a name is no proof.
    if (!made) return 'taken'
    const payload = { name, shownName, role }
    await note(tx, { kind: personCame, payload, by: made.id, subject: made.id, row: row(made.id) }, now)
    await tellWindows(tx, { what: 'people' })
    return made
  }
  const { id, shownName, areas, until } = found
  if (found.state !== 'active' || (until !== null && until < now.toISOString().slice(0, 10))) return 'locked'
  if (who.role === null) {
    await endSessionsOf(tx, id)
    return 'role'
  }
  if (who.role !== found.role) {
    await tx.update(people).set({ role: who.role }).where(eq(people.id, id))
    const payload = { shownName, role: who.role, areas: [...areas], until }
    const reason = 'as the plant’s own sign-in tells it'
    await note(tx, { kind: personChanged, payload, by: id, subject: id, reason, row: row(id) }, now)
    await endSessionsOf(tx, id)
    await tellWindows(tx, { what: 'people' })
  }
  return { id, shownName }
}
