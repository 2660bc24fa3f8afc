import type { NewEvent } from '@calm/contract/events'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import { useOutbox } from './outbox.ts'
import { useSession } from './session-store.ts'

const event = (n: number): NewEvent => ({
  id: `00000000-0000-4000-8000-00000000000${n}`,
  runId: '00000000-0000-4000-8000-000000000099',
  at: '2026-11-23T10:00:00.000Z',
  body: { type: 'left.asFound', payload: {} },
})
const WREN = {
  id: 'w',
  name: 'wren',
  shownName: 'Wren',
  role: 'technician' as const,
  areas: [],
  areaRoles: {},
}
const DUNLIN = { ...WREN, id: 'd', name: 'dunlin', shownName: 'Dunlin' }
const signedIn = (person: typeof WREN | null) => void (useSession().person = person)
const answer = (status: number, body: unknown = {}) => new Response(JSON.stringify(body), { status })
const settle = () => vi.advanceTimersByTimeAsync(0)

beforeEach(() => {
  vi.useFakeTimers()
  localStorage.clear()
  setActivePinia(createPinia())
  signedIn(WREN)
})
afterEach(() => {
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

describe('events wait in the browser until the server has them', () => {
  test('stored: gone from here, and whoever listens hears which', async () => {
    vi.stubGlobal(
      'fetch',
      vi.fn(() => Promise.resolve(answer(200))),
    )
    const outbox = useOutbox()
    const heard: string[] = []
    outbox.onAccepted((_loop, events) => heard.push(...events.map((e) => e.id)))
    outbox.add('loop', event(1))
    expect(localStorage.length).toBe(1)
    await settle()
    expect([outbox.count, localStorage.length, heard]).toEqual([0, 0, [event(1).id]])
  })
  test.each([
    ['no network', () => Promise.reject(new TypeError('offline'))],
    ['no database', () => Promise.resolve(answer(503, { title: 'The database does not answer.' }))],
    ['our own fault', () => Promise.resolve(answer(500, { title: 'Something went wrong in Calm Loop.' }))],
  ])('%s: kept, told, and sent again by itself', async (_why, broken) => {
    const fetch = vi.fn(broken)
    vi.stubGlobal('fetch', fetch)
    const outbox = useOutbox()
    outbox.add('loop', event(1))
    await settle()
    expect(outbox.count).toBe(1)
    expect(outbox.trouble).not.toBeNull()
    fetch.mockImplementation(() => Promise.resolve(answer(200)))
    await vi.advanceTimersByTimeAsync(2_500)
    expect([outbox.count, outbox.trouble, fetch.mock.calls.length]).toEqual([0, null, 2])
  })
  test('who waits for what is being sent waits until it is stored: a device does nothing before it', async () => {
    const stored: (() => void)[] = []
    vi.stubGlobal(
      'fetch',
      vi.fn(() => new Promise<Response>((done) => stored.push(() => done(answer(200))))),
    )
    const outbox = useOutbox()
    outbox.add('loop', event(1))
    await settle()
    outbox.add('loop', event(2))
    const over = { yes: false }
    const waited = outbox.flush().then(() => (over.yes = true))
    await settle()
    expect([stored.length, over.yes, outbox.count]).toEqual([1, false, 2])
    stored[0]?.()
    await settle()
    expect([stored.length, over.yes, outbox.count]).toEqual([2, false, 1])
    stored[1]?.()
    await waited
    expect([over.yes, outbox.count]).toEqual([true, 0])
  })
  test('a session that ended: kept, and not hammered', async () => {
    const fetch = vi.fn(() => Promise.resolve(answer(401, { title: 'Please sign in.' })))
    vi.stubGlobal('fetch', fetch)
    const outbox = useOutbox()
    outbox.add('loop', event(1))
    await vi.advanceTimersByTimeAsync(30_000)
    expect([outbox.count, fetch.mock.calls.length]).toEqual([1, 1])
  })
  test('an event that breaks a rule is taken out and told, the others go on', async () => {
    const fetch = vi.fn<(url: string, init: { body: string }) => Promise<Response>>()
    fetch.mockImplementation((_url, init) => {
      const sent = (JSON.parse(init.body) as { events: NewEvent[] }).events
      const guilty = sent.find((e) => e.id === event(1).id)
      return Promise.resolve(
        guilty
          ? answer(409, { title: 'The as-found readings are closed.', eventId: guilty.id })
          : answer(200),
      )
    })
    vi.stubGlobal('fetch', fetch)
    const outbox = useOutbox()
    outbox.add('loop', event(1))
    outbox.add('loop', event(2))
    await settle()
    expect(outbox.count).toBe(0)
    expect(outbox.refused.map((r) => r.says)).toEqual(['The as-found readings are closed.'])
  })
  test('after a closed lid they are still there, in their order', () => {
    vi.stubGlobal(
      'fetch',
      vi.fn(() => new Promise(() => undefined)),
    )
    const before = useOutbox()
    before.add('loop', event(2))
    before.add('loop', event(1))
    setActivePinia(createPinia())
    signedIn(WREN)
    expect(useOutbox().waiting.map((o) => o.event.id)).toEqual([event(2).id, event(1).id])
  })
})

describe('what waits carries its person', () => {
  /** A server that is not reached, then one that stores: what it was sent, and as whom. */
  function server() {
    const sent: NewEvent[] = []
    const reached = { yes: false }
    vi.stubGlobal(
      'fetch',
      vi.fn((_url: string, init: { body: string }) => {
        if (!reached.yes) return Promise.reject(new TypeError('offline'))
        sent.push(...(JSON.parse(init.body) as { events: NewEvent[] }).events)
        return Promise.resolve(answer(200))
      }),
    )
    return { sent, reached }
  }
  test('it goes out in that person’s session only; another one sees what waits and for whom', async () => {
    const { sent, reached } = server()
    const outbox = useOutbox()
    outbox.add('loop', event(1))
    await settle()
    signedIn(DUNLIN)
    reached.yes = true
    outbox.add('loop', event(2))
    await vi.advanceTimersByTimeAsync(10_000)
    expect(sent.map((e) => [e.id, e.by])).toEqual([[event(2).id, 'd']])
    expect([outbox.count, outbox.others]).toEqual([0, [{ name: 'Wren', count: 1 }]])
    signedIn(WREN)
    await outbox.flush()
    expect(sent.map((e) => [e.id, e.by])).toEqual([
      [event(2).id, 'd'],
      [event(1).id, 'w'],
    ])
    expect(localStorage.length).toBe(0)
  })
  test('the server’s word that another person is signed in keeps it and asks for a sign-in', async () => {
    vi.stubGlobal(
      'fetch',
      vi.fn(() =>
        Promise.resolve(answer(403, { type: 'urn:calm-loop:another-person', title: 'Another person.' })),
      ),
    )
    const outbox = useOutbox()
    outbox.add('loop', event(1))
    await settle()
    expect([outbox.count, outbox.refused, useSession().expired]).toEqual([1, [], true])
  })
  test('nobody signed in: nothing goes out', async () => {
    const { sent, reached } = server()
    const outbox = useOutbox()
    outbox.add('loop', event(1))
    await settle()
    signedIn(null)
    reached.yes = true
    await outbox.flush()
    expect([sent, outbox.others]).toEqual([[], [{ name: 'Wren', count: 1 }]])
  })
  test('what an older page kept without a name is sent by nobody until somebody says that it is theirs', async () => {
    localStorage.setItem(
      `calm-outbox/${event(3).id}`,
      JSON.stringify({ loopId: 'loop', order: 1, event: event(3) }),
    )
    const { sent, reached } = server()
    reached.yes = true
    const outbox = useOutbox()
    await outbox.flush()
    expect([sent, outbox.others]).toEqual([[], [{ name: '', count: 1 }]])
    outbox.claim()
    await settle()
    expect(sent.map((e) => e.by)).toEqual(['w'])
  })
})
