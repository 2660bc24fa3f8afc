import type { Signature } from '../signing/signature.ts'
import type { ProcedureStarted } from './events.ts'
import type { WorkState } from './order-of-work.ts'
import type { GateId, TypedBefore } from './gate.ts'
import type { Seen } from './seen.ts'
import type { Step, Values } from './step.ts'

export interface DoneStep {
  readonly step: Step
  readonly values: Values
  readonly choice: string | null
  readonly note: string
  readonly confirmedBy: string
  readonly by: string
  readonly at: string
  /** What the device showed in that moment, where it is linked. */
  readonly seen?: Seen
  /** The reading before, where it was typed. */
  readonly again?: TypedBefore
  /** Gates that were passed over, and why. */
  readonly overruled?: { readonly gates: readonly GateId[]; readonly reason: string }
}
export type ProcedureState = 'running' | 'aborting' | 'done' | 'aborted' | 'outOfService' | 'handedOver'

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
  /** The procedure that the work goes on by, and its run. */
  readonly handed?: { readonly to: string; readonly run: string }
  /** Who stands for it, once it has ended; absent until somebody does. */
  readonly signatures?: readonly Signature[]
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

/** Currents that were measured while others were held, in order. */
export const heldReadingsOf = (run: ProcedureRun, phase: 'asFound' | 'asLeft') =>
  run.done.flatMap((d) => {
    const [held, mA] = [d.step.holdCurrent_mA, d.values['mA']]
    return d.step.kind === 'read' && d.step.phase === phase && held != null && mA !== undefined
      ? [{ held, mA, shown: d.values['shown'] ?? null }]
      : []
  })

/** Values of a series of readings, in the order they were recorded. */
export const seriesOf = (run: ProcedureRun, series: string): Values[] =>
  run.done.filter((d) => d.step.series === series).map((d) => d.values)
/** Values of the one step of a name; nothing where it was not done. */
export const valuesOfStep = (run: ProcedureRun, id: string): Values =>
  run.done.find((d) => d.step.id === id)?.values ?? {}
/** The choice that a step recommends by what was read so far; null where none is. */
export const recommendedOf = (run: ProcedureRun, step: Step): string | null =>
  step.recommendsFrom?.(run) ?? step.recommends ?? null
