import { findUnit } from '../../quantity/units.ts'

/** As devices write them. Water columns of devices are conventional: 1000 kg/m³. */
const OF_DEVICES: Readonly<Record<string, string>> = {
  'cbm/h': 'm3/h',
  'm^3/h': 'm3/h',
  'l/s': 'L/s',
  'l/min': 'L/min',
  lpm: 'L/min',
  gpm: 'USgal/min',
  'gal/min': 'USgal/min',
  c: 'degC',
  mmh2o: 'mmH2O@conv',
  cmh2o: 'cmH2O@conv',
  mh2o: 'mH2O@conv',
  inh2o: 'inH2O@conv',
  'kg/cm2': 'kgf/cm2',
  '%rh': '%',
  msec: 'ms',
  sec: 's',
  seconds: 's',
  minutes: 'min',
  hours: 'h',
}

/** Symbol of a unit as a log writes it; null where none is known by it. */
export function logUnit(text: string): string | null {
  const written = text.trim()
  if (written === '') return null
  const folded = written.toLowerCase().replace(/²/g, '2').replace(/³/g, '3').replace(/₂/g, '2')
  return OF_DEVICES[folded] ?? findUnit(written)?.symbol ?? null
}

const FORMS = [
  /^(.+?)\s*\[(.+)\]$/,
  /^(.+?)\s*\((.+)\)$/,
  /^(.+?)\s*\/\s+(.+)$/,
  /^(.+?),\s*(.+)$/,
  /^(.+)_([^_]+)$/,
  /^(.+)\s+(\S+)$/,
]

/** A heading as name and unit, by the first form whose unit is one: `Flow [m³/h]`, `Flow_l/s`, `Flow m3/h`. */
export function headingOf(heading: string): { readonly name: string; readonly unit: string | null } {
  const h = heading.trim()
  for (const form of FORMS) {
    const m = form.exec(h)
    const unit = logUnit(m?.[2] ?? '')
    if (m?.[1] !== undefined && unit !== null) return { name: m[1].trim(), unit }
  }
  return { name: h, unit: null }
}
