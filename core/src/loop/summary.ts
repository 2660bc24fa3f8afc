import { worstOf, type Finding, type Severity } from '../finding.ts'
import { readings, type Run } from '../record/run.ts'
import { auditPath } from '../scale/audit.ts'
import type { Stage } from '../signal/stage.ts'
import { loopScale } from '../verify/reading-errors.ts'
import { judge, type Judgement, type VerdictClass } from '../verify/verdict.ts'
import type { LoopDocument } from './document.ts'

/** State of one part of the work, always shown as shape, word and colour. */
export type PartState = 'notYet' | 'good' | 'look' | 'stop'

export const PARTS = ['wire', 'setUp', 'scale', 'trim', 'verify'] as const
export type Part = (typeof PARTS)[number]

/** Where the line steps: the segment up to this station disagrees by so much of span. */
export interface LineStep {
  readonly station: 'sensor' | 'output' | 'controller'
  readonly error_pct: number
}

/** What a list row and a header show of a loop; always computed, never typed. */
export interface LoopSummary {
  readonly parts: Readonly<Record<Part, PartState>>
  readonly verdict: VerdictClass | null
  readonly line: readonly LineStep[]
  /** Day of the last closed verification, else what the plant's list told. */
  readonly lastCalibrated: string | null
}

const SEVERITY_STATE: Readonly<Record<Severity, PartState>> = {
  stop: 'stop',
  warn: 'look',
  note: 'good',
  good: 'good',
}

/** A deviation smaller than this much of the tolerance leaves the line flat. */
const CALM = 1

function scaleState(doc: LoopDocument, findings: readonly Finding[]): PartState {
  if (doc.path.length === 0) return 'notYet'
  const state = SEVERITY_STATE[worstOf(findings)]
  return state === 'good' && doc.unconfirmed.length > 0 ? 'look' : state
}

/** A run's judgement of one phase, by the stages of the revision it was started on. */
export function judgeRun(run: Run, stages: readonly Stage[], phase: 'asFound' | 'asLeft'): Judgement | null {
  const scale = loopScale(stages)
  if (!scale) return null
  const { tolerance, plan, U_pct } = run.started
  return judge({ scale, tolerance, plan, readings: readings(run, phase), U_pct, phase })
}

/** The last phase that has been read. */
export const lastPhase = (run: Run): 'asFound' | 'asLeft' =>
  run.leftAsFound || Object.keys(run.asLeft).length > 0 ? 'asLeft' : 'asFound'

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
    if (at && finding.severity === 'stop' && largest !== 0 && !steps.some((s) => s.station === 'controller'))
      steps.push({ station: 'controller', error_pct: largest })
  }
  return steps
}

/**
 * Everything a list needs to know of a loop.
 * @param run - the loop's newest verification, or null.
 * @param runStages - the signal path of the revision that run was started on.
 */
export function summarise(doc: LoopDocument, run: Run | null, runStages: readonly Stage[]): LoopSummary {
  const audit = auditPath(doc.path, doc.type)
  const judgement = run ? judgeRun(run, runStages, lastPhase(run)) : null
  const open = run !== null && !['ready', 'signed', 'countersigned'].includes(run.state)
  const failed = judgement !== null && (judgement.class === 'FAIL' || judgement.class === 'CONDITIONAL_FAIL')
  const verify: PartState = !judgement
    ? 'notYet'
    : failed
      ? 'stop'
      : open || judgement.class !== 'PASS'
        ? 'look'
        : 'good'
  return {
    parts: {
      wire: 'notYet',
      setUp: 'notYet',
      scale: scaleState(doc, audit),
      trim: run && run.adjustments.length > 0 ? 'good' : 'notYet',
      verify,
    },
    verdict: judgement?.class ?? null,
    line: lineSteps(judgement, audit),
    lastCalibrated: run && !open ? run.startedAt.slice(0, 10) : doc.lastCalibrated,
  }
}
