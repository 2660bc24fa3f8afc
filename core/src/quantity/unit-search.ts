import { printedUnit, UNITS, type Dimension, type Unit } from './units.ts'
import { waterColumn, type Water } from './water-column.ts'

/** What is on most nameplates, in the order in which it is offered. */
const COMMON: readonly string[] = [
  'bar(g)',
  'kPa(g)',
  'psi(g)',
  'mbar(g)',
  'MPa(g)',
  'kgf/cm2(g)',
  'bar(a)',
  'kPa(a)',
  'psi(a)',
  'mbar',
  'kPa',
  'bar',
  'psi',
  'Pa',
  'mmH2O@4C',
  'inH2O@4C',
  'mH2O@4C',
  'kgf/cm2',
  'mmHg',
  'inHg',
  'm3/h',
  'L/s',
  'L/min',
  'L/h',
  'm3/d',
  'ML/d',
  'USgal/min',
  'ft3/min',
  'kg/h',
  't/h',
  'kg/min',
  'lb/h',
  'Nm3/h',
  'Sm3/h',
  'scf/min',
  'scf/h',
  'm',
  'mm',
  'cm',
  'in',
  'ft',
  'degC',
  'degF',
  'K',
  '%',
  'pH',
  'uS/cm',
  'mS/cm',
  'kg/m3',
  'g/cm3',
  'lb/ft3',
  'mA',
  'V',
  'mV',
  'ohm',
  'Hz',
  '1/min',
  'm/s',
  'ft/s',
  'm3',
  'L',
  'USgal',
  'kg',
  't',
]
/** How people write them besides the symbol: at the keyboard, on old drawings, in other countries. */
const WRITTEN: Readonly<Record<string, string>> = {
  'm3/h': 'cmh cbm/h cubic metres per hour',
  'm3/d': 'cubic metres per day',
  'L/s': 'lps litres per second',
  'L/min': 'lpm litres per minute',
  'L/h': 'lph litres per hour',
  'ML/d': 'mld megalitres per day',
  'USgal/min': 'gpm usgpm gallons per minute',
  'USgal/d': 'gpd gallons per day',
  'MUSgal/d': 'mgd million gallons per day',
  'impgal/min': 'igpm imperial gallons',
  'ft3/min': 'cfm cubic feet per minute',
  'ft3/h': 'cfh cubic feet per hour',
  'scf/min': 'scfm standard cubic feet',
  'scf/h': 'scfh standard cubic feet',
  'Nm3/h': 'normal cubic metres nm3h',
  'Sm3/h': 'standard cubic metres',
  't/h': 'tph tonnes per hour',
  'kg/h': 'kilograms per hour',
  'lb/h': 'pph pounds per hour',
  'bar(g)': 'barg bar gauge overpressure',
  'bar(a)': 'bara bar absolute',
  'mbar(g)': 'mbarg',
  'mbar(a)': 'mbara',
  'kPa(g)': 'kpag gauge',
  'kPa(a)': 'kpaa absolute',
  'MPa(g)': 'mpag gauge',
  'psi(g)': 'psig pounds per square inch gauge lb/in2',
  'psi(a)': 'psia pounds per square inch absolute',
  psi: 'lb/in2 pounds per square inch',
  'kgf/cm2': 'kg/cm2 at technical atmosphere',
  'kgf/cm2(g)': 'kg/cm2g kg/cm2 gauge atu',
  'kgf/cm2(a)': 'kg/cm2a kg/cm2 absolute ata',
  mmHg: 'millimetres of mercury torr',
  inHg: 'inches of mercury',
  degC: 'celsius c',
  degF: 'fahrenheit f',
  ohm: 'ohms resistance',
  '1/min': 'rpm revolutions per minute',
  'uS/cm': 'microsiemens micromho umho',
  '%': 'percent',
  'm/s': 'metres per second',
  'ft/s': 'fps feet per second',
  pH: 'acidity',
}
const WATER_WORDS: Readonly<Record<string, string>> = {
  mm: 'mmwc mmws mmwg millimetres of water',
  cm: 'cmwc cmws centimetres of water',
  m: 'mwc mws metres of water head',
  in: 'inwc inwg iwc iwg inches of water',
  ft: 'ftwc feet of water head',
}

const folded = (text: string) =>
  text
    .toLowerCase()
    .replace(/²/g, '2')
    .replace(/³/g, '3')
    .replace(/₂/g, '2')
    .replace(/[µμ]/g, 'u')
    .replace(/[°()\s.@·]/g, '')

const writings = new Map(
  UNITS.map((u): [string, readonly string[]] => {
    const water = waterColumn(u.symbol)?.length
    const words = `${WRITTEN[u.symbol] ?? ''} ${water === undefined ? '' : WATER_WORDS[water]}`
    const all = [u.symbol, printedUnit(u.symbol), words, ...words.split(' ')]
    return [u.symbol, [...new Set(all.map(folded).filter(Boolean))]]
  }),
)
const rank = (u: Unit) => {
  const at = COMMON.indexOf(u.symbol)
  return at < 0 ? COMMON.length : at
}
const inOrder = [...UNITS].sort((a, b) => rank(a) - rank(b))
/** The same with the plant's own water columns where the usual ones stand. */
const ofWater = (water: Water): readonly Unit[] =>
  [...UNITS]
    .filter((u) => (waterColumn(u.symbol)?.water ?? water) === water && !u.symbol.endsWith('@68F'))
    .map((u) => {
      const column = waterColumn(u.symbol)
      const usual = column && inOrder.find((x) => x.symbol === `${column.length}H2O@4C`)
      return { u, at: rank(usual ?? u) }
    })
    .sort((a, b) => a.at - b.at)
    .map((x) => x.u)

const isPressure = (d: Dimension) => d.startsWith('pressure')
/** Gauge, absolute and difference are one choice: which of them it is is often what was wrong. */
const alike = (a: Dimension, b: Dimension) => a === b || (isPressure(a) && isPressure(b))

/**
 * Units that answer to what was typed, the common ones first.
 * @param dimension - only units of this kind, unless nothing of the kind is written like that; null: of every kind
 * @param water - how this plant counts its water columns: others only where they are typed with their temperature;
 * null: it has not said it
 */
export function unitsLike(
  query: string,
  dimension: Dimension | null,
  water: Water | null = null,
): readonly Unit[] {
  const asked = folded(query)
  const orders = water === null ? [inOrder] : [ofWater(water), inOrder]
  for (const order of orders) {
    const ofKind = dimension === null ? order : order.filter((u) => alike(u.dimension, dimension))
    const found = asked === '' ? ofKind : match(ofKind, asked)
    if (found.length > 0) return found
  }
  return match(inOrder, asked)
}
function match(units: readonly Unit[], asked: string): Unit[] {
  const how = (u: Unit) => {
    const all = writings.get(u.symbol) ?? []
    return all.includes(asked)
      ? 0
      : all.some((w) => w.startsWith(asked))
        ? 1
        : all.some((w) => w.includes(asked))
          ? 2
          : 3
  }
  return units
    .map((u) => ({ u, how: how(u) }))
    .filter((x) => x.how < 3)
    .sort((a, b) => a.how - b.how)
    .map((x) => x.u)
}
