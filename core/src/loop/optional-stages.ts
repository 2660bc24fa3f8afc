import { STAGE_ORDER, stageOf, type Stage, type StageKind } from '../signal/stage.ts'
import { USUAL_CODES } from '../signal/card-codes.ts'

/** Stages that a path may have or not, and what a new one starts with. */
export const OPTIONAL_STAGES = [
  'frequency',
  'totalizer',
  'isolator',
  'converter',
  'shunt',
  'input',
  'controller',
  'display',
] as const satisfies readonly StageKind[]
export type OptionalStage = (typeof OPTIONAL_STAGES)[number]

function begin(kind: OptionalStage, stages: readonly Stage[]): Stage {
  const transmitter = stageOf(stages, 'transmitter')
  const range = transmitter?.shows ?? transmitter?.range ?? { low: 0, high: 100, unit: '%' }
  const rate = Math.max(Math.abs(range.low), Math.abs(range.high)) || 1
  const hertz = stageOf(stages, 'frequency')
  switch (kind) {
    case 'frequency':
      return { kind, atRate: rate, frequency_Hz: 1000, limit_Hz: 10_000, width_ms: 0.1 }
    case 'totalizer':
      return {
        kind,
        unitsPerPulse: hertz ? hertz.atRate / (3600 * hertz.frequency_Hz) : 1,
        limit_Hz: 10_000,
      }
    case 'isolator':
      return { kind, inLow_mA: 4, inHigh_mA: 20, outLow_mA: 4, outHigh_mA: 20 }
    case 'converter':
      return { kind, channel: 1, range, decimals: 2 }
    case 'shunt':
      return { kind, resistance_ohm: 250 }
    case 'input':
      return { kind, signal: stageOf(stages, 'output')?.signal ?? '4-20', ...USUAL_CODES }
    case 'controller':
      return { kind, range, transfer: { kind: 'linear' } }
    case 'display':
      return {
        kind,
        range,
        from: stageOf(stages, 'controller') ? 'controller' : 'current',
        decimals: 1,
        transfer: { kind: 'linear' },
      }
  }
}

/** Receivers that can sit on either side of an isolator; the card goes there with its shunt. */
export const SIDED_STAGES = ['converter', 'input', 'display'] as const satisfies readonly StageKind[]
export type SidedStage = (typeof SIDED_STAGES)[number]

/** Stages that go together with a receiver from one side of the isolator to the other. */
const together = (kind: SidedStage): readonly StageKind[] => (kind === 'input' ? ['shunt', 'input'] : [kind])

/** On which side of the isolator a receiver takes its current; null where there is no choice. */
export function sideOf(stages: readonly Stage[], kind: SidedStage): 'before' | 'behind' | null {
  const isolator = stages.findIndex((s) => s.kind === 'isolator')
  const at = stages.findIndex((s) => s.kind === kind)
  const stage = stages[at]
  if (isolator < 0 || !stage || (stage.kind === 'display' && stage.from !== 'current')) return null
  return at < isolator ? 'before' : 'behind'
}

/** The path with a receiver on the other side of the isolator, or as it was where that makes no sense. */
export function onSide(stages: readonly Stage[], kind: SidedStage, side: 'before' | 'behind'): Stage[] {
  const now = sideOf(stages, kind)
  if (now === null || now === side) return [...stages]
  const moved = stages.filter((s) => together(kind).includes(s.kind))
  const rest = stages.filter((s) => !moved.includes(s))
  const isolator = rest.findIndex((s) => s.kind === 'isolator')
  if (side === 'before') return [...rest.slice(0, isolator), ...moved, ...rest.slice(isolator)]
  const last = STAGE_ORDER.indexOf(kind)
  const place = rest.findIndex((s, i) => i > isolator && STAGE_ORDER.indexOf(s.kind) > last)
  const cut = place < 0 ? rest.length : place
  return [...rest.slice(0, cut), ...moved, ...rest.slice(cut)]
}

/** The path with one stage more, at its usual place along the line. */
export function withStage(stages: readonly Stage[], kind: OptionalStage): Stage[] {
  if (stages.some((s) => s.kind === kind)) return [...stages]
  // Behind the last one that usually comes before it: the others keep their order.
  const mine = STAGE_ORDER.indexOf(kind)
  const cut = stages.findLastIndex((s) => STAGE_ORDER.indexOf(s.kind) < mine) + 1
  return [...stages.slice(0, cut), begin(kind, stages), ...stages.slice(cut)]
}

/** The path without a stage; what hangs on it takes its signal from elsewhere. */
export function withoutStage(stages: readonly Stage[], kind: OptionalStage): Stage[] {
  return stages
    .filter((s) => s.kind !== kind)
    .map((s) =>
      s.kind === 'display' && (s.from === kind || (s.from === 'controller' && kind === 'controller'))
        ? { ...s, from: 'current' as const }
        : s,
    )
}
