import { ACCEPT, nernst_mV } from './electrode.ts'

const COLUMNS_C = [0, 5, 10, 15, 20, 25, 30, 35, 40, 45, 50] as const
/** pH over temperature. Reference buffers by IUPAC 2002 and NIST; T are technical, ±0.02: the bottle's table wins. */
const TABLE = {
  '1.679': [1.666, 1.668, 1.67, 1.672, 1.675, 1.679, 1.683, 1.688, 1.694, 1.7, 1.707],
  '4.005': [4.0, 3.998, 3.997, 3.998, 4.0, 4.005, 4.011, 4.018, 4.027, 4.038, 4.05],
  '6.865': [6.984, 6.951, 6.923, 6.9, 6.881, 6.865, 6.853, 6.844, 6.838, 6.834, 6.833],
  '7.413': [7.534, 7.5, 7.472, 7.448, 7.429, 7.413, 7.4, 7.389, 7.38, 7.373, 7.367],
  '9.180': [9.464, 9.395, 9.332, 9.276, 9.225, 9.18, 9.139, 9.102, 9.068, 9.038, 9.011],
  '10.012': [10.317, 10.245, 10.179, 10.118, 10.062, 10.012, 9.966, 9.926, 9.889, 9.856, 9.828],
  '12.454': [13.423, 13.207, 13.003, 12.81, 12.627, 12.454, 12.289, 12.133, 11.984, 11.841, 11.705],
  'T4.00': [4.0, 3.99, 3.99, 3.99, 4.0, 4.0, 4.01, 4.01, 4.02, 4.03, 4.05],
  'T7.00': [7.12, 7.09, 7.06, 7.04, 7.02, 7.0, 6.99, 6.98, 6.97, 6.97, 6.96],
  'T10.00': [10.31, 10.23, 10.17, 10.11, 10.05, 10.0, 9.95, 9.91, 9.88, 9.84, 9.82],
} as const
export type Buffer = keyof typeof TABLE
export const BUFFERS = Object.keys(TABLE) as [Buffer, ...Buffer[]]

/** pH of a buffer at a temperature; null outside 0 to 50 °C. */
export function bufferPH(buffer: Buffer, t_C: number): number | null {
  if (!(t_C >= 0 && t_C <= 50)) return null
  const row: readonly number[] = TABLE[buffer]
  const i = Math.min(COLUMNS_C.length - 2, Math.floor(t_C / 5))
  const [a = 0, b = 0] = [row[i], row[i + 1]]
  return a + ((b - a) * (t_C - i * 5)) / 5
}

/** All the voltages that an acceptable electrode could show in a buffer, mV. */
export function bufferWindow_mV(buffer: Buffer, t_C: number): readonly [number, number] | null {
  const pH = bufferPH(buffer, t_C)
  if (pH === null) return null
  const nominal = -nernst_mV(t_C) * (pH - 7)
  const ends = [(nominal * ACCEPT.slopeLow_pct) / 100, (nominal * ACCEPT.slopeHigh_pct) / 100]
  return [Math.min(...ends) - ACCEPT.offset_mV, Math.max(...ends) + ACCEPT.offset_mV]
}

export interface Recognition {
  readonly state: 'RECOGNISED' | 'AMBIGUOUS' | 'NONE' | 'BUFFER_TEMPERATURE_OUT_OF_RANGE'
  readonly candidates: readonly Buffer[]
  /** Offered as a suggestion, never taken. */
  readonly nearest: Buffer | null
}
/** Which buffer of the set this is, with no calibration applied. */
export function recogniseBuffer(set: readonly Buffer[], mV: number, t_C: number): Recognition {
  const windows = set.flatMap((b) => {
    const w = bufferWindow_mV(b, t_C)
    return w ? [{ b, w, nominal: -nernst_mV(t_C) * ((bufferPH(b, t_C) ?? 7) - 7) }] : []
  })
  if (windows.length === 0) return { state: 'BUFFER_TEMPERATURE_OUT_OF_RANGE', candidates: [], nearest: null }
  const candidates = windows.filter(({ w }) => mV >= w[0] && mV <= w[1]).map(({ b }) => b)
  const nearest = windows.reduce((x, y) => (Math.abs(mV - y.nominal) < Math.abs(mV - x.nominal) ? y : x)).b
  return {
    state: candidates.length === 1 ? 'RECOGNISED' : candidates.length > 1 ? 'AMBIGUOUS' : 'NONE',
    candidates,
    nearest,
  }
}

/** Closer than this two buffers of a set are taken for one another. */
export const LEAST_APART_PH = 1.5
