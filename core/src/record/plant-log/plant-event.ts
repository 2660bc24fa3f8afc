import { canonicalJson } from '../canonical-json.ts'
import type { Digest } from '../hash-chain.ts'

/** A row of the plant's own tables as a change left it. */
export interface KeptRow {
  readonly table: string
  readonly key: string
  readonly is: unknown
}

/** A change outside the loops: people, keys, instruments, settings, sign-ins, imports, exports, devices, backups. */
export interface PlantEvent {
  readonly id: string
  readonly type: string
  /** By the server's clock. */
  readonly at: string
  /** Who did it; null where nobody was signed in, or the program itself did it. */
  readonly by: string | null
  /** Whom or what it is about, by identifier; null where it is about the plant. */
  readonly subject: string | null
  readonly reason: string
  readonly payload: unknown
  readonly row: KeptRow | null
  readonly hash: string
}

/** Hash of a change over everything in it: a leaf of the plant's tree. */
export function plantEventHash(e: Omit<PlantEvent, 'hash'>, digest: Digest): string {
  const { id, type, at, by, subject, reason, payload, row } = e
  return digest(canonicalJson({ v: 1, id, type, at, by, subject, reason, payload, row }))
}
