import type { LoopPackage, PackageTaken } from '@calm/contract/loop-package'
import type { Person } from '@calm/contract/people'
import { currentLoopDocument, type SavedLoopDocument } from '@calm/contract/saved/loop-document'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { LoopDocument } from '@calm/core/loop/document'
import { packageTaken } from '@calm/core/record/kinds/package-taken'
import { sensorName } from '@calm/core/sensor/sensor'
import { summarise } from '@calm/core/loop/summary'
import { shownColumns } from '../record/shown-columns.ts'
import { eq, inArray, sql } from 'drizzle-orm'
import type { Database, Executor } from '../db/connection.ts'
import { addEquipment, equipmentByIds, particulars } from '../equipment/store.ts'
import { tellWindows } from '../http/live.ts'
import { conflict, HttpProblem } from '../http/problems.ts'
import { refuseArea } from '../loops/areas.ts'
import { refreshSummary } from '../loops/store.ts'
import { keepPicture } from '../notes/pictures.ts'
import { fingerprintOf } from '../plant-log/plant-key.ts'
import { append, whichLoop } from '../record/append.ts'
import { takenIn } from '../record/authors.ts'
import { projectRun } from '../record/project.ts'
import { events, loopRevisions, loops, runs } from '../record/schema.ts'
import { newestDescriptions, saveSensorIn } from '../sensors/store.ts'
import { storeLog } from './logs.ts'
import { chainOf, type ProvedPackage } from './prove.ts'

/** Instruments come along for the papers; one that is here must be the same one. */
async function addInstruments(
  tx: Executor,
  list: LoopPackage['equipment'],
  by: string,
  now: Date,
): Promise<void> {
  const here = new Map(
    (
      await equipmentByIds(
        tx,
        list.map((e) => e.id),
      )
    ).map((e) => [e.id, e]),
  )
  for (const [i, e] of list.entries()) {
    const known = here.get(e.id)
    if (known) {
      if (canonicalJson(particulars(known)) !== canonicalJson(e))
        throw new HttpProblem('wrong-package', 'The package cannot be used.', [
          {
            path: `loop.json.equipment.${i}`,
            says: `${known.name}, serial ${known.serial}, is in the register here with other details.`,
          },
        ])
    } else await addEquipment(tx, e, by, now, true)
  }
}

/** The sensor of the loop comes along; one that is here already stays as it is described here. */
async function addSensors(
  tx: Executor,
  list: NonNullable<LoopPackage['sensors']>,
  tag: string,
  person: Person,
  now: Date,
): Promise<void> {
  const here = await newestDescriptions(
    tx,
    list.map((s) => s.id),
  )
  for (const [i, { id, description }] of list.entries()) {
    if (here.some((s) => s.id === id)) continue
    const sent = { base: 0, description, reason: `Came with the package of ${tag}` }
    await saveSensorIn(tx, id, sent, person, now).catch((error: unknown) => {
      if (!(error instanceof HttpProblem)) throw error
      throw new HttpProblem('wrong-package', 'The package cannot be used.', [
        {
          path: `loop.json.sensors.${i}`,
          says: `${sensorName(description)} is in the stock here as another sensor. Scrap or rename that one first.`,
        },
      ])
    })
  }
}

/** What the package brings must not be somewhere else here already. */
async function refuseTaken(tx: Executor, { events: all, runs: list }: LoopPackage): Promise<void> {
  const ids = all.map((e) => e.id)
  const [event] = await tx.select({ id: events.id }).from(events).where(inArray(events.id, ids)).limit(1)
  if (event) {
    const i = ids.indexOf(event.id)
    throw new HttpProblem('wrong-package', 'The package cannot be used.', [
      { path: `loop.json.events.${i}.id`, says: `Event ${i + 1} is in the record of another loop here.` },
    ])
  }
  if (list.length === 0) return
  const runIds = list.map((r) => r.id)
  const [run] = await tx.select({ id: runs.id }).from(runs).where(inArray(runs.id, runIds)).limit(1)
  if (run)
    throw new HttpProblem('wrong-package', 'The package cannot be used.', [
      { path: `loop.json.runs.${runIds.indexOf(run.id)}.id`, says: 'This run belongs to another loop here.' },
    ])
}

