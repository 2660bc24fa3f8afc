import { contextOf } from '@calm/core/loop/procedure-context'
import { applyProcedureEvent } from '@calm/core/procedure/engine'
import { standingWork } from '@calm/core/procedure/hand-over'
import type { ProcedureRun } from '@calm/core/procedure/run'
import { RULES, type ProcedureEventBody, type ProcedureStarted } from '@calm/core/procedure/events'
import { commandOf } from '@calm/core/procedure/command'
import { computed, toValue, type MaybeRefOrGetter } from 'vue'
import { useRunLog, type LoopHere } from '../../api/run-log.ts'
import { useSession } from '../../api/session-store.ts'

/** How a procedure is begun, besides what the loop says. */
export type Begun = Pick<
  ProcedureStarted,
  'withDevice' | 'equipment' | 'way' | 'notInServiceBy' | 'withoutInstrument' | 'knownTo' | 'gates'
>
export type StepAnswer = Partial<
  Omit<Extract<ProcedureEventBody, { type: 'procedure.step' }>['payload'], 'step'>
>

/** The loop's newest guided procedure, or an earlier one that is asked for: begin it, do its steps in order, stop it, take it over. */
export function useProcedure(
  loop: MaybeRefOrGetter<LoopHere | null>,
  asked: MaybeRefOrGetter<string | null> = null,
) {
  const session = useSession()
  const { begin, ...log } = useRunLog<ProcedureRun, ProcedureEventBody>(
    loop,
    {
      kind: 'procedure',
      begins: 'procedure.started',
      apply: applyProcedureEvent,
    },
    asked,
  )
  const over = computed(() => {
    const state = log.run.value?.state
    return state === undefined || !['running', 'aborting'].includes(state)
  })
  const step = computed(() => (over.value ? null : (log.run.value?.left[0] ?? null)))
  const mine = computed(() => log.run.value?.runner === session.person?.id)

  function start(procedure: string, how: Begun): void {
    const here = toValue(loop)
    const context = here && contextOf(here.document)
    if (!here || !context || !over.value) return
    begin({
      type: 'procedure.started',
      payload: { procedure, revision: here.revision, context, rules: RULES, ...how },
    })
  }
  /**
   * The present step is done; an answer to a step that is not the present one goes nowhere. Where a device has a part
   * in it, the server does both or neither.
   * @returns whether it counts
   */
  async function answer(stepId: string, a: StepAnswer): Promise<boolean> {
    const run = log.run.value
    const now = step.value
    if (!run || now?.id !== stepId) return false
    const body: ProcedureEventBody = {
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
    }
    const { withDevice, rules } = run.started
    const acts =
      (now.gates ?? []).length > 0 ||
      commandOf(run, now, { values: a.values ?? {}, choice: a.choice ?? null }) !== null
    return withDevice && rules !== undefined && acts ? log.happenNow(body) : log.happen(body)
  }
  /** The work goes on by the right procedure: what stands at the loop stands, and nobody is called again. */
  async function handOver(to: string): Promise<boolean> {
    const here = toValue(loop)
    const context = here && contextOf(here.document)
    const run = log.run.value
    const from = log.runId.value
    if (!here || !context || !run || from === null) return false
    const { withDevice, equipment, way, notInServiceBy, withoutInstrument, knownTo, gates } = run.started
    const next = crypto.randomUUID()
    return log.goOn({ type: 'procedure.handedOver', payload: { to, run: next } }, next, {
      type: 'procedure.started',
      payload: {
        procedure: to,
        revision: here.revision,
        context,
        rules: RULES,
        withDevice,
        equipment,
        ...(way === undefined ? {} : { way }),
        ...(notInServiceBy === undefined ? {} : { notInServiceBy }),
        ...(withoutInstrument === undefined ? {} : { withoutInstrument }),
        ...(knownTo === undefined ? {} : { knownTo }),
        ...(gates === undefined ? {} : { gates }),
        after: { run: from, did: standingWork(run), held: run.fixedCurrent },
      },
    })
  }
  return {
    ...log,
    handOver,
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
