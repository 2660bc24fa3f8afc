import { parseNumber } from '../quantity/parse-number.ts'
import { sayNumber } from '../quantity/round.ts'
import { convertRangeEnd, differenceIn, findUnit, printedUnit } from '../quantity/units.ts'

/** Parts of an accuracy, added: of the reading, of the range's span, and a plain amount in the range's unit. */
export interface Amount {
  readonly pctReading: number
  readonly pctRange: number
  readonly absolute: number
}
/** One thing that an instrument can measure or give, and how well. */
export interface EquipmentFunction {
  readonly low: number
  readonly high: number
  readonly unit: string
  /** Expanded, k = 2, from the certificate; null when it states none for this range. */
  readonly uncertainty: Amount | null
  /** How far it may have moved since the certificate. */
  readonly drift: Amount | null
  /** Smallest step it shows; 0 when not told. */
  readonly resolution: number
}
/** What stands on an instrument and its certificate, in words. */
export interface EquipmentWords {
  readonly range: string
  readonly uncertainty: string
  readonly drift: string
  readonly resolution: string
}
export type ReadEquipment =
  | { readonly kind: 'read'; readonly functions: readonly EquipmentFunction[] }
  | { readonly kind: 'refused'; readonly field: keyof EquipmentWords; readonly says: string }

/** "0 to 400 mA, 0 to 300 V" by semicolons or commas before a space; what is in brackets is a remark. */
const parts = (text: string): string[] =>
  text
    .replace(/\([^)]*\d[^)]*\)/g, '')
    .split(/;|,\s/)
    .map((t) => t.trim())
    .filter((t) => t !== '')

function readRange(text: string): Pick<EquipmentFunction, 'low' | 'high' | 'unit'> | string {
  const m = /^(.+?)\s*(?:to|\.\.|…|–)\s*(.+)$/.exec(text)
  const low = parseNumber(m?.[1] ?? '')
  const high = parseNumber(m?.[2] ?? '')
  if (low.kind !== 'number' || high.kind !== 'number')
    return `“${text}” is not a range. Write it as 0 to 24 mA; several are parted by semicolons.`
  const unit = findUnit(high.rest)
  if (!unit) return `“${high.rest}” is not a unit this program knows. Write the range as 0 to 24 mA.`
  if (low.rest !== '' && findUnit(low.rest) !== unit) return `“${text}” has two units. Write it in one.`
  if (high.value <= low.value) return `“${text}” ends before it begins.`
  return { low: low.value, high: high.value, unit: unit.symbol }
}

interface Stated {
  readonly pctReading: number
  readonly pctRange: number
  readonly absolute: { readonly value: number; readonly unit: string } | null
}
/** "0.02 % of reading + 0.002 mA". */
function readStated(text: string): Stated | string {
  let out: Stated = { pctReading: 0, pctRange: 0, absolute: null }
  for (const term of text.split('+')) {
    const n = parseNumber(term.trim().replace(/^±\s*/, ''))
    if (n.kind !== 'number' || n.value < 0)
      return `“${text}” cannot be read. Write it as 0.012 bar, or 0.02 % of reading + 0.002 mA.`
    const rest = n.rest.toLowerCase()
    if (/^% *(of )?(the )?(reading|rdg|value)$/.test(rest))
      out = { ...out, pctReading: out.pctReading + n.value }
    else if (/^% *(of )?(the )?(range|span|full scale|fs)$/.test(rest))
      out = { ...out, pctRange: out.pctRange + n.value }
    else {
      const unit = findUnit(n.rest)
      if (!unit || rest === '' || rest === '%')
        return `“${term.trim()}” needs a unit, “% of reading” or “% of range”.`
      out = { ...out, absolute: { value: (out.absolute?.value ?? 0) + n.value, unit: unit.symbol } }
    }
  }
  return out
}
const readAll = <T>(text: string, read: (part: string) => T | string): T[] | string => {
  const all = parts(text).map(read)
  const wrong = all.find((x) => typeof x === 'string')
  return typeof wrong === 'string' ? wrong : (all as T[])
}

