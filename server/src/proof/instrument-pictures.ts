import type { PlantEvent } from '@calm/core/record/plant-log/plant-event'
import { instrumentPictured } from '@calm/core/record/plant-log/kinds/instruments'
import type { Executor } from '../db/connection.ts'
import { wholePictures } from '../notes/pictures.ts'
import type { Mismatch } from './mismatch.ts'

/** Every photograph of an instrument that the log tells of is here, and is that photograph. */
export async function provedInstrumentPictures(
  db: Executor,
  log: readonly Pick<PlantEvent, 'type' | 'payload'>[],
): Promise<Mismatch[]> {
  const told = log.flatMap((e) =>
    e.type === instrumentPictured.type ? (instrumentPictured.payload.safeParse(e.payload).data ?? []) : [],
  )
  const whole = await wholePictures(
    db,
    told.flatMap((t) => t.pictures),
  )
  return told.flatMap((t) =>
    t.pictures
      .filter((p) => !whole.has(p.sha256))
      .map((p) => ({
        where: `${t.name}, serial ${t.serial}`,
        field: 'picture',
        says: `The picture ${p.sha256.slice(0, 16)} is gone, or was changed.`,
      })),
  )
}
