import { askedIn, type WantedUnits } from './asked-in.ts'
import { sayNumber } from './round.ts'
import type { SaidIn } from './setting.ts'
import { convertRangeEnd, findUnit, printedUnit, type Dimension } from './units.ts'

/** Kinds of quantity that a loop's unit decides for its entries too. */
const BY_LOOP: readonly Dimension[] = ['pressure', 'temperature', 'volume_flow', 'mass_flow']

/** What a difference of temperatures is said in, by the unit of the temperatures. */
const DIFFERENCE: Readonly<Record<string, string>> = {
  degC: 'ddegC',
  degF: 'ddegF',
  degR: 'ddegR',
  K: 'ddegC',
}

/** A pressure unit without its zero: an entry says by its name whether it is gauge or absolute. */
const plain = (unit: string): string => unit.replace(/\((g|a)\)$/, '')

/**
 * The unit in which an entry or a result is shown on a loop: the loop's own where it is of the same kind, else what
 * the plant wants, else its own.
 * @param unit - of the entry, by its symbol
 * @param loopUnit - of the loop's range; null where it has none
 * @param plant - what the plant wants
 */
export function shownIn(unit: string, loopUnit: string | null, plant: WantedUnits = {}): string {
  const [own, other] = [findUnit(unit), loopUnit === null ? null : findUnit(plain(loopUnit))]
  if (own && other && own.dimension === other.dimension && BY_LOOP.includes(own.dimension))
    return other.symbol
  // A difference has no zero: 150 K of span are 270 in °F, not 302.
  if (own?.symbol === 'ddegC' && other?.dimension === 'temperature') return DIFFERENCE[other.symbol] ?? unit
  if (own?.symbol === 'ddegC') return DIFFERENCE[plant['degC'] ?? 'degC'] ?? unit
  const wanted = plant[unit]
  return wanted !== undefined && askedIn(unit).includes(wanted) ? wanted : unit
}

/** A value of one unit in another of its kind; as it is where they are the same. */
export function valueIn(value: number, from: string, to: string): number {
  if (from === to) return value
  const told = convertRangeEnd(value, from, to)
  // A conversion leaves traces behind the last digit that anybody can type.
  return told.kind === 'value' ? Number(told.value.toPrecision(12)) : value
}

/** How an entry's numbers are said in the unit in which it is shown; nothing where that is its own. */
export function saidIn(unit: string, shown: string): SaidIn | undefined {
  return unit === shown
    ? undefined
    : { unit: printedUnit(shown), of: (v) => Number(sayNumber(valueIn(v, unit, shown), 6)) }
}
