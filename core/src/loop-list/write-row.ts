import { fieldAt } from '../loop/field-path.ts'
import type { LoopDocument } from '../loop/document.ts'
import { parseNumber } from '../quantity/parse-number.ts'
import { findUnit, printedUnit } from '../quantity/units.ts'
import { stageOf } from '../signal/stage.ts'
import { LIST_COLUMNS, type ListColumn } from './columns.ts'

/** A number as it was typed while it still is that number; else with a decimal comma, as the lists have it. */
function numberText(doc: LoopDocument, path: string): string {
  const value = fieldAt(doc, path)
  if (typeof value !== 'number') return ''
  const typed = doc.asTyped[path]
  if (typed !== undefined) {
    const parsed = parseNumber(typed)
    if (parsed.kind === 'number' && parsed.value === value) return typed
  }
  return String(value).replace('.', ',')
}

function unitText(doc: LoopDocument, path: string): string {
  const unit = fieldAt(doc, path)
  if (typeof unit !== 'string') return ''
  const typed = doc.asTyped[path]
  return typed !== undefined && findUnit(typed.replace(/\s+distance$/i, ''))?.symbol === unit
    ? typed
    : printedUnit(unit)
}

/** One row of the exported list, in the order of `LIST_COLUMNS`. */
export function writeRow(doc: LoopDocument): string[] {
  const transmitter = stageOf(doc.path, 'transmitter')
  const receiver = stageOf(doc.path, 'controller') ? 'path.controller.range' : 'path.display.range'
  const own = transmitter?.shows ? 'path.transmitter.shows' : 'path.transmitter.range'
  const cells: Record<ListColumn, string> = {
    tag: doc.tag,
    service: doc.service,
    area: doc.area,
    floor: doc.floor === undefined ? '' : String(doc.floor),
    type: doc.type,
    lrv: numberText(doc, `${own}.low`),
    urv: numberText(doc, `${own}.high`),
    unit: unitText(doc, `${own}.unit`),
    transfer: transmitter
      ? transmitter.transfer.kind === 'sqrt'
        ? 'square root'
        : transmitter.transfer.kind
      : '',
    signal: doc.signal,
    receiverLrv: numberText(doc, `${receiver}.low`),
    receiverUrv: numberText(doc, `${receiver}.high`),
    receiverUnit: unitText(doc, `${receiver}.unit`),
    tolerance: numberText(doc, 'tolerance.pctSpan'),
    interval: numberText(doc, 'interval_months'),
    lastCalibrated: doc.lastCalibrated ?? '',
    remark: doc.remark,
    assignee: doc.assignee ?? '',
  }
  return LIST_COLUMNS.map((c) => cells[c.id])
}
