import { toldByWords } from '../loop/what-it-is.ts'
import { z } from 'zod'
import type { Finding } from '../finding.ts'
import { unguardedCell } from '../harmless-cell.ts'
import { ASSUMED_FIELDS, defaultPath } from '../loop/default-path.ts'
import { LoopDocument, TagSchema } from '../loop/document.ts'
import { FloorSchema } from '../loop/floor.ts'
import { parseNumber } from '../quantity/parse-number.ts'
import { findUnit } from '../quantity/units.ts'
import { bareWater } from '../quantity/water-column.ts'
import type { Range, Stage } from '../signal/stage.ts'
import { LINEAR } from '../signal/transfer.ts'
import { LIST_COLUMNS, type ColumnMapping, type ListColumn } from './columns.ts'
import { NOTHING_SAID, usualOf, type PlantSays, type UsualOfKind } from '../loop/usual.ts'

export type Cells = Partial<Record<ListColumn, string>>

export interface ReadRow {
  readonly cells: Cells
  /** Null when the row cannot become a loop before it is mended. */
  readonly document: LoopDocument | null
  readonly findings: readonly Finding[]
}

/** Names the cells of a record by the mapping; text is trimmed; only a remark keeps its line breaks. */
export function cellsOf(record: readonly string[], mapping: ColumnMapping): Cells {
  const cells: Cells = {}
  mapping.forEach((column, i) => {
    if (!column) return
    const text = unguardedCell((record[i] ?? '').trim())
    cells[column] = column === 'remark' ? text.replace(/\r\n/g, '\n') : text.replace(/\s*\r?\n\s*/g, ' ')
  })
  return cells
}

const titleOf = (column: ListColumn) => LIST_COLUMNS.find((c) => c.id === column)?.title ?? column

/** Collects what is wrong with a row while its cells are read. */
class RowReader {
  readonly findings: Finding[] = []
  readonly asTyped: Record<string, string> = {}
  readonly cells: Cells
  readonly plant: PlantSays
  constructor(cells: Cells, plant: PlantSays) {
    this.cells = cells
    this.plant = plant
  }

  text(column: ListColumn): string {
    return this.cells[column] ?? ''
  }

  stop(code: string, column: ListColumn, says: string): null {
    this.findings.push({ code, severity: 'stop', where: [column], says })
    return null
  }

  number(column: ListColumn, path: string): number | null {
    const parsed = parseNumber(this.text(column))
    if (parsed.kind === 'empty') return null
    if (parsed.kind === 'refused')
      return this.stop('NOT_A_NUMBER', column, `${titleOf(column)}: ${parsed.says}`)
    if (parsed.rest !== '' && parsed.rest !== '%')
      return this.stop(
        'NOT_A_NUMBER',
        column,
        `${titleOf(column)}: “${this.text(column)}” has more than a number in it. Put the unit in its own column.`,
      )
    if (parsed.doubt)
      this.findings.push({
        code: 'COMMA_READ_AS_DECIMAL',
        severity: 'warn',
        where: [column],
        says: `${titleOf(column)}: “${this.text(column)}” was read as ${parsed.value}; ${parsed.doubt}.`,
      })
    this.asTyped[path] = this.text(column)
    return parsed.value
  }

  unit(column: ListColumn, path: string): string | null {
    const typed = this.text(column)
    const bare = typed.replace(/\s+distance$/i, '')
    const length = bareWater(bare)
    const unit = findUnit(
      length !== null && this.plant.water !== null ? `${length}H2O@${this.plant.water}` : bare,
    )
    if (!unit)
      return this.stop(
        length !== null ? 'WATER_UNTOLD' : 'UNKNOWN_UNIT',
        column,
        length !== null
          ? `${titleOf(column)}: “${typed}” does not say at which temperature. Write ${length}H2O (4 °C), (60 °F), (68 °F) or (conventional), or say it once for the plant.`
          : `${titleOf(column)}: “${typed}” is not a unit this program knows. Pick one from the list.`,
      )
    this.asTyped[path] = typed
    return unit.symbol
  }

