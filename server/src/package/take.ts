import { randomBytes, randomUUID } from 'node:crypto'
import type { LoopPackage, PackageTaken } from '@calm/contract/loop-package'
import { currentLoopDocument, type SavedLoopDocument } from '@calm/contract/saved/loop-document'
import { LoopDocument } from '@calm/core/loop/document'
import { summarise } from '@calm/core/loop/summary'
import { eq, inArray, sql } from 'drizzle-orm'
import type { Database, Executor } from '../db/connection.ts'
import { addEquipment } from '../equipment/store.ts'
import { conflict, HttpProblem } from '../http/problems.ts'
import { loopRevisions, loops } from '../loops/schema.ts'
import { refreshSummary, tellWindows } from '../loops/store.ts'
import { people } from '../people/schema.ts'
import { addPerson } from '../people/store.ts'
import { columnsOf } from '../runs/columns.ts'
import { anyRunOf } from '../runs/fold.ts'
import { events, runs } from '../runs/schema.ts'

/** People who are not here yet come along as viewers that nobody can sign in as. */
async function addPeople(tx: Executor, list: LoopPackage['people']): Promise<void> {
  const here = await tx
    .select({ id: people.id })
    .from(people)
    .where(
      inArray(
        people.id,
        list.map((p) => p.id),
      ),
    )
  for (const person of list.filter((p) => !here.some((h) => h.id === p.id))) {
    const [taken] = await tx
      .select({ id: people.id })
      .from(people)
      .where(eq(sql`lower(${people.name})`, person.name.toLowerCase()))
    const name = taken ? `${person.name}-${randomUUID().slice(0, 8)}` : person.name
    // No password has this hash.
    await addPerson(tx, { ...person, name, role: 'viewer' }, `none:${randomBytes(16).toString('hex')}`)
  }
}

/** A proved package becomes the loop it was made of; taken in twice, it is there once. */
export async function takePackage(db: Database, contents: LoopPackage): Promise<PackageTaken> {
  const { loop, revisions } = contents
  const head = contents.events.at(-1)
  const newest = revisions.at(-1)
  if (!head || !newest) throw new RangeError('a proved package has events and revisions')
  const told = { id: loop.id, tag: loop.tag, events: contents.events.length }
  const document = LoopDocument.safeParse(currentLoopDocument(newest.document as SavedLoopDocument))
  if (!document.success)
    throw new HttpProblem(422, 'wrong-values', 'The package cannot be used.', [
      {
        path: `loop.json.revisions.${revisions.length - 1}.document`,
        says: document.error.issues[0]?.message ?? '',
      },
    ])
  const stored = await db.transaction(async (tx) => {
    // Two sends of one package follow each other; the second finds the loop of the first.
    await tx.execute(sql`select pg_advisory_xact_lock(hashtext(${loop.id}))`)
    const [here] = await tx.select().from(loops).where(eq(loops.id, loop.id)).for('update')
    if (here) {
      if (here.lastHash === head.hash) return false
      throw conflict(
        `${here.tag} is here already with ${here.lastSeq} events and the package has ${told.events}: its own record stays as it is.`,
      )
    }
    const [taken] = await tx
      .select({ tag: loops.tag })
      .from(loops)
      .where(eq(sql`upper(${loops.tag})`, loop.tag.toUpperCase()))
    if (taken)
      throw conflict(`The tag ${taken.tag} is in use by another loop here. Give that one another tag first.`)
    await addPeople(tx, contents.people)
    for (const e of contents.equipment) await addEquipment(tx, e)
    const d = document.data
    const { lastCalibrated, ...summary } = summarise(d, null, [])
    await tx.insert(loops).values({
      id: loop.id,
      tag: d.tag,
      service: d.service,
      area: d.area,
      type: d.type,
      intervalMonths: d.interval_months,
      revision: newest.number,
      summary,
      lastCalibrated,
      lastSeq: head.seq,
      lastHash: head.hash,
    })
    await tx.insert(loopRevisions).values(
      revisions.map((r) => ({
        ...r,
        loopId: loop.id,
        document: r.document as SavedLoopDocument,
        at: new Date(r.at),
      })),
    )
    if (contents.runs.length > 0)
      await tx
        .insert(runs)
        .values(
          contents.runs.map((r) => ({ ...r, loopId: loop.id, state: '', startedAt: new Date(r.startedAt) })),
        )
    await tx.insert(events).values(contents.events.map((e) => ({ ...e, at: new Date(e.at) })))
    // Where each run stands is told by its events, not by who sent the package.
    for (const { id } of contents.runs) {
      const any = await anyRunOf(tx, id)
      if (any)
        await tx
          .update(runs)
          .set(await columnsOf(tx, loop.id, any))
          .where(eq(runs.id, id))
    }
    await refreshSummary(tx, loop.id)
    await tellWindows(tx, { loopId: loop.id, tag: loop.tag, what: 'list' })
    return true
  })
  return { ...told, stored }
}
