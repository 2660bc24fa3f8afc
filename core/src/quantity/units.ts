import { refused, type Refused } from '../refused.ts'
import { UNIT_ROWS } from './units-table.ts'

export type Dimension = (typeof UNIT_ROWS)[number][1]

/** One unit of measurement. `si = value * factor + offset`. */
export interface Unit {
  readonly symbol: string
  readonly dimension: Dimension
  readonly factor: number
  readonly offset: number
  /** false where the factor rests on a measured density. */
  readonly exact: boolean
  readonly definition: string
}

/** Standard atmosphere, the default barometric pressure between gauge and absolute. */
export const STANDARD_BAROMETER_PA = 101_325

export const UNITS: readonly Unit[] = UNIT_ROWS.map(
  ([symbol, dimension, factor, offset, exact, definition]) => ({
    symbol,
    dimension,
    factor,
    offset,
    exact: exact === 'y',
    definition,
  }),
)

const bySymbol = new Map(UNITS.map((u) => [u.symbol, u]))

/**
 * Spellings that people write in loop lists and at the keyboard, already folded by `fold`.
 * A bare mmH2O or inH2O is absent on purpose: its reference temperature has to be asked for.
 */
const SPELLINGS: Readonly<Record<string, string>> = {
  barg: 'bar(g)',
  bara: 'bar(a)',
  mbarg: 'mbar(g)',
  mbara: 'mbar(a)',
  kpag: 'kPa(g)',
  kpaa: 'kPa(a)',
  mpag: 'MPa(g)',
  mpaa: 'MPa(a)',
  pag: 'Pa(g)',
  paa: 'Pa(a)',
  psig: 'psi(g)',
  psia: 'psi(a)',
  '°c': 'degC',
  c: 'degC',
  '°f': 'degF',
  f: 'degF',
  percent: '%',
  gpm: 'USgal/min',
  'us gpm': 'USgal/min',
  lpm: 'L/min',
  cmh: 'm3/h',
  scfm: 'scf/min',
  scfh: 'scf/h',
  cfm: 'ft3/min',
  tph: 't/h',
  ohms: 'ohm',
  ω: 'ohm',
  kω: 'kohm',
  litre: 'L',
  liter: 'L',
  tonne: 't',
  metre: 'm',
  meter: 'm',
  inch: 'in',
  feet: 'ft',
  us: 'uS',
  'us/cm': 'uS/cm',
}

const SUPERSCRIPTS: Readonly<Record<string, string>> = { '²': '2', '³': '3', '₂': '2', '₄': '4' }

function fold(text: string): string {
  return text
    .trim()
    .replace(/[²³₂₄]/g, (c) => SUPERSCRIPTS[c] ?? c)
    .replace(/[µμ]/g, 'u')
    .replace(/\u2126/g, 'ω')
    .replace(/\s+/g, ' ')
    .toLowerCase()
}

const byFolded = new Map<string, Unit | 'ambiguous'>()
const byPrinted = new Map<string, Unit>()

/**
 * Finds a unit by its symbol or by a common spelling ("bar g", "m³/h", "°C").
 * @returns the unit, or null when unknown or when only its case would decide (mPa.s is not MPa.s).
 */
export function findUnit(text: string): Unit | null {
  const exact = bySymbol.get(text.trim()) ?? byPrinted.get(text.trim())
  if (exact) return exact
  const folded = fold(text)
  const spelled =
    SPELLINGS[folded] ?? SPELLINGS[folded.replace(/[ ()]/g, '')] ?? SPELLINGS[folded.replace(/s$/, '')]
  if (spelled) return bySymbol.get(spelled) ?? null
  const zeroed = withZero(folded)
  if (zeroed) return zeroed
  const hit = byFolded.get(folded) ?? byFolded.get(folded.replace(/ /g, ''))
  return hit && hit !== 'ambiguous' ? hit : null
}

