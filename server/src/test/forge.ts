import type { LoopPackage } from '@calm/contract/loop-package'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { CHAIN_START, eventHash } from '@calm/core/record/hash-chain'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import { sha256, sha256Bytes } from '../record/digest.ts'

type Files = Record<string, Uint8Array>

/**
 * A package as somebody makes it who knows all of its rules: contents changed, every hash made again. What is wrong
 * with it is no longer that it was changed.
 */
export function forged(
  bytes: Uint8Array,
  change: (contents: LoopPackage, files: Files) => void,
  { manifest = (m: Record<string, unknown>): unknown => m, raw = (text: string) => text } = {},
): Uint8Array {
  const files: Files = unzipSync(bytes)
  const contents = JSON.parse(strFromU8(files['loop.json'] ?? new Uint8Array())) as LoopPackage
  change(contents, files)
  let previous = CHAIN_START
  for (const [i, e] of contents.events.entries()) {
    if (e.type === 'revision.saved') {
      const told = e.payload as { number: number; documentHash: string }
      const revision = contents.revisions.find((r) => r.number === told.number)
      if (revision) told.documentHash = sha256(safely(revision.document))
    }
    Object.assign(e, { seq: i + 1, previous })
    const { recordedAt, payload = null, ...rest } = e
    try {
      e.hash = eventHash({ ...rest, payload, recordedAt: recordedAt ?? e.at }, sha256)
    } catch {
      e.hash = '0'.repeat(64)
    }
    previous = e.hash
  }
  files['loop.json'] = strToU8(raw(JSON.stringify(contents)))
  const told = JSON.parse(strFromU8(files['manifest.json'] ?? new Uint8Array())) as Record<string, unknown>
  delete files['manifest.json']
  // Nobody signs for it: it passes for one from before packages were signed.
  delete files['proof.json']
  for (const member of ['last', 'plant', 'signature']) Reflect.deleteProperty(told, member)
  told['version'] = 2
  const all = Object.fromEntries(Object.entries(files).map(([n, b]) => [n, sha256Bytes(b)]))
  return zipSync({
    'manifest.json': strToU8(JSON.stringify(manifest({ ...told, tag: contents.loop.tag, files: all }))),
    ...files,
  })
}

function safely(x: unknown): string {
  try {
    return canonicalJson(x)
  } catch {
    return ''
  }
}
