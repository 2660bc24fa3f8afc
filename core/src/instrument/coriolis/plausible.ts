import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'

/** A characterization as entered; null where nothing was entered. */
export interface Characterization {
  readonly K1_us: number | null
  readonly K2_us: number | null
  readonly D1: number | null
  readonly D2: number | null
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
  const { K1_us: K1, K2_us: K2, D1, D2, kF, kD, bore_mm, F } = c
  if (K1 !== null && K2 !== null && K1 >= K2)
    say(
      'K_SWAPPED',
      'stop',
      'K1_us',
      `K1 ${sayNumber(K1, 9)} µs is not below K2 ${sayNumber(K2, 9)} µs: the two are exchanged. Density would read D1 + D2 minus the true value.`,
    )
  if (D1 !== null && D2 !== null && D1 >= D2)
    say(
      'D_SWAPPED',
      'stop',
      'D1',
      `D1 ${sayNumber(D1)} is not below D2 ${sayNumber(D2)}: the two are exchanged, the density is mirrored.`,
    )
  const units = D2 !== null && (c.densityUnit === 'g/cm3' ? D2 > 10 : D2 < 10)
  if (units)
    say(
      'D_UNITS',
      'stop',
      'D2',
      `D2 is ${sayNumber(D2 ?? 0)} with ${c.densityUnit} selected: that is the other unit, a factor of 1000.`,
    )
  else {
    const g = (d: number) => (c.densityUnit === 'g/cm3' ? d : d / 1000)
    if ((D1 !== null && (g(D1) < 0 || g(D1) > 0.01)) || (D2 !== null && (g(D2) < 0.9 || g(D2) > 1.1)))
      say(
        'D_RANGE',
        'warn',
        'D1',
        'D1 is the density of air (0 to 0.01 g/cm³) and D2 that of water (0.9 to 1.1): these look like other fluids.',
      )
  }
  if (K1 !== null && K2 !== null && K1 > 0) {
    const ratio = K2 / K1
    if (ratio < 1.02 || ratio > 1.8)
      say(
        'K_RATIO',
        'warn',
        'K2_us',
        `K2/K1 is ${sayNumber(ratio, 4)}; 1.02 to 1.8 is usual. A digit has slipped in one period.`,
      )
  }
  for (const [code, value, where] of [
    ['FT_RANGE', kF, 'kF'],
    ['DT_RANGE', kD, 'kD'],
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
        'FCF_SCALE',
        'warn',
        'F',
        `At 10 m/s of water this factor makes ${sayNumber(reference_us, 4)} µs; 20 to 300 is usual. A decimal slip, or the factor of another size.`,
      )
  }
  return out
}
