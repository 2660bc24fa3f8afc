import type { NewEvent, RunInfo, StoredEvent } from '@calm/contract/events'
import type { LoopDocument } from '@calm/core/loop/document'
import { judgeRun } from '@calm/core/loop/summary'
import { applyRunEvent, type Happened, type Run } from '@calm/core/record/run'
import type { Phase, RunEventBody } from '@calm/core/record/run-events'
import { loopScale } from '@calm/core/verify/reading-errors'
import { computed, onScopeDispose, ref, shallowRef, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { api, sayProblem } from '../../api/http.ts'
import { useOutbox } from '../../api/outbox.ts'
import { useSession } from '../../api/session-store.ts'

interface LoopHere {
  readonly id: string
  readonly revision: number
  readonly document: LoopDocument
}

/**
 * The loop's newest verification: what the server has acknowledged and, on top of it, what is still on its
 * way. What happens here is an event first; the screen shows the fold of all events.
 */
export function useVerification(loop: MaybeRefOrGetter<LoopHere | null>) {
  const outbox = useOutbox()
  const session = useSession()
  const info = shallowRef<RunInfo | null>(null)
  const stored = shallowRef<readonly StoredEvent[]>([])
  const stages = shallowRef<LoopDocument['path']>([])
  const trouble = ref<string | null>(null)
  const loaded = ref(false)
  const refusal = ref<string | null>(null)
  /** Acknowledged, but not yet seen in what the server tells: without them the screen would jump back. */
  const acknowledged = shallowRef<readonly NewEvent[]>([])
  /** A run begun here that the server may not know yet. */
  const begun = ref<string | null>(null)

  const waiting = computed(() => outbox.waiting.filter((o) => o.loopId === toValue(loop)?.id))
  const runId = computed(
    () =>
      begun.value ??
      waiting.value.find((o) => o.event.body.type === 'run.started')?.event.runId ??
      info.value?.id ??
      null,
  )

  const run = computed((): Run | null => {
    const id = runId.value
    const done = stored.value.filter((e) => e.runId === id)
    const known = new Set(done.map((e) => e.id))
    const mine = [...acknowledged.value, ...waiting.value.map((o) => o.event)].filter(
      (e) => e.runId === id && !known.has(e.id),
    )
    const all: Happened[] = [
      ...done.map((e) => ({
        body: { type: e.type, payload: e.payload } as RunEventBody,
        by: e.by,
        at: e.at,
      })),
      ...mine.map((e) => ({ body: e.body, by: session.person?.id ?? '', at: e.at })),
    ]
    // An event that no longer fits is refused by the server and told there; here it is passed over.
    return all.reduce<Run | null>((r, e) => {
      const next = applyRunEvent(r, e)
      return next.kind === 'run' ? next.run : r
    }, null)
  })
  const names = computed(() => new Map(stored.value.map((e) => [e.by, e.byName])))

  async function load(): Promise<void> {
    const here = toValue(loop)
    if (!here) return
    try {
      const runs = await api<RunInfo[]>('GET', `/api/loops/${here.id}/runs`)
      const wanted = begun.value ? runs.find((r) => r.id === begun.value) : runs[0]
      if (wanted) {
        const told = await api<{ run: RunInfo; events: StoredEvent[] }>('GET', `/api/runs/${wanted.id}`)
        info.value = told.run
        stored.value = told.events
        const seen = new Set(told.events.map((e) => e.id))
        acknowledged.value = acknowledged.value.filter((e) => !seen.has(e.id))
        if (begun.value === wanted.id) begun.value = null
        await loadStages(here, wanted.revision)
      } else await loadStages(here, here.revision)
      trouble.value = null
    } catch (error) {
      trouble.value = sayProblem(error)
      if (stages.value.length === 0) stages.value = here.document.path
    }
    loaded.value = true
  }

  /** A run is judged by the path of the revision it was begun on, also when the loop has moved on. */
  async function loadStages(here: LoopHere, revision: number): Promise<void> {
    if (revision === here.revision) stages.value = here.document.path
    else {
      const all = await api<{ number: number; document: LoopDocument }[]>(
        'GET',
        `/api/loops/${here.id}/revisions`,
      )
      stages.value = all.find((r) => r.number === revision)?.document.path ?? here.document.path
    }
  }

  watch(() => toValue(loop)?.id, load, { immediate: true })
  onScopeDispose(
    outbox.onAccepted((id, events) => {
      if (id !== toValue(loop)?.id) return
      acknowledged.value = [...acknowledged.value, ...events]
      void load()
    }),
  )

  /** Records an event; what the rules do not allow now is told at once and not sent. */
  function happen(body: RunEventBody): void {
    const here = toValue(loop)
    const id = runId.value
    if (!here || id === null) return
    const event: NewEvent = { id: crypto.randomUUID(), runId: id, at: new Date().toISOString(), body }
    const next = applyRunEvent(run.value, { body, by: session.person?.id ?? '', at: event.at })
    refusal.value = next.kind === 'refused' ? next.says : null
    if (next.kind === 'refused') return
    outbox.add(here.id, event)
  }

  /** Begins a new run on the loop's present revision. */
  function start(plan: Run['started']['plan'], equipment: string[], U_pct: number): void {
    const here = toValue(loop)
    const scale = here && loopScale(here.document.path)
    if (!here || !scale || !here.document.tolerance) return
    begun.value = crypto.randomUUID()
    stages.value = here.document.path
    happen({
      type: 'run.started',
      payload: {
        plan,
        revision: here.revision,
        tolerance: here.document.tolerance,
        inputRange: { ...scale.input },
        outputRange: { ...scale.output },
        equipment,
        U_pct,
      },
    })
  }

  const judgement = (phase: Phase) =>
    computed(() => (run.value ? judgeRun(run.value, stages.value, phase) : null))
  return {
    run,
    runId,
    stages,
    loaded,
    trouble,
    refusal,
    names,
    unsent: computed(() => waiting.value.length),
    asFound: judgement('asFound'),
    asLeft: judgement('asLeft'),
    load,
    start,
    happen,
  }
}
