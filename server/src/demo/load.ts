import { randomUUID } from 'node:crypto'
import { existsSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import type { Person } from '@calm/contract/people'
import { withField } from '@calm/core/loop/field-path'
import { LoopDocument } from '@calm/core/loop/document'
import type { Database } from '../db/connection.ts'
import { addEquipment } from '../equipment/store.ts'
import { allHeld, importList, mendRow } from '../loop-list/store.ts'
import { documentsByTag, saveRevision } from '../loops/store.ts'
import { addPerson, allPeople } from '../people/store.ts'
import { acceptEvents } from '../runs/store.ts'
import { hashPassword } from '../session/routes.ts'
import { DemoDetails, DemoEquipment, DemoHistory, DemoPeople } from './demo-files.ts'
import { pastRun } from './past-run.ts'

function demoFolder(): string {
  let at = dirname(fileURLToPath(import.meta.url))
  while (!existsSync(join(at, 'demo', 'loop-list.csv'))) {
    const up = dirname(at)
    if (up === at) throw new Error('demo folder not found')
    at = up
  }
  return join(at, 'demo')
}

const text = (file: string) => readFileSync(join(demoFolder(), file), 'utf8')
const json = (file: string): unknown => JSON.parse(text(file))

/** The plant was entered before its first verification, and walked through before today. */
const PLANT_ENTERED = new Date('2022-09-01T06:30:00.000Z')
const SITE_CHECKED = new Date('2026-11-02T09:10:00.000Z')

/** Every demo file, checked. */
export const demoFiles = () => ({
  people: DemoPeople.parse(json('people.json')),
  equipment: DemoEquipment.parse(json('equipment.json')),
  details: DemoDetails.parse(json('loop-details.json')),
  history: DemoHistory.parse(json('history.json')),
  list: text('loop-list.csv'),
})

/** Loads the demo plant into an empty database; a database with people in it is left as it is. */
export async function loadDemoPlant(db: Database): Promise<boolean> {
  if ((await allPeople(db)).length > 0) return false
  const files = demoFiles()
  const people = new Map<string, Person>()
  for (const { name, shownName, role } of files.people)
    people.set(name, { id: randomUUID(), name, shownName, role })
  const nameOf = (name: string): Person => {
    const p = people.get(name)
    if (!p) throw new Error(`the demo plant has no person ${name}`)
    return p
  }
  const equipmentIds = new Map<string, string>()
  await db.transaction(async (tx) => {
    for (const e of files.equipment) {
      const id = randomUUID()
      equipmentIds.set(e.serial, id)
      await addEquipment(tx, { id, ...e })
    }
    for (const { password, name } of files.people)
      await addPerson(tx, nameOf(name), await hashPassword(password))
  })
  const first = nameOf('heron')
  await importList(db, { id: randomUUID(), text: files.list, update: [] }, first, PLANT_ENTERED)
  for (const held of await allHeld(db)) {
    const mend = files.details.mended.find((m) => m.tag === held.cells.tag)
    if (mend) await mendRow(db, held.id, { ...held.cells, ...mend.cells }, first)
  }
  for (const past of files.history) {
    const loop = (await documentsByTag(db)).get(past.tag)
    if (!loop) throw new Error(`the demo plant has no loop ${past.tag}`)
    const equipment = past.equipment.map((serial) => equipmentIds.get(serial) ?? '')
    await storePast(db, loop.id, pastRun(loop.document, past, equipment), nameOf)
  }
  const byTag = await documentsByTag(db)
  for (const { tag, path, value } of files.details.fields) {
    const loop = byTag.get(tag)
    if (!loop) throw new Error(`the demo plant has no loop ${tag}`)
    const document = LoopDocument.parse(withField(loop.document, path, value))
    await saveRevision(db, loop.id, loop.revision, document, first, 'checked on site', SITE_CHECKED)
  }
  return true
}

/** Stores events in runs of one author at a time, in their order. */
async function storePast(
  db: Database,
  loopId: string,
  past: ReturnType<typeof pastRun>,
  nameOf: (name: string) => Person,
): Promise<void> {
  for (let i = 0; i < past.length;) {
    const by = past[i]?.by ?? ''
    let end = i
    while (past[end]?.by === by) end++
    await acceptEvents(
      db,
      loopId,
      past.slice(i, end).map((p) => p.event),
      nameOf(by),
    )
    i = end
  }
}
