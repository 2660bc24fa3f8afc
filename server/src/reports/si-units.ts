import { convertRangeEnd, unitOf } from '@calm/core/quantity/units'

/** Units as the open form of calibration certificates writes them, by our symbols. @see D-SI, BIPM SI brochure */
const WRITTEN: Readonly<Record<string, string>> = {
  Pa: '\\pascal',
  kPa: '\\kilo\\pascal',
  MPa: '\\mega\\pascal',
  bar: '\\bar',
  mbar: '\\milli\\bar',
  degC: '\\degreecelsius',
  K: '\\kelvin',
  m: '\\metre',
  mm: '\\milli\\metre',
  cm: '\\centi\\metre',
  'm3/h': '\\metre\\tothe{3}\\per\\hour',
  'm3/s': '\\metre\\tothe{3}\\per\\second',
  'L/min': '\\litre\\per\\minute',
  'L/h': '\\litre\\per\\hour',
  'L/s': '\\litre\\per\\second',
  'kg/h': '\\kilogram\\per\\hour',
  'kg/s': '\\kilogram\\per\\second',
  't/h': '\\tonne\\per\\hour',
  m3: '\\metre\\tothe{3}',
  L: '\\litre',
  kg: '\\kilogram',
  t: '\\tonne',
  mA: '\\milli\\ampere',
  V: '\\volt',
  mV: '\\milli\\volt',
  ohm: '\\ohm',
  Hz: '\\hertz',
  s: '\\second',
  '%': '\\percent',
  '1': '\\one',
}
/** What a unit that is not of the SI is turned into, by its dimension. */
const INSTEAD: Readonly<Record<string, string>> = {
  pressure: 'Pa',
  pressure_diff: 'Pa',
  temperature: 'degC',
  length: 'm',
  volume_flow: 'm3/h',
  mass_flow: 'kg/h',
  volume: 'm3',
  mass: 'kg',
}

export interface Written {
  readonly unit: string
  readonly value: (x: number) => number
}
/** How values of a unit are written there; null where the form has no word for it. */
export function written(symbol: string): Written | null {
  // Gauge or absolute is told by the name of the quantity: the unit is the same.
  const bare = symbol.replace(/\((g|a)\)$/, '')
  const own = WRITTEN[bare]
  if (own) return { unit: own, value: (x) => x }
  const instead = INSTEAD[unitOf(symbol).dimension]
  const unit = instead === undefined ? undefined : WRITTEN[instead]
  if (instead === undefined || unit === undefined) return null
  const of = (x: number) => {
    const c = convertRangeEnd(x, symbol, instead)
    return c.kind === 'value' ? c.value : null
  }
  return of(1) === null ? null : { unit, value: (x) => of(x) ?? NaN }
}
