import { convertRangeEnd, findUnit, printedUnit } from '../../quantity/units.ts'
import { appliedAt, pointErrors, type LoopScale, type Reading } from '../../verify/reading-errors.ts'
import type { Tolerance } from '../../verify/tolerance.ts'
import type { PastCertificate, PastEntered } from '../kinds/past-entered.ts'
import type { PastErrors } from '../loop-drift.ts'
import type { PastRow, Told, WrongRow } from './read-past.ts'

type Error_ = readonly [level_pct: number, error_pct: number]

function grouped<T, K>(items: readonly T[], keyOf: (item: T) => K): Map<K, T[]> {
  const out = new Map<K, T[]>()
  for (const item of items) {
    const key = keyOf(item)
    const there = out.get(key)
    if (there) there.push(item)
    else out.set(key, [item])
  }
  return out
}

/** An error that no device has and still is read: a unit, a decimal or another loop's paper. */
const FAR_PCT = 50

function inUnit(t: Told, unit: string): number | string {
  if (t.unit === '') return t.value
  const u = findUnit(t.unit)
  const c = u && convertRangeEnd(t.value, u.symbol, unit)
  return c?.kind === 'value' ? c.value : `“${t.unit}” cannot be turned into ${printedUnit(unit)}.`
}

/** What was applied, in the unit of the loop's input; percent are percent of what the loop shows. */
function appliedOf(t: Told, scale: LoopScale): number | string {
  return t.unit === '%' && scale.input.unit !== '%' ? appliedAt(scale, t.value) : inUnit(t, scale.input.unit)
}

/**
 * A reading in the unit that the loop shows. Without a unit of its own it is in that of what was applied, as long as
 * the loop shows the same quantity: a paper that applies bar reads bar, whatever the controller is set to.
 */
function readingIn(row: PastRow, t: Told, scale: LoopScale): number | string {
  if (t.unit !== '') return inUnit(t, scale.output.unit)
  const beside = row.applied.unit === '' || row.applied.unit === '%' ? scale.input.unit : row.applied.unit
  const as = inUnit({ value: t.value, unit: beside }, scale.output.unit)
  return typeof as === 'number' ? as : t.value
}

function errorOf(
  row: PastRow,
  t: Told,
  applied: number,
  scale: LoopScale,
  tolerance: Tolerance,
): Error_ | string {
  const empty: Reading = {
    index: 0,
    direction: 'up',
    applied,
    pv: null,
    loopCurrent_mA: null,
    controller: null,
  }
  const level = pointErrors(scale, tolerance, empty)?.level_pct ?? 0
  if (row.as === 'error')
    return t.unit === '' || t.unit === '%' ? [level, t.value] : 'An error is told in percent of span.'
  const unit = t.unit === '' ? null : findUnit(t.unit)
  let reading: Partial<Reading>
  if (unit?.dimension === 'current') {
    const mA = inUnit(t, 'mA')
    if (typeof mA === 'string') return mA
    reading = { loopCurrent_mA: mA }
  } else {
    const value = readingIn(row, t, scale)
    if (typeof value === 'string') return value
    reading = { controller: value }
  }
  const p = pointErrors(scale, tolerance, { ...empty, ...reading })
  return p?.loop_pct == null ? 'Nothing can be reckoned from it.' : [p.level_pct, p.loop_pct]
}

/** Rows of one loop as certificates. One wrong row holds its whole certificate back: half a paper is no evidence. */
export function certificatesOf(
  rows: readonly PastRow[],
  scale: LoopScale,
  tolerance: Tolerance,
  today: string,
): { readonly certificates: readonly PastCertificate[]; readonly wrong: readonly WrongRow[] } {
  const wrong: WrongRow[] = []
  const papers = grouped(rows, (r) => `${r.on}\n${r.number}`)
  const certificates = [...papers.values()].flatMap((paper): PastCertificate[] => {
    const first = paper[0]
    if (!first) return []
    const bad: WrongRow[] = []
    const found: Error_[] = []
    const left: Error_[] = []
    if (first.on > today) bad.push({ line: first.line, says: `${first.on} is still to come.` })
    for (const row of paper) {
      const applied = appliedOf(row.applied, scale)
      const errors =
        typeof applied === 'string'
          ? [applied]
          : [row.found, row.left].map((t) => (t === null ? null : errorOf(row, t, applied, scale, tolerance)))
      const says = errors.find((e) => typeof e === 'string')
      if (typeof says === 'string') bad.push({ line: row.line, says })
      else {
        const [f, l] = errors as (Error_ | null)[]
        const far = [f, l].find((e) => e && Math.abs(e[1]) > FAR_PCT)
        if (far)
          bad.push({
            line: row.line,
            says: `It would be off by ${Math.round(far[1])} % of span: another unit, decimal or loop?`,
          })
        else if (f && (f[0] < -20 || f[0] > 120))
          bad.push({ line: row.line, says: `What was applied is ${Math.round(f[0])} % of the range.` })
        else {
          if (f) found.push(f)
          if (l) left.push(l)
        }
      }
    }
    if (bad.length === 0 && left.length > 0 && left.length < found.length)
      bad.push({
        line: first.line,
        says: 'As left stands at some points only. Give all, or none where nothing was adjusted.',
      })
    wrong.push(...bad)
    return bad.length > 0
      ? []
      : [{ on: first.on, number: first.number, by: first.by, found, left: left.length > 0 ? left : null }]
  })
  return { certificates, wrong }
}

/** Mean over the readings at each level: rising and falling belong together. */
function byLevel(errors: readonly Error_[]): Error_[] {
  const levels = grouped(errors, ([level]) => Math.round(level))
  return [...levels.values()]
    .map((all): Error_ => [
      all.reduce((s, [l]) => s + l, 0) / all.length,
      all.reduce((s, [, e]) => s + e, 0) / all.length,
    ])
    .sort((a, b) => a[0] - b[0])
}

/** What entered certificates leave for drift; of the same day and number the one entered last. */
export function pastOfEntered(entered: readonly PastEntered[]): PastErrors[] {
  const papers = new Map<string, PastErrors>()
  for (const e of entered)
    for (const c of e.certificates) {
      const found = byLevel(c.found)
      papers.set(`${c.on}\n${c.number}`, {
        at: `${c.on}T00:00:00.000Z`,
        found,
        left: c.left === null ? found : byLevel(c.left),
        T_pct: e.tolerance_pct,
        used: Math.max(...c.found.map(([, x]) => Math.abs(x))) / e.tolerance_pct,
        entered: true,
      })
    }
  return [...papers.values()]
}

/** Verifications of this record and certificates from before it, oldest first. */
export const joinedPast = (runs: readonly PastErrors[], entered: readonly PastErrors[]): PastErrors[] =>
  [...entered, ...runs].sort((a, b) => a.at.localeCompare(b.at))
