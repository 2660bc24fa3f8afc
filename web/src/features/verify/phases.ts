import { appliedUnit, fromApplied, toApplied } from '@calm/core/record/applied-law'
import { appliedAt, type LoopScale } from '@calm/core/verify/reading-errors'
import { sayNumber } from '@calm/core/quantity/round'
import type { Column, Phase, Typed } from '@calm/core/record/kinds/reading-values'
import type { Run } from '@calm/core/record/run'
import { stageOf, type Stage } from '@calm/core/signal/stage'

type Stands = Pick<Run, 'state' | 'leftAsFound'>

/** The readings on screen: the phase that is being taken, afterwards the one that was asked for. */
export function phaseShown(run: Stands | null, asked: Phase | null): Phase {
  if (!run || run.state === 'asFound') return 'asFound'
  if (run.state === 'asLeft') return 'asLeft'
  return asked ?? (run.state === 'adjust' || run.leftAsFound ? 'asFound' : 'asLeft')
}

/** The phase whose readings can be typed now; null where none can. */
export function phaseOpen(run: Stands | null, asked: Phase | null, mayWrite: boolean): Phase | null {
  if (!mayWrite || !run) return null
  if (run.state === 'asFound') return 'asFound'
  return run.state === 'asLeft' || (run.state === 'adjust' && asked === 'asLeft') ? 'asLeft' : null
}

export interface ReadingColumn {
  readonly id: Column
  readonly title: string
  readonly unit: string
  /** Where the standard gives another quantity: what a setting stands for, and the unit of that. */
  readonly standsFor?: { readonly unit: string; readonly of: (set: number) => number | null }
}
function applied({ applies, inputRange }: Run['started']): ReadingColumn {
  if (!applies) return { id: 'applied', title: 'Applied', unit: inputRange.unit }
  return {
    id: 'applied',
    title: 'Set',
    unit: appliedUnit(applies),
    standsFor: { unit: inputRange.unit, of: (set) => fromApplied(applies, set, inputRange) },
  }
}
/** What has to be set on the standard at a level of the plan, in the unit of the first column. */
export function toSet({ applies, inputRange }: Run['started'], scale: LoopScale, level_pct: number): number {
  const input = appliedAt(scale, level_pct)
  return applies ? (toApplied(applies, input, inputRange) ?? NaN) : input
}

/** A value of a column as the record takes it: a setting by what it stands for. Undefined where it stands for nothing. */
export function setting(read: Typed, column: ReadingColumn | undefined): Typed | undefined {
  if (!column?.standsFor) return read
  const value = column.standsFor.of(read.value)
  return value === null ? undefined : { value, typed: `${sayNumber(read.value, 12)} ${column.unit}` }
}

/** What is read at each point: a controller where the path has one. */
export const columnsOf = (run: Pick<Run, 'started'>, stages: readonly Stage[]): ReadingColumn[] => [
  applied(run.started),
  { id: 'pv', title: 'Transmitter', unit: run.started.inputRange.unit },
  { id: 'loopCurrent_mA', title: 'Loop', unit: 'mA' },
  ...(stageOf(stages, 'controller')
    ? [{ id: 'controller' as const, title: 'Controller', unit: run.started.outputRange.unit }]
    : []),
]

export interface VerifyStands {
  readonly run: (Stands & Pick<Run, 'plan'>) | null
  readonly hasTolerance: boolean
  readonly mayWrite: boolean
  readonly isReviewer: boolean
  /** Plan and equipment of a new verification are being chosen. */
  readonly choosing: boolean
  readonly asked: Phase | null
  /** Points of the phase on screen that are not read yet. */
  readonly missing: number
  /** What still stands against a signature; null where nothing does. */
  readonly unsigned: string | null
  /** What happened to the device after it was verified; left out where nothing did. */
  readonly since?: 'trim' | 'loss' | undefined
}
/** The next thing to do, in a sentence. */
export function nextStep(at: VerifyStands): string {
  const { run, missing } = at
  if (!at.hasTolerance)
    return 'Give the loop a tolerance on the Scale bench first: nothing can be judged without one.'
  if (!at.mayWrite && run === null) return 'Nothing has been verified yet.'
  if (at.choosing) return 'Choose plan and instruments, then begin.'
  if (!run) return ''
  switch (run.state) {
    case 'asFound':
      return missing > 0
        ? `As found: ${missing} of ${run.plan.length} points to read. Enter goes to the next reading.`
        : 'As found is complete. Close it before anything is adjusted.'
    case 'adjust':
      return at.asked === 'asLeft'
        ? 'Read the as-left values, with the same plan.'
        : 'As found is closed. Say what was adjusted, or that nothing was.'
    case 'asLeft':
      return missing > 0
        ? `As left: ${missing} of ${run.plan.length} points to read.`
        : 'As left is complete. Close it, then sign.'
    case 'ready':
      return at.unsigned ?? 'All is read. Sign the record.'
    case 'signed':
      return at.isReviewer
        ? 'Signed by the technician. Countersign it, or return it with a reason.'
        : 'Signed. A reviewer countersigns.'
    case 'countersigned':
      return at.since === 'loss'
        ? 'Its memory was lost since: key it in again at Trim, then verify it.'
        : at.since === 'trim'
          ? 'It was adjusted since: verify it again.'
          : 'The record is complete.'
  }
}
