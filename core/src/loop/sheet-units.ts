import type { SheetLine } from '../family/family.ts'
import { parseNumber } from '../quantity/parse-number.ts'
import { sayNumber } from '../quantity/round.ts'
import { convertRangeEnd, findUnit, printedUnit, unitOf } from '../quantity/units.ts'

/** A unit of the sheet, and those in which a device may ask for it instead. */
export interface UnitChoice {
  readonly unit: string
  readonly others: readonly string[]
}

/** Units that devices ask in, of one kind each. */
const ASKED_IN: readonly (readonly string[])[] = [
  ['mm', 'cm', 'm', 'in', 'ft'],
  ['kPa', 'bar', 'mbar', 'MPa', 'psi', 'mmH2O@4C', 'inH2O@4C', 'inH2O@60F', 'inH2O@68F'],
  ['degC', 'degF'],
  ['m3/h', 'L/min', 'L/h', 'L/s', 'USgal/min'],
  ['kg/h', 'kg/min', 't/h', 'lb/h', 'lb/min'],
  ['m/s', 'ft/s'],
  ['kg/m3', 'g/cm3', 'lb/ft3'],
]
const kindOf = (unit: string) => ASKED_IN.find((k) => k.includes(unit))

/** The number and the unit of a line; null where it is more than that, or a constant that stays as it is. */
function quantityOf(line: SheetLine): { value: number; unit: string } | null {
  if (line.exact) return null
  const n = parseNumber(line.value)
  if (n.kind !== 'number') return null
  const unit = findUnit(n.rest.trim())?.symbol
  return unit !== undefined && kindOf(unit) ? { value: n.value, unit } : null
}

/** The units of a sheet that a device may ask for in another one. */
export function unitChoices(lines: readonly SheetLine[]): UnitChoice[] {
  const units = new Set(lines.flatMap((l) => quantityOf(l)?.unit ?? []))
  return [...units].map((unit) => ({ unit, others: (kindOf(unit) ?? []).filter((u) => u !== unit) }))
}

/** Digits in front of which nothing is lost: what a person typed in the other unit comes back. */
const DIGITS = 6
/**
 * The lines with their numbers in the units that the device asks for.
 * @param chosen - by the unit of the sheet, the unit to say it in
 */
export const inUnits = (
  lines: readonly SheetLine[],
  chosen: Readonly<Record<string, string>>,
): readonly SheetLine[] =>
  lines.map((line) => {
    const q = quantityOf(line)
    const to = q ? chosen[q.unit] : undefined
    if (!q || to === undefined || to === q.unit || !kindOf(q.unit)?.includes(to)) return line
    const told = convertRangeEnd(q.value, q.unit, unitOf(to).symbol)
    return told.kind === 'value'
      ? { ...line, value: `${sayNumber(told.value, DIGITS)} ${printedUnit(to)}` }
      : line
  })
