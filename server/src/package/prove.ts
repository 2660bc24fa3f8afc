import { LoopPackage, PackageManifest } from '@calm/contract/loop-package'
import { proveRecord, type ChainedEvent } from '@calm/core/record/hash-chain'
import type { z } from 'zod'
import { sha256, sha256Bytes } from '../record/digest.ts'
import { judgePackage } from './judge.ts'
import { jsonOf, openArchive } from './open.ts'

export type ProvedPackage =
  | {
      readonly kind: 'whole'
      readonly contents: LoopPackage
      readonly manifest: PackageManifest
      /** SHA-256 of the file itself. */
      readonly file: string
    }
  | { readonly kind: 'refused'; readonly path: string; readonly says: string }

const refuse = (path: string, says: string): ProvedPackage => ({ kind: 'refused', path, says })

function read<S extends z.ZodType>(
  schema: S,
  bytes: Uint8Array | undefined,
  name: string,
): { data: z.output<S> } | { path: string; says: string } {
  const json = jsonOf(bytes, name)
  if ('says' in json) return { path: name, says: json.says }
  const parsed = schema.safeParse(json.data)
  if (parsed.success) return { data: parsed.data }
  const [issue] = parsed.error.issues
  return {
    path: [name, ...(issue?.path ?? [])].join('.'),
    says: `${name}, ${issue?.path.join('.') ?? ''}: ${issue?.message ?? 'wrong'}`,
  }
}

/** The events of a package as the chain sees them; before version 2 nobody told when they were recorded. */
export const chainOf = ({ events }: LoopPackage): ChainedEvent[] =>
  events.map(({ recordedAt, payload = null, ...e }) => ({ ...e, payload, recordedAt: recordedAt ?? e.at }))

/**
 * Proves a package with nothing but itself: every file is the one the manifest names, every event follows
 * from the one before it, every revision is the document whose hash the record holds, and everything in it is of a
 * kind that a record may hold.
 * @param now - by the clock here
 */
export function provePackage(bytes: Uint8Array, now: string): ProvedPackage {
  const files = openArchive(bytes)
  if (typeof files === 'string') return refuse('', files)
  const manifest = read(PackageManifest, files.get('manifest.json'), 'manifest.json')
  if (!('data' in manifest)) return refuse(manifest.path, manifest.says)
  const loop = read(LoopPackage, files.get('loop.json'), 'loop.json')
  if (!('data' in loop)) return refuse(loop.path, loop.says)
  const contents = loop.data
  if (manifest.data.tag !== contents.loop.tag)
    return refuse(
      'manifest.json.tag',
      `The manifest says ${manifest.data.tag}, loop.json ${contents.loop.tag}.`,
    )
  const misfit = judgePackage(contents, now)
  const chain = proveChained(contents, misfit !== null)
  // A changed event is told as that event, not as what the change made of it.
  if (chain) return refuse(chain.path, chain.says)
  if (misfit) return refuse(`loop.json.${misfit.path}`, misfit.says)
  const told = new Set(Object.keys(manifest.data.files))
  for (const [name, hash] of Object.entries(manifest.data.files)) {
    const file = files.get(name)
    if (!file) return refuse(name, `The package holds no ${name}.`)
    if (sha256Bytes(file) !== hash) return refuse(name, `${name} was changed after the package was made.`)
  }
  for (const name of files.keys())
    if (name !== 'manifest.json' && !told.has(name))
      return refuse(name, `${name} is not named in the manifest.`)
  return { kind: 'whole', contents, manifest: manifest.data, file: sha256Bytes(bytes) }
}

function proveChained(contents: LoopPackage, hasMisfit: boolean): { path: string; says: string } | null {
  try {
    const proof = proveRecord(contents.loop.id, chainOf(contents), contents.revisions, sha256)
    if (proof.kind === 'whole') return null
    const at =
      proof.revision === undefined
        ? `events.${Math.max(
            0,
            contents.events.findIndex((e) => e.id === proof.eventId),
          )}`
        : `revisions.${proof.revision - 1}`
    return { path: `loop.json.${at}`, says: proof.says }
  } catch {
    // A number or half a character that has no canonical form, or contents that are told better as what they are.
    if (hasMisfit) return null
    return { path: 'loop.json', says: 'It holds a number or a text that no record can hold.' }
  }
}
