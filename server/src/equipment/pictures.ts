import type { InstrumentPictures } from '@calm/contract/equipment'
import { canonicalJson } from '@calm/core/record/canonical-json'
import type { NotePicture } from '@calm/core/record/kinds/note-kept'
import { instrumentPictured } from '@calm/core/record/plant-log/kinds/instruments'
import { and, asc, eq } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { tellWindows } from '../http/live.ts'
import { notFound } from '../http/problems.ts'
import { keepPicture, pictureBytes, pictureOf } from '../notes/pictures.ts'
import { note } from '../plant-log/note.ts'
import { plantEvents } from '../plant-log/schema.ts'
import { held } from './store.ts'

const kept = async (db: Executor, instrument: string) =>
  (
    await db
      .select({ payload: plantEvents.payload, at: plantEvents.at, by: plantEvents.by })
      .from(plantEvents)
      .where(and(eq(plantEvents.subject, instrument), eq(plantEvents.type, instrumentPictured.type)))
      .orderBy(asc(plantEvents.position))
  ).map((e) => ({ ...e, told: instrumentPictured.payload.parse(e.payload) }))

/** Photographs of an instrument as the log of the plant tells them, the newest first. */
export async function picturesOf(
  db: Executor,
  instrument: string,
  nameOf: (by: string | null) => string,
): Promise<InstrumentPictures[]> {
  return (await kept(db, instrument))
    .map(({ told, at, by }) => ({
      shows: told.shows,
      at: isoInstant(at),
      byName: nameOf(by),
      pictures: told.pictures.map((p) => p.sha256),
    }))
    .reverse()
}

/**
 * Keeps photographs of an instrument, with their hashes in the log; the same ones with the same words are kept once.
 * @throws HttpProblem 404, 409 for one that came with a package, 422 for what is no picture
 */
export async function keepPictures(
  tx: Executor,
  instrument: string,
  { shows, pictures }: { readonly shows: string; readonly pictures: readonly string[] },
  by: string,
  now: Date,
): Promise<void> {
  const { name, serial } = await held(tx, instrument)
  const read = pictures.map((address, i) => pictureOf(address, `pictures.${i}`))
  const payload = { name, serial, shows, pictures: read.map((p) => p.told) }
  const same = (told: { shows: string; pictures: readonly NotePicture[] }) =>
    canonicalJson([told.shows, told.pictures]) === canonicalJson([shows, payload.pictures])
  if ((await kept(tx, instrument)).some((k) => same(k.told))) return
  for (const p of read) await keepPicture(tx, p.told.sha256, p.data)
  await note(tx, { kind: instrumentPictured, payload, by, subject: instrument }, now)
  await tellWindows(tx, { what: 'equipment' })
}

/** One of them; only what the log tells of this instrument. @throws HttpProblem 404 */
export async function pictureHere(
  db: Executor,
  instrument: string,
  sha256: string,
): Promise<{ type: NotePicture['type']; data: Buffer }> {
  const told = (await kept(db, instrument)).flatMap((k) => k.told.pictures).find((p) => p.sha256 === sha256)
  const data = told ? await pictureBytes(db, sha256) : null
  if (!told || !data) throw notFound('picture')
  return { type: told.type, data }
}
