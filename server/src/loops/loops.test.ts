import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import type TestAgent from 'supertest/lib/agent.js'
import type { LoopDetail } from '@calm/contract/loops'
import { withField } from '@calm/core/loop/field-path'
import { testApp, type TestApp } from '../test/app.ts'

let app: TestApp
let wren: TestAgent
let heron: TestAgent
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
  heron = await app.as('heron')
})
afterAll(() => app.stop())

const loop = async (tag: string) => (await wren.get(`/api/loops/${tag}`).expect(200)).body as LoopDetail
const save = (agent: TestAgent, tag: string, base: number, document: unknown) =>
  agent.put(`/api/loops/${tag}/document`).send({ base, document, reason: 'test' })

test('the demo plant has loops in every state, each area in order', async () => {
  const { body } = await wren.get('/api/loops').expect(200)
  const rows = body as LoopDetail[]
  expect(rows.length).toBeGreaterThanOrEqual(24)
  expect(new Set(rows.map((r) => r.area)).size).toBe(4)
  expect(new Set(rows.map((r) => r.summary.parts.verify))).toEqual(
    new Set(['good', 'look', 'stop', 'notYet']),
  )
  // What was verified before a memory was lost stands, and says so.
  expect(rows.find((r) => r.tag === 'FT-403')?.summary).toMatchObject({ olderThanLoss: true })
  expect(new Set(rows.map((r) => r.summary.parts.scale))).toEqual(new Set(['good', 'look', 'stop', 'notYet']))
})

describe('a list in parts', () => {
  const tags = async (query: string) =>
    ((await wren.get(`/api/loops${query}`).expect(200)).body as LoopDetail[]).map((l) => l.tag)
  test('put together they are the whole', async () => {
    const all = await tags('')
    expect(await tags('?most=7')).toEqual(all.slice(0, 7))
    expect([...(await tags('?most=7')), ...(await tags('?from=7'))]).toEqual(all)
    expect(await tags('?from=100000')).toEqual([])
  })
  test('a record since an event, each told as in the whole record', async () => {
    type Events = { seq: number; outOfOrder: boolean }[]
    const events = async (query: string) =>
      (await wren.get(`/api/loops/PT-202/events${query}`).expect(200)).body as Events
    const all = await events('')
    expect(all.length).toBeGreaterThan(10)
    expect(await events('?since=4')).toEqual(all.slice(4))
    expect(await events('?since=4&most=2')).toEqual(all.slice(4, 6))
    expect(await events('?most=3')).toEqual(all.slice(0, 3))
    expect(await events(`?since=${all.length}`)).toEqual([])
  })
  test.each([
    ['?most=0', 'most', 'At least 1.'],
    ['?most=all', 'most', 'A whole number.'],
    ['?from=-1', 'from', 'At least 0.'],
    ['?from=1.5', 'from', 'A whole number.'],
    ['?most=1000000', 'most', 'At most 10000.'],
  ])('%s is told at its name', async (query, path, says) => {
    const { body } = await wren.get(`/api/loops${query}`).expect(422)
    expect((body as { errors: unknown }).errors).toEqual([{ path, says }])
  })
})

test('a loop is found by its tag in any case', async () => {
  expect((await loop('pt-202')).tag).toBe('PT-202')
})

describe('saving a revision', () => {
  test('counts up, keeps both documents and says who and why', async () => {
    const before = await loop('LT-102')
    await save(wren, 'LT-102', before.revision, { ...before.document, remark: 'dead zone checked' }).expect(
      200,
    )
    const { body } = await wren.get('/api/loops/LT-102/revisions').expect(200)
    expect(body[0]).toMatchObject({ number: before.revision + 1, by: 'Wren (technician)', reason: 'test' })
    expect(body[1].document).toEqual(before.document)
  })
  test('on a stale one answers 409 with both versions and stores nothing', async () => {
    const base = await loop('PT-103')
    await save(heron, 'PT-103', base.revision, { ...base.document, remark: 'theirs' }).expect(200)
    const res = await save(wren, 'PT-103', base.revision, { ...base.document, service: 'mine' })
    expect(res.status).toBe(409)
    expect(res.body.base.document).toEqual(base.document)
    expect(res.body.theirs).toMatchObject({ number: base.revision + 1, by: 'Heron (reviewer)' })
    expect((await loop('PT-103')).document.service).toBe(base.document.service)
  })
  test('of ten windows saving at once exactly one wins', async () => {
    const base = await loop('TT-205')
    const answers = await Promise.all(
      Array.from({ length: 10 }, (_, i) =>
        save(wren, 'TT-205', base.revision, { ...base.document, remark: `window ${i}` }),
      ),
    )
    expect(answers.map((a) => a.status).sort()).toEqual([200, ...Array<number>(9).fill(409)])
    expect((await loop('TT-205')).revision).toBe(base.revision + 1)
  })
  test('the same document twice is one revision', async () => {
    const base = await loop('FT-402')
    const document = { ...base.document, remark: 'once' }
    await save(wren, 'FT-402', base.revision, document).expect(200)
    await save(wren, 'FT-402', base.revision, document).expect(200)
    expect((await loop('FT-402')).revision).toBe(base.revision + 1)
  })
  test('a changed range is judged at once in the list', async () => {
    const base = await loop('LT-301')
    expect(base.summary.parts.scale).toBe('good')
    const wider = withField(
      withField(base.document, 'path.controller.range.unit', 'm'),
      'path.controller.range.high',
      9,
    )
    const res = await save(wren, 'LT-301', base.revision, wider).expect(200)
    expect(res.body.summary.parts.scale).toBe('stop')
  })
  const wrong: readonly [why: string, path: string, value: unknown, at: string][] = [
    ['LRV = URV', 'path.transmitter.range.high', 0, 'document.path.2.range.high'],
    ['an unknown unit', 'path.transmitter.range.unit', 'stones', 'document.path.2.range.unit'],
    ['a shunt below zero', 'path.shunt.resistance_ohm', -250, 'document.path.4.resistance_ohm'],
    ['a tolerance below zero', 'tolerance.pctSpan', -1, 'document.tolerance.pctSpan'],
    ['a date that is none', 'lastCalibrated', '2025-13-05', 'document.lastCalibrated'],
    ['text for a number', 'path.transmitter.range.low', 'NaN', 'document.path.2.range.low'],
    ['a field nobody knows', 'colour', 'blue', 'document'],
  ]
  test.each(wrong)('%s is told at its field', async (_why, path, value, at) => {
    const base = await loop('PT-202')
    const res = await save(wren, 'PT-202', base.revision, withField(base.document, path, value))
    expect(res.status).toBe(422)
    expect(res.body.errors.map((e: { path: string }) => e.path)).toContain(at)
  })
  test('a tag in use is refused at the tag', async () => {
    const base = await loop('PT-202')
    const res = await save(wren, 'PT-202', base.revision, { ...base.document, tag: 'ft-101' })
    expect(res.status).toBe(409)
    expect(res.body.errors[0].path).toBe('document.tag')
  })
})

test('a loop sent twice is there once', async () => {
  const id = randomUUID()
  const document = { ...(await loop('PT-202')).document, tag: 'PT-999' }
  await wren.post('/api/loops').send({ id, document }).expect(201)
  await wren.post('/api/loops').send({ id, document }).expect(201)
  expect((await loop('PT-999')).revision).toBe(1)
})