  /** What was typed, else what the plant usually asks of this kind of meter; that it is the plant's stands beside it. */
  usual(
    typed: number | null,
    family: string | null,
    what: keyof UsualOfKind,
    column: ListColumn,
    unit: string,
  ): number | null {
    if (typed !== null) return typed
    const value = usualOf(this.plant.byKind, family, what)
    if (value !== null)
      this.findings.push({
        code: 'BY_RULE_OF_THE_PLANT',
        severity: 'note',
        where: [column],
        says: `${titleOf(column)}: left empty, so the plant’s rule gives ${value} ${unit}.`,
      })
    return value
  }

  range(low: ListColumn, high: ListColumn, unit: ListColumn, path: string): Range | null {
    const l = this.number(low, `${path}.low`)
    const h = this.number(high, `${path}.high`)
    if (l === null || h === null) {
      if (this.findings.some((f) => f.where[0] === low || f.where[0] === high)) return null
      return this.stop(
        'MISSING_RANGE',
        l === null ? low : high,
        `${titleOf(l === null ? low : high)} is missing. Give both ends of the range.`,
      )
    }
    if (l === h)
      return this.stop(
        'MISSING_RANGE',
        high,
        `Both ends of the range are ${l}. The 20 mA point must differ from the 4 mA point.`,
      )
    const u = this.unit(unit, `${path}.unit`)
    return u === null ? null : { low: l, high: h, unit: u }
  }
}

const isoDate = z.iso.date()
const isoOf = (y = '', m = '', d = '') => `${y}-${m.padStart(2, '0')}-${d.padStart(2, '0')}`

function dateOf(r: RowReader): string | null {
  const typed = r.text('lastCalibrated')
  if (typed === '') return null
  const german = /^(\d{1,2})\.(\d{1,2})\.(\d{4})$/.exec(typed)
  const slashed = /^(\d{1,2})[/-](\d{1,2})[/-](\d{4})$/.exec(typed)
  const { dateOrder } = r.plant
  if (slashed && dateOrder === undefined)
    return r.stop(
      'DATE_ORDER_UNTOLD',
      'lastCalibrated',
      `Last calibrated: “${typed}” does not say which is the day and which the month. Say it once for this list.`,
    )
  const iso = german
    ? isoOf(german[3], german[2], german[1])
    : slashed
      ? dateOrder === 'monthFirst'
        ? isoOf(slashed[3], slashed[1], slashed[2])
        : isoOf(slashed[3], slashed[2], slashed[1])
      : typed
  if (isoDate.safeParse(iso).success) {
    r.asTyped['lastCalibrated'] = typed
    return iso
  }
  return r.stop(
    'IMPOSSIBLE_DATE',
    'lastCalibrated',
    `Last calibrated: “${typed}” is not a date of the calendar. Write it as 2026-11-23.`,
  )
}

/** As a list writes it: 2, ground, -1; null where it says nothing. */
function floorOf(r: RowReader): number | null {
  const typed = r.text('floor')
  if (typed === '') return null
  const floor = /^(g|gf|ground( floor)?)$/i.test(typed) ? 0 : Number(typed.replace(/^\+/, ''))
  const checked = FloorSchema.safeParse(floor)
  return checked.success
    ? checked.data
    : r.stop(
        'NOT_A_FLOOR',
        'floor',
        `Floor: “${typed}” is none. Write whole numbers; ground is 0, below it -1.`,
      )
}

/** A switch, contact or relay has no range; everything else needs one. */
const isDiscrete = (signal: string, type: string) =>
  /\b(contact|pnp|npn|namur|push-pull|relay)\b/i.test(signal) || /^switch\b/i.test(type)

