import { refused } from '@calm/core/refused'
import type { RunInfo, StoredEvent } from '@calm/contract/events'
import type { LoopDocument } from '@calm/core/loop/document'
import { createPinia, setActivePinia } from 'pinia'
import { effectScope, ref } from 'vue'
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import { tell } from './live.ts'
import { forgetAnswers } from './live-cache.ts'
import { useSession } from './session-store.ts'
import { useRunLog, type LoopHere, type RunRules } from './run-log.ts'

type Left = { type: 'left.asFound'; payload: Record<string, never> }
interface Count {
  readonly n: number
}
/** A run that only counts, and refuses the fourth. */
const RULES: RunRules<Count, Left> = {
  kind: 'verification',
  begins: 'left.asFound',
  apply: (run) =>
    (run?.n ?? 0) >= 3 ? refused('Three are enough.') : { kind: 'run', run: { n: (run?.n ?? 0) + 1 } },
}
const RUN = '00000000-0000-4000-8000-000000000001'
const LOOP: LoopHere = { id: 'loop', revision: 1, document: {} as LoopDocument }
const left = (): Left => ({ type: 'left.asFound', payload: {} })
const runInfo = (more: Partial<RunInfo> = {}): RunInfo => ({
  id: RUN,
  loopId: 'loop',
  kind: 'verification',
  procedure: null,
  state: 'asFound',
  verdict: null,
  startedAt: '2026-11-25T10:00:00.000Z',
  startedBy: 'Wren',
  foreign: false,
  revision: 1,
  ...more,
})

class Server {
  runs: RunInfo[] = [runInfo({ id: 'other', kind: 'procedure', procedure: 'zero-trim' }), runInfo()]
  events: StoredEvent[] = []
  reached = true
  fetch = (path: string, init?: { method?: string; body?: string }): Promise<Response> => {
    if (!this.reached) return Promise.reject(new TypeError('offline'))
    if (init?.method === 'POST') {
      const { events } = JSON.parse(init.body ?? '{}') as { events: { id: string; runId: string }[] }
      for (const e of events) this.store(e.id, e.runId)
      return this.say({})
    }
    if (path.endsWith('/runs')) return this.say(this.runs)
    return this.say({ run: this.runs.find((r) => path.endsWith(r.id)), events: this.events })
  }
  store(id: string, runId = RUN): void {
    const seq = this.events.length + 1
    this.events.push({
      id,
      loopId: 'loop',
      runId,
      seq,
      type: 'left.asFound',
      at: '2026-11-25T10:00:00.000Z',
      recordedAt: '2026-11-25T10:00:01.000Z',
      form: 2,
      outOfOrder: false,
      foreign: false,
      by: 'w',
      byName: 'Wren',
      payload: {},
      previous: '',
      hash: '',
    })
  }
  /** The next answer about the run comes late, as it was when it was asked for. */
  late(ms: number): void {
    const quick = this.fetch
    vi.stubGlobal('fetch', async (path: string, init?: { method?: string; body?: string }) => {
      const told = await quick(path, init)
      if (!path.startsWith('/api/runs/')) return told
      vi.stubGlobal('fetch', quick)
      await new Promise((r) => setTimeout(r, ms))
      return told
    })
  }
  private say = (body: unknown) => Promise.resolve(new Response(JSON.stringify(body)))
}
let server: Server
const settle = () => vi.advanceTimersByTimeAsync(10)
function open(loop: LoopHere | null = LOOP) {
  const here = ref(loop)
  const log = effectScope().run(() => useRunLog(() => here.value, RULES))
  if (!log) throw new Error('no log')
  return log
}
beforeEach(() => {
  vi.useFakeTimers()
  localStorage.clear()
  forgetAnswers()
  setActivePinia(createPinia())
  useSession().person = {
    id: 'w',
    name: 'wren',
    shownName: 'Wren',
    role: 'technician',
    areas: [],
    areaRoles: {},
  }
  server = new Server()
  vi.stubGlobal('fetch', server.fetch)
  vi.stubGlobal(
    'EventSource',
    class {
      addEventListener(): void {}
      close(): void {}
    },
  )
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

describe('the newest run of a kind', () => {
  test('a run of the other kind is not taken for it', async () => {
    server.store('a')
    server.store('b')
    const log = open()
    await settle()
    expect([log.loaded.value, log.runId.value, log.run.value]).toEqual([true, RUN, { n: 2 }])
    expect(log.names.value.get('w')).toBe('Wren')
  })
  test('no run: nothing, and that is known', async () => {
    server.runs = []
    const log = open()
    await settle()
    expect([log.loaded.value, log.runId.value, log.run.value]).toEqual([true, null, null])
  })
  test('what happens shows at once, goes to the server and is not counted twice', async () => {
    server.store('a')
    const log = open()
    await settle()
    log.happen(left())
    expect([log.run.value, log.unsent.value]).toEqual([{ n: 2 }, 1])
    await settle()
    expect([log.run.value, log.unsent.value, server.events.length]).toEqual([{ n: 2 }, 0, 2])
    expect(log.stored.value).toMatch(/^stored \d\d:\d\d$/)
  })
  test('without a network it goes on, says so, and sends later', async () => {
    server.store('a')
    const log = open()
    await settle()
    server.reached = false
    log.happen(left())
    log.happen(left())
    await settle()
    expect(log.run.value).toEqual({ n: 3 })
    expect(log.stored.value).toBe('2 kept here, not stored yet')
    server.reached = true
    await vi.advanceTimersByTimeAsync(5000)
    expect([log.unsent.value, server.events.length]).toEqual([0, 3])
  })
  test('an older look that answers late takes nothing back', async () => {
    server.store('a')
    const log = open()
    await settle()
    server.late(500)
    tell({ what: 'events', loopId: 'loop' })
    await settle()
    log.happen(left())
    await vi.advanceTimersByTimeAsync(600)
    expect([log.run.value, log.unsent.value]).toEqual([{ n: 2 }, 0])
  })
  test('what the rules do not allow is told and never sent', async () => {
    for (const id of ['a', 'b', 'c']) server.store(id)
    const log = open()
    await settle()
    log.happen(left())
    await settle()
    expect([log.refusal.value, log.unsent.value, server.events.length]).toEqual(['Three are enough.', 0, 3])
  })
  test('a run begun here is the newest before the server knows it', async () => {
    server.store('a')
    const log = open()
    await settle()
    server.reached = false
    log.begin(left())
    await settle()
    expect(log.runId.value).not.toBe(RUN)
    expect(log.run.value).toEqual({ n: 1 })
  })
  test('a server that is not reached is told, and what was known stays', async () => {
    server.reached = false
    const log = open()
    await settle()
    expect(log.trouble.value).toMatch(/cannot be reached/)
  })
})
