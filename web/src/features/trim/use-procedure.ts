import { contextOf } from '@calm/core/loop/procedure-context'
import { applyProcedureEvent } from '@calm/core/procedure/engine'
import type { ProcedureRun } from '@calm/core/procedure/run'
import type { ProcedureEventBody } from '@calm/core/procedure/events'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { useRunLog, type LoopHere } from '../../api/run-log.ts'
import { useSession } from '../../api/session-store.ts'

export type StepAnswer = Partial<
  Omit<Extract<ProcedureEventBody, { type: 'procedure.step' }>['payload'], 'step'>
>

/** The loop's newest guided procedure: begin it, do its steps in order, stop it, take it over. */
export function useProcedure(loop: MaybeRefOrGetter<LoopHere | null>) {
  const session = useSession()
  const { begin, ...log } = useRunLog<ProcedureRun, ProcedureEventBody>(loop, {
    kind: 'procedure',
    begins: 'procedure.started',
    apply: applyProcedureEvent,
  })
  const over = computed(() => {
    const state = log.run.value?.state
    return state === undefined || !['running', 'aborting'].includes(state)
  })
  const step = computed(() => (over.value ? null : (log.run.value?.left[0] ?? null)))
  const mine = computed(() => log.run.value?.runner === session.person?.id)

  function start(procedure: string, withDevice: boolean, equipment: string[]): void {
    const here = toValue(loop)
    const context = here && contextOf(here.document)
    if (!here || !context || !over.value) return
    begin({
      type: 'procedure.started',
      payload: { procedure, revision: here.revision, context, withDevice, equipment },
    })
  }
  /** The present step is done; an answer to a step that is not the present one goes nowhere. */
  function answer(stepId: string, a: StepAnswer): void {
    if (step.value?.id !== stepId) return
    log.happen({
      type: 'procedure.step',
      payload: {
        step: stepId,
        ticks: 0,
        values: {},
        choice: null,
        confirmed: false,
        note: '',
        confirmedBy: '',
        ...a,
      },
    })
  }
  return {
    ...log,
    over,
    step,
    mine,
    start,
    answer,
    abort: (reason: string) => log.happen({ type: 'procedure.abortAsked', payload: { reason } }),
    takeOver: () =>
      log.happen({ type: 'procedure.takenOver', payload: { from: log.run.value?.runner ?? '' } }),
  }
}
