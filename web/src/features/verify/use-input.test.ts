import { edgesBetween } from '@calm/core/device/cylinder'
import { effectScope, ref, type EffectScope } from 'vue'
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import { useInput } from './use-input.ts'

const CYLINDER = { seed: 306, ideal_s: 10 }
const NOW_S = 50_000
const settings = { filter_ms: 10, ideal_s: 10, least_s: 8, most_s: 15 }
let scope: EffectScope
let sent: { id: string; counted: unknown }[]
let fail: number
const loop = ref<string | null>('loop')

beforeEach(() => {
  vi.useFakeTimers()
  sent = []
  fail = 0
  loop.value = 'loop'
  vi.stubGlobal('fetch', (path: string, init?: { method?: string; body?: string }) => {
    if (init?.method === 'POST') {
      sent.push(JSON.parse(init.body ?? '{}') as (typeof sent)[number])
      return fail-- > 0
        ? Promise.reject(new TypeError('offline'))
        : Promise.resolve(new Response(JSON.stringify({ passes: true, says: [] })))
    }
    const seconds = Number(/seconds=(\d+)/.exec(path)?.[1])
    const edges = edgesBetween(CYLINDER, NOW_S - seconds, NOW_S)
    return Promise.resolve(
      new Response(JSON.stringify({ t_s: NOW_S, level: false, from_s: NOW_S - seconds, edges })),
    )
  })
})
afterEach(() => {
  scope.stop()
  vi.useRealTimers()
  vi.unstubAllGlobals()
})
const settle = () => vi.advanceTimersByTimeAsync(5)
function open() {
  scope = effectScope()
  const input = scope.run(() => useInput(loop, settings))
  if (!input) throw new Error('no input')
  return input
}
const what = { revision: 1, forced: null, points: null }

describe('an input on screen', () => {
  test('is looked at every second; nothing is counted before it is asked for', async () => {
    const i = open()
    await settle()
    expect(i.live.value?.edges.length).toBeGreaterThan(5)
    expect([i.counted.value, i.result.value]).toEqual([null, null])
  })
  test('a window is counted behind the filter, with what is planned and good', async () => {
    const i = open()
    await i.count(3600)
    expect(i.result.value?.count).toBeGreaterThan(200)
    expect(i.result.value?.effect.Q).toBe(1)
    i.good.value = 100
    i.planned_s.value = 7200
    expect(i.result.value?.effect.Q).toBeCloseTo(100 / (i.result.value?.count ?? 1), 9)
    expect(i.result.value?.planned_s).toBe(7200)
  })
  test('another loop starts from nothing', async () => {
    const i = open()
    await i.count(600)
    loop.value = 'other'
    await settle()
    expect(i.counted.value).toBeNull()
  })
  test('sent again after a lost answer it is the same one; the next is another', async () => {
    const i = open()
    await i.count(600)
    fail = 1
    await i.record(what)
    expect(i.trouble.value).toMatch(/cannot be reached/)
    expect(i.stored.value).toBeNull()
    await i.record(what)
    expect(i.stored.value?.passes).toBe(true)
    await i.record(what)
    expect(sent[0]?.id).toBe(sent[1]?.id)
    expect(sent[2]?.id).not.toBe(sent[1]?.id)
    expect(sent[0]?.counted).toMatchObject({ filter_ms: 10, to_s: NOW_S })
  })
})
