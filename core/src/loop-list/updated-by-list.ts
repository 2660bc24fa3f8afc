import type { LoopDocument } from '../loop/document.ts'
import { stageOf, type Stage } from '../signal/stage.ts'
import type { ListColumn } from './columns.ts'
import type { Cells } from './read-row.ts'

const ofSetUp = (d: LoopDocument) => d.unconfirmed.filter((f) => f.startsWith('setUp.'))
const others = (d: LoopDocument) => d.unconfirmed.filter((f) => !f.startsWith('setUp.'))

/**
 * A loop after its row was imported again: what the row tells is taken, and everything that no list tells stays,
 * relays, a transfer function's table, a cutoff, the wiring. A column that the file does not have says nothing,
 * and neither does an empty floor or assignee.
 * @param row - what the row's cells alone would make of it
 */
export function updatedByList(here: LoopDocument, row: LoopDocument, cells: Cells): LoopDocument {
  const has = (column: ListColumn) => cells[column] !== undefined
  const taken = {
    ...here,
    tag: row.tag,
    service: has('service') ? row.service : here.service,
    area: has('area') ? row.area : here.area,
    type: has('type') ? row.type : here.type,
    signal: has('signal') ? row.signal : here.signal,
    tolerance: has('tolerance') ? toleranceOf(here, row) : here.tolerance,
    interval_months: has('interval') ? row.interval_months : here.interval_months,
    lastCalibrated: has('lastCalibrated') ? row.lastCalibrated : here.lastCalibrated,
    remark: has('remark') ? row.remark : here.remark,
    ...(row.floor === undefined ? {} : { floor: row.floor }),
    ...(row.assignee === undefined ? {} : { assignee: row.assignee }),
  }
  // What kind of meter it is was told once; new words in a list do not make another one of it.
  const told = here.family === null ? row : here
  const meter = { family: told.family, setUp: told.setUp }
  if (here.path.length === 0 || row.path.length === 0)
    return {
      ...{ ...taken, ...meter, path: row.path, asTyped: row.asTyped },
      unconfirmed: [...others(row), ...ofSetUp(told)],
    }
  return {
    ...{ ...taken, ...meter, path: here.path.map((s) => stageBy(s, row.path, cells)) },
    asTyped: { ...here.asTyped, ...typedFor(here, row) },
    unconfirmed: [...others(here), ...ofSetUp(told)],
  }
}

/** A list tells the part of span; the other parts stay. */
const toleranceOf = (here: LoopDocument, row: LoopDocument): LoopDocument['tolerance'] =>
  here.tolerance && row.tolerance ? { ...here.tolerance, pctSpan: row.tolerance.pctSpan } : row.tolerance

/** The range that a list tells of a transmitter: what it shows, where that is another than it measures. */
const toldRange = (path: readonly Stage[]) => {
  const t = stageOf(path, 'transmitter')
  return t?.shows ?? t?.range
}

function stageBy(s: Stage, row: readonly Stage[], cells: Cells): Stage {
  if (s.kind === 'transmitter') {
    const range = toldRange(row) ?? s.range
    return s.shows ? { ...s, shows: range } : { ...s, range }
  }
  const tellsReceiver = (cells.receiverLrv ?? '') !== '' || (cells.receiverUrv ?? '') !== ''
  if (!tellsReceiver || (s.kind !== 'controller' && s.kind !== 'display')) return s
  const receiver = stageOf(row, 'controller') ?? stageOf(row, 'display')
  return receiver ? { ...s, range: receiver.range } : s
}

/** What was typed in the row, under the range that it stands for here. */
function typedFor(here: LoopDocument, row: LoopDocument): LoopDocument['asTyped'] {
  const place = stageOf(here.path, 'transmitter')?.shows ? 'shows' : 'range'
  return Object.fromEntries(
    Object.entries(row.asTyped).map(([path, typed]) => [
      path.replace(/^path\.transmitter\.(range|shows)\./, `path.transmitter.${place}.`),
      typed,
    ]),
  )
}
