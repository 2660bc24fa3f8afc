import type { NotePicture } from '@calm/core/record/kinds/note-kept'
import { picturesOfEvent } from '@calm/core/record/kinds/pictures'
import { asc, eq } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { wrongValues } from '../http/problems.ts'
import { sha256Bytes } from '../record/digest.ts'
import { pictureParts } from './schema.ts'

/** Small enough that a backup fetches many at once. */
const PART_BYTES = 64 * 1024
const BEGINS: Readonly<Record<NotePicture['type'], readonly number[]>> = {
  'image/jpeg': [0xff, 0xd8, 0xff],
  'image/png': [0x89, 0x50, 0x4e, 0x47],
}

/**
 * A picture out of its data address.
 * @throws HttpProblem 422 where the bytes are no such picture
 */
export function pictureOf(address: string, path: string): { told: NotePicture; data: Buffer } {
  const [, type, text = ''] = /^data:(image\/(?:png|jpeg));base64,(.+)$/.exec(address) ?? []
  const kind = type === 'image/png' ? 'image/png' : 'image/jpeg'
  const data = Buffer.from(text, 'base64')
  if (!BEGINS[kind].every((b, i) => data[i] === b))
    throw wrongValues([{ path, says: 'This is no picture: its bytes are something else.' }])
  return { told: { sha256: sha256Bytes(data), type: kind, bytes: data.length }, data }
}

/** Keeps a picture; the same one again is there once. */
export async function keepPicture(tx: Executor, sha256: string, data: Uint8Array): Promise<void> {
  const parts = Array.from({ length: Math.ceil(data.length / PART_BYTES) }, (_, part) => ({
    sha256,
    part,
    data: Buffer.from(data.subarray(part * PART_BYTES, (part + 1) * PART_BYTES)),
  }))
  if (parts.length > 0) await tx.insert(pictureParts).values(parts).onConflictDoNothing()
}

/** A picture's bytes as they are here; null where there are none. */
export async function pictureBytes(db: Executor, sha256: string): Promise<Buffer | null> {
  const parts = await db
    .select({ data: pictureParts.data })
    .from(pictureParts)
    .where(eq(pictureParts.sha256, sha256))
    .orderBy(asc(pictureParts.part))
  return parts.length === 0 ? null : Buffer.concat(parts.map((p) => p.data))
}

/** Pictures that a record tells of, in the order of its events. */
export const picturesIn = (
  events: readonly { readonly type: string; readonly payload: unknown }[],
): NotePicture[] => events.flatMap(picturesOfEvent)

/** Which of some pictures are here whole: the rest is missing, or was changed. */
export async function wholePictures(db: Executor, all: readonly NotePicture[]): Promise<ReadonlySet<string>> {
  const ids = [...new Set(all.map((p) => p.sha256))]
  const whole = new Set<string>()
  for (const sha256 of ids) {
    const data = await pictureBytes(db, sha256)
    if (data && sha256Bytes(data) === sha256) whole.add(sha256)
  }
  return whole
}