function pathOf(r: RowReader): Stage[] | null {
  const type = r.text('type')
  const anyRange = (['lrv', 'urv', 'unit'] as const).some((c) => r.text(c) !== '')
  if (isDiscrete(r.text('signal'), type) && !anyRange) return []
  const transmitter = r.range('lrv', 'urv', 'unit', 'path.transmitter.range')
  const hasReceiver = (['receiverLrv', 'receiverUrv'] as const).some((c) => r.text(c) !== '')
  const isDisplay = /display|indicator/i.test(type)
  const receiverPath = isDisplay ? 'path.display.range' : 'path.controller.range'
  const receiver = hasReceiver ? r.range('receiverLrv', 'receiverUrv', 'receiverUnit', receiverPath) : null
  const transfer = r.text('transfer').toLowerCase()
  const squareRoot = /sq|root|√/.test(transfer)
  if (transfer !== '' && !squareRoot && !/^lin/.test(transfer))
    r.stop(
      'UNKNOWN_TRANSFER',
      'transfer',
      `Transfer: “${r.text('transfer')}” is neither linear nor square root.`,
    )
  if (!transmitter || (hasReceiver && !receiver)) return null
  const path = defaultPath({ transmitter, squareRoot, receiver })
  if (path[2]?.kind === 'transmitter' && path[2].shows)
    moveTyped(r, 'path.transmitter.range', 'path.transmitter.shows')
  if (!isDisplay) return path
  return [
    ...path.filter(
      (s) => s.kind === 'process' || s.kind === 'sensor' || s.kind === 'transmitter' || s.kind === 'output',
    ),
    { kind: 'display', range: receiver ?? transmitter, from: 'current', decimals: 1, transfer: LINEAR },
  ]
}

/** What was typed for one range stands for another one. */
function moveTyped(r: RowReader, from: string, to: string): void {
  for (const [path, typed] of Object.entries(r.asTyped))
    if (path.startsWith(`${from}.`)) {
      r.asTyped[to + path.slice(from.length)] = typed
      Reflect.deleteProperty(r.asTyped, path)
    }
}

/**
 * Reads one row of a loop list: the loop it describes, and what is wrong with it, cell by cell.
 * @param plant - what this plant has said about what a row may leave out
 */
export function readRow(cells: Cells, plant: PlantSays = NOTHING_SAID): ReadRow {
  const r = new RowReader(cells, plant)
  const tag = r.text('tag')
  if (tag === '') r.stop('NO_TAG', 'tag', 'This row has no tag. Without one it cannot be found again.')
  else {
    const checked = TagSchema.safeParse(tag)
    if (!checked.success) r.stop('BAD_TAG', 'tag', checked.error.issues[0]?.message ?? 'Not a tag.')
  }
  const path = pathOf(r)
  const told = toldByWords(r.text('type'), r.text('signal'))
  const typedTolerance = r.number('tolerance', 'tolerance.pctSpan')
  const floor = floorOf(r)
  const typedInterval = r.number('interval', 'interval_months')
  const lastCalibrated = dateOf(r)
  if (r.findings.some((f) => f.severity === 'stop') || !path)
    return { cells, document: null, findings: r.findings }
  // A switch has no span that a tolerance could be a part of.
  const tolerance =
    path.length > 0
      ? r.usual(typedTolerance, told.family, 'tolerance_pct', 'tolerance', '% of span')
      : typedTolerance
  const interval = r.usual(typedInterval, told.family, 'interval_months', 'interval', 'months')
  const document = LoopDocument.safeParse({
    version: 4,
    trips: [],
    toKeyIn: [],
    wiring: null,
    family: told.family,
    setUp: told.setUp,
    tag,
    service: r.text('service'),
    area: r.text('area'),
    ...(floor === null ? {} : { floor }),
    ...(r.text('assignee') === '' ? {} : { assignee: r.text('assignee') }),
    type: r.text('type'),
    signal: r.text('signal'),
    path,
    tolerance: tolerance === null ? null : { mode: 'max', pctSpan: tolerance, pctReading: 0, abs: 0 },
    interval_months: interval,
    lastCalibrated,
    remark: r.text('remark'),
    asTyped: r.asTyped,
    unconfirmed: [
      ...told.unconfirmed,
      ...(path.length > 0
        ? ASSUMED_FIELDS.filter((f) => path.some((s) => f.startsWith(`path.${s.kind}.`)))
        : []),
    ],
  })
  if (document.success) return { cells, document: document.data, findings: r.findings }
  for (const issue of document.error.issues)
    r.stop('NOT_POSSIBLE', columnOfField(issue.path.join('.')), issue.message)
  return { cells, document: null, findings: r.findings }
}

function columnOfField(path: string): ListColumn {
  if (path.startsWith('tolerance')) return 'tolerance'
  if (path.startsWith('interval')) return 'interval'
  if (path.startsWith('lastCal')) return 'lastCalibrated'
  return LIST_COLUMNS.find((c) => c.id === path)?.id ?? 'tag'
}
