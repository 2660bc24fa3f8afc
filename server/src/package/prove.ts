import { LoopPackage, PackageManifest } from '@calm/contract/loop-package'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { proveChain } from '@calm/core/record/hash-chain'
import { createHash } from 'node:crypto'
import { strFromU8, unzipSync } from 'fflate'
import type { z } from 'zod'
import { sha256 } from '../record/append.ts'

/** Larger than any loop with decades of history, smaller than what would choke the server. */
const LARGEST_BYTES = 200e6

export type ProvedPackage =
  | { readonly kind: 'whole'; readonly contents: LoopPackage; readonly manifest: PackageManifest }
  | { readonly kind: 'refused'; readonly path: string; readonly says: string }

const refuse = (path: string, says: string): ProvedPackage => ({ kind: 'refused', path, says })
export const sha256Bytes = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex')

function open(bytes: Uint8Array): Record<string, Uint8Array> | string {
  let total = 0
  try {
    return unzipSync(bytes, {
      filter: (file) => {
        total += file.originalSize
        if (total > LARGEST_BYTES) throw new RangeError('too large')
        return true
      },
    })
  } catch (error) {
    return error instanceof RangeError
      ? 'This package is too large to be a loop.'
      : 'This file is no ZIP archive, or it was cut off. Fetch it again.'
  }
}
function readJson<S extends z.ZodType>(schema: S, bytes: Uint8Array | undefined, name: string) {
  if (!bytes) return { says: `The package holds no ${name}.` }
  try {
    const parsed = schema.safeParse(JSON.parse(strFromU8(bytes)))
    if (parsed.success) return { data: parsed.data }
    const [issue] = parsed.error.issues
    return { says: `${name}, ${issue?.path.join('.') ?? ''}: ${issue?.message ?? 'wrong'}` }
  } catch {
    return { says: `${name} is not JSON.` }
  }
}

/**
 * Proves a package with nothing but itself: every file is the one the manifest names, every event follows
 * from the one before it, and every revision is the document whose hash the record holds.
 */
export function provePackage(bytes: Uint8Array): ProvedPackage {
  const files = open(bytes)
  if (typeof files === 'string') return refuse('', files)
  const manifest = readJson(PackageManifest, files['manifest.json'], 'manifest.json')
  if (!manifest.data) return refuse('manifest.json', manifest.says)
  const loop = readJson(LoopPackage, files['loop.json'], 'loop.json')
  if (!loop.data) return refuse('loop.json', loop.says)
  const contents = loop.data
  const proof = proveChain(contents.events, sha256)
  if (proof.kind === 'broken') return refuse(`loop.json.events.${proof.seq - 1}`, proof.says)
  for (const [i, e] of contents.events.entries()) {
    if (e.loopId !== contents.loop.id)
      return refuse(`loop.json.events.${i}`, `Event ${e.seq} belongs to another loop.`)
    if (e.type !== 'revision.saved') continue
    const told = e.payload as { number: number; documentHash: string }
    const revision = contents.revisions.find((r) => r.number === told.number)
    if (!revision || sha256(canonicalJson(revision.document)) !== told.documentHash)
      return refuse(
        `loop.json.revisions.${told.number - 1}`,
        `Revision ${told.number} is not the document that event ${e.seq} recorded.`,
      )
  }
  const people = new Set(contents.people.map((p) => p.id))
  const stranger = contents.events.find((e) => !people.has(e.by))
  if (stranger)
    return refuse('loop.json.people', `Nobody in the package is the one who did event ${stranger.seq}.`)
  // Last: a changed event is told as that event, not as a changed file.
  for (const [name, hash] of Object.entries(manifest.data.files)) {
    const file = files[name]
    if (!file) return refuse(name, `The package holds no ${name}.`)
    if (sha256Bytes(file) !== hash) return refuse(name, `${name} was changed after the package was made.`)
  }
  return { kind: 'whole', contents, manifest: manifest.data }
}