/** What is stated for a range: the one in its dimension; where only percents stand, they are for every range. */
function statedFor(unit: string, stated: readonly Stated[]): Amount | null {
  for (const s of stated) {
    const absolute = s.absolute ? differenceIn(s.absolute.value, s.absolute.unit, unit) : 0
    if (absolute !== null) return { pctReading: s.pctReading, pctRange: s.pctRange, absolute }
  }
  return null
}

/** Reads what an instrument and its certificate say. Empty words are legal and say nothing. */
export function readEquipment(words: EquipmentWords): ReadEquipment {
  const read = {
    range: readAll(words.range, readRange),
    uncertainty: readAll(words.uncertainty, readStated),
    drift: readAll(words.drift, readStated),
    resolution: readAll(words.resolution, readStated),
  }
  for (const field of ['range', 'uncertainty', 'drift', 'resolution'] as const) {
    const r = read[field]
    if (typeof r === 'string') return { kind: 'refused', field, says: r }
  }
  const { range, uncertainty, drift, resolution } = read as {
    range: Pick<EquipmentFunction, 'low' | 'high' | 'unit'>[]
    uncertainty: Stated[]
    drift: Stated[]
    resolution: Stated[]
  }
  for (const s of [...uncertainty, ...drift, ...resolution])
    if (s.absolute && !range.some((r) => differenceIn(1, s.absolute?.unit ?? '', r.unit) !== null))
      return {
        kind: 'refused',
        field: uncertainty.includes(s) ? 'uncertainty' : drift.includes(s) ? 'drift' : 'resolution',
        says: `No range is in ${printedUnit(s.absolute.unit)} or a unit like it.`,
      }
  return {
    kind: 'read',
    functions: range.map((r) => ({
      ...r,
      uncertainty: statedFor(r.unit, uncertainty),
      drift: statedFor(r.unit, drift),
      resolution: statedFor(r.unit, resolution)?.absolute ?? 0,
    })),
  }
}

/** An amount at a value, in the function's unit. */
export const amountAt = (a: Amount, f: EquipmentFunction, value: number): number =>
  (a.pctReading * Math.abs(value)) / 100 + (a.pctRange * (f.high - f.low)) / 100 + a.absolute

export type Suits =
  | { readonly kind: 'suits'; readonly function: EquipmentFunction }
  /** It measures this kind of thing, but not so much of it. */
  | { readonly kind: 'outside'; readonly says: string }
  | { readonly kind: 'other' }

/** The function that takes all values from `low` to `high` in a unit, the best one where there are several. */
export function suits(
  functions: readonly EquipmentFunction[],
  name: string,
  low: number,
  high: number,
  unit: string,
): Suits {
  const able = functions.flatMap((f) => {
    const [a, b] = [convertRangeEnd(low, unit, f.unit), convertRangeEnd(high, unit, f.unit)]
    return a.kind === 'value' && b.kind === 'value'
      ? [{ f, a: Math.min(a.value, b.value), b: Math.max(a.value, b.value) }]
      : []
  })
  const first = able[0]
  if (!first) return { kind: 'other' }
  // A hair beyond the end is the rounding of a conversion, not another range.
  const slack = (f: EquipmentFunction) => 1e-6 * (f.high - f.low)
  const enough = able
    .filter(({ f, a, b }) => a >= f.low - slack(f) && b <= f.high + slack(f))
    .sort((x, y) => x.f.high - x.f.low - (y.f.high - y.f.low))[0]
  if (enough) return { kind: 'suits', function: enough.f }
  const { f, a, b } = first
  return {
    kind: 'outside',
    says: `${name} goes from ${sayNumber(f.low)} to ${sayNumber(f.high)} ${printedUnit(f.unit)}; ${sayNumber(a, 4)} to ${sayNumber(b, 4)} is needed.`,
  }
}

/** Standard uncertainty of an instrument at a value, in the function's unit: certificate, drift and step together. */
export function equipmentU(f: EquipmentFunction, value: number): number {
  const certificate = f.uncertainty ? amountAt(f.uncertainty, f, value) / 2 : 0
  const drift = f.drift ? amountAt(f.drift, f, value) / Math.sqrt(3) : 0
  return Math.hypot(certificate, drift, f.resolution / Math.sqrt(12))
}
