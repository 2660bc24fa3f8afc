import { randomUUID } from 'node:crypto'
import { existsSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import type { Person } from '@calm/contract/people'
import { demoLoaded } from '@calm/core/record/plant-log/kinds/plant'
import { withField } from '@calm/core/loop/field-path'
import { familyOf } from '@calm/core/family/index'
import { LoopDocument } from '@calm/core/loop/document'
import { sensorName, sensorValues } from '@calm/core/sensor/sensor'
import { and, eq, exists, sql } from 'drizzle-orm'
import type { Database } from '../db/connection.ts'
import { keepComparison } from '../comparisons/store.ts'
import { addEquipment, changeEquipment } from '../equipment/store.ts'
import { allHeld, importList, mendRow } from '../loop-list/store.ts'
import { saveRevision } from '../loops/store.ts'
import { sensorRevisions } from '../sensors/schema.ts'
import { saveSensor } from '../sensors/store.ts'
import { documentsByTag } from '../record/documents.ts'
import { makeKey } from '../people/make-key.ts'
import { hashPassword } from '../people/passwords.ts'
import { allPeople } from '../people/store.ts'
import { beginPlantLog, note } from '../plant-log/note.ts'
import { addDemoPerson } from '../register/store.ts'
import { standInLink } from '../devices/store.ts'
import { loops } from '../record/schema.ts'
import { acceptEvents } from '../runs/accept.ts'
import {
  DemoAtWork,
  DemoComparisons,
  DemoDetails,
  DemoEquipment,
  DemoHistory,
  DemoPeople,
  DemoSensors,
  DemoSetUp,
  DemoSurvey,
  DemoWiring,
} from './demo-files.ts'
import { keepSamples } from '../logs/store.ts'
import { storeSite } from '../surveys/keep-site.ts'
import { addJob, agreeJob, keyOfHand } from '../today/jobs-kept.ts'
import { changePlantAtWork } from '../today/plant.ts'
import { demoLogs } from './demo-logs.ts'
import { demoWiring } from './demo-wiring.ts'
import { hangOnLink } from '../devices/workshop.ts'
import { fingerprintOf } from '../plant-log/plant-key.ts'
import { pastRun } from './past-run.ts'
import { signPast, type Signer } from './sign-past.ts'

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
const FIRST_CERTIFIED = '2022-01-10'
const WIRING_DRAWN = new Date('2026-10-28T13:40:00.000Z')
const SITE_CHECKED = new Date('2026-11-02T09:10:00.000Z')

/** The certificate before the one of now had another number. */
const firstNumber = (number: string) => number.replace(/-\d\d-/, '-22-')

/** Every demo file, checked. */
export const demoFiles = () => ({
  people: DemoPeople.parse(json('people.json')),
  equipment: DemoEquipment.parse(json('equipment.json')),
  details: DemoDetails.parse(json('loop-details.json')),
  history: DemoHistory.parse(json('history.json')),
  wiring: DemoWiring.parse(json('wiring.json')),
  setUp: DemoSetUp.parse(json('set-up.json')),
  sensors: DemoSensors.parse(json('sensors.json')),
  comparisons: DemoComparisons.parse(json('comparisons.json')),
  atWork: DemoAtWork.parse(json('plant-at-work.json')),
  survey: DemoSurvey.parse(json('survey.json')),
  list: text('loop-list.csv'),
})

/** A demo plant that was loaded before its sensors had stand-ins gets them; anybody else's sensor is a real one. */
async function hangOlderSensors(db: Database): Promise<void> {
  const older = await db
    .select({ id: sensorRevisions.sensorId })
    .from(sensorRevisions)
    .where(
      and(
        eq(sensorRevisions.revision, 1),
        eq(sensorRevisions.at, WIRING_DRAWN),
        sql`${sensorRevisions.description} ->> 'kind' = 'ph-sensor'`,
        exists(
          db
            .select({ is: sql`1` })
            .from(loops)
            .where(eq(loops.demo, true)),
        ),
      ),
    )
  for (const { id } of older) await hangOnLink(db, id, WIRING_DRAWN)
}

/** Loads the demo plant into an empty database; a database with people in it is left as it is. */
export async function loadDemoPlant(db: Database): Promise<boolean> {
  if ((await allPeople(db)).length > 0) {
    await hangOlderSensors(db)
    return false
  }
  const files = demoFiles()
  const now = new Date()
  await beginPlantLog(db, now)
  const people = new Map<string, Person>()
  for (const { name, shownName, role } of files.people)
    people.set(name, { id: randomUUID(), name, shownName, role, areas: [], areaRoles: {} })
  const nameOf = (name: string): Person => {
    const p = people.get(name)
    if (!p) throw new Error(`the demo plant has no person ${name}`)
    return p
  }
  const equipmentIds = new Map<string, string>()
  const signers = new Map<string, Signer>()
  await db.transaction(async (tx) => {
    for (const e of files.equipment) {
      const id = randomUUID()
      equipmentIds.set(e.serial, id)
      // As they were certified then, and anew since: each speaks for the work of its own time.
      const first = {
        certificate: firstNumber(e.certificate),
        certifiedOn: FIRST_CERTIFIED,
        dueOn: e.certifiedOn,
      }
      await addEquipment(tx, { id, ...e, ...first }, null, now)
      await changeEquipment(tx, id, { ...e, reason: 'certified anew' }, null, now)
    }
    for (const { password, name } of files.people) {
      const person = nameOf(name)
      const { wrapped, privateKey } = makeKey(password, person.id)
      signers.set(name, { fingerprint: fingerprintOf(wrapped.publicKey), privateKey })
      await addDemoPerson(tx, person, await hashPassword(password), wrapped, PLANT_ENTERED)
    }
  })
  const first = nameOf('heron')
  await importList(db, { id: randomUUID(), text: files.list, update: [] }, first, PLANT_ENTERED)
  for (const held of await allHeld(db)) {
    const mend = files.details.mended.find((m) => m.tag === held.cells.tag)
    if (mend) await mendRow(db, held.id, { ...held.cells, ...mend.cells }, first, PLANT_ENTERED)
  }
  // Stand-ins are theirs alone: a loop that somebody adds later is a real one.
  await db.update(loops).set({ demo: true })
  const all = await db.select({ id: loops.id }).from(loops).orderBy(loops.position)
  await note(db, { kind: demoLoaded, payload: { loops: all.map((l) => l.id) }, by: null }, now)
  const loopOf = async (tag: string) => {
    const loop = (await documentsByTag(db)).get(tag)
    if (!loop) throw new Error(`the demo plant has no loop ${tag}`)
    return loop
  }
  const acts: { at: string; act: () => Promise<unknown> }[] = [
    ...files.comparisons.map(({ tag, by, runs, ...c }) => ({
      at: c.at,
      act: async () => {
        const pairs = runs.map(([reference, indicated]) => ({ reference, indicated, path: null }))
        const told = { ...c, id: randomUUID(), revision: 1, runs: pairs }
        return keepComparison(db, (await loopOf(tag)).id, told, nameOf(by), new Date(c.at))
      },
    })),
    ...files.history.map((past) => ({
      at: past.at,
      act: async () => {
        const loop = await loopOf(past.tag)
        const equipment = past.equipment.map((serial) => equipmentIds.get(serial) ?? '')
        return storePast(db, loop.id, pastRun(loop.document, past, equipment), nameOf, signers)
      },
    })),
  ]
  // A record grows with time.
  for (const { act } of acts.sort((a, b) => Date.parse(a.at) - Date.parse(b.at))) await act()
  const sensors = new Map(
    files.sensors.map((description) => [sensorName(description), { id: randomUUID(), description }] as const),
  )
  for (const { id, description } of sensors.values()) {
    await saveSensor(db, id, { base: 0, description, reason: 'first entry' }, first, WIRING_DRAWN)
    if (description.kind === 'ph-sensor') await hangOnLink(db, id, WIRING_DRAWN)
  }
  /** What somebody told the device, over what stands on the plate of its sensor. */
  const setUpOf = (told: (typeof files.setUp)[number]) => {
    if (told.sensor === undefined) return { values: told.values }
    const sensor = sensors.get(told.sensor)
    const use = familyOf(told.family)?.sensor
    if (!sensor || !use) throw new Error(`the demo plant has no sensor ${told.sensor} for ${told.tag}`)
    return {
      values: { ...use.entries(sensorValues(sensor.description)), ...told.values },
      sensor: sensor.id,
    }
  }
  const drawn = await documentsByTag(db)
  for (const w of files.wiring) {
    const loop = drawn.get(w.tag)
    const wiring = demoWiring(w)
    if (!loop) throw new Error(`the demo plant has no loop ${w.tag}`)
    const told = files.setUp.find((s) => s.tag === w.tag)
    if (wiring === null && !told) continue
    const document = LoopDocument.parse({
      ...loop.document,
      wiring,
      ...(told && {
        family: told.family,
        setUp: setUpOf(told),
        unconfirmed: loop.document.unconfirmed.filter((f) => !f.startsWith('setUp.')),
      }),
    })
    await saveRevision(
      db,
      loop.id,
      loop.revision,
      document,
      first,
      'wiring and set-up entered on site',
      WIRING_DRAWN,
    )
  }
  const byTag = await documentsByTag(db)
  for (const tag of new Set(files.details.fields.map((f) => f.tag))) {
    const loop = byTag.get(tag)
    if (!loop) throw new Error(`the demo plant has no loop ${tag}`)
    const told = files.details.fields.filter((f) => f.tag === tag)
    const document = LoopDocument.parse(
      told.reduce((doc, { path, value }) => withField(doc, path, value), loop.document),
    )
    await saveRevision(db, loop.id, loop.revision, document, first, 'checked on site', SITE_CHECKED)
  }
  for (const { tag, by, at, log, t, v } of demoLogs())
    await keepSamples(
      db,
      (await loopOf(tag)).id,
      { id: randomUUID(), ...log },
      { t, v },
      nameOf(by),
      new Date(at),
    )
  const { sites, by, ...head } = files.survey
  const survey = { id: randomUUID(), ...head }
  for (const { tag, at, found } of sites)
    await storeSite(
      db,
      (await loopOf(tag)).id,
      { id: randomUUID(), at, survey, site: randomUUID(), after: 0, found, pictures: [], stay: [] },
      null,
      nameOf(by),
      new Date(at),
    )
  await loadDays(db, files.atWork, nameOf, now)
  return true
}

/** Places, ways and stock of the plant, and what people entered on the day before. */
async function loadDays(
  db: Database,
  { plant, jobs }: ReturnType<typeof demoFiles>['atWork'],
  nameOf: (name: string) => Person,
  now: Date,
): Promise<void> {
  await changePlantAtWork(db, plant, '', null, now)
  const due = now.toISOString().slice(0, 10)
  for (const { by, order, agreed, ...job } of jobs) {
    const id = randomUUID()
    await addJob(db, id, { ...job, due }, nameOf(by), now)
    const told = { key: keyOfHand(id), title: job.title }
    await agreeJob(db, randomUUID(), told, { order, agreed }, nameOf(by), now)
  }
}

/** Stores events in runs of one author at a time, in their order. */
async function storePast(
  db: Database,
  loopId: string,
  past: ReturnType<typeof pastRun>,
  nameOf: (name: string) => Person,
  signers: ReadonlyMap<string, Signer>,
): Promise<void> {
  for (let i = 0; i < past.length;) {
    const by = past[i]?.by ?? ''
    let end = i
    while (past[end]?.by === by) end++
    const events = await signPast(db, loopId, past.slice(i, end), nameOf, signers)
    // Recorded when the last of them had happened.
    await acceptEvents(db, loopId, events, nameOf(by), standInLink(db), new Date(events.at(-1)?.at ?? 0))
    i = end
  }
}
