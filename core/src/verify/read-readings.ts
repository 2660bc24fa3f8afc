import type { Finding } from '../finding.ts'
import { parseNumber } from '../quantity/parse-number.ts'
import { convertRangeEnd, findUnit } from '../quantity/units.ts'
import type { Column, Typed } from '../record/kinds/reading-values.ts'
import { namedPlan, PLAN_NAMES, type Direction, type PlanName } from '../verify/plan.ts'

export interface ReadingsRow {
  readonly index: number
  readonly values: Partial<Record<Column, Typed>>
}

export interface ReadReadings {
  readonly plan: PlanName | null
  readonly rows: readonly ReadingsRow[]
  readonly findings: readonly Finding[]
}

interface Units {
  readonly input: string
  readonly output: string
}

const HEADINGS: readonly { readonly column: Column; readonly like: RegExp }[] = [
  { column: 'applied', like: /^(applied|input|reference|ref|true)( value)?$/i },
  { column: 'pv', like: /^(pv|device|transmitter|digital)( reading)?$/i },
  { column: 'loopCurrent_mA', like: /^(loop.?m\s?a|m\s?a|current|loop current)$/i },
  { column: 'controller', like: /^(controller|dcs|plc|eu|display)( reading)?$/i },
]

/**
 * Reads a table of readings with a heading row: point, direction, applied, pv, loop current, controller,
 * each with an optional unit column. Values are converted to the loop's units; what was written is kept.
 */
export function readReadings(records: readonly (readonly string[])[], units: Units): ReadReadings {
  const findings: Finding[] = []
  const [heading = [], ...body] = records
  const names = heading.map((h) => h.trim().replace(/_/g, ' '))
  const columns = HEADINGS.flatMap(({ column, like }) => {
    const at = names.findIndex((n) => like.test(n))
    if (at < 0) return []
    const unitAt = names.findIndex((n) => n.toLowerCase() === `${names[at]} unit`.toLowerCase())
    return [{ column, at, unitAt }]
  })
  const stop = (code: string, where: string, says: string) =>
    findings.push({ code, severity: 'stop', where: [where], says })
  if (!columns.some((c) => c.column === 'applied')) {
    stop('NO_APPLIED', 'heading', 'No column “applied” was found. The first row must name the columns.')
    return { plan: null, rows: [], findings }
  }
  const directionAt = names.findIndex((n) => /^direction$/i.test(n))
  const directions = body.map((r): Direction =>
    /^(d|↓)/i.test(r[directionAt]?.trim() ?? '') ? 'down' : 'up',
  )
  const plan = PLAN_NAMES.find((name) => {
    const points = namedPlan(name)
    return points.length === body.length && points.every((p, i) => p.direction === directions[i])
  })
  if (!plan)
    stop(
      'NO_PLAN',
      'rows',
      `${body.length} rows match no plan. Possible are ${PLAN_NAMES.map((n) => namedPlan(n).length).join(', ')} readings, rising first.`,
    )
  const rows = body.map((record, i): ReadingsRow => {
    const values: Partial<Record<Column, Typed>> = {}
    for (const { column, at, unitAt } of columns) {
      const typed = record[at]?.trim() ?? ''
      const parsed = parseNumber(typed)
      if (parsed.kind === 'empty') continue
      const where = `row ${i + 2}, ${names[at]}`
      if (parsed.kind === 'refused') {
        stop('NOT_A_NUMBER', where, `Row ${i + 2}, ${names[at]}: ${parsed.says}`)
        continue
      }
      const want = column === 'loopCurrent_mA' ? 'mA' : column === 'controller' ? units.output : units.input
      const written = unitAt >= 0 ? (record[unitAt]?.trim() ?? '') : parsed.rest
      const value = written === '' ? parsed.value : inLoopUnit(parsed.value, written, want)
      if (value === null) {
        stop('UNIT', where, `Row ${i + 2}, ${names[at]}: “${written}” cannot be turned into ${want}.`)
        continue
      }
      // A unit that changes nothing is not worth a place in a narrow column.
      values[column] = { value, typed: value === parsed.value ? typed : `${typed} ${written}`.slice(0, 40) }
    }
    return { index: i, values }
  })
  return { plan: plan ?? null, rows, findings }
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
