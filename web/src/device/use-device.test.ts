import { effectScope, nextTick, ref, type EffectScope } from 'vue'
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import { useDevice } from './use-device.ts'

const json = (body: unknown, status = 200) => Promise.resolve(new Response(JSON.stringify(body), { status }))
let asked: { method: string; path: string; id: string | null }[]
let answers: (() => Promise<Response>)[]
let scope: EffectScope
const loop = ref<string | null>('loop')
const settle = () => vi.advanceTimersByTimeAsync(5)
function open() {
  scope = effectScope()
  const device = scope.run(() => useDevice(loop))
  if (!device) throw new Error('no device')
  return device
}
const posts = () => asked.filter((a) => a.method === 'POST')

beforeEach(() => {
  vi.useFakeTimers()
  asked = []
  answers = []
  loop.value = 'loop'
  vi.stubGlobal('fetch', (path: string, init?: { method?: string; body?: string }) => {
    const id = init?.body ? (JSON.parse(init.body) as { id: string }).id : null
    asked.push({ method: init?.method ?? 'GET', path, id })
    if (init?.method !== 'POST') return json({ t_s: asked.length, samples: [{ t_s: asked.length }] })
    return answers.shift()?.() ?? json({ ok: true, says: 'Stored.', device: { t_s: -1, samples: [] } })
  })
})
afterEach(() => {
  scope.stop()
  vi.useRealTimers()
  vi.unstubAllGlobals()
})

describe('a device on screen', () => {
  test('is looked at every second, and no more once it is left', async () => {
    const d = open()
    await settle()
    expect(d.view.value).toEqual({ t_s: 1, samples: [{ t_s: 1 }] })
    await vi.advanceTimersByTimeAsync(2000)
    expect(asked.length).toBe(3)
    // Only what came since is asked for, and put behind what is here.
    expect(asked[2]?.path).toMatch(/since=2$/)
    expect(d.view.value?.samples.map((s) => s.t_s)).toEqual([1, 2, 3])
    scope.stop()
    await vi.advanceTimersByTimeAsync(5000)
    expect(asked.length).toBe(3)
  })
  test('another loop: the old numbers go at once', async () => {
    const d = open()
    await settle()
    loop.value = 'next'
    await nextTick()
    expect(d.view.value).toBeNull()
    await settle()
    expect(asked.at(-1)?.path).toContain('/loops/next/')
  })
  test('an answer lost on the way is asked for again with the same identifier', async () => {
    answers = [() => Promise.reject(new TypeError('lost'))]
    const d = open()
    const ok = d.ask({ kind: 'store' })
    await settle()
    expect(await ok).toBe(true)
    expect(posts().length).toBe(2)
    expect(posts()[0]?.id).toBe(posts()[1]?.id)
    expect(d.answer.value).toEqual({ ok: true, says: 'Stored.' })
  })
  test('gives up after three, and says so', async () => {
    const lost = () => Promise.reject(new TypeError('lost'))
    answers = [lost, lost, lost]
    const d = open()
    const ok = d.ask({ kind: 'store' })
    await settle()
    expect(await ok).toBe(false)
    expect([posts().length, d.answer.value?.ok]).toEqual([3, false])
    expect(d.answer.value?.says).toMatch(/cannot be reached/)
  })
  test('a refusal is an answer, not a failure; a second press meanwhile is nothing', async () => {
    answers = [() => json({ ok: false, says: 'The device is locked.', device: { t_s: 0, samples: [] } })]
    const d = open()
    const [first, second] = [d.ask({ kind: 'store' }), d.ask({ kind: 'store' })]
    await settle()
    expect([await first, await second]).toEqual([false, false])
    expect([posts().length, d.answer.value?.says, d.busy.value]).toEqual([1, 'The device is locked.', false])
  })
})
