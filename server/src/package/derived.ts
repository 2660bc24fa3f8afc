import type { LoopPackage } from '@calm/contract/loop-package'
import { currentLoopDocument, type SavedLoopDocument } from '@calm/contract/saved/loop-document'
import { unguardedCell } from '@calm/core/harmless-cell'
import { LoopDocument } from '@calm/core/loop/document'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { judgeRun } from '@calm/core/record/judge-run'
import { overallOf } from '@calm/core/record/overall'
import type { Run } from '@calm/core/record/run'
import { errorChart } from '@calm/core/verify/error-chart'
import type { Judgement } from '@calm/core/verify/verdict'
import { strFromU8 } from 'fflate'
import Papa from 'papaparse'
import { takenIn } from '../record/authors.ts'
import { foldEvents } from '../record/fold.ts'
import { calmLineSvg } from '../reports/calm-line.ts'
import { certificateFile } from '../reports/certificate-file.ts'
import { chartSvg } from '../reports/chart-svg.ts'
import { readingsTable } from '../reports/readings-table.ts'
import { certificatesInside } from './certificate-inside.ts'
import type { Misfit } from './judge.ts'
import { listsOf, nameOfRun } from './lists.ts'

/** A verification of a package, worked out anew from its record. */
export interface Remade {
  readonly runId: string
  readonly run: Run
  readonly document: LoopDocument
  readonly asFound: Judgement | null
  readonly asLeft: Judgement | null
}

/**
 * What a package derives from its record, made again from the record: its lists, its newest document, the readings,
 * the data inside its certificates, and its drawings. Certificates are printed again by `wrongPaper`.
 * @param contents - proved already
 * @param sameProgram - whether this version made it: another one may draw a line elsewhere or say it otherwise
 * @returns the first file that says something else than the record, or is of nothing in it
 */
export function wrongDerived(
  contents: LoopPackage,
  files: ReadonlyMap<string, Uint8Array>,
  sameProgram: boolean,
): Misfit | null {
  const runs = new Map(
    verificationsOf(contents).map((r) => [nameOfRun(r.run.startedAt, r.runId), r] as const),
  )
  const lists: Readonly<Partial<Record<string, Rows>>> = listsOf(contents)
  for (const [name, bytes] of files) {
    const list = lists[name]
    const [, folder, base = ''] =
      /^(readings|certificates|plots)\/(.+)\.(?:csv|pdf|svg|json)$/.exec(name) ?? []
    const wrong = list
      ? wrongTable(list, bytes)
      : name === 'document.json'
        ? wrongDocument(contents, bytes)
        : folder === undefined
          ? null
          : wrongOfRun(folder, runs.get(base.replace(/-(?:errors|line)$/, '')), name, bytes, sameProgram)
    if (wrong !== null) return { path: name, says: `${name} ${wrong}` }
  }
  for (const [base, r] of runs)
    for (const name of (r.asLeft ?? r.asFound) ? filesOf(base) : [])
      if (!files.has(name)) return { path: name, says: `The package holds no ${name}.` }
  return null
}

const filesOf = (base: string): string[] => [
  `readings/${base}.csv`,
  `certificates/${base}.pdf`,
  `certificates/${base}.json`,
  `plots/${base}-errors.svg`,
  `plots/${base}-line.svg`,
]
const NOT_OURS = 'belongs to no verification of this record.'

function wrongOfRun(
  folder: string,
  of: Remade | undefined,
  name: string,
  bytes: Uint8Array,
  sameProgram: boolean,
): string | null {
  if (!of) return NOT_OURS
  if (folder === 'readings') return wrongTable(readingsTable({ ...of, deviations: [] }), bytes)
  // What a certificate was printed with is looked at where it is printed again.
  if (name.endsWith('.json')) return null
  if (folder === 'certificates') return wrongCertificate(of, bytes, sameProgram)
  if (!sameProgram) return null
  const judgement = of.asLeft ?? of.asFound
  const drawn = name.endsWith('-line.svg')
    ? judgement && calmLineSvg(judgement)
    : chartSvg(errorChart(of.asFound, of.run.leftAsFound ? null : of.asLeft))
  return drawn === strFromU8(bytes) ? null : 'is not what the record draws.'
}

