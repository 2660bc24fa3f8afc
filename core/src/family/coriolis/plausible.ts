import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'

/** A characterization as entered; null where nothing was entered. */
export interface Characterization {
  readonly lightPeriod_us: number | null
  readonly heavyPeriod_us: number | null
  readonly lightDensity: number | null
  readonly heavyDensity: number | null
  readonly densityUnit: 'g/cm3' | 'kg/m3'
  readonly kF: number | null
  readonly kD: number | null
  readonly bore_mm: number | null
  readonly F: number | null
}

const TYPICAL = 'typical limits; the certificate wins'

/** Every value that cannot be right, or hardly, with what it does to the reading. Order is fixed. */
export function plausible(c: Characterization): Finding[] {
  const out: Finding[] = []
  const say = (code: string, severity: Finding['severity'], where: string, says: string) =>
    out.push({ code, severity, where: [where], says, rule: TYPICAL })
  const { lightPeriod_us: tauL, heavyPeriod_us: tauH, lightDensity: rhoL, heavyDensity: rhoH } = c
  const { kF, kD, bore_mm, F } = c
  if (tauL !== null && tauH !== null && tauL >= tauH)
    say(
      'PERIODS_SWAPPED',
      'stop',
      'lightPeriod_certificate',
      `The period of the light point, ${sayNumber(tauL, 9)} µs, is not below that of the heavy point, ${sayNumber(tauH, 9)} µs: the two are exchanged. The density would be mirrored.`,
    )
  if (rhoL !== null && rhoH !== null && rhoL >= rhoH)
    say(
      'DENSITIES_SWAPPED',
      'stop',
      'lightDensity_certificate',
      `The density of the light point, ${sayNumber(rhoL)}, is not below that of the heavy point, ${sayNumber(rhoH)}: the two are exchanged, the density is mirrored.`,
    )
  const units = rhoH !== null && (c.densityUnit === 'g/cm3' ? rhoH > 10 : rhoH < 10)
  if (units)
    say(
      'DENSITY_UNITS',
      'stop',
      'heavyDensity_certificate',
      `The density of the heavy point is ${sayNumber(rhoH)} with ${c.densityUnit} chosen: that is the other unit, a factor of 1000.`,
    )
  else {
    const g = (d: number) => (c.densityUnit === 'g/cm3' ? d : d / 1000)
    if (
      (rhoL !== null && (g(rhoL) < 0 || g(rhoL) > 0.01)) ||
      (rhoH !== null && (g(rhoH) < 0.9 || g(rhoH) > 1.1))
    )
      say(
        'DENSITY_RANGE',
        'warn',
        'lightDensity_certificate',
        'The light point is usually air (0 to 0.01 g/cm³) and the heavy one water (0.9 to 1.1): these look like other fluids.',
      )
  }
  if (tauL !== null && tauH !== null && tauL > 0) {
    const ratio = tauH / tauL
    if (ratio < 1.02 || ratio > 1.8)
      say(
        'PERIOD_RATIO',
        'warn',
        'heavyPeriod_certificate',
        `The heavy period is ${sayNumber(ratio, 4)} times the light one; 1.02 to 1.8 is usual. A digit has slipped in one of them.`,
      )
  }
  for (const [code, value, where] of [
    ['TEMPERATURE_COEFFICIENT', kF, 'flowTemperature_certificate'],
    ['TEMPERATURE_COEFFICIENT', kD, 'densityTemperature_certificate'],
  ] as const)
    if (value !== null && (value < 3 || value > 7))
      say(
        code,
        'warn',
        where,
        `${sayNumber(value)} % per 100 °C; 3 to 7 is usual. A decimal has been dropped.`,
      )
  if (bore_mm !== null && (bore_mm <= 0.5 || bore_mm >= 500))
    say(
      'SIZE_UNIT',
      'stop',
      'bore_mm',
      `A tube bore of ${sayNumber(bore_mm)} mm: metres or micrometres were typed.`,
    )
  if (F !== null && F > 0 && bore_mm !== null && bore_mm > 0) {
    const reference_us = (1000 * 10 * (Math.PI / 4) * (bore_mm / 1000) ** 2 * 1000) / F
    if (reference_us < 20 || reference_us > 300)
      say(
        'FACTOR_SCALE',
        'warn',
        'flowFactor_certificate',
        `At 10 m/s of water this factor makes ${sayNumber(reference_us, 4)} µs; 20 to 300 is usual. A decimal slip, or the factor of another size.`,
      )
  }
  return out
}
