import type { Beam } from './beam.ts'

export type SpeedVerdict = 'OK' | 'CHECK' | 'FAULT'
export interface SpeedJudgement {
  readonly deviation_pct: number
  readonly verdict: SpeedVerdict
  /** Temperatures that alone would explain it, nearest to the entered one first; none where no theory is given. */
  readonly temperatures_C: readonly number[]
  /** Bore that alone would explain it, mm. */
  readonly id_mm: number
  /** Positive: the sensors stand this much too far apart, mm. */
  readonly spacingError_mm: number
}

/** Deviations below the first are fine, above the second are a fault, %. */
const LIMITS_PCT = [0.5, 2] as const

/** Whether a deviation of the sound speed is believable, a reason to look, or a fault. */
export function speedVerdict(deviation_pct: number): SpeedVerdict {
  const size = Math.abs(deviation_pct)
  return size <= LIMITS_PCT[0] ? 'OK' : size <= LIMITS_PCT[1] ? 'CHECK' : 'FAULT'
}

/**
 * The measured sound speed against theory, with what each single cause would have to be.
 * @param tMeasured_us - mean transit time, fixed part included.
 */
export function judgeSoundSpeed(given: {
  readonly beam: Beam
  readonly id_mm: number
  readonly theory_m_s: number
  readonly measured_m_s: number
  readonly tMeasured_us: number
  readonly temperatures_C: readonly number[]
}): SpeedJudgement {
  const { beam, id_mm, theory_m_s, measured_m_s } = given
  const deviation_pct = ((measured_m_s - theory_m_s) / theory_m_s) * 100
  const K = beam.K_us_m / 1e6
  const cosine = (c: number) => Math.sqrt(Math.max(0, 1 - (K * c) ** 2))
  return {
    deviation_pct,
    verdict: speedVerdict(deviation_pct),
    temperatures_C: given.temperatures_C,
    id_mm: (id_mm * theory_m_s * cosine(theory_m_s)) / (measured_m_s * cosine(measured_m_s)),
    spacingError_mm: ((given.tMeasured_us - beam.tFixed_us - beam.tFluid_us) / 1e6 / K) * 1000,
  }
}
