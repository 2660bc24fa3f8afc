import { statfs } from 'node:fs/promises'
import { HttpProblem } from '../http/problems.ts'

/** A database without room for its own log stops altogether: so much is left to the record. */
export const LOW_DISK_MB = 500
const KEEP_MS = 1_000

/** Free space of the disk that a folder is on, MB; null where it cannot be read. */
export async function freeOf(folder: string): Promise<number | null> {
  try {
    const s = await statfs(folder)
    return Math.floor((s.bavail * s.bsize) / 1e6)
  } catch {
    return null
  }
}

/**
 * Refuses what comes in by the gigabyte before it fills the disk: what people read and sign has room then.
 * @param free - MB, or null where nothing is known of it
 * @throws HttpProblem 507, from what it gives
 */
export function roomFor(free: () => Promise<number | null>): () => Promise<void> {
  let newest: { readonly at: number; readonly MB: Promise<number | null> } | null = null
  return async () => {
    const now = performance.now()
    if (!newest || now - newest.at > KEEP_MS) newest = { at: now, MB: free() }
    const MB = await newest.MB
    if (MB !== null && MB < LOW_DISK_MB)
      throw new HttpProblem(
        'no-room',
        `The disk of the server has ${MB} MB left, and the record needs them: nothing of this was stored. Make room there, then go on.`,
      )
  }
}
