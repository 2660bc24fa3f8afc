import type { NewEvent } from '@calm/contract/events'
import { defineStore } from 'pinia'
import { computed, ref } from 'vue'
import { api, ApiProblem, sayProblem } from './http.ts'

/** An event on its way to the server, kept in the browser until the server has acknowledged it. */
export interface Outgoing {
  readonly loopId: string
  /** Order in which things happened here. */
  readonly order: number
  readonly event: NewEvent
}

const PREFIX = 'calm-outbox/'
const MOST_AT_ONCE = 100
const RETRY_MS = 2_000

function kept(): Outgoing[] {
  const out: Outgoing[] = []
  for (let i = 0; i < localStorage.length; i++) {
    const key = localStorage.key(i)
    if (!key?.startsWith(PREFIX)) continue
    try {
      out.push(JSON.parse(localStorage.getItem(key) ?? '') as Outgoing)
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
  const waiting = ref<Outgoing[]>(kept())
  const trouble = ref<string | null>(null)
  const refused = ref<{ says: string; type: string }[]>([])
  const lastStored = ref<Date | null>(null)
  const accepted = new Set<(loopId: string, events: readonly NewEvent[]) => void>()
  let order = Date.now()
  let timer: ReturnType<typeof setTimeout> | undefined
  let sending = false

  function drop(items: readonly Outgoing[]): void {
    const ids = new Set(items.map((o) => o.event.id))
    for (const id of ids) localStorage.removeItem(PREFIX + id)
    waiting.value = waiting.value.filter((o) => !ids.has(o.event.id))
  }

  function add(loopId: string, event: NewEvent): void {
    const outgoing: Outgoing = { loopId, order: order++, event }
    localStorage.setItem(PREFIX + event.id, JSON.stringify(outgoing))
    waiting.value = [...waiting.value, outgoing]
    void flush()
  }

  async function sendAll(): Promise<void> {
    // Another window may have sent some meanwhile, or put its own here.
    waiting.value = kept()
    while (waiting.value.length > 0) {
      const loopId = waiting.value[0]?.loopId ?? ''
      const batch = waiting.value.filter((o) => o.loopId === loopId).slice(0, MOST_AT_ONCE)
      try {
        await api('POST', `/api/loops/${loopId}/events`, { events: batch.map((o) => o.event) })
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

  /** Sends what waits, one window at a time. */
  async function flush(): Promise<void> {
    clearTimeout(timer)
    if (sending) return
    sending = true
    try {
      // Absent where the page is not served from a secure address.
      const locks = navigator.locks as LockManager | undefined | null
      if (locks) await locks.request('calm-outbox', sendAll)
      else await sendAll()
    } finally {
      sending = false
    }
    if (waiting.value.length > 0 && trouble.value === null) void flush()
  }

  return {
    waiting,
    trouble,
    refused,
    lastStored,
    count: computed(() => waiting.value.length),
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
