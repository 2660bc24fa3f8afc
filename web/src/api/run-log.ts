import type { Refused } from '@calm/core/refused'
import { loops, runs as runsAt } from '@calm/contract/api/addresses'
import type { EventBody, NewEvent, RunInfo, StoredEvent } from '@calm/contract/events'
import type { LoopDocument } from '@calm/core/loop/document'
import { foreignAuthor } from '@calm/core/signing/authors'
import { computed, onScopeDispose, ref, shallowRef, toValue, watch, type MaybeRefOrGetter } from 'vue'
import { call, sayProblem } from './call.ts'
import { plantTime } from './clock.ts'
import { useLive } from './live-cache.ts'
import { useOutbox } from './outbox.ts'
import { sayTime } from '../ui/dates.ts'
import { useSession } from './session-store.ts'

/** A lost answer is asked for again so often. */
const MOST_ATTEMPTS = 3
/** Somebody of a package is never the person here who has the same identifier. */
const author = (e: StoredEvent): string => (e.foreign ? foreignAuthor(e.by) : e.by)

export interface LoopHere {
  readonly id: string
  readonly revision: number
  readonly document: LoopDocument
}
/** What tells one kind of run from another: how it begins and what an event does to it. */
export interface RunRules<R, B extends EventBody> {
  readonly kind: RunInfo['kind']
  readonly begins: B['type']
  readonly apply: (
    run: R | null,
    event: { readonly body: B; readonly by: string; readonly at: string },
  ) => { readonly kind: 'run'; readonly run: R } | Refused
}

/**
 * The loop's newest run of a kind, or the one that is asked for: what the server has acknowledged and, on top of it, what is still on its
 * way. What happens here is an event first; the screen shows the fold of all events.
 */
