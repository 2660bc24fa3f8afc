import type { LoopPackage, PackageProof } from '@calm/contract/loop-package'
import { pictureFile } from '@calm/core/record/kinds/note-kept'
import { headText } from '@calm/core/record/plant-log/head'
import { eq } from 'drizzle-orm'
import type { Database } from '../db/connection.ts'
import { certificateData, type CertificateData } from '../reports/certificate-data.ts'
import { conflict } from '../http/problems.ts'
import { placesOf } from '../plant-log/places.ts'
import type { PlantKey } from '../plant-log/plant-key.ts'
import { unsealed } from '../plant-log/schema.ts'
import { newestHead, seal } from '../plant-log/sealer.ts'
import { pictureBytes, picturesIn } from '../notes/pictures.ts'
import { events } from '../record/schema.ts'
import { contentsOf } from './contents.ts'
import { logFilesOf } from './logs.ts'

/** What a package is made of, as the database has it. */
export interface Parts {
  readonly contents: LoopPackage
  /** Of its verifications, what their papers print. */
  readonly verifications: readonly CertificateData[]
  readonly madeAt: string
  /** Where its events stand in the plant's tree; signed there, since a thread at work holds no key. */
  readonly proof: PackageProof
  readonly plant: { readonly id: string; readonly publicKey: string }
  /** Of its notes, by the names of their files. */
  readonly pictures: Readonly<Record<string, Uint8Array>>
  /** Samples of its logs, by the names of their files. */
  readonly logs: Readonly<Record<string, Uint8Array>>
}

const LOOK_AGAIN_MS = 100
const MOST_LOOKS = 50

/** The newest head signed with this key, once everything of a loop is in the tree. @throws HttpProblem 409 where that takes too long */
async function sealedHead(
  db: Database,
  loopId: string,
  key: PlantKey,
  now: Date,
): Promise<PackageProof['head']> {
  for (let i = 0; i < MOST_LOOKS; i++) {
    await seal(db, key, now)
    const [waits] = await db
      .select({ id: unsealed.eventId })
      .from(unsealed)
      .innerJoin(events, eq(events.id, unsealed.eventId))
      .where(eq(events.loopId, loopId))
      .limit(1)
    const head = waits ? null : await newestHead(db)
    if (head && head.key === key.fingerprint) return head
    // Another server signed last: a head of this one's own is made of it.
    if (head) return signHead(head, key)
    await new Promise((resolve) => setTimeout(resolve, LOOK_AGAIN_MS))
  }
  throw conflict('The record is just being sealed. Try again in a moment.')
}

const signHead = (
  { v, plant, size, root, at }: PackageProof['head'],
  key: PlantKey,
): PackageProof['head'] => ({
  v,
  plant,
  size,
  root,
  at,
  key: key.fingerprint,
  signature: key.sign(headText({ v, plant, size, root, at })),
})

/** Reads what a package is made of; it is packed in a thread of its own. */
export async function partsOfPackage(
  db: Database,
  loopId: string,
  madeAt: Date,
  key: PlantKey,
): Promise<Parts> {
  const head = await sealedHead(db, loopId, key, madeAt)
  const contents = await contentsOf(db, loopId)
  const ids = contents.events.map((e) => e.id)
  const leaves = await placesOf(db, ids, head.size)
  const verifications: CertificateData[] = []
  for (const run of contents.runs)
    if (run.kind === 'verification') verifications.push(await certificateData(db, run.id))
  const plant = { id: head.plant, publicKey: key.publicKey }
  const pictures: Record<string, Uint8Array> = {}
  for (const p of picturesIn(contents.events)) {
    const data = await pictureBytes(db, p.sha256)
    if (data) pictures[pictureFile(p)] = new Uint8Array(data)
  }
  const logs = await logFilesOf(db, contents.events)
  const proof = { head, leaves }
  return { contents, verifications, madeAt: madeAt.toISOString(), proof, plant, pictures, logs }
}
