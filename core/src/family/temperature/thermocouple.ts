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

/** Allowed error, °C; null where the class has no limit for the type. @see IEC 60584-1 */
export function thermocoupleTolerance_C(type: Thermocouple, grade: 1 | 2, t_C: number): number | null {
  const size = Math.abs(t_C)
  if (type === 'B') return null
  if (type === 'T') return grade === 1 ? Math.max(0.5, 0.004 * size) : Math.max(1, 0.0075 * size)
  if (type === 'R' || type === 'S') return grade === 1 ? null : Math.max(1.5, 0.0025 * size)
  return grade === 1 ? Math.max(1.5, 0.004 * size) : Math.max(2.5, 0.0075 * size)
}
