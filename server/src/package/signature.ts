import type { LoopPackage, PackageManifest, PackageProof } from '@calm/contract/loop-package'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { authorOf } from '@calm/core/signing/authors'
import { signingIn } from '@calm/core/record/signing/signed-event'
import { headText } from '@calm/core/record/plant-log/head'
import { leafHash, rootByPath } from '@calm/core/record/plant-log/hash-tree'
import { fromHex, toHex } from '@calm/core/record/plant-log/hex'
import { statementText } from '@calm/core/record/signing/statement'
import { fingerprintOf, signedBy } from '../plant-log/plant-key.ts'
import { takenIn } from '../record/authors.ts'
import { digestBytes } from '../record/digest.ts'
import type { Misfit } from './judge.ts'

/** The text of a manifest that its plant signs: everything in it but the signature. */
export const manifestText = (manifest: PackageManifest): string =>
  `calm-loop package v1\n${canonicalJson({ ...manifest, signature: undefined })}`

/** The manifest is what the plant signed, and tells where the record ends. */
export function wrongManifest(manifest: PackageManifest, { events }: LoopPackage): Misfit | null {
  const { plant, signature, last } = manifest
  if (!plant || !signature || !last)
    return {
      path: 'manifest.json',
      says: 'A package of version 3 is signed by its plant, and this one is not.',
    }
  if (!signedBy(plant.publicKey, manifestText(manifest), signature))
    return { path: 'manifest.json.signature', says: 'The plant’s key did not sign this manifest.' }
  const end = events.at(-1)
  if (last.seq !== end?.seq || last.hash !== end.hash)
    return {
      path: 'manifest.json.last',
      says: `The record ended at event ${last.seq} when the package was made, and ends at ${end?.seq ?? 0} here.`,
    }
  return null
}

/** Every event stands in the plant's tree, under a head that the same plant signed. */
export function wrongPlaces(
  { head, leaves }: PackageProof,
  plant: NonNullable<PackageManifest['plant']>,
  { events }: LoopPackage,
): Misfit | null {
  if (head.plant !== plant.id || head.key !== fingerprintOf(plant.publicKey))
    return { path: 'proof.json.head', says: 'The head of the tree is another plant’s.' }
  if (!signedBy(plant.publicKey, headText(head), head.signature))
    return { path: 'proof.json.head.signature', says: 'The plant’s key did not sign this head.' }
  const places = new Map(leaves.map((l, i) => [l.event, { ...l, i }]))
  for (const [i, e] of events.entries()) {
    const place = places.get(e.id)
    if (!place)
      return { path: `loop.json.events.${i}`, says: `Event ${e.seq} has no place in the plant’s tree.` }
    const leaf = leafHash(fromHex(e.hash), digestBytes)
    const root = rootByPath(leaf, place.at, head.size, place.path.map(fromHex), digestBytes)
    if (root === null || toHex(root) !== head.root)
      return {
        path: `proof.json.leaves.${place.i}`,
        says: `Event ${e.seq} does not stand in the plant’s tree as its head has it.`,
      }
  }
  return null
}

/** Signatures of people hold by the keys that the plant tells; those of plants before it are their word. */
export function wrongSignatures({ events, keys }: LoopPackage): Misfit | null {
  const taken = takenIn(events)
  const own = Math.max(0, ...taken.map((t) => t.events))
  for (const [i, e] of events.entries()) {
    const signature = e.seq > own ? signingIn(e)?.signature : undefined
    if (!signature) continue
    const path = `loop.json.events.${i}.payload.signature`
    const key = keys.find((k) => k.fingerprint === signature.key)
    if (!key) return { path, says: `The key that event ${e.seq} was signed with is not in the package.` }
    if (fingerprintOf(key.publicKey) !== key.fingerprint || key.personId !== authorOf(e.seq, e.by, taken))
      return { path, says: `The key that event ${e.seq} was signed with is another person’s.` }
    const at = e.recordedAt ?? e.at
    if (at < key.from || (key.until !== null && at > key.until))
      return { path, says: `The key was not in use when event ${e.seq} was recorded.` }
    const { meaning, of } = signature
    const text = statementText({ v: 1, loop: e.loopId, event: e.id, by: e.by, meaning, of, at: e.at })
    if (!signedBy(key.publicKey, text, signature.value))
      return { path, says: `The person’s key did not sign event ${e.seq}.` }
  }
  return null
}