/** A pressure with its zero in words: "kPa abs", "bar gauge", "psi (absolute)". */
function withZero(folded: string): Unit | null {
  const told = /^(.+?)[ (.]*(abs|absolute|ga|gauge|[ (]a|[ (]g)\)?$/.exec(folded)
  const plain = told?.[1] === undefined ? null : (byFolded.get(told[1].trim()) ?? null)
  if (!told?.[2] || plain === null || plain === 'ambiguous') return null
  return bySymbol.get(`${plain.symbol}(${told[2].replace(/[ (]/g, '').startsWith('a') ? 'a' : 'g'})`) ?? null
}

/** The unit with exactly this symbol. @throws RangeError when there is none: a programming error. */
export function unitOf(symbol: string): Unit {
  const u = bySymbol.get(symbol)
  if (!u) throw new RangeError(`no unit ‘${symbol}’`)
  return u
}

export const isUnitSymbol = (symbol: string): boolean => bySymbol.has(symbol)

const PRESSURES: readonly Dimension[] = ['pressure', 'pressure_gauge', 'pressure_abs']
const isPressure = (d: Dimension) => PRESSURES.includes(d)

export type Conversion =
  | { readonly kind: 'value'; readonly value: number; readonly exact: boolean; readonly assumed?: string }
  | Refused

/**
 * Converts a value between two units of one dimension.
 *
 * Gauge and absolute pressure convert to each other with the barometric pressure. Plain pressure
 * (a difference or a span) does not convert to either: it has no zero point.
 * @param barometer_Pa - local barometric pressure in Pa(a); the standard atmosphere by default.
 */
export function convert(
  value: number,
  from: string,
  to: string,
  barometer_Pa: number = STANDARD_BAROMETER_PA,
): Conversion {
  const a = bySymbol.get(from)
  const b = bySymbol.get(to)
  if (!a || !b)
    return refused(
      `“${a ? to : from}” is not a unit this program knows. Pick one from the list.`,
      '',
      'UNKNOWN_UNIT',
    )
  if (a === b) return { kind: 'value', value, exact: true }
  const exact = a.exact && b.exact
  // (F + 459.67) * 5 / 9 lands on round values where factor and offset would not.
  const si = a.symbol === 'degF' ? ((value + 459.67) * 5) / 9 : value * a.factor + a.offset
  const back = (x: number) => (b.symbol === 'degF' ? (x * 9) / 5 - 459.67 : (x - b.offset) / b.factor)
  if (a.dimension === b.dimension) return { kind: 'value', value: back(si), exact }
  if (
    isPressure(a.dimension) &&
    isPressure(b.dimension) &&
    a.dimension !== 'pressure' &&
    b.dimension !== 'pressure'
  ) {
    const shifted = b.dimension === 'pressure_abs' ? si + barometer_Pa : si - barometer_Pa
    return { kind: 'value', value: back(shifted), exact, assumed: `barometric pressure ${barometer_Pa} Pa` }
  }
  return refused(
    `${from} measures ${say(a.dimension)} and ${to} measures ${say(b.dimension)}; one cannot become the other.`,
    '',
    'DIMENSION_MISMATCH',
  )
}

/**
 * Converts one end of a measuring range. As `convert`, but a plain pressure unit in a range is read as
 * the gauge or absolute unit on the other side: a controller scaled "0 to 600 kPa" behind a gauge
 * transmitter means kPa gauge.
 */
export function convertRangeEnd(value: number, from: string, to: string): Conversion {
  const a = bySymbol.get(from)
  const b = bySymbol.get(to)
  if (a && b && isPressure(a.dimension) && isPressure(b.dimension)) {
    if (a.dimension === 'pressure' || b.dimension === 'pressure')
      return { kind: 'value', value: (value * a.factor) / b.factor, exact: a.exact && b.exact }
  }
  return convert(value, from, to)
}

/** A difference (a span, an uncertainty) in another unit of its kind: zero points play no part. Null when it has none. */
export function differenceIn(value: number, from: string, to: string): number | null {
  const a = bySymbol.get(from)
  const b = bySymbol.get(to)
  if (!a || !b) return null
  const kind = (d: Dimension) => (isPressure(d) ? 'pressure' : d.replace(/_(difference|diff)$/, ''))
  return kind(a.dimension) === kind(b.dimension) ? (value * a.factor) / b.factor : null
}

const say = (d: Dimension) => d.replace(/_/g, ' ').replace('abs', '(absolute)').replace('gauge', '(gauge)')

/** The state that a unit is reckoned for: its reference temperature, and its pressure where that is not usual. */
const REFERENCES: Readonly<Record<string, string>> = {
  conv: 'conventional',
  '4C': '4 °C',
  '20C': '20 °C',
  '60F': '60 °F',
  '68F': '68 °F',
  '0C100kPa': '0 °C, 100 kPa',
  '14.73psi': '14.73 psi',
}

const PRINTED: Readonly<Record<string, string>> = {
  degC: '°C',
  degF: '°F',
  ddegC: '°C',
  ddegF: '°F',
  'kg/m3': 'kg/m³',
  ohm: 'Ω',
  kohm: 'kΩ',
  Mohm: 'MΩ',
  degR: '°R',
  dK: 'K (difference)',
  ddegR: '°R (difference)',
}

/** How a unit is written for people: m³/h for m3/h, °C for degC, bar g for bar(g). */
export function printedUnit(symbol: string): string {
  const [, head, at, tail] = /^([^@]+)@([^/]+)(.*)$/.exec(symbol) ?? []
  if (head !== undefined && at !== undefined)
    return `${printedUnit(`${head}${tail ?? ''}`)} (${REFERENCES[at] ?? at})`
  return (
    PRINTED[symbol] ??
    symbol
      .replace(/\(([ga])\)/, ' $1')
      .replace(/(?<=m|ft|in|cm)3/g, '³')
      .replace(/(?<=m|ft|in|cm)2(?!O)/g, '²')
      .replace(/^u(?=[SVAm])/, 'μ')
  )
}

for (const u of UNITS) {
  const key = fold(u.symbol)
  // mS and MS, mPa and MPa differ only by case: such spellings must be typed exactly.
  byFolded.set(key, byFolded.has(key) ? 'ambiguous' : u)
  // A temperature before its difference: both are written °C.
  if (!byPrinted.has(printedUnit(u.symbol))) byPrinted.set(printedUnit(u.symbol), u)
}