/**
 * A proved package becomes the loop it was made of; taken in twice, it is there once. Taking it in is itself an
 * event under the name of who did it, and what others did in it stays foreign: no person here did it.
 */
export async function takePackage(
  db: Database,
  {
    contents,
    manifest,
    file,
    pictures,
    logs,
    compared,
    notPrinted,
  }: Extract<ProvedPackage, { kind: 'whole' }>,
  person: Person,
  now: Date,
): Promise<PackageTaken> {
  const { loop, revisions } = contents
  const chain = chainOf(contents)
  const head = chain.at(-1)
  const newest = revisions.at(-1)
  if (!head || !newest) throw new RangeError('a proved package has events and revisions')
  const own = chain.filter((e) => e.by === person.id).length
  const plantKey = manifest.plant ? fingerprintOf(manifest.plant.publicKey) : null
  const told = { id: loop.id, tag: loop.tag, events: chain.length, own, plantKey, compared, notPrinted }
  const d = LoopDocument.parse(currentLoopDocument(newest.document as SavedLoopDocument))
  refuseArea(person, d.area)
  const stored = await db.transaction(async (tx) => {
    // Two sends of one package follow each other; the second finds the loop of the first.
    await tx.execute(sql`select pg_advisory_xact_lock(hashtext(${loop.id}))`)
    const [here] = await tx.select().from(loops).where(eq(loops.id, loop.id)).for('update')
    if (here) {
      if (here.lastHash === head.hash || here.taken.some((t) => t.events === head.seq)) {
        const [last] = await tx
          .select({ hash: events.hash })
          .from(events)
          .where(sql`${events.loopId} = ${loop.id} and ${events.seq} = ${head.seq}`)
        if (last?.hash === head.hash) return false
      }
      throw conflict(
        `${here.tag} is here already with ${here.lastSeq} events and the package has ${told.events}: its own record stays as it is.`,
      )
    }
    const [taken] = await tx.select({ tag: loops.tag }).from(loops).where(whichLoop(loop.tag))
    if (taken)
      throw conflict(`The tag ${taken.tag} is in use by another loop here. Give that one another tag first.`)
    await refuseTaken(tx, contents)
    for (const [sha256, data] of pictures) await keepPicture(tx, sha256, data)
    await addInstruments(tx, contents.equipment, person.id, now)
    await addSensors(tx, contents.sensors ?? [], loop.tag, person, now)
    const payload = {
      ...(plantKey !== null && { plantKey }),
      events: head.seq,
      head: head.hash,
      file,
      madeAt: manifest.madeAt,
      people: contents.people,
      ...(logs.length > 0 && { logs: logs.map((l) => l.told.log) }),
    }
    await tx.insert(loops).values({
      id: loop.id,
      tag: d.tag,
      service: d.service,
      area: d.area,
      type: d.type,
      intervalMonths: d.interval_months,
      revision: newest.number,
      ...shownColumns(summarise(d, null, [])),
      lastSeq: head.seq,
      lastHash: head.hash,
      taken: takenIn([...chain, { type: packageTaken.type, by: person.id, payload }]),
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
    await tx
      .insert(events)
      .values(chain.map((e) => ({ ...e, at: new Date(e.at), recordedAt: new Date(e.recordedAt) })))
    for (const log of logs) await storeLog(tx, loop.id, log, person.id)
    await append(
      tx,
      { loopId: loop.id, seq: head.seq, hash: head.hash },
      [{ runId: null, type: packageTaken.type, at: now, by: person.id, payload }],
      now,
    )
    // Where each run stands is told by its events, not by who sent the package.
    for (const { id } of contents.runs) await projectRun(tx, loop.id, id)
    await refreshSummary(tx, loop.id)
    await tellWindows(tx, { loopId: loop.id, tag: loop.tag, what: 'list' })
    return true
  })
  return { ...told, stored }
}
