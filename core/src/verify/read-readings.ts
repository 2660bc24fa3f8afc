import type { Finding } from '../finding.ts'
import { parseNumber } from '../quantity/parse-number.ts'
import { partedHeading } from '../quantity/heading.ts'
import { convertRangeEnd, findUnit, printedUnit } from '../quantity/units.ts'
import type { Column, Typed } from '../record/kinds/reading-values.ts'
import type { Direction, PlanPoint } from '../verify/plan.ts'

export interface ReadingsRow {
  readonly index: number
  readonly values: Partial<Record<Column, Typed>>
}

export interface ReadReadings {
  readonly rows: readonly ReadingsRow[]
  readonly findings: readonly Finding[]
}

interface Units {
  /** The unit of what is applied, where the standard gives another quantity than the loop's. */
  readonly applied?: string
  readonly input: string
  readonly output: string
}

/** What a column of a file holds; null is left out. */
export type ReadingsColumn = Column | 'direction' | 'unit' | null
export type ReadingsMapping = readonly ReadingsColumn[]

const HEADINGS: readonly { readonly column: Column; readonly like: RegExp }[] = [
  {
    column: 'applied',
    like: /^(applied|input|reference|ref|true|standard|set|set point|simulated)( value)?$/i,
  },
  { column: 'pv', like: /^(pv|device|transmitter|digital)( reading)?$/i },
  {
    column: 'loopCurrent_mA',
    like: /^(loop.?m\s?a|m\s?a|output|current|loop|loop current|measured)( m\s?a)?$/i,
  },
  { column: 'controller', like: /^(controller|dcs|plc|scada|eu|display|indication)( reading| value)?$/i },
]

/** What the headings suggest; what nobody knows stays out until a person says. */
export function suggestReadings(headings: readonly string[]): ReadingsMapping {
  const taken = new Set<Column>()
  return headings.map((heading): ReadingsColumn => {
    const { name } = partedHeading(heading)
    if (/ unit$/i.test(name)) return 'unit'
    if (/^(direction|up\/down|dir)$/i.test(name)) return 'direction'
    const hit = HEADINGS.find(({ column, like }) => !taken.has(column) && like.test(name))
    if (hit) taken.add(hit.column)
    return hit?.column ?? null
  })
}

/**
 * Reads a table of readings with a heading row. A unit stands in the cell, in a column of its own right behind, or in
 * the heading; values are converted to the loop's units, what was written is kept.
 * @param points - of the plan that the readings belong to, in its order
 * @param mapping - what each column holds, where a person said it; else as the headings suggest
 */
export function readReadings(
  records: readonly (readonly string[])[],
  units: Units,
  points: readonly PlanPoint[],
  mapping?: ReadingsMapping,
): ReadReadings {
  const findings: Finding[] = []
  const [heading = [], ...body] = records
  const holds = mapping ?? suggestReadings(heading)
  const columns = holds.flatMap((column, at) =>
    column === null || column === 'direction' || column === 'unit'
      ? []
      : [
          {
            column,
            at,
            unitAt: holds[at + 1] === 'unit' ? at + 1 : -1,
            unit: partedHeading(heading[at] ?? '').unit,
            name: heading[at]?.trim() || `column ${at + 1}`,
          },
        ],
  )
  const stop = (code: string, where: string, says: string) =>
    findings.push({ code, severity: 'stop', where: [where], says })
  if (!columns.some((c) => c.column === 'applied')) {
    stop('NO_APPLIED', 'heading', 'No column holds what was applied. Say which one does.')
    return { rows: [], findings }
  }
  const twice = columns.find((c, i) => columns.findIndex((d) => d.column === c.column) !== i)
  if (twice)
    stop('COLUMN_TWICE', 'heading', `Two columns are said to hold the same: “${twice.name}” and another.`)
  const directionAt = holds.indexOf('direction')
  const directions = body.map((r): Direction =>
    /^(d|f|↓)/i.test(r[directionAt]?.trim() ?? '') ? 'down' : 'up',
  )
  const odd =
    directionAt < 0
      ? -1
      : points.findIndex((p, i) => directions[i] !== undefined && directions[i] !== p.direction)
  if (body.length !== points.length)
    stop('NO_PLAN', 'rows', `${body.length} rows; the plan of this verification has ${points.length} points.`)
  else if (odd >= 0)
    stop(
      'NO_PLAN',
      'rows',
      `Row ${odd + 2} is ${directions[odd] === 'up' ? 'rising' : 'falling'}; point ${odd + 1} of the plan is ${points[odd]?.direction === 'up' ? 'rising' : 'falling'}.`,
    )
  const wanted: Readonly<Record<Column, string>> = {
    applied: units.applied ?? units.input,
    pv: units.input,
    loopCurrent_mA: 'mA',
    controller: units.output,
  }
  const rows = body.map((record, i): ReadingsRow => {
    const values: Partial<Record<Column, Typed>> = {}
    for (const { column, at, unitAt, unit, name } of columns) {
      const typed = record[at]?.trim() ?? ''
      const parsed = parseNumber(typed)
      if (parsed.kind === 'empty') continue
      const where = `row ${i + 2}, ${name}`
      if (parsed.kind === 'refused') {
        stop('NOT_A_NUMBER', where, `Row ${i + 2}, ${name}: ${parsed.says}`)
        continue
      }
      const own = unitAt >= 0 ? (record[unitAt]?.trim() ?? '') : ''
      const written = parsed.rest || own || unit
      const value = written === '' ? parsed.value : inLoopUnit(parsed.value, written, wanted[column])
      if (value === null) {
        stop(
          'UNIT',
          where,
          `Row ${i + 2}, ${name}: “${written}” cannot be turned into ${printedUnit(wanted[column])}.`,
        )
        continue
      }
      // A unit that changes nothing is not worth a place in a narrow column.
      values[column] = {
        value,
        typed: value === parsed.value || parsed.rest !== '' ? typed : `${typed} ${written}`.slice(0, 40),
      }
    }
    return { index: points[i]?.index ?? i, values }
  })
  return { rows, findings }
}

function inLoopUnit(value: number, written: string, want: string): number | null {
  const unit = findUnit(written)
  if (!unit) return null
  const converted = convertRangeEnd(value, unit.symbol, want)
  return converted.kind === 'value' ? converted.value : null
}

/** For pasted columns: one number a line, as many as there are. */
export function readColumn(text: string): { values: (Typed | null)[]; says: string | null } {
  const lines = text.replace(/\r/g, '').replace(/\n+$/, '').split('\n')
  const values: (Typed | null)[] = []
  for (const [i, line] of lines.entries()) {
    const parsed = parseNumber(line)
    if (parsed.kind === 'refused') return { values: [], says: `Line ${i + 1}: ${parsed.says}` }
    values.push(parsed.kind === 'empty' ? null : { value: parsed.value, typed: line.trim().slice(0, 40) })
  }
  return { values, says: null }
}