/** Every verification of a proved package. */
export function verificationsOf({ runs, events, revisions }: LoopPackage): Remade[] {
  const taken = takenIn(events)
  return runs.flatMap((r): Remade[] => {
    if (r.kind !== 'verification') return []
    const any = foldEvents(
      events.filter((e) => e.runId === r.id),
      taken,
    )
    const saved = revisions.find((x) => x.number === r.revision)
    if (any?.kind !== 'verification' || !saved) return []
    const { run } = any
    const document = LoopDocument.parse(currentLoopDocument(saved.document as SavedLoopDocument))
    const hasLeft = run.leftAsFound || Object.keys(run.asLeft).length > 0
    return [
      {
        runId: r.id,
        run,
        document,
        asFound: judgeRun(run, document.path, 'asFound'),
        asLeft: hasLeft ? judgeRun(run, document.path, 'asLeft') : null,
      },
    ]
  })
}

type Rows = readonly (readonly unknown[])[]

/** Cell by cell, by the names of their columns; words of why a reading was told apart rest on the plant's register. */
function wrongTable(wanted: Rows, bytes: Uint8Array): string | null {
  const { data } = Papa.parse<string[]>(strFromU8(bytes).replace(/^\ufeff/, ''), { skipEmptyLines: true })
  const [heading = [], ...rows] = data
  const [names = [], ...told] = wanted.map((r) => r.map((cell) => String(cell)))
  if (rows.length !== told.length) return `has ${rows.length} rows, the record ${told.length}.`
  for (const [i, row] of told.entries())
    for (const [k, name] of heading.entries()) {
      const at = names.indexOf(name)
      const there = unguardedCell(rows[i]?.[k] ?? '')
      if (at >= 0 && name !== 'deviation' && there !== row[at])
        return `says “${there}” for ${name} in row ${i + 1}, the record “${row[at] ?? ''}”.`
    }
  const missing = names.find((n) => !heading.includes(n))
  return missing === undefined ? null : `has no column “${missing}”.`
}

function wrongDocument({ revisions }: LoopPackage, bytes: Uint8Array): string | null {
  try {
    const there = currentLoopDocument(JSON.parse(strFromU8(bytes)) as SavedLoopDocument)
    const here = currentLoopDocument(revisions.at(-1)?.document as SavedLoopDocument)
    return canonicalJson(there) === canonicalJson(here) ? null : 'is not the newest document of the record.'
  } catch {
    return 'is no document of a loop.'
  }
}

/** Of the plant's letterhead, its register and its tree the record says nothing. */
const ELSEWHERE = new Set(['plant', 'instruments', 'record', 'by'])
/** Another program may have other words for the same. */
const WORDS = new Set(['plan', 'appliedAs', 'tolerance', 'rule', 'overall'])

function wrongCertificate(of: Remade, bytes: Uint8Array, sameProgram: boolean): string | null {
  const [inside, second] = certificatesInside(bytes)
  if (!inside) return 'carries no data of a certificate.'
  if (second) return 'carries data of two certificates.'
  const told = certificateFile({
    ...of,
    overall: overallOf(of.run, of.document, of.asFound, of.asLeft),
    equipment: [],
    names: {},
    stationery: { letterhead: { name: '', address: '', country: '' } },
    chain: { seq: 0, hash: '' },
    proof: null,
  })
  const said = (value: unknown): string =>
    JSON.stringify(value, (key, x: unknown) =>
      ELSEWHERE.has(key) || (key === 'says' && !sameProgram) ? undefined : x,
    )
  for (const [name, value] of Object.entries(told))
    if (!ELSEWHERE.has(name) && (sameProgram || !WORDS.has(name)) && said(inside[name]) !== said(value))
      return `says something else than the record in its data: ${name}.`
  return null
}
