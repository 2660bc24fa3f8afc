import { OwnParts, type OwnPart } from '@calm/core/part/own-part'
import { ownPartsChanged } from '@calm/core/record/plant-log/kinds/plant'
import { eq } from 'drizzle-orm'
import type { Connection, Executor } from '../db/connection.ts'
import { tellWindows } from '../http/live.ts'
import { conflict } from '../http/problems.ts'
import { note } from '../plant-log/note.ts'
import { settings } from '../db/schema.ts'

const KEY = 'own parts'

/** The plant's own parts, by name. */
export async function ownPartsOf(db: Executor): Promise<OwnPart[]> {
  const [row] = await db.select().from(settings).where(eq(settings.key, KEY))
  return OwnParts.parse(row?.value ?? [])
}

/** Changes the list as one: two people who add at once both have theirs in it. */
export async function changeOwnParts(
  db: Connection['db'],
  to: (now: readonly OwnPart[]) => readonly OwnPart[],
  by: string,
  at: Date,
): Promise<OwnPart[]> {
  return db.transaction(async (tx) => {
    await tx.insert(settings).values({ key: KEY, value: [] }).onConflictDoNothing()
    const [row] = await tx.select().from(settings).where(eq(settings.key, KEY)).for('update')
    const next = OwnParts.safeParse(
      [...to(OwnParts.parse(row?.value ?? []))].sort((a, b) => (a.title < b.title ? -1 : 1)),
    )
    if (!next.success) throw conflict(next.error.issues[0]?.message ?? 'These parts do not go together.')
    await tx.update(settings).set({ value: next.data }).where(eq(settings.key, KEY))
    const parts = next.data.map((p) => p.title)
    const kept = { table: 'settings', key: KEY } as const
    await note(tx, { kind: ownPartsChanged, payload: { parts }, by, row: kept }, at)
    await tellWindows(tx, { what: 'own parts' })
    return next.data
  })
}
