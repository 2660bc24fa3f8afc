import { STAGE_ORDER, stageOf, type Stage, type StageKind } from '../signal/stage.ts'
import { CODE_FORMATS } from '../signal/card-codes.ts'

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
      return { kind, signal: stageOf(stages, 'output')?.signal ?? '4-20', ...CODE_FORMATS.F27648 }
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

/** The path with one stage more, at its place along the line. */
export function withStage(stages: readonly Stage[], kind: OptionalStage): Stage[] {
  if (stages.some((s) => s.kind === kind)) return [...stages]
  const place = (s: Stage) => STAGE_ORDER.indexOf(s.kind)
  return [...stages, begin(kind, stages)].sort((a, b) => place(a) - place(b))
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
