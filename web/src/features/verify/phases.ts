import type { Column, Phase } from '@calm/core/record/kinds/reading-values'
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
}
/** What is read at each point: a controller where the path has one. */
export const columnsOf = (run: Pick<Run, 'started'>, stages: readonly Stage[]): ReadingColumn[] => [
  { id: 'applied', title: 'Applied', unit: run.started.inputRange.unit },
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
      return 'The record is complete.'
  }
}
