import type { Finding } from '../finding.ts'
import type { StageKind } from '../signal/stage.ts'
import type { Judgement } from '../verify/verdict.ts'

/** Where the line steps: the segment up to this station disagrees by so much of span. */
export interface LineStep {
  readonly station: StageKind
  readonly error_pct: number
  /** The station it was read at before, where nothing between the two was: it steps somewhere in there. */
  readonly from?: StageKind
}

const RECEIVERS = ['controller', 'converter', 'display'] as const
/** Whether a step at this station may come from ranges that disagree, and not from readings alone. */
export const byRanges = ({ station }: LineStep): boolean => RECEIVERS.some((r) => r === station)

/** A deviation smaller than this much of the tolerance leaves the line flat. */
const CALM = 1

/** Where the line steps: parts whose error alone uses up the tolerance, and ranges that disagree. */
export function lineSteps(judgement: Judgement | null, audit: readonly Finding[]): LineStep[] {
  const steps: LineStep[] = []
  const station = { sensor: 'sensor', output: 'output', receiver: 'controller' } as const
  for (const part of judgement?.parts ?? [])
    if (
      part.kind !== 'loop' &&
      Math.abs(part.largest_pct) > CALM * (judgement?.worst.allowed_pct ?? Infinity)
    )
      steps.push({ station: station[part.kind], error_pct: part.largest_pct })
  for (const finding of audit) {
    const at = finding.evidence?.find((e) => e.label === 'error at 100 %' || e.label === 'error at 0 %')
    const values = (finding.evidence ?? []).flatMap((e) =>
      e.label.startsWith('error at') && typeof e.value === 'number' ? [e.value] : [],
    )
    const largest = values.reduce((a, b) => (Math.abs(b) > Math.abs(a) ? b : a), 0)
    const place = finding.where.at(-1)
    const receiver: StageKind = RECEIVERS.find((r) => r === place) ?? 'controller'
    if (at && finding.severity === 'stop' && largest !== 0 && !steps.some((s) => s.station === receiver))
      steps.push({ station: receiver, error_pct: largest })
  }
  return steps
}
