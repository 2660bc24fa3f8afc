import { sayNumber } from '../quantity/round.ts'
import { convertRangeEnd, differenceIn, printedUnit } from '../quantity/units.ts'
import { equipmentU, suits, type EquipmentFunction } from '../verify/equipment-spec.ts'
import type { Need } from './step.ts'

/** An instrument of the register, as far as a procedure asks. */
export interface NamedInstrument {
  readonly name: string
  readonly functions: readonly EquipmentFunction[]
}

/** What is allowed is at least so many times the instrument's expanded uncertainty; typical. */
export const LEAST_RATIO = 3

/** What one instrument lacks for a need, or null where it covers it. */
function lacks(need: Need, { name, functions }: NamedInstrument): string | null {
  const told = suits(functions, name, need.low, need.high, need.unit)
  if (told.kind === 'other') return ''
  if (told.kind === 'outside') return told.says
  const f = told.function
  const [low, high] = [
    convertRangeEnd(need.low, need.unit, f.unit),
    convertRangeEnd(need.high, need.unit, f.unit),
  ]
  const allowed = differenceIn(need.allowed, need.unit, f.unit)
  if (low.kind !== 'value' || high.kind !== 'value' || allowed === null) return ''
  const U = 2 * Math.max(equipmentU(f, low.value), equipmentU(f, high.value))
  if (!f.uncertainty || U === 0) return `${name} covers it, but its certificate states no uncertainty.`
  const ratio = allowed / U
  return ratio >= LEAST_RATIO
    ? null
    : `${name} is known to ±${sayNumber(U, 2)} ${printedUnit(f.unit)}; allowed is ±${sayNumber(allowed, 2)}, only ${sayNumber(ratio, 2)} times as much.`
}

/** What a procedure needs and none of the instruments covers, in sentences; none where all is there. */
export const missingInstruments = (
  needs: readonly Need[],
  instruments: readonly NamedInstrument[],
): string[] =>
  needs.flatMap((need) => {
    const told = instruments.map((i) => lacks(need, i))
    if (told.includes(null)) return []
    const why = told.filter((s) => s !== '' && s !== null).join(' ')
    return [
      `Missing: ${need.what}, ${sayNumber(need.low, 5)} to ${sayNumber(need.high, 5)} ${printedUnit(need.unit)}.${why === '' ? '' : ` ${why}`}`,
    ]
  })
