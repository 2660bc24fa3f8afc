import { randomUUID } from 'node:crypto'
import type { PastAnswer } from '@calm/contract/past'
import type { LoopHistory } from '@calm/contract/drift'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import type TestAgent from 'supertest/lib/agent.js'
import { testApp, testClock, type TestApp } from '../test/app.ts'

let app: TestApp
let wren: TestAgent
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
})
afterAll(() => app.stop())

type Row = Record<string, unknown>
const row = (
  line: number,
  tag: string,
  on: string,
  applied: number,
  found: number,
  change: Row = {},
): Row => ({
  line,
  tag,
  on,
  number: `C-${on.slice(0, 4)}`,
  by: 'old laboratory',
  applied: { value: applied, unit: '' },
  as: 'reading',
  found: { value: found, unit: '' },
  left: null,
  ...change,
})
const body = (rows: Row[], change: Row = {}) => ({
  id: randomUUID(),
  at: testClock().toISOString(),
  source: 'papers.csv',
  keep: true,
  rows,
  ...change,
})
const enter = async (b: object, status = 200) =>
  (await wren.post('/api/past-certificates').send(b).expect(status)).body as PastAnswer
const history = async (tag: string) =>
  (await wren.get(`/api/loops/${tag}/drift`).expect(200)).body as LoopHistory
/** PT-202 measures 0 to 85 bar. */
const years = [2016, 2017, 2018, 2019]
const papers = (tag: string) =>
  years.flatMap((y, i) => [
    row(2 * i + 2, tag, `${y}-05-03`, 0, 0.02 * (i + 1)),
    row(2 * i + 3, tag, `${y}-05-03`, 85, 85 + 0.04 * (i + 1)),
  ])

describe('certificates from before this record', () => {
  test('looked at, nothing is kept; kept, they stand in the history as entered, once', async () => {
    const before = (await history('PT-202')).past.length
    const look = await enter(body(papers('PT-202'), { keep: false }))
    expect(look).toEqual({ loops: 1, certificates: 4, wrong: [], kept: false })
    expect((await history('PT-202')).past).toHaveLength(before)
    const kept = body(papers('pt-202'))
    await enter(kept)
    await enter(kept)
    const { past } = await history('PT-202')
    expect(past).toHaveLength(before + 4)
    expect(past.slice(0, 4).map((p) => [p.at.slice(0, 10), p.entered])).toEqual(
      years.map((y) => [`${y}-05-03`, true]),
    )
    expect(past[0]?.found[1]?.[1]).toBeCloseTo((100 * 0.04) / 85, 9)
    const events = (await wren.get('/api/loops/PT-202/events').expect(200)).body as {
      type: string
      says: string
    }[]
    const mine = events.filter((e) => e.type === 'past.entered')
    expect(mine).toHaveLength(1)
    await wren.get('/api/loops/PT-202/chain').expect(200)
  })
  test('the plant’s list of who drifts takes them in', async () => {
    await enter(
      body(
        papers('FT-206').map((r, i) => ({
          ...r,
          applied: { value: i % 2 ? 100 : 0, unit: '%' },
          as: 'error',
          found: { value: 0.02 * (1 + Math.floor(i / 2)), unit: '%' },
        })),
      ),
    )
    const rows = (await wren.get('/api/drift').expect(200)).body as { tag: string; verifications: number }[]
    const fresh = (await history('FT-206')).past.length
    expect(rows.find((r) => r.tag === 'FT-206')?.verifications).toBe(fresh)
  })
  test('wrong papers are told by line and stay outside; the right ones go in', async () => {
    const told = await enter(
      body([
        row(2, 'PT-103', '2015-01-01', 0, 0.001),
        row(3, 'PT-103', '2014-01-01', 3, 3000),
        row(4, 'PT-103', '2033-01-01', 0, 0),
        row(5, 'XX-999', '2014-01-01', 0, 0),
        row(6, 'ZS-305', '2014-01-01', 0, 0),
      ]),
    )
    expect(told.certificates).toBe(1)
    expect(told.wrong.map((w) => w.line)).toEqual([3, 4, 5, 6])
    expect(told.wrong.map((w) => w.says).join(' ')).toMatch(
      /off by .* still to come.* No loop has the tag XX-999.*it switches/,
    )
  })
  const broken: readonly [why: string, change: Row, path: RegExp][] = [
    ['no rows', { rows: [] }, /^rows$/],
    ['a date that is none', { rows: [row(2, 'PT-103', '2015-13-01', 0, 0)] }, /^rows\.0\.on$/],
    ['a clock that is ahead', { at: '2031-01-01T00:00:00.000Z' }, /^at$/],
  ]
  test.each(broken)('%s is refused at its place', async (_why, change, path) => {
    const res = await wren.post('/api/past-certificates').send(body(papers('PT-103'), change))
    expect(res.status).toBe(422)
    expect((res.body as { errors: { path: string }[] }).errors[0]?.path).toMatch(path)
  })
  test('who only looks does not enter', async () => {
    const tern = await app.as('tern')
    await tern
      .post('/api/past-certificates')
      .send(body(papers('PT-103')))
      .expect(403)
  })
})
