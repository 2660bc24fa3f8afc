import { bisect } from '../../numeric/bisect.ts'
import { K_EXPONENTIAL, THERMOCOUPLE_PIECES } from './thermocouple-table.ts'

export const THERMOCOUPLES = ['B', 'E', 'J', 'K', 'N', 'R', 'S', 'T'] as const
export type Thermocouple = (typeof THERMOCOUPLES)[number]

/** Range of the reference function, °C. */
export function thermocoupleRange_C(type: Thermocouple): readonly [number, number] {
  const pieces = THERMOCOUPLE_PIECES[type]
  return [pieces[0]?.from ?? 0, pieces.at(-1)?.to ?? 0]
}

/** Thermal voltage with the reference junction at 0 °C, mV; null outside the range. @see IEC 60584-1 */
export function thermocouple_mV(type: Thermocouple, t_C: number): number | null {
  const [from, to] = thermocoupleRange_C(type)
  if (!(t_C >= from && t_C <= to)) return null
  const piece = THERMOCOUPLE_PIECES[type].find((p) => t_C <= p.to)
  if (!piece) return null
  const polynomial = piece.mV.reduceRight((sum, c) => sum * t_C + c, 0)
  return type === 'K' && t_C > 0
    ? polynomial + K_EXPONENTIAL.a0 * Math.exp(K_EXPONENTIAL.a1 * (t_C - K_EXPONENTIAL.a2) ** 2)
    : polynomial
}

/** Below this a type does not tell temperatures apart, °C. */
const LEAST_INVERSE_C: Partial<Readonly<Record<Thermocouple, number>>> = { B: 250 }
const CLOSE_C = 1e-9

/** Temperature of a total voltage (reference junction at 0 °C), °C; null outside. By halving on the function itself. */
export function thermocouple_C(type: Thermocouple, mV: number): number | null {
  const [from, hi] = thermocoupleRange_C(type)
  const lo = LEAST_INVERSE_C[type] ?? from
  const least = thermocouple_mV(type, lo) ?? 0
  const most = thermocouple_mV(type, hi) ?? 0
  if (!(mV >= least - 1e-9 && mV <= most + 1e-9)) return null
  return bisect((t) => (thermocouple_mV(type, t) ?? 0) >= mV, lo, hi, CLOSE_C)
}

/** Temperature from a measured voltage and the cold junction: voltages add, temperatures do not. */
export function withColdJunction(type: Thermocouple, measured_mV: number, coldJunction_C: number) {
  const cold_mV = thermocouple_mV(type, coldJunction_C)
  if (cold_mV === null) return null
  const t_C = thermocouple_C(type, measured_mV + cold_mV)
  return t_C === null ? null : { cold_mV, total_mV: measured_mV + cold_mV, t_C }
}

/** Where each tolerance class promises something, °C; a wire is sold for no more. @see IEC 60584-1, table of tolerances */
const CLASS_RANGE_C: Readonly<Record<Thermocouple, readonly [one: Span | null, two: Span | null]>> = {
  T: [
    [-40, 350],
    [-40, 350],
  ],
  E: [
    [-40, 800],
    [-40, 900],
  ],
  J: [
    [-40, 750],
    [-40, 750],
  ],
  K: [
    [-40, 1000],
    [-40, 1200],
  ],
  N: [
    [-40, 1000],
    [-40, 1200],
  ],
  R: [
    [0, 1600],
    [0, 1600],
  ],
  S: [
    [0, 1600],
    [0, 1600],
  ],
  B: [null, [600, 1700]],
}
type Span = readonly [from: number, to: number]

/** Where a class of a type holds, °C; null where there is no such class. */
export const classRange_C = (type: Thermocouple, grade: 1 | 2): Span | null =>
  CLASS_RANGE_C[type][grade - 1] ?? null

/**
 * Tolerance of a thermocouple at a temperature, ±°C.
 * @returns null outside the range of the class, where it promises nothing
 * @see IEC 60584-1
 */
export function thermocoupleTolerance_C(type: Thermocouple, grade: 1 | 2, t_C: number): number | null {
  const range = classRange_C(type, grade)
  if (!range || t_C < range[0] || t_C > range[1]) return null
  const size = Math.abs(t_C)
  if (type === 'B') return 0.0025 * size
  if (type === 'T') return grade === 1 ? Math.max(0.5, 0.004 * size) : Math.max(1, 0.0075 * size)
  if (type === 'R' || type === 'S')
    return grade === 1 ? 1 + Math.max(0, 0.003 * (t_C - 1100)) : Math.max(1.5, 0.0025 * size)
  return grade === 1 ? Math.max(1.5, 0.004 * size) : Math.max(2.5, 0.0075 * size)
}