export function useRunLog<R, B extends EventBody>(
  loop: MaybeRefOrGetter<LoopHere | null>,
  rules: RunRules<R, B>,
  /** An earlier one that is asked for, until another is begun here. */
  asked: MaybeRefOrGetter<string | null> = null,
) {
  const outbox = useOutbox()
  const session = useSession()
  const refusal = ref<string | null>(null)
  /** Acknowledged, but not yet seen in what the server tells: without them the screen would jump back. */
  const acknowledged = shallowRef<readonly NewEvent[]>([])
  /** A run begun here that the server may not know yet. */
  const begun = ref<string | null>(null)

  const list = useLive(loops.runs, () => {
    const here = toValue(loop)
    return here && { loop: here.id }
  })
  const runs = computed(() => (list.data.value ?? []).filter((r) => r.kind === rules.kind))
  /** What was asked for before something new was begun. */
  const past = ref<string | null>(null)
  const earlier = computed(() => {
    const id = toValue(asked)
    return (id === past.value ? null : runs.value.find((r) => r.id === id)) ?? null
  })
  const wanted = computed(
    () =>
      (begun.value === null
        ? (earlier.value ?? runs.value[0])
        : runs.value.find((r) => r.id === begun.value)) ?? null,
  )
  const told = useLive(
    runsAt.one,
    () => wanted.value && { run: wanted.value.id },
    () => [wanted.value?.loopId],
  )
  const info = computed((): RunInfo | null => told.data.value?.run ?? wanted.value)
  const stored = computed((): readonly StoredEvent[] => told.data.value?.events ?? [])

  const waiting = computed(() => outbox.waiting.filter((o) => o.loopId === toValue(loop)?.id))
  const runId = computed(
    () =>
      begun.value ??
      earlier.value?.id ??
      waiting.value.find((o) => o.event.body.type === rules.begins)?.event.runId ??
      info.value?.id ??
      null,
  )
  const run = computed((): R | null => {
    const id = runId.value
    const done = stored.value.filter((e) => e.runId === id)
    const known = new Set(done.map((e) => e.id))
    const mine = [
      ...acknowledged.value.map((event) => ({ event, by: event.by ?? session.person?.id ?? '' })),
      // Also what waits for another person: it happened here, and goes out when they sign in.
      ...waiting.value.map((o) => ({ event: o.event, by: o.by?.id ?? '' })),
    ].filter(({ event }) => event.runId === id && !known.has(event.id))
    // Everything of this run is of its kind: the server refuses the others.
    const all = [
      ...done.map((e) => ({ body: { type: e.type, payload: e.payload } as B, by: author(e), at: e.at })),
      ...mine.map(({ event, by }) => ({ body: event.body as B, by, at: event.at })),
    ]
    // An event that no longer fits is refused by the server and told there; here it is passed over.
    return all.reduce<R | null>((r, e) => {
      const next = rules.apply(r, e)
      return next.kind === 'run' ? next.run : r
    }, null)
  })

  watch(
    told.data,
    (now) => {
      if (!now) return
      const seen = new Set(now.events.map((e) => e.id))
      acknowledged.value = acknowledged.value.filter((e) => !seen.has(e.id))
      if (begun.value === now.run.id) begun.value = null
    },
    { immediate: true, flush: 'sync' },
  )
  onScopeDispose(
    outbox.onAccepted((id, events) => {
      if (id === toValue(loop)?.id) acknowledged.value = [...acknowledged.value, ...events]
    }),
  )

  /** Records an event; what the rules do not allow now is told at once and not sent. @returns whether it is kept */
  function happen(body: B): boolean {
    const here = toValue(loop)
    const id = runId.value
    if (!here || id === null) return false
    const event: NewEvent = { id: crypto.randomUUID(), runId: id, at: plantTime(), body }
    const next = rules.apply(run.value, { body, by: session.person?.id ?? '', at: event.at })
    refusal.value = next.kind === 'refused' ? next.says : null
    return next.kind !== 'refused' && outbox.add(here.id, event)
  }
  /**
   * Records an event that a device has a part in: the server does both or neither, so it is not kept here for later.
   * Sent again under the same identifier where the answer was lost.
   * @param made - its identifier and time where somebody signed them already
   * @returns whether it is stored
   */
  async function happenNow(
    body: B,
    made: { readonly id: string; readonly at: string } = { id: crypto.randomUUID(), at: plantTime() },
  ): Promise<boolean> {
    const here = toValue(loop)
    const id = runId.value
    if (!here || id === null) return false
    const by = session.person?.id
    const event: NewEvent = {
      ...made,
      runId: id,
      body,
      ...(by ? { by } : {}),
    }
    const next = rules.apply(run.value, { body, by: by ?? '', at: event.at })
    refusal.value = next.kind === 'refused' ? next.says : null
    return next.kind !== 'refused' && sendNow(here.id, [event])
  }
  /** At once, and again where the answer was lost. @returns whether all of it is stored */
  async function sendNow(loopId: string, events: readonly NewEvent[]): Promise<boolean> {
    // What waits here happened before it.
    await outbox.flush()
    for (let attempt = 1; ; attempt++) {
      try {
        await call(loops.record, { loop: loopId }, { events: [...events] })
        acknowledged.value = [...acknowledged.value, ...events]
        return true
      } catch (error) {
        if (attempt < MOST_ATTEMPTS && (error as { passing?: boolean }).passing) continue
        refusal.value = sayProblem(error)
        return false
      }
    }
  }
  /**
   * Ends this run and begins another in one act: the server takes both or neither. Sent again under the same
   * identifiers where the answer was lost.
   * @returns whether both are stored
   */
  async function goOn(ends: B, next: string, begins: B): Promise<boolean> {
    const here = toValue(loop)
    const id = runId.value
    if (!here || id === null) return false
    const by = session.person?.id
    const at = plantTime()
    const event = (of: string, body: B): NewEvent => ({
      id: crypto.randomUUID(),
      at,
      runId: of,
      body,
      ...(by ? { by } : {}),
    })
    const both = [event(id, ends), event(next, begins)]
    const told = rules.apply(run.value, { body: ends, by: by ?? '', at })
    refusal.value = told.kind === 'refused' ? told.says : null
    if (told.kind === 'refused') return false
    const stored = await sendNow(here.id, both)
    if (stored) goesOnWith(next)
    return stored
  }
  function goesOnWith(run: string): void {
    begun.value = run
    past.value = toValue(asked)
  }
  /** Begins a new run with its first event. */
  function begin(body: B): void {
    goesOnWith(crypto.randomUUID())
    happen(body)
  }
  return {
    run,
    runId,
    runs,
    /** The run is here, or it is known that there is none. */
    loaded: computed(
      () => list.state.value !== 'loading' && (wanted.value === null || told.state.value !== 'loading'),
    ),
    /** Silent while the outbox tells its own trouble: one sentence is enough. */
    trouble: computed(() => (outbox.trouble ? null : (list.says.value ?? told.says.value))),
    refusal,
    names: computed(() => new Map(stored.value.map((e) => [author(e), e.byName]))),
    unsent: computed(() => waiting.value.length),
    /** What is stored, or not yet, for the foot of the bench. */
    stored: computed(() =>
      waiting.value.length > 0
        ? `${waiting.value.length} kept here, not stored yet`
        : outbox.lastStored
          ? `stored ${sayTime(outbox.lastStored)}`
          : null,
    ),
    info,
    /** There is a newer one than what is shown. */
    isEarlier: computed(() => earlier.value !== null && earlier.value.id !== runs.value[0]?.id),
    begin,
    happen,
    happenNow,
    goOn,
  }
}
