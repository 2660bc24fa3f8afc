import { loops, runs } from '@calm/contract/api/addresses'
import { effectScope, ref } from 'vue'
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import { call } from './call.ts'
import { forgetAnswers, useLive } from './live-cache.ts'
import { tell } from './live.ts'
import { WINDOW } from './window.ts'

/** A server that counts what it is asked for, and answers a number that grows with every look. */
let asked: string[] = []
let answer: (path: string) => Promise<Response>
const say = (body: unknown, status = 200) => Promise.resolve(new Response(JSON.stringify(body), { status }))
const scopes: { stop: () => void }[] = []
function shown<T>(use: () => T): T {
  const scope = effectScope()
  scopes.push(scope)
  const told = scope.run(use)
  if (told === undefined) throw new Error('nothing used')
  return told
}
const list = () => shown(() => useLive(loops.list, {}))
const one = (loop = 'id-1') => shown(() => useLive(loops.one, { loop }, [`tag of ${loop}`]))
const settle = (ms = 10) => vi.advanceTimersByTimeAsync(ms)

beforeEach(() => {
  vi.useFakeTimers()
  asked = []
  answer = () => say({ n: asked.length })
  vi.stubGlobal('fetch', (path: string) => {
    asked.push(path)
    return answer(path)
  })
})
afterEach(() => {
  for (const s of scopes.splice(0)) s.stop()
  forgetAnswers()
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

describe('what is read from the server', () => {
  test('is loading, then ready; read once however many show it', async () => {
    const [a, b] = [one(), one()]
    expect([a.state.value, a.data.value]).toEqual(['loading', null])
    await settle()
    expect([a.state.value, a.data.value, b.data.value]).toEqual(['ready', { n: 1 }, { n: 1 }])
    expect(asked).toEqual(['/api/loops/id-1'])
  })
  test('failed with its sentence where nothing is here; a later look mends it', async () => {
    answer = () => say({ title: 'There is no such loop.' }, 404)
    const a = one()
    await settle()
    expect([a.state.value, a.says.value]).toEqual(['failed', 'There is no such loop.'])
    answer = () => say({ n: 7 })
    await a.reload()
    expect([a.state.value, a.says.value, a.data.value]).toEqual(['ready', null, { n: 7 }])
  })
  test('a server that hangs is a time-out with a sentence; what was here stays and is told to be old', async () => {
    const a = one()
    await settle()
    answer = () => Promise.reject(new DOMException('late', 'TimeoutError'))
    tell(null)
    await settle()
    expect([a.state.value, a.data.value]).toEqual(['stale', { n: 1 }])
    expect(a.says.value).toMatch(/^The server does not answer/)
  })
  test.each([
    ['the server was not reached', () => Promise.reject(new TypeError('no network'))],
    ['the database is away', () => say({ title: 'The database does not answer.' }, 503)],
    ['too much at once', () => say({ title: 'A moment.' }, 429)],
  ])('%s: asked again by itself as long as it is shown', async (_why, failing) => {
    answer = failing
    const a = one()
    await settle()
    expect(a.state.value).toBe('failed')
    await settle(3_100)
    expect([a.state.value, asked.length]).toEqual(['failed', 2])
    answer = () => say({ n: 7 })
    await settle(3_100)
    expect([a.state.value, a.data.value, a.says.value]).toEqual(['ready', { n: 7 }, null])
    await settle(60_000)
    expect(asked).toHaveLength(3)
  })
  test('what no second question mends, and what nobody shows any more, is not asked again', async () => {
    answer = () => say({ title: 'There is no such loop.' }, 404)
    one()
    await settle(60_000)
    expect(asked).toHaveLength(1)
    answer = () => say({ title: 'The database does not answer.' }, 503)
    one('id-2')
    await settle()
    scopes.splice(0).forEach((s) => s.stop())
    await settle(60_000)
    expect(asked).toHaveLength(2)
  })
  test('another person sees nothing of what the one before saw', async () => {
    const a = one()
    await settle()
    forgetAnswers()
    expect([a.state.value, a.data.value]).toEqual(['loading', null])
  })
})

describe('news', () => {
  test.each([
    ['of this loop by its identifier', { what: 'revision', loopId: 'id-1' }, 2],
    ['of this loop by its tag', { what: 'events', tag: 'tag of id-1' }, 2],
    ['of another loop', { what: 'revision', loopId: 'id-2' }, 1],
    ['of something that does not change it', { what: 'equipment' }, 1],
    ['of this window’s own doing', { what: 'revision', loopId: 'id-1', window: WINDOW }, 1],
  ] as const)('%s: %j', async (_why, news, looks) => {
    const a = one()
    await settle()
    tell(news)
    await settle()
    expect(asked).toHaveLength(looks)
    expect(a.data.value).toEqual({ n: looks })
  })
  test('a run is not named by its loop: the loop is told beside it', async () => {
    shown(() => useLive(runs.one, { run: 'r' }, ['id-1']))
    await settle()
    tell({ what: 'events', loopId: 'id-2' })
    tell({ what: 'events', loopId: 'id-1' })
    await settle()
    expect(asked).toEqual(['/api/runs/r', '/api/runs/r'])
  })
  test('a crowd of them makes one look at the plant’s list', async () => {
    list()
    await settle()
    for (let i = 0; i < 500; i++) tell({ what: 'list', loopId: `new ${i}` })
    await settle(2000)
    expect(asked).toHaveLength(2)
  })
  test('one that comes while a look is on its way is looked at afterwards', async () => {
    const a = one()
    await settle()
    let release: (r: Response) => void = () => undefined
    answer = () => new Promise((r) => (release = r))
    tell({ what: 'events', loopId: 'id-1' })
    tell({ what: 'events', loopId: 'id-1' })
    tell({ what: 'events', loopId: 'id-1' })
    answer = () => say({ n: 'newest' })
    release(new Response(JSON.stringify({ n: 'older' })))
    await settle()
    expect([asked.length, a.data.value]).toEqual([3, { n: 'newest' }])
  })
  test('what nobody shows is looked at when it is shown again, and only where it changed', async () => {
    const scope = effectScope()
    scope.run(() => useLive(loops.one, { loop: 'id-1' }))
    await settle()
    scope.stop()
    one()
    await settle()
    expect(asked).toHaveLength(1)
    scopes.splice(0).forEach((s) => s.stop())
    tell({ what: 'events', loopId: 'id-1' })
    await settle()
    expect(asked).toHaveLength(1)
    one()
    await settle()
    expect(asked).toHaveLength(2)
  })
})

describe('a write of this window', () => {
  test('is looked for once, without being told', async () => {
    const a = one()
    await settle()
    await call(loops.record, { loop: 'id-1' }, { events: [] })
    await settle()
    tell({ what: 'events', loopId: 'id-1', window: WINDOW })
    await settle()
    expect(asked).toEqual(['/api/loops/id-1', '/api/loops/id-1/events', '/api/loops/id-1'])
    expect(a.state.value).toBe('ready')
  })
  test('that answers what a look would is not followed by one', async () => {
    const a = one()
    await settle()
    answer = () => say({ n: 'saved' })
    const document = {} as Parameters<typeof call<typeof loops.save>>[2]['document']
    await call(loops.save, { loop: 'id-1' }, { base: 1, document, reason: '' })
    await settle()
    expect([asked.length, a.data.value]).toEqual([2, { n: 'saved' }])
  })
})

test('what is looked at can change: the answer is that of the new one', async () => {
  const which = ref('id-1')
  answer = (path) => say(path)
  const a = shown(() => useLive(loops.one, () => ({ loop: which.value })))
  await settle()
  which.value = 'id-2'
  await settle()
  expect(a.data.value).toBe('/api/loops/id-2')
})
