import type { SheetLine } from '../family/family.ts'
import { askedIn, type WantedUnits } from '../quantity/asked-in.ts'
import { parseNumber } from '../quantity/parse-number.ts'
import { sayNumber } from '../quantity/round.ts'
import { shownIn, valueIn } from '../quantity/shown-in.ts'
import { convertRangeEnd, findUnit, printedUnit, unitOf } from '../quantity/units.ts'

/** A unit of the sheet, and those in which a device may ask for it instead. */
export interface UnitChoice {
  readonly unit: string
  readonly others: readonly string[]
}

/** What may stand behind a unit without being another number. */
const QUALIFIED = /^(.+?)( actual| gauge| absolute)?$/

/** The number and the unit of a line; null where it is more than that, or a constant that stays as it is. */
export function quantityOf(line: SheetLine): { value: number; unit: string; behind: string } | null {
  if (line.exact) return null
  const n = parseNumber(line.value)
  if (n.kind !== 'number') return null
  const [, said = '', behind = ''] = QUALIFIED.exec(n.rest.trim()) ?? []
  const unit = findUnit(said)?.symbol
  return unit !== undefined && askedIn(unit).length > 0 ? { value: n.value, unit, behind } : null
}

/** Units of entries that follow the loop's own. */
const BY_LOOP = ['kPa', 'degC', 'm3/h', 'kg/h'] as const
/**
 * The units that a sheet is said in: those of the loop, and over them those in which somebody said that the device
 * asks.
 */
export function sheetUnitsOf(loopUnit: string | null, chosen: WantedUnits): WantedUnits {
  const byLoop = BY_LOOP.flatMap((unit) => {
    const to = shownIn(unit, loopUnit)
    return to !== unit && askedIn(unit).includes(to) ? [[unit, to] as const] : []
  })
  return { ...Object.fromEntries(byLoop), ...chosen }
}

/** The units of a sheet that a device may ask for in another one. */
export function unitChoices(lines: readonly SheetLine[]): UnitChoice[] {
  const units = new Set(lines.flatMap((l) => quantityOf(l)?.unit ?? []))
  return [...units].map((unit) => ({ unit, others: askedIn(unit).filter((u) => u !== unit) }))
}

const saidAs = (unit: string, chosen: WantedUnits): string => {
  const to = chosen[unit]
  return to !== undefined && askedIn(unit).includes(to) ? to : unit
}

/** Digits in front of which nothing is lost: what a person typed in the other unit comes back. */
const DIGITS = 6
/** A number as somebody entered it, before a sheet rounded it. */
export interface Entered {
  readonly value: number
  readonly unit: string
}
/** Half of the last place of a number as it is printed. */
export const halfPlace = (text: string): number => 0.5 * 10 ** -(/[.](\d+)/.exec(text)?.[1]?.length ?? 0)

/** The number that a line was rounded from, where an entry is it: 121.11 °C printed are 250 °F entered. */
function exactOf(line: SheetLine, q: Entered, entered: readonly Entered[]): number {
  for (const e of entered) {
    const told = valueIn(e.value, e.unit, q.unit)
    if (isOfKind(e.unit, q.unit) && Math.abs(told - q.value) <= halfPlace(line.value) * 1.01) return told
  }
  return q.value
}
const isOfKind = (a: string, b: string): boolean => a === b || askedIn(a).includes(b)

/**
 * The lines with their numbers in the units that the device asks for.
 * @param chosen - by the unit of the sheet, the unit to say it in
 * @param entered - numbers that lines may have been rounded from
 */
export const inUnits = (
  lines: readonly SheetLine[],
  chosen: WantedUnits,
  entered: readonly Entered[] = [],
): readonly SheetLine[] =>
  lines.map((line) => {
    if (line.units)
      return { ...line, value: line.units.map((u) => printedUnit(saidAs(u, chosen))).join(', ') }
    const q = quantityOf(line)
    const to = q ? chosen[q.unit] : undefined
    if (!q || to === undefined || to === q.unit || !askedIn(q.unit).includes(to)) return line
    const told = convertRangeEnd(exactOf(line, q, entered), q.unit, unitOf(to).symbol)
    return told.kind === 'value'
      ? { ...line, value: `${sayNumber(told.value, DIGITS)} ${printedUnit(to)}${q.behind}` }
      : line
  })
