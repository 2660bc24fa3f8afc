import { readings } from '@calm/core/record/readings'
import type { Phase } from '@calm/core/record/kinds/reading-values'
import type { CertificateData } from './certificate-data.ts'

const HEADING = [
  'phase',
  'point',
  'direction',
  'applied',
  'applied_unit',
  'pv',
  'pv_unit',
  'loop_mA',
  'controller',
  'controller_unit',
  'error_pct_span',
  'tolerance_pct_span',
  'deviation',
]

/** All readings of a verification as rows, as-found first; numbers unrounded, with a decimal point. */
export function readingsTable(
  data: Pick<CertificateData, 'run' | 'asFound' | 'asLeft' | 'deviations'>,
): (string | number)[][] {
  const { inputRange, outputRange, deviation } = data.run.started
  const told = [...data.deviations.map((d) => d.says), ...(deviation ? [`Reason: ${deviation.reason}`] : [])]
  const rows = (phase: Phase) => {
    const judgement = phase === 'asFound' ? data.asFound : data.asLeft
    if (!judgement) return []
    return readings(data.run, phase).map((r) => {
      const e = judgement.points.find((p) => p.index === r.index)
      return [
        phase === 'asFound' ? 'as found' : 'as left',
        r.index + 1,
        r.direction,
        r.applied ?? '',
        inputRange.unit,
        r.pv ?? '',
        inputRange.unit,
        r.loopCurrent_mA ?? '',
        r.controller ?? '',
        outputRange.unit,
        e?.loop_pct ?? '',
        e?.allowed_pct ?? '',
        told.join(' '),
      ]
    })
  }
  return [HEADING, ...rows('asFound'), ...rows('asLeft')]
}
