import type { Station } from './path.ts'

const FIXED: Readonly<Record<string, number>> = { '%': 3, mA: 3, V: 4, counts: 0, Hz: 1 }

/** Digits that tell a ten-thousandth of the span, as a good instrument shows it. */
export const stationDecimals = (s: Pick<Station, 'unit' | 'low' | 'high'>): number =>
  FIXED[s.unit] ?? Math.max(0, Math.min(6, 4 - Math.ceil(Math.log10(Math.abs(s.high - s.low)))))
