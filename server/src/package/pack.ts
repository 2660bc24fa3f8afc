import { errorChart } from '@calm/core/verify/error-chart'
import type { Progress } from '@calm/contract/api/news'
import {
  LoopPackage,
  PACKAGE_FORMAT,
  PACKAGE_VERSION,
  type PackageManifest,
} from '@calm/contract/loop-package'
import { currentLoopDocument, type SavedLoopDocument } from '@calm/contract/saved/loop-document'
import { strToU8, zipSync } from 'fflate'
import { z } from 'zod'
import { calmLineSvg } from '../reports/calm-line.ts'
import { certificatePdf } from '../reports/certificate.ts'
import { csvOf } from '../reports/csv.ts'
import { chartSvg } from '../reports/chart-svg.ts'
import { readingsTable } from '../reports/readings-table.ts'
import { sha256Bytes } from '../record/digest.ts'
import type { PlantKey } from '../plant-log/plant-key.ts'
import { listsOf, nameOfRun } from './lists.ts'
import type { Parts } from './make.ts'
import { printedWith } from './printed-with.ts'
import { manifestText } from './signature.ts'
import { version as program } from '../version.ts'

const README = (tag: string) => `Loop ${tag}, as one package.

manifest.json   every file with its SHA-256, signed by the plant (Ed25519)
proof.json      where each event stands in the plant's tree (RFC 9162), and the signed head of it
loop.json       the loop: documents, runs, and the record as a chain of hashes
loop.schema.json  JSON Schema of loop.json
revisions.csv, events.csv  the same as lists
certificates, readings, plots  of its closed verifications
pictures  of its notes, each named by its SHA-256
logs      samples of its logs: time (ms since 1970) and value of each row, 8 bytes each, little endian; how they lie
          is told beside them, their SHA-256 in the record

The chain: the hash of an event is the SHA-256 of its canonical JSON (keys in order, no spaces) with id, loopId,
runId, seq, type, at, recordedAt, by, payload and previous (form 1, of older records, without recordedAt); previous
is the hash of the event before it, 64 zeros for the first. An event "package.taken" says that everything before it
came with a package: whose author is not the one who took it in is foreign. npm run check:package FILE proves a package without a server: lists, readings, drawings and the data inside certificates
are made again from loop.json and compared, and certificates are printed again by the version that printed them. With what
each was printed besides the record is told beside it.
`
const json = (value: unknown) => strToU8(`${JSON.stringify(value, null, 1)}\n`)
const csv = (rows: readonly (readonly unknown[])[]) => strToU8(csvOf(rows))

/** What a package holds, before its plant signs for it. */
export interface Packed {
  readonly manifest: PackageManifest
  readonly files: Readonly<Record<string, Uint8Array>>
}

const QUICK = (data: Uint8Array): [Uint8Array, { level: 1 }] => [data, { level: 1 }]

/** The package signed by its plant, as one ZIP. */
export function signedZip({ manifest, files }: Packed, key: PlantKey): Uint8Array {
  const told = { ...manifest, signature: key.sign(manifestText(manifest)) }
  // Samples are many: packed quickly rather than tightly.
  const lying = Object.fromEntries(
    Object.entries(files).map(([name, data]) => [name, name.endsWith('.f64') ? QUICK(data) : data] as const),
  )
  return zipSync({ 'manifest.json': json(told), ...lying }, { mtime: manifest.madeAt })
}

/** A loop as files in open formats; taken in elsewhere it becomes the same loop. */
export async function pack(
  { contents, verifications, madeAt, proof, plant, pictures, logs }: Parts,
  tell: (told: Progress) => void,
): Promise<Packed> {
  const { tag } = contents.loop
  const files: Record<string, Uint8Array> = {
    'README.txt': strToU8(README(tag)),
    'loop.json': json(contents),
    'proof.json': json(proof),
    'loop.schema.json': json(z.toJSONSchema(LoopPackage, { unrepresentable: 'any' })),
    ...Object.fromEntries(Object.entries(listsOf(contents)).map(([name, rows]) => [name, csv(rows)])),
  }
  const newest = contents.revisions.at(-1)
  if (newest) files['document.json'] = json(currentLoopDocument(newest.document as SavedLoopDocument))
  for (const [i, data] of verifications.entries()) {
    tell({ done: i, of: verifications.length })
    const judgement = data.asLeft ?? data.asFound
    if (!judgement) continue
    const name = nameOfRun(data.run.startedAt, data.runId)
    files[`readings/${name}.csv`] = csv(readingsTable(data))
    files[`certificates/${name}.pdf`] = new Uint8Array(await certificatePdf({ ...data, printedAt: madeAt }))
    files[`certificates/${name}.json`] = json(printedWith(data, madeAt))
    files[`plots/${name}-errors.svg`] = strToU8(
      chartSvg(errorChart(data.asFound, data.run.leftAsFound ? null : data.asLeft)),
    )
    files[`plots/${name}-line.svg`] = strToU8(calmLineSvg(judgement))
  }
  for (const [name, data] of Object.entries(pictures)) files[`pictures/${name}`] = data
  for (const [name, data] of Object.entries(logs)) files[name] = data
  const last = contents.events.at(-1)
  const manifest: PackageManifest = {
    format: PACKAGE_FORMAT,
    version: PACKAGE_VERSION,
    program,
    madeAt: madeAt,
    tag,
    files: Object.fromEntries(Object.entries(files).map(([name, bytes]) => [name, sha256Bytes(bytes)])),
    ...(last && { last: { seq: last.seq, hash: last.hash } }),
    plant,
  }
  return { manifest, files }
}
