import { parseQuantity } from '../quantity/parse-quantity.ts'

/**
 * What a device holds line by line, by the name of the line on its settings sheet. Text, as it was keyed in: `31.840`
 * is not `31.84`, and `196 in` is not `4978 mm`.
 */
export type Keyed = Readonly<Record<string, string>>

/** Lines that a lost memory has taken along, and those among them without which it does not measure at all. */
export interface LostMemory {
  readonly lines: readonly string[]
  readonly vital: readonly string[]
}

/** A line of a sheet as far as it can be keyed in; `act`: done with the device, not kept in it. */
interface Keyable {
  readonly says: string
  readonly value: string
  readonly act?: true
}
/** What is written on a sheet where nobody knows: nothing that could be keyed in. */
const UNKNOWN = /^(not entered|not known|nothing)$/i
/** The lines of a sheet as they are keyed in. */
export const keyedFrom = (sheet: readonly Keyable[]): Keyed =>
  Object.fromEntries(
    sheet.filter((l) => !l.act && !UNKNOWN.test(l.value.trim())).map((l) => [l.says, l.value]),
  )

/** What is left of what was keyed in once the memory is lost. */
export const afterLoss = (keyed: Keyed, lost: LostMemory | null): Keyed =>
  lost === null ? keyed : Object.fromEntries(Object.entries(keyed).filter(([k]) => !lost.lines.includes(k)))

/** Lines that are missing before it can measure. */
export const missingLines = (keyed: Keyed, lost: LostMemory | null): readonly string[] =>
  (lost?.vital ?? []).filter((line) => (keyed[line] ?? '').trim() === '')

/** A quantity of a line in a unit, whatever unit it was keyed in with; `NaN` without one. */
export function keyedIn(keyed: Keyed, line: string, unit: string): number {
  const text = (keyed[line] ?? '').trim().replace(/ (actual|gauge|absolute)$/, '')
  const read = parseQuantity(text, unit)
  return read.kind === 'value' ? read.value : NaN
}

/** What a sheet rounds away is no other entry: shares nearer to 1 than this are 1. */
const ROUNDED = 2e-4
/** How many times as large what was keyed in is as what belongs there; 1 where nothing was. */
export function keyedShare(has: number, belongs: number): number {
  const share = has / belongs
  return !Number.isFinite(share) || Math.abs(share - 1) < ROUNDED ? 1 : share
}

/** The number at the beginning of a line, `NaN` without one. */
export const keyedNumber = (keyed: Keyed, line: string): number =>
  Number.parseFloat((keyed[line] ?? '').replace(',', '.'))
