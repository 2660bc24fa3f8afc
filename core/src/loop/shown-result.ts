import type { Axis, Chart, Table } from '../chart.ts'
import type { ResultRow, SetUpResult } from '../family/family.ts'
import type { WantedUnits } from '../quantity/asked-in.ts'
import { partedHeading } from '../quantity/heading.ts'
import { sayNumber } from '../quantity/round.ts'
import { shownIn, valueIn } from '../quantity/shown-in.ts'
import { findUnit, printedUnit } from '../quantity/units.ts'

/** From which unit to which, by symbols. */
interface Change {
  readonly from: string
  readonly to: string
}
/** What becomes of a unit; null where it stays, or is none. */
type ChangeOf = (unit: string | undefined) => Change | null

/** Digits that a value in another unit keeps. */
const DIGITS = 6

function rowIn(r: ResultRow, changeOf: ChangeOf): ResultRow {
  const to = changeOf(r.unit)
  if (typeof r.value !== 'number' || !to)
    return r.unit === undefined ? r : { ...r, unit: printedUnit(findUnit(r.unit)?.symbol ?? r.unit) }
  return {
    label: r.label,
    value: Number(sayNumber(valueIn(r.value, to.from, to.to), DIGITS)),
    unit: printedUnit(to.to),
    ...(r.typical ? { typical: true } : {}),
  }
}

/** A table with its columns in other units: a column tells its unit behind a comma. */
export function tableIn(table: Table, changeOf: ChangeOf): Table {
  const columns = table.columns.map((heading) => {
    const { name, unit } = partedHeading(heading)
    return { heading, name, to: changeOf(unit) }
  })
  return {
    ...table,
    columns: columns.map(({ heading, name, to }) => (to ? `${name}, ${printedUnit(to.to)}` : heading)),
    rows: table.rows.map((row) =>
      row.map((cell, i) => {
        const to = columns[i]?.to
        const value = Number(cell)
        return to && cell.trim() !== '' && Number.isFinite(value)
          ? sayNumber(valueIn(value, to.from, to.to), DIGITS)
          : cell
      }),
    ),
  }
}

function chartIn(chart: Chart, changeOf: ChangeOf): Chart {
  const [x, y] = [changeOf(chart.x.unit), changeOf(chart.y.unit)]
  if (!x && !y) return chart
  const by = (to: Change | null) => (v: number) => (to ? valueIn(v, to.from, to.to) : v)
  const axis = (a: Axis, to: Change | null): Axis => {
    if (!to) return a
    // Marks that were round in the other unit are not in this one.
    return {
      label: a.label,
      unit: to.to,
      ...(a.from === undefined ? {} : { from: by(to)(a.from) }),
      ...(a.to === undefined ? {} : { to: by(to)(a.to) }),
    }
  }
  return {
    ...chart,
    x: axis(chart.x, x),
    y: axis(chart.y, y),
    series: chart.series.map((s) => ({
      ...s,
      points: s.points.map(([px, py]) => [by(x)(px), by(y)(py)] as const),
      ...(s.below ? { below: s.below.map(by(y)) } : {}),
    })),
  }
}

/** What becomes of a unit on a loop: the loop's own where it is of its kind, else what the plant wants. */
export const shownOn =
  (loopUnit: string | null, plant: WantedUnits): ChangeOf =>
  (unit) => {
    const from = unit === undefined ? null : (findUnit(unit)?.symbol ?? null)
    if (from === null) return null
    const to = shownIn(from, loopUnit, plant)
    return to === from ? null : { from, to }
  }

/**
 * A result with its rows, tables and charts in the units in which the loop and the plant speak. Sentences keep the
 * units of the entries.
 * @param loopUnit - of the loop's range; null where it has none
 */
export function shownResult(result: SetUpResult, loopUnit: string | null, plant: WantedUnits): SetUpResult {
  const changeOf = shownOn(loopUnit, plant)
  return {
    ...result,
    rows: result.rows.map((r) => rowIn(r, changeOf)),
    ...(result.tables ? { tables: result.tables.map((t) => tableIn(t, changeOf)) } : {}),
    ...(result.charts ? { charts: result.charts.map((c) => chartIn(c, changeOf)) } : {}),
  }
}
