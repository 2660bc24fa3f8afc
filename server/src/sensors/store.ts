import type { Person } from '@calm/contract/people'
import type { SaveSensor, Sensor, SensorRevision } from '@calm/contract/sensors'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { sensorSaved } from '@calm/core/record/plant-log/kinds/instruments'
import { sensorKindOf } from '@calm/core/sensor/index'
import { sensorName, type SensorDescription } from '@calm/core/sensor/sensor'
import { desc, eq, inArray, sql } from 'drizzle-orm'
import type { Connection, Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { tellWindows } from '../http/live.ts'
import { conflict, notFound } from '../http/problems.ts'
import { note } from '../plant-log/note.ts'
import { people } from '../people/schema.ts'
import { loopRevisions, loops } from '../record/schema.ts'
import { sensorRevisions, sensorStandIns } from './schema.ts'

const row = {
  id: sensorRevisions.sensorId,
  revision: sensorRevisions.revision,
  description: sensorRevisions.description,
  at: sensorRevisions.at,
  by: people.shownName,
  reason: sensorRevisions.reason,
}

/** Tags of the loops whose newest set-up has a sensor, by the sensor's identifier. */
async function placesOf(db: Executor): Promise<Map<string, string[]>> {
  const sensor = sql<string>`${loopRevisions.document}->'setUp'->>'sensor'`
  const rows = await db
    .select({ tag: loops.tag, sensor })
    .from(loops)
    .innerJoin(
      loopRevisions,
      sql`${loopRevisions.loopId} = ${loops.id} and ${loopRevisions.number} = ${loops.revision}`,
    )
    .where(sql`${sensor} is not null and ${loops.archivedAt} is null`)
    .orderBy(loops.tag)
  const places = new Map<string, string[]>()
  for (const r of rows) places.set(r.sensor, [...(places.get(r.sensor) ?? []), r.tag])
  return places
}

/** Every sensor as it is now, by its name. */
export async function allSensors(db: Executor, now: Date): Promise<Sensor[]> {
  const newest = sql`(select max(n.revision) from ${sensorRevisions} n where n.sensor_id = ${sensorRevisions.sensorId})`
  const rows = await db
    .select(row)
    .from(sensorRevisions)
    .innerJoin(people, eq(people.id, sensorRevisions.by))
    .where(eq(sensorRevisions.revision, newest))
  const places = await placesOf(db)
  const standIns = await db.select({ id: sensorStandIns.sensorId }).from(sensorStandIns)
  const linked = new Set(standIns.map((s) => s.id))
  const today = now.toISOString().slice(0, 10)
  return rows
    .map((r) => ({
      ...r,
      at: isoInstant(r.at),
      name: sensorName(r.description),
      on: places.get(r.id) ?? [],
      valid: r.description.dueOn === null ? null : r.description.dueOn >= today,
      linked: linked.has(r.id),
    }))
    .sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true }))
}

/** Every description of one sensor, the newest first. */
export async function sensorHistory(db: Executor, id: string): Promise<SensorRevision[]> {
  const rows = await db
    .select(row)
    .from(sensorRevisions)
    .innerJoin(people, eq(people.id, sensorRevisions.by))
    .where(eq(sensorRevisions.sensorId, id))
    .orderBy(desc(sensorRevisions.revision))
  if (rows.length === 0) throw notFound('sensor')
  return rows.map((r) => ({ ...r, at: isoInstant(r.at) }))
}

/** Sensors by their identifiers, as they are described now. */
export async function newestDescriptions(
  db: Executor,
  ids: readonly string[],
): Promise<{ id: string; description: SensorDescription }[]> {
  if (ids.length === 0) return []
  const rows = await db
    .select({ id: sensorRevisions.sensorId, description: sensorRevisions.description })
    .from(sensorRevisions)
    .where(inArray(sensorRevisions.sensorId, [...ids]))
    .orderBy(sensorRevisions.revision)
  return [...new Map(rows.map((r) => [r.id, r])).values()]
}

/** The same in a transaction that does more. */
export async function saveSensorIn(
  tx: Executor,
  id: string,
  { base, description, reason }: SaveSensor,
  by: Pick<Person, 'id'>,
  now: Date,
): Promise<void> {
  // One at a time: what is new is compared with what is there.
  await tx.execute(sql`select pg_advisory_xact_lock(hashtext('calm sensors'))`)
  const all = await allSensors(tx, now)
  const here = all.find((s) => s.id === id)
  const same = here && canonicalJson(here.description) === canonicalJson(description)
  if (same && here.revision === base + 1) return
  if ((here?.revision ?? 0) !== base)
    throw conflict(
      here
        ? `${here.name} was described anew by ${here.by} meanwhile. Look at it, then change it again.`
        : 'There is no such sensor any more.',
    )
  const name = sensorName(description)
  const twin = all.find(
    (s) =>
      s.id !== id && s.description.kind === description.kind && s.name.toUpperCase() === name.toUpperCase(),
  )
  if (twin)
    throw conflict(
      `${sensorKindOf(description.kind)?.title ?? 'A sensor'} ${twin.name} is in the stock already.`,
    )
  await tx
    .insert(sensorRevisions)
    .values({ sensorId: id, revision: base + 1, description, at: now, by: by.id, reason })
  await note(
    tx,
    {
      kind: sensorSaved,
      payload: { name, revision: base + 1 },
      by: by.id,
      subject: id,
      reason,
      row: { table: 'sensor_revisions', key: `${id}/${base + 1}` },
    },
    now,
  )
  await tellWindows(tx, { what: 'sensors' })
}

/**
 * Adds a sensor or describes one anew, on top of the description that was changed. Sent twice it stands there once;
 * on top of an older one it is refused, and nothing is lost.
 */
export async function saveSensor(
  db: Connection['db'],
  id: string,
  sent: SaveSensor,
  by: Pick<Person, 'id'>,
  now: Date,
): Promise<Sensor> {
  await db.transaction((tx) => saveSensorIn(tx, id, sent, by, now))
  const saved = (await allSensors(db, now)).find((s) => s.id === id)
  if (!saved) throw notFound('sensor')
  return saved
}
