import type { NewComparison } from '@calm/contract/comparisons'
import type { LoopDetail } from '@calm/contract/loops'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import { effectScope, type EffectScope } from 'vue'
import { forgetAnswers } from '../../api/live-cache.ts'
import { useLoop } from '../../loop/loop-store.ts'
import { useComparison } from './use-comparison.ts'

const LOOP = '00000000-0000-4000-8000-000000000009'
let kept: unknown[] = []
let refuse: string | null = null
const NOTHING = { mass_kg: null, pulses: null, from_m: null, to_m: null, seconds: null }
const sent: NewComparison[] = []
let scope: EffectScope
const json = (status: number, body: unknown) =>
  new Response(JSON.stringify(body), { status, headers: { 'content-type': 'application/json' } })

beforeEach(() => {
  setActivePinia(createPinia())
  forgetAnswers()
  kept = []
  refuse = null
  sent.length = 0
  scope = effectScope()
  vi.stubGlobal('fetch', (_url: string, init: { method: string; body?: string }) => {
    if (init.method === 'GET') return Promise.resolve(json(200, kept))
    if (refuse !== null) return Promise.resolve(json(422, { title: refuse }))
    sent.push(JSON.parse(init.body ?? '{}') as NewComparison)
    return Promise.resolve(json(201, {}))
  })
  useLoop().detail = { id: LOOP, revision: 3 } as LoopDetail
})
afterEach(() => {
  scope.stop()
  vi.unstubAllGlobals()
})
function bench(told = { unit: 'm3/h', allowedPct: 1 }) {
  const made = scope.run(() => useComparison(told))
  if (!made) throw new Error('no scope')
  return made
}

describe('a meter held against a reference', () => {
  test('half a run is none; the next step says what is wanted', async () => {
    const b = bench()
    await vi.waitFor(() => expect(b.kept.value).toEqual([]))
    expect(b.next.value).toMatch(/becomes the baseline/)
    b.change(0, { reference: 40 })
    expect(b.task.value.runs).toEqual([])
    b.change(0, { indicated: 40.2 })
    expect(b.task.value.runs).toEqual([{ reference: 40, indicated: 40.2, path: null }])
    expect(b.next.value).toBe('Record the comparison.')
  })
  test('a bucket and a clock make the reference and its uncertainty', async () => {
    const b = bench()
    b.kind.value = 'bucket'
    expect(b.by.value).toBe('weighed')
    b.how.value = { ...b.how.value, massU_kg: 0.02 }
    b.change(0, { indicated: 1.09, caught: { ...NOTHING, mass_kg: 18.04 } })
    expect(b.task.value.runs).toEqual([])
    b.change(0, { caught: { ...NOTHING, mass_kg: 18.04, seconds: 60 } })
    expect(b.task.value.runs[0]?.reference).toBeCloseTo(1.0855, 3)
    expect(b.task.value.Uref_pct).toBeGreaterThan(0.5)
    await b.record()
    expect(sent[0]?.runs[0]?.measured).toMatchObject({ by: 'weighed', mass_kg: 18.04, seconds: 60 })
  })
  test('pulses of a reference meter make it too, once its factor and what that is known to are told', () => {
    const b = bench()
    b.kind.value = 'pulses'
    b.change(0, { indicated: 1.42, caught: { ...NOTHING, pulses: 2345, seconds: 120 } })
    b.how.value = { ...b.how.value, K: 50, per: 'L' }
    expect(b.task.value.runs).toEqual([])
    b.how.value = { ...b.how.value, KU_pct: 0.2 }
    expect(b.task.value.runs[0]?.reference).toBeCloseTo(1.407, 6)
    // A factor for kilograms says nothing of cubic metres: no run, and a sentence.
    b.how.value = { ...b.how.value, per: 'kg' }
    expect([b.task.value.runs, b.reckoned.value[0]?.flow.kind]).toEqual([[], 'refused'])
  })
  test('a level against a tank is typed as it is: it is no flow', () => {
    const b = bench({ unit: 'm', allowedPct: 1 })
    b.kind.value = 'tank'
    expect(b.by.value).toBeNull()
  })
  test('a reference of nothing is told and never recorded', async () => {
    const b = bench()
    b.change(1, { reference: 0, indicated: 0.1 })
    expect(b.next.value).toMatch(/reference of 0 says nothing/)
    await b.record()
    expect(sent).toEqual([])
  })
  test('runs come and go, and what is left stays as typed', () => {
    const b = bench()
    b.change(2, { reference: 7, indicated: 7 })
    b.leaveOut(0)
    b.another()
    expect(b.rows.value.map((r) => r.reference)).toEqual([null, 7, null])
  })
  test('a total of its counter takes the place of empty rows, over the end of the counter too', () => {
    const b = bench()
    b.counter.value = { start: 999_999_000, end: 1_000, K: 100, reference: 20 }
    expect(b.total.value?.V).toBeCloseTo(20, 9)
    b.takeTotal()
    expect(b.rows.value).toHaveLength(1)
    expect(b.rows.value[0]).toMatchObject({ reference: 20, path: null })
    b.counter.value = { start: 0, end: 10, K: 0, reference: 20 }
    expect(b.total.value).toBeNull()
  })
  test('recorded once, on the revision that was seen, then empty again', async () => {
    const b = bench()
    b.change(0, { reference: 40, indicated: 40.2 })
    b.note.value = '  upstream of the strainer '
    await Promise.all([b.record(), b.record()])
    expect(sent).toHaveLength(1)
    expect(sent[0]).toMatchObject({
      revision: 3,
      unit: 'm3/h',
      tolerance_pct: 1,
      note: 'upstream of the strainer',
      runs: [{ reference: 40, indicated: 40.2, path: null }],
    })
    expect([b.rows.value.every((r) => r.reference === null), b.note.value]).toEqual([true, ''])
    // The next one is another comparison.
    b.change(0, { reference: 50, indicated: 50 })
    await b.record()
    expect(sent[1]?.id).not.toBe(sent[0]?.id)
  })
  test('what was refused is told and stays typed; sent again it is the same comparison', async () => {
    const b = bench()
    b.change(0, { reference: 40, indicated: 40.2 })
    refuse = 'No such revision.'
    await b.record()
    expect(b.trouble.value).toBe('No such revision.')
    expect(b.rows.value[0]).toMatchObject({ reference: 40, indicated: 40.2 })
    refuse = null
    await b.record()
    expect(b.trouble.value).toBeNull()
    expect(sent).toHaveLength(1)
  })
  test('comparisons in another unit are no baseline for this one', async () => {
    const past = (unit: string) => ({
      unit,
      at: '2026-11-01T08:00:00.000Z',
      U_pct: 1,
      runs: [{ reference: 40, indicated: 40.1, path: null }],
      errors_pct: [0.25],
    })
    kept = [past('L/s')]
    const b = bench()
    await vi.waitFor(() => expect(b.kept.value).toHaveLength(1))
    expect(b.next.value).toMatch(/becomes the baseline/)
    forgetAnswers()
    kept = [past('m3/h')]
    const other = bench()
    await vi.waitFor(() => expect(other.next.value).toMatch(/at the flows of the baseline/))
  })
})
