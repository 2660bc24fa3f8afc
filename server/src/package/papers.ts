import { inflateSync } from 'node:zlib'
import type { LoopPackage } from '@calm/contract/loop-package'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { overallOf } from '@calm/core/record/overall'
import { runDeviations } from '@calm/core/record/run-deviations'
import { isForeign, nameOfAuthor } from '@calm/core/signing/authors'
import { readEquipment } from '@calm/core/verify/equipment-spec'
import { isOutOfOrder } from '@calm/core/record/event-time'
import { takenIn } from '../record/authors.ts'
import { lateSince, type CertificateData } from '../reports/certificate-data.ts'
import { verificationsOf, type Remade } from './derived.ts'
import type { Misfit } from './judge.ts'
import { nameOfRun } from './lists.ts'
import { jsonOf } from './open.ts'
import { PrintedWith } from './printed-with.ts'

/** A certificate of a package, and what it is printed from again. */
export interface Print {
  readonly name: string
  readonly data: CertificateData
  readonly pdf: Uint8Array
}

/**
 * What every certificate of a package is printed from: its record, and what lies beside it. The plant's forms, its
 * letterhead, its register's words of that day and how many signatures it asks for are taken as they lie there: of
 * them the record says nothing.
 * @param contents - proved already, the package made by this version: another one prints otherwise
 * @returns the prints, or the first that cannot be made
 */
export function printsOf(
  contents: LoopPackage,
  files: ReadonlyMap<string, Uint8Array>,
): readonly Print[] | Misfit {
  const prints: Print[] = []
  for (const of of verificationsOf(contents)) {
    if (!of.asLeft && !of.asFound) continue
    const base = `certificates/${nameOfRun(of.run.startedAt, of.runId)}`
    const path = `${base}.json`
    const told = jsonOf(files.get(path), path)
    const printed = 'data' in told ? PrintedWith.safeParse(told.data) : null
    if (!printed?.success)
      return { path, says: `${path} does not tell with what the certificate was printed.` }
    const stranger = printed.data.equipment.find((e) => !contents.equipment.some((k) => k.id === e.id))
    if (stranger) return { path, says: `${path} names ${stranger.name}, which the package does not hold.` }
    const name = `${base}.pdf`
    prints.push({ name, data: dataOf(of, contents, printed.data), pdf: files.get(name) ?? new Uint8Array() })
  }
  return prints
}

/** Whether a certificate is what the record prints. */
export async function printsSame({ data, pdf }: Print): Promise<boolean> {
  const { certificatePdf } = await import('../reports/certificate.ts')
  return sameDrawn(await certificatePdf(data), pdf)
}

function dataOf(of: Remade, contents: LoopPackage, printed: PrintedWith): CertificateData {
  const taken = takenIn(contents.events)
  const mine = contents.events.filter((e) => e.runId === of.runId)
  const last = mine.at(-1)
  const { run, document } = of
  const here = new Map(contents.people.map((p) => [p.id, p.shownName]))
  const authors = [run.startedBy, ...run.adjustments.map((a) => a.by), ...run.signatures.map((s) => s.by)]
  const equipment = printed.equipment.map((e) => {
    const read = readEquipment(e)
    return { ...e, functions: read.kind === 'read' ? read.functions : [] }
  })
  return {
    ...of,
    ...printed,
    overall: overallOf(run, document, of.asFound, of.asLeft),
    equipment,
    deviations: runDeviations(
      run.started,
      document,
      equipment.filter((e) => run.started.equipment.includes(e.id)),
    ),
    names: Object.fromEntries(authors.map((by) => [by, nameOfAuthor(by, here, taken)])),
    foreign: mine.some((e) => isForeign(e.seq, e.by, taken)),
    outOfOrder: mine.filter((e, i) => isOutOfOrder(e.at, mine[i - 1]?.at)).length,
    recordedLate: lateSince(mine[0]),
    chain: { seq: last?.seq ?? 0, hash: last?.hash ?? '' },
  }
}

/** Whether two papers draw the same: how tightly their streams are packed is no matter. */
function sameDrawn(a: Uint8Array, b: Uint8Array): boolean {
  const [x, y] = [laidOpen(a), laidOpen(b)]
  return canonicalJson(x) === canonicalJson(y)
}

const STREAM = /stream\r?\n/g
const TABLE = /^\nxref\n0 \d+\n((?:\d{10} \d{5} [nf] \n)+)$/
/**
 * A paper as what stands between its streams, and they unpacked; lengths and places only where they are wrong, since
 * right ones follow from the rest. What a wrong one would hide or show is therefore a difference.
 */
function laidOpen(pdf: Uint8Array): string[] {
  const bytes = Buffer.from(pdf)
  const text = bytes.toString('latin1')
  const out: string[] = []
  let done = 0
  for (const m of text.matchAll(STREAM)) {
    const from = m.index + m[0].length
    if (m.index < done) continue
    const to = text.indexOf('\nendstream', from)
    if (to < 0) break
    const before = text.slice(done, m.index)
    out.push(before.replace(`/Length ${to - from}\n`, ''), unpacked(bytes.subarray(from, to)))
    done = to
  }
  const [at, trailer] = [text.indexOf('\nxref\n', done), text.lastIndexOf('\ntrailer\n')]
  if (at < 0 || trailer < at) return [...out, text.slice(done)]
  const end = text.slice(trailer)
  return [
    ...out,
    text.slice(done, at),
    placesHold(text, text.slice(at, trailer + 1)) ? '' : text.slice(at, trailer),
    end.includes(`startxref\n${at + 1}\n`) ? end.replace(/startxref\n\d+/, '') : end,
  ]
}

/** Whether a table of places is nothing else, and each object stands where it says. */
function placesHold(text: string, table: string): boolean {
  const rows = TABLE.exec(table)?.[1]?.match(/.{19}\n/g)
  return (
    rows?.every((row, n) => row[17] === 'f' || text.startsWith(`${n} 0 obj\n`, Number(row.slice(0, 10)))) ??
    false
  )
}
const LARGEST_BYTES = 20e6
function unpacked(stream: Buffer): string {
  try {
    return inflateSync(stream, { maxOutputLength: LARGEST_BYTES }).toString('latin1')
  } catch {
    return stream.toString('latin1')
  }
}
