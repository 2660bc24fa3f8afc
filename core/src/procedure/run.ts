import type { ProcedureStarted } from './events.ts'
import type { WorkState } from './order-of-work.ts'
import type { Step, Values } from './step.ts'

export interface DoneStep {
  readonly step: Step
  readonly values: Values
  readonly choice: string | null
  readonly note: string
  readonly confirmedBy: string
  readonly by: string
  readonly at: string
}
export type ProcedureState = 'running' | 'aborting' | 'done' | 'aborted' | 'outOfService'

/** A procedure as its events tell it. */
export interface ProcedureRun {
  readonly started: ProcedureStarted
  readonly startedBy: string
  readonly startedAt: string
  /** Who works at it now; nobody else's steps count. */
  readonly runner: string
  readonly state: ProcedureState
  readonly work: WorkState
  readonly done: readonly DoneStep[]
  readonly left: readonly Step[]
  readonly fixedCurrent: boolean
  readonly abort: { readonly reason: string; readonly by: string; readonly at: string } | null
}
/** The readings of a phase that have an input to be held against, in order. */
export const readingsOf = (run: ProcedureRun, phase: 'asFound' | 'asLeft') =>
  run.done
    .filter(
      (d) =>
        d.step.kind === 'read' &&
        d.step.phase === phase &&
        (d.values['applied'] ?? d.step.apply) !== undefined,
    )
    .map((d) => ({
      applied: d.values['applied'] ?? d.step.apply ?? 0,
      pv: d.values['pv'] ?? 0,
      mA: d.values['mA'] ?? null,
    }))

/** Values of a series of readings, in the order they were recorded. */
export const seriesOf = (run: ProcedureRun, series: string): Values[] =>
  run.done.filter((d) => d.step.series === series).map((d) => d.values)
/** Values of the one step of a name; nothing where it was not done. */
export const valuesOfStep = (run: ProcedureRun, id: string): Values =>
  run.done.find((d) => d.step.id === id)?.values ?? {}
