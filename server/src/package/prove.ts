import { LoopPackage, PACKAGE_VERSION, PackageManifest, PackageProof } from '@calm/contract/loop-package'
import { proveRecord, type ChainedEvent } from '@calm/core/record/hash-chain'
import { pictureFile } from '@calm/core/record/kinds/note-kept'
import { isRefused, refused, type Refused } from '@calm/core/refused'
import type { z } from 'zod'
import { sha256, sha256Bytes } from '../record/digest.ts'
import { picturesIn } from '../notes/pictures.ts'
import { version as program } from '../version.ts'
import { wrongDerived } from './derived.ts'
import { judgePackage } from './judge.ts'
import { provedLogsOf, type ProvedLog } from './log-files.ts'
import { jsonOf, openArchive } from './open.ts'
import { printsOf, printsSame, type Print } from './papers.ts'
import { wrongManifest, wrongPlaces, wrongSignatures } from './signature.ts'

export type ProvedPackage =
  | {
      readonly kind: 'whole'
      readonly contents: LoopPackage
      readonly manifest: PackageManifest
      /** Pictures of its notes, by their SHA-256. */
      readonly pictures: ReadonlyMap<string, Uint8Array>
      /** Logs whose samples came along. */
      readonly logs: readonly ProvedLog[]
      /** Whether what it derives was made again and compared. */
      readonly compared: boolean
      /** Certificates that are to be printed again. */
      readonly prints: readonly Print[]
      /** Certificates in it that were not printed again and compared: of their drawn pages nothing is said. */
      readonly notPrinted: number
      /** SHA-256 of the file itself. */
      readonly file: string
    }
  | Refused

function read<S extends z.ZodType>(
  schema: S,
  bytes: Uint8Array | undefined,
  name: string,
): { data: z.output<S> } | Refused {
  const json = jsonOf(bytes, name)
  if (isRefused(json)) return json
  const parsed = schema.safeParse(json.data)
  if (parsed.success) return { data: parsed.data }
  const [issue] = parsed.error.issues
  return refused(
    `${name}, ${issue?.path.join('.') ?? ''}: ${issue?.message ?? 'wrong'}`,
    [name, ...(issue?.path ?? [])].join('.'),
  )
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
  if (isRefused(files)) return files
  const manifest = read(PackageManifest, files.get('manifest.json'), 'manifest.json')
  if (isRefused(manifest)) return manifest
  const loop = read(LoopPackage, files.get('loop.json'), 'loop.json')
  if (isRefused(loop)) return loop
  const contents = loop.data
  if (manifest.data.tag !== contents.loop.tag)
    return refused(
      `The manifest says ${manifest.data.tag}, loop.json ${contents.loop.tag}.`,
      'manifest.json.tag',
    )
  const misfit = judgePackage(contents, now)
  const chain = proveChained(contents, misfit !== null)
  // A changed event is told as that event, not as what the change made of it.
  if (chain) return refused(chain.says, chain.path)
  if (misfit) return refused(misfit.says, `loop.json.${misfit.path}`)
  const told = new Set(Object.keys(manifest.data.files))
  for (const [name, hash] of Object.entries(manifest.data.files)) {
    const file = files.get(name)
    if (!file) return refused(`The package holds no ${name}.`, name)
    if (sha256Bytes(file) !== hash) return refused(`${name} was changed after the package was made.`, name)
  }
  if (manifest.data.version === PACKAGE_VERSION) {
    const wrong = wrongManifest(manifest.data, contents) ?? wrongSignatures(contents)
    if (wrong) return refused(wrong.says, wrong.path)
    const proof = read(PackageProof, files.get('proof.json'), 'proof.json')
    if (isRefused(proof)) return proof
    const { plant } = manifest.data
    const misplaced = plant && wrongPlaces(proof.data, plant, contents)
    if (misplaced) return refused(misplaced.says, misplaced.path)
    // Before packages told by which version they were made, other files lay in them.
    const by = manifest.data.program
    const other = by === undefined ? null : wrongDerived(contents, files, by === program)
    if (other) return refused(other.says, other.path)
  }
  for (const name of files.keys())
    if (name !== 'manifest.json' && !told.has(name))
      return refused(`${name} is not named in the manifest.`, name)
  const pictures = new Map<string, Uint8Array>()
  for (const p of picturesIn(contents.events)) {
    const name = `pictures/${pictureFile(p)}`
    const data = files.get(name)
    if (!data) return refused(`The package holds no ${name}, which a note tells of.`, name)
    if (sha256Bytes(data) !== p.sha256)
      return refused(`${name} is not the picture that the note tells of.`, name)
    pictures.set(p.sha256, data)
  }
  const logs = provedLogsOf(files, contents.events)
  if (isRefused(logs)) return logs
  const prints =
    manifest.data.program === program && manifest.data.version === PACKAGE_VERSION
      ? printsOf(contents, files)
      : []
  if ('says' in prints) return refused(prints.says, prints.path)
  return {
    kind: 'whole',
    contents,
    manifest: manifest.data,
    pictures,
    logs,
    prints,
    compared: manifest.data.version === PACKAGE_VERSION && manifest.data.program !== undefined,
    notPrinted: [...files.keys()].filter((name) => /^certificates\/.*\.pdf$/.test(name)).length,
    file: sha256Bytes(bytes),
  }
}

/**
 * The same, and its certificates are printed again where this version of the program made them.
 * @param same - prints one and compares it; elsewhere, so that others come in between
 */
export async function withPapers(
  told: ProvedPackage,
  same: (print: Print) => Promise<boolean> = printsSame,
): Promise<ProvedPackage> {
  if (told.kind === 'refused') return told
  for (const print of told.prints)
    if (!(await same(print))) return refused(`${print.name} is not what the record prints.`, print.name)
  return { ...told, prints: [], notPrinted: told.notPrinted - told.prints.length }
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
