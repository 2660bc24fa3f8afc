import type { Finding } from '../finding.ts'
import { judgeRoot, rootTakers } from '../signal/root.ts'
import { stageOf, type Stage } from '../signal/stage.ts'
import { toleranceAt, type Tolerance } from '../verify/tolerance.ts'
import { cardFindings } from './audit/cards.ts'
import { limitFindings } from './audit/limits.ts'
import { pulseFindings } from './audit/pulses.ts'
import { rangeFindings } from './audit/ranges.ts'
import { predictedErrors } from './predicted-errors.ts'

/** Findings that shift what is read; the others are about limits. */
const CHANGES_READING = new Set([
  'RANGE_DIFFERS',
  'UNIT_DIFFERS',
  'PERCENT_RANGE',
  'ACTION_OPPOSED',
  'DISPLAY_RANGE_DIFFERS',
  'CONVERTER_RANGE_DIFFERS',
  'SQRT_TWICE',
  'SQRT_NEVER',
  'SIGNAL_DIFFERS',
  'SHUNT_VOLTAGE',
  'CODES_DIFFER',
  'ISOLATOR_DIFFERS',
])

/**
 * Checks the ranges, units and functions along the path against each other, without any reading. A difference is as
 * grave as what it takes of the loop's tolerance.
 * @param needsRoot - whether the loop's family needs a square root; null where nobody has told what it is
 * @param tolerance - the loop's, as recorded; null where nobody told one
 */
export function auditPath(
  stages: readonly Stage[],
  needsRoot: boolean | null,
  tolerance: Tolerance | null = null,
): Finding[] {
  const found = conditions(stages, needsRoot, tolerance)
  const predicted = predictedErrors(stages, needsRoot === true || rootTakers(stages).length > 0)
  // Every receiver that a finding names is told with what it will read.
  return found.map((f) => {
    if (f.severity === 'note' || f.severity === 'good' || !CHANGES_READING.has(f.code)) return f
    const receiver = predicted.find((p) => f.where.includes(p.at)) ?? predicted[0]
    if (!receiver) return f
    const [zero = 0, , half = 0, , full = 0] = receiver.errors_pct
    const at = (label: string, value: number) => ({ label: `error at ${label}`, value, unit: '% of span' })
    return { ...f, evidence: [...(f.evidence ?? []), at('0 %', zero), at('50 %', half), at('100 %', full)] }
  })
}

/** Whether anything stands on the line that the transmitter's range could be held against. */
export const isCompared = (stages: readonly Stage[]): boolean =>
  (['controller', 'converter', 'display', 'totalizer'] as const).some((k) => stageOf(stages, k) !== undefined)

function conditions(
  stages: readonly Stage[],
  needsRoot: boolean | null,
  tolerance: Tolerance | null,
): Finding[] {
  const transmitter = stageOf(stages, 'transmitter')
  const controller = stageOf(stages, 'controller')
  const display = stageOf(stages, 'display')
  const converter = stageOf(stages, 'converter')
  if (!transmitter) return []
  const documented = transmitter.shows ?? transmitter.range
  const span = Math.abs(documented.high - documented.low)
  const allowed = tolerance && (100 * toleranceAt(tolerance, span, documented.high)) / span
  const tolerance_pct = allowed !== null && allowed > 0 ? allowed : null
  const straight = !transmitter.reverse || !!transmitter.shows
  const source = straight ? documented : { ...documented, low: documented.high, high: documented.low }
  const root = judgeRoot(rootTakers(stages), needsRoot)
  return [
    ...(controller
      ? rangeFindings(
          source,
          controller.range,
          { names: ['transmitter', 'controller'], code: 'RANGE_DIFFERS', field: 'path.controller' },
          tolerance_pct,
        )
      : []),
    ...(display
      ? rangeFindings(
          controller?.range ?? documented,
          display.range,
          {
            names: [controller ? 'controller' : 'transmitter', 'display'],
            code: 'DISPLAY_RANGE_DIFFERS',
            field: 'path.display',
          },
          tolerance_pct,
        )
      : []),
    ...(converter
      ? rangeFindings(
          documented,
          converter.range,
          {
            names: ['transmitter', 'converter'],
            code: 'CONVERTER_RANGE_DIFFERS',
            field: 'path.converter',
          },
          tolerance_pct,
        )
      : []),
    ...limitFindings(stages),
    ...cardFindings(stages, tolerance_pct),
    ...pulseFindings(stages),
    ...(root ? [root] : []),
  ]
}
