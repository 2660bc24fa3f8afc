import { procedureOf } from './catalogue.ts'
import { stepsOf } from './made-for.ts'
import type { DoneStep, ProcedureRun } from './run.ts'
import type { Step } from './step.ts'
import { ALL_STEPS_BACK } from './way-back.ts'

/** A procedure as data: its steps, which hold functions, by their identifiers. */
export interface KeptProcedure extends Omit<ProcedureRun, 'done' | 'left'> {
  readonly done: readonly (Omit<DoneStep, 'step'> & { readonly step: string })[]
  readonly left: readonly string[]
}

export const keepProcedure = (run: ProcedureRun): KeptProcedure => ({
  ...run,
  done: run.done.map((d) => ({ ...d, step: d.step.id })),
  left: run.left.map((s) => s.id),
})

/** The procedure again, with its steps as they are now; null where one of them is no longer known. */
export function procedureFromKept(kept: KeptProcedure): ProcedureRun | null {
  const procedure = procedureOf(kept.started.procedure)
  if (!procedure) return null
  const known = new Map(
    [...stepsOf(procedure, kept.started), ...ALL_STEPS_BACK].map((s): [string, Step] => [s.id, s]),
  )
  const done: DoneStep[] = []
  for (const d of kept.done) {
    const step = known.get(d.step)
    if (!step) return null
    done.push({ ...d, step })
  }
  const left: Step[] = []
  for (const id of kept.left) {
    const step = known.get(id)
    if (!step) return null
    left.push(step)
  }
  return { ...kept, done, left }
}
