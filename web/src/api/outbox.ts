import { loops } from '@calm/contract/api/addresses'
import type { NewEvent } from '@calm/contract/events'
import type { Person } from '@calm/contract/people'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { ApiProblem, call, sayProblem } from './call.ts'
import { useSession } from './session-store.ts'

/** An event on its way to the server, kept in the browser until the server has acknowledged it. */
export interface Outgoing {
  readonly loopId: string
  /** Order in which things happened here. */
  readonly order: number
  readonly event: NewEvent
  /** Who did it: it goes out in that person's session only. Null where an older page kept it and nobody knows. */
  readonly by: Author | null
}
export type Author = Pick<Person, 'id' | 'shownName'>

const PREFIX = 'calm-outbox/'
const MOST_AT_ONCE = 100
const RETRY_MS = 2_000

function kept(): Outgoing[] {
  const out: Outgoing[] = []
  for (let i = 0; i < localStorage.length; i++) {
    const key = localStorage.key(i)
    if (!key?.startsWith(PREFIX)) continue
    try {
      out.push({ by: null, ...(JSON.parse(localStorage.getItem(key) ?? '') as Omit<Outgoing, 'by'>) })
    } catch {
      localStorage.removeItem(key)
    }
  }
  return out.sort((a, b) => a.order - b.order)
}

/**
 * What happened here but is not stored yet. Events go into the browser's storage first and leave it only
 * when the server says they are committed, so a lost network, a stopped database, an ended session or a
 * closed lid loses nothing; identifiers make a second send harmless.
 */
export const useOutbox = defineStore('outbox', () => {
  const session = useSession()
  const waiting = ref<Outgoing[]>(kept())
  const isMine = (o: Outgoing) => o.by !== null && o.by.id === session.person?.id
  const trouble = ref<string | null>(null)
  const refused = ref<{ says: string; type: string }[]>([])
  const lastStored = ref<Date | null>(null)
  const accepted = new Set<(loopId: string, events: readonly NewEvent[]) => void>()
  let order = Date.now()
  let timer: ReturnType<typeof setTimeout> | undefined

  function drop(items: readonly Outgoing[]): void {
    const ids = new Set(items.map((o) => o.event.id))
    for (const id of ids) localStorage.removeItem(PREFIX + id)
    waiting.value = waiting.value.filter((o) => !ids.has(o.event.id))
  }

  /** @returns false where nobody is signed in: then it is not kept */
  function add(loopId: string, event: NewEvent): boolean {
    const { person } = session
    if (!person) return false
    const by = { id: person.id, shownName: person.shownName }
    const outgoing: Outgoing = { loopId, order: order++, event: { ...event, by: by.id }, by }
    localStorage.setItem(PREFIX + event.id, JSON.stringify(outgoing))
    waiting.value = [...waiting.value, outgoing]
    void flush()
    return true
  }

  async function sendAll(): Promise<void> {
    // Another window may have sent some meanwhile, or put its own here.
    waiting.value = kept()
    for (;;) {
      // Never another person's: theirs wait until they sign in.
      const mine = waiting.value.filter(isMine)
      const loopId = mine[0]?.loopId
      if (loopId === undefined) return
      const batch = mine.filter((o) => o.loopId === loopId).slice(0, MOST_AT_ONCE)
      try {
        await call(loops.record, { loop: loopId }, { events: batch.map((o) => o.event) })
        drop(batch)
        trouble.value = null
        lastStored.value = new Date()
        for (const listener of accepted)
          listener(
            loopId,
            batch.map((o) => o.event),
          )
      } catch (error) {
        const problem = error as ApiProblem
        if (problem.passing || problem.signedOut || problem.status >= 500 || problem.status === 429) {
          trouble.value = problem.message
          if (!problem.signedOut) timer = setTimeout(() => void flush(), RETRY_MS)
          return
        }
        // A rule was broken (another window was faster): the event that did it is taken out and told.
        const guilty = batch.find((o) => o.event.id === problem.problem['eventId']) ?? batch[0]
        if (!guilty) return
        refused.value = [...refused.value, { says: sayProblem(problem), type: guilty.event.body.type }]
        drop([guilty])
        for (const listener of accepted) listener(loopId, [])
      }
    }
  }

  /** The sending that is under way; null: none is. */
  let running: Promise<void> | null = null
  /** One window at a time. */
  async function sendInTurn(): Promise<void> {
    // Absent where the page is not served from a secure address.
    const locks = navigator.locks as LockManager | undefined | null
    if (locks) await locks.request('calm-outbox', sendAll)
    else await sendAll()
  }
  /**
   * Sends what waits. Whoever asks while something is being sent waits for that: what a device does next would come
   * before what was noted before it.
   */
  async function flush(): Promise<void> {
    clearTimeout(timer)
    running ??= sendInTurn().finally(() => (running = null))
    await running
    if (waiting.value.some(isMine) && trouble.value === null) await flush()
  }

  /** What an older page kept without a name: this person says that it is theirs. */
  function claim(): void {
    const { person } = session
    if (!person) return
    for (const o of kept().filter((x) => x.by === null)) {
      const by = { id: person.id, shownName: person.shownName }
      localStorage.setItem(
        PREFIX + o.event.id,
        JSON.stringify({ ...o, event: { ...o.event, by: by.id }, by }),
      )
    }
    waiting.value = kept()
    void flush()
  }
  /** What waits for other people, by name. */
  const others = computed(() => {
    const counts = new Map<string, number>()
    for (const o of waiting.value)
      if (!isMine(o)) counts.set(o.by?.shownName ?? '', (counts.get(o.by?.shownName ?? '') ?? 0) + 1)
    return [...counts].map(([name, count]) => ({ name, count }))
  })

  return {
    waiting,
    trouble,
    refused,
    lastStored,
    count: computed(() => waiting.value.filter(isMine).length),
    others,
    claim,
    /** After a sign-in: what waits is looked at anew. */
    reload: () => void (waiting.value = kept()),
    add,
    flush,
    /** Told which events of a loop the server has committed (none when one was refused). */
    onAccepted: (listener: (loopId: string, events: readonly NewEvent[]) => void) => {
      accepted.add(listener)
      return () => accepted.delete(listener)
    },
    forgetRefused: () => void (refused.value = []),
  }
})
