import { randomUUID } from 'node:crypto'
import type { KeptComparison } from '@calm/contract/comparisons'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { testApp } from '../test/app.ts'

let app: Awaited<ReturnType<typeof testApp>>
let wren: TestAgent
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
})
afterAll(() => app.stop())
const comparison = (more: object = {}) => ({
  id: randomUUID(),
  at: '2026-11-26T10:00:00.000Z',
  revision: 1,
  kind: 'portable',
  unit: 'kg/h',
  Uref_pct: 0.8,
  Umeter_pct: 0.3,
  tolerance_pct: 2,
  runs: [
    { reference: 600, indicated: 615, path: null },
    { reference: 1500, indicated: 1541, path: null },
  ],
  ...more,
})
const send = (body: object) => wren.post('/api/loops/FT-402/comparisons').send(body)

describe('a comparison with a reference', () => {
  test('is held against the baseline of the record and kept once', async () => {
    const body = comparison()
    const told = await Promise.all([send(body), send(body)])
    expect(told.map((r) => r.status)).toEqual([201, 201])
    const first = told[0].body as KeptComparison
    expect(first.passes).toBe(false)
    expect(first.says.join(' ')).toMatch(/Since the baseline of 2024-11-05 it moved by \+1\.\d+ %: more than/)
    expect(first.says.join(' ')).toMatch(/Over 3 comparisons/)
    const all = (await wren.get('/api/loops/FT-402/comparisons').expect(200)).body as KeptComparison[]
    expect(all.map((c) => c.at.slice(0, 4))).toEqual(['2024', '2025', '2026'])
  })
  const caught = {
    by: 'weighed',
    mass_kg: 10,
    seconds: 60,
    density_kg_m3: 998,
    massU_kg: 0.01,
    startStop_s: 0.2,
    densityU_pct: 0.1,
  }
  // 10 kg in a minute, and 0.105 % for the air that the bucket has pushed aside: 600.63 kg/h.
  const run = (more: object = {}) => ({
    reference: 600.632,
    indicated: 603,
    path: null,
    measured: caught,
    ...more,
  })
  test('a bucket and a clock: what was measured stands in the record with the flow', async () => {
    const body = comparison({ kind: 'bucket', Uref_pct: 1, runs: [run({ reference: 600.6325268 })] })
    const { body: told } = await send(body)
    const problem = (told as { errors?: { path: string; says: string }[] }).errors?.[0]
    expect(problem?.says ?? '').toBe('')
    const all = (await wren.get('/api/loops/FT-402/comparisons').expect(200)).body as KeptComparison[]
    expect(all.find((c) => c.id === body.id)?.runs[0]?.measured).toEqual(caught)
  })
  test.each<[string, object, string]>([
    ['a flow that was not measured so', { runs: [run({ reference: 590 })] }, 'runs.0.reference'],
    [
      'a better uncertainty than the clock’s',
      { Uref_pct: 0.01, runs: [run({ reference: 600.6325268 })] },
      'Uref_pct',
    ],
    ['no time', { runs: [run({ measured: { ...caught, seconds: 0 } })] }, 'runs.0.measured'],
    ['a unit that is none', { unit: 'buckets' }, 'unit'],
    ['no run', { runs: [] }, 'runs'],
    ['a reference of nothing', { runs: [{ reference: 0, indicated: 1, path: null }] }, 'runs.0.reference'],
    ['a negative uncertainty', { Uref_pct: -1 }, 'Uref_pct'],
    ['an unknown reference', { kind: 'feeling' }, 'kind'],
  ])('%s is told with its path', async (_why, more, path) => {
    const { body } = await send(comparison(more)).expect(422)
    expect((body as { errors: { path: string }[] }).errors.map((e) => e.path)).toContain(path)
  })
  test('a viewer may look and not record', async () => {
    const tern = await app.as('tern')
    await tern.get('/api/loops/FT-402/comparisons').expect(200)
    await tern.post('/api/loops/FT-402/comparisons').send(comparison()).expect(403)
  })
})
