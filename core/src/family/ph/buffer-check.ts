import { BUFFERS, bufferPH, LEAST_APART_PH, recogniseBuffer, type Buffer } from './buffers.ts'
import { calibratePh, type BufferPoint, type PhCalibration } from './calibrate.ts'
import { sayNumber } from '../../quantity/round.ts'

type Values = Readonly<Record<string, number>>
/** A bottle's pH at 25 °C and the table's differ by less than this. */
const SAME_PH = 0.05

/** The buffer of the set that a bottle's pH at 25 °C means, or null. */
export function bufferByPH(pH25: number): Buffer | null {
  const off = (b: Buffer) => Math.abs((bufferPH(b, 25) ?? NaN) - pH25)
  const nearest = BUFFERS.reduce((a, b) => (off(b) < off(a) ? b : a))
  return off(nearest) <= SAME_PH ? nearest : null
}

/** A typed buffer reading as a point of the calibration, or null where it names no buffer. */
export function bufferPoint(values: Values): BufferPoint | null {
  const { buffer: pH25 = NaN, mV = NaN, t = NaN } = values
  const buffer = bufferByPH(pH25)
  return buffer && Number.isFinite(mV) && Number.isFinite(t) ? { buffer, mV, t_C: t } : null
}

/**
 * Why a reading cannot be the buffer that the bottle names, or null.
 * @param earlier - the buffers that were read before it.
 */
export function bufferProblem(values: Values, earlier: readonly Values[]): string | null {
  const point = bufferPoint(values)
  if (!point)
    return `pH ${sayNumber(values['buffer'] ?? NaN, 4)} is not a buffer of the set: ${BUFFERS.map((b) => sayNumber(bufferPH(b, 25) ?? 0, 5)).join(', ')}.`
  const r = recogniseBuffer([point.buffer], point.mV, point.t_C)
  if (r.state === 'BUFFER_TEMPERATURE_OUT_OF_RANGE') return 'The buffers’ tables go from 0 to 50 °C.'
  if (r.state !== 'RECOGNISED') {
    const nearest = recogniseBuffer(BUFFERS, point.mV, point.t_C).nearest
    const pH = nearest && bufferPH(nearest, point.t_C)
    return `${sayNumber(point.mV, 5)} mV is not what any healthy electrode shows in this buffer${pH === null ? '' : `; it is near pH ${sayNumber(pH, 4)}`}. A wrong bottle, or the sign?`
  }
  const pH = (v: Values) => bufferPH(bufferPoint(v)?.buffer ?? point.buffer, 25) ?? NaN
  return earlier.some((v) => Math.abs(pH(v) - pH(values)) < LEAST_APART_PH)
    ? `The two buffers are closer than pH ${LEAST_APART_PH}: nothing could be told from them. Take one on the other side of the process.`
    : null
}

/** Offset and slope from the buffers that were read; null where they do not give any. */
export function phResult(readings: readonly Values[]): PhCalibration | null {
  const points = readings.flatMap((v) => bufferPoint(v) ?? [])
  return points.length > 0 ? calibratePh(points) : null
}
