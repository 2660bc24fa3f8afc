import { sayNumber } from '../../quantity/round.ts'
import type { ResultRow } from '../family.ts'
import { dpRange, GRAVITY_M_S2, interfaceAt_Pa, type DpLevel } from './hydrostatic.ts'
import type { Entries } from './settings.ts'

const LEVELS: readonly Entries['duty'][] = ['open', 'dry', 'wet', 'seals']
export const isLevel = (s: Entries): boolean => LEVELS.includes(s.duty)
export const isTapped = (s: Entries): boolean => isLevel(s) || s.duty === 'interface'
const VACUUM_KPA = -101.325

/** Taps, legs and fills of a level by differential pressure, from the entries. */
export function levelOf(s: Entries): DpLevel {
  const density = s.density
  const kind = s.duty
  const vapour = kind === 'open' ? 0 : s.vapour
  return {
    lowerTap_m: s.lowerTap_m,
    upperTap_m: kind === 'open' ? s.full_m : s.upperTap_m,
    transmitter_m: s.transmitter_m,
    density,
    vapourDensity: vapour,
    highFill: kind === 'seals' ? s.fill : s.lineFill,
    lowFill: kind === 'open' ? 0 : kind === 'dry' ? vapour : s.fill,
    gravity: s.gravity,
  }
}

export interface RangeOfDuty {
  readonly lrv_kPa: number
  readonly urv_kPa: number
  readonly rows: readonly ResultRow[]
}

/** The range in kPa, typed for a pressure and computed for a level; or what is wrong. */
export function rangeOf(s: Entries): RangeOfDuty | { readonly where: string; readonly says: string } {
  if (isLevel(s) || s.duty === 'interface') {
    const [zero, full] = [s.zero_m, s.full_m]
    if (full <= zero)
      return {
        where: 'full_m',
        says: `100 % at ${sayNumber(full)} m is not above 0 % at ${sayNumber(zero)} m.`,
      }
  }
  if (s.duty === 'interface') {
    const d = {
      lower: s.density,
      upper: s.upperDensity,
      fill: s.fill,
      lowerTap_m: s.lowerTap_m,
      upperTap_m: s.upperTap_m,
      gravity: s.gravity,
    }
    if (d.upper >= d.lower)
      return { where: 'upperDensity', says: 'The upper liquid must be lighter than the lower one.' }
    const [lrv, urv] = [interfaceAt_Pa(d, s.zero_m), interfaceAt_Pa(d, s.full_m)]
    return { lrv_kPa: lrv / 1000, urv_kPa: urv / 1000, rows: [] }
  }
  if (isLevel(s)) {
    const d = levelOf(s)
    if (s.duty !== 'open' && d.upperTap_m <= d.lowerTap_m)
      return { where: 'upperTap_m', says: 'The upper tap is not above the lower one.' }
    const r = dpRange(d, s.zero_m, s.full_m)
    const words = { SUPPRESSED: 'suppressed (above 0)', ELEVATED: 'elevated (below 0)', NONE: 'none' }
    return {
      lrv_kPa: r.lrv_Pa / 1000,
      urv_kPa: r.urv_Pa / 1000,
      rows: [{ label: 'Zero shift', value: words[r.shift] }],
    }
  }
  // A liquid column between tap and transmitter is read as well.
  const head =
    s.duty === 'gauge' || s.duty === 'absolute' ? (s.lineDensity * GRAVITY_M_S2 * s.below_m) / 1000 : 0
  const [lo, hi] = [s.lrv_kPa, s.urv_kPa]
  if (lo === hi)
    return { where: 'urv_kPa', says: 'The range has no span: 4 and 20 mA are at the same pressure.' }
  if (s.duty === 'absolute' && Math.min(lo, hi) < 0)
    return { where: 'lrv_kPa', says: 'An absolute pressure below 0 kPa does not exist. Is the range gauge?' }
  if (s.duty === 'gauge' && Math.min(lo, hi) < VACUUM_KPA)
    return { where: 'lrv_kPa', says: `No gauge pressure is below ${VACUUM_KPA} kPa: that is a full vacuum.` }
  return {
    lrv_kPa: lo + head,
    urv_kPa: hi + head,
    rows: head === 0 ? [] : [{ label: 'Head of the line', value: head, unit: 'kPa', decimals: 4 }],
  }
}
