import { convertRangeEnd, findUnit, type Dimension } from './units.ts'

/** Kinds of quantity that a loop's unit decides for its entries too. */
const BY_LOOP: readonly Dimension[] = ['pressure', 'temperature', 'volume_flow', 'mass_flow']

/** A pressure unit without its zero: an entry says by its name whether it is gauge or absolute. */
const plain = (unit: string): string => unit.replace(/\((g|a)\)$/, '')

/**
 * The unit in which an entry is shown on a loop: the loop's own where it is of the same kind, else that of the entry.
 * @param unit - of the entry
 * @param loopUnit - of the loop's range; null where it has none
 */
export function shownIn(unit: string, loopUnit: string | null): string {
  if (loopUnit === null) return unit
  const [own, other] = [findUnit(unit), findUnit(plain(loopUnit))]
  return own && other && own.dimension === other.dimension && BY_LOOP.includes(own.dimension)
    ? other.symbol
    : unit
}

/** A value of one unit in another of its kind; as it is where they are the same. */
export function valueIn(value: number, from: string, to: string): number {
  if (from === to) return value
  const told = convertRangeEnd(value, from, to)
  // A conversion leaves traces behind the last digit that anybody can type.
  return told.kind === 'value' ? Number(told.value.toPrecision(12)) : value
}
