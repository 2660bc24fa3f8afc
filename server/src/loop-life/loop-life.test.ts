import { randomUUID } from 'node:crypto'
import type { StoredEvent } from '@calm/contract/events'
import type { LoopDetail, LoopRow, Revision } from '@calm/contract/loops'
import { archivedSince } from '@calm/core/record/kinds/archived'
import { eq } from 'drizzle-orm'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { provePlant } from '../proof/prove.ts'
import { loops } from '../record/schema.ts'
import { asBuffer } from '../test/as-buffer.ts'
import { testApp, type TestApp } from '../test/app.ts'

let app: TestApp
let wren: TestAgent
let tern: TestAgent
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
  tern = await app.as('tern')
})
afterAll(() => app.stop())
const rows = async (query = '') => (await tern.get(`/api/loops${query}`).expect(200)).body as LoopRow[]
const loop = async (id: string) => (await tern.get(`/api/loops/${id}`).expect(200)).body as LoopDetail
const archive = (id: string, reason = 'pump taken out') =>
  wren.post(`/api/loops/${id}/archive`).send({ reason })
const back = (id: string, reason = 'in again') => wren.post(`/api/loops/${id}/bring-back`).send({ reason })
const says = (res: { body: unknown }) => JSON.stringify(res.body)

describe('a loop out of use', () => {
  test('is in no list but the archived ones, and stays readable by its identifier with all of its record', async () => {
    const { id, tag } = await loop('PT-103')
    const before = (await rows()).length
    const answer = (await archive(tag).expect(200)).body as LoopDetail
    expect(answer.archivedAt).not.toBeNull()
    expect((await rows()).length).toBe(before - 1)
    expect((await rows('?archived=yes')).map((r) => r.tag)).toEqual([tag])
    await tern.get(`/api/loops/${tag}`).expect(404)
    const events = (await tern.get(`/api/loops/${id}/events`).expect(200)).body as StoredEvent[]
    expect(events.at(-1)).toMatchObject({ type: 'loop.archived', payload: { reason: 'pump taken out' } })
    expect((await wren.get('/api/loop-list.csv').expect(200)).text).not.toContain(tag)
  })
  test('takes nothing: no revision, no event, and says what to do', async () => {
    const [row] = await rows('?archived=yes')
    const { id, revision, document } = await loop(row?.id ?? '')
    const save = await wren
      .put(`/api/loops/${id}/document`)
      .send({ base: revision, document: { ...document, service: 'other' }, reason: 'x' })
    expect([save.status, says(save)]).toEqual([409, expect.stringContaining('Bring it back first')])
    const sum = await wren.post(`/api/loops/${id}/archive`).send({ reason: 'again' })
    expect(sum.status).toBe(409)
  })
  test('its tag is free; while another loop has it, it does not come back', async () => {
    const [row] = await rows('?archived=yes')
    const old = await loop(row?.id ?? '')
    const id = randomUUID()
    await wren
      .post('/api/loops')
      .send({ id, document: { ...old.document, service: 'the new pump' } })
      .expect(201)
    expect((await loop(old.tag)).id).toBe(id)
    const refused = await back(old.id)
    expect([refused.status, says(refused)]).toEqual([409, expect.stringContaining('is in use')])
    await archive(id, 'never built').expect(200)
    const again = (await back(old.id).expect(200)).body as LoopDetail
    expect(again.archivedAt).toBeNull()
    expect((await loop(old.tag)).id).toBe(old.id)
    expect((await back(old.id)).status).toBe(409)
  })
  test('with a reason, and by who works here', async () => {
    expect(says(await archive('PT-202', '  ').expect(422))).toContain('reason')
    await tern.post('/api/loops/PT-202/archive').send({ reason: 'x' }).expect(403)
  })
  test('the record alone tells it: the whole is proved, a quiet change of the row is found', async () => {
    const { db, pool } = app.connection
    expect((await provePlant(db)).mismatches).toEqual([])
    await pool.query(`update loops set archived_at = now() where tag = 'FT-206'`)
    expect((await provePlant(db)).mismatches.map((m) => `${m.where} ${m.field}`)).toEqual([
      expect.stringContaining('FT-206'),
    ])
    await db.update(loops).set({ archivedAt: null }).where(eq(loops.tag, 'FT-206'))
  })
})

test.each<[string, readonly [string, string][], string | null]>([
  ['nothing happened', [], null],
  ['archived', [['loop.archived', '2026-01-01']], '2026-01-01'],
  [
    'and brought back',
    [
      ['loop.archived', '2026-01-01'],
      ['loop.brought-back', '2026-01-02'],
    ],
    null,
  ],
  [
    'and archived again',
    [
      ['loop.archived', '1'],
      ['loop.brought-back', '2'],
      ['signed', '3'],
      ['loop.archived', '4'],
    ],
    '4',
  ],
])('since when by its events: %s', (_what, events, since) => {
  expect(archivedSince(events.map(([type, at]) => ({ type, at })))).toBe(since)
})

describe('several at once', () => {
  const several = (ids: readonly string[], change: object) =>
    wren.post('/api/loops/several').send({ loops: ids, reason: 'new list of the shop', ...change })
  test('each gets a revision with the reason; a switch keeps no tolerance; the same again changes nothing', async () => {
    const all = [await loop('PT-202'), await loop('FT-206'), await loop('ZS-305')]
    const ids = all.map((l) => l.id)
    const change = { area: '900 Test', floor: 2, interval_months: 7, tolerance_pct: 0.7 }
    expect((await several(ids, change).expect(200)).body).toEqual({ changed: 3, same: 0 })
    expect((await several(ids, change).expect(200)).body).toEqual({ changed: 0, same: 3 })
    const [pressure, , contact] = await Promise.all(ids.map(loop))
    expect(pressure).toMatchObject({
      area: '900 Test',
      document: { floor: 2, interval_months: 7, tolerance: { mode: 'max', pctSpan: 0.7 } },
    })
    expect(contact?.document.tolerance).toBeNull()
    const revisions = (await tern.get('/api/loops/PT-202/revisions').expect(200)).body as Revision[]
    expect(revisions[0]?.reason).toBe('new list of the shop')
  })
  test('all or none: one that is archived stops the whole', async () => {
    const [a, b] = [await loop('PT-202'), await loop('TT-407')]
    await archive(b.id).expect(200)
    const res = await several([a.id, b.id], { interval_months: 9 })
    expect([res.status, says(res)]).toEqual([409, expect.stringContaining('TT-407 is out of use')])
    expect((await loop(a.id)).document.interval_months).toBe(7)
    await back(b.id).expect(200)
  })
  test('who works in one area changes nothing in another, and moves nothing there', async () => {
    const { id } = await loop('FT-206')
    const plover = await app.as('plover')
    const people = (await plover.get('/api/people/register').expect(200)).body as {
      id: string
      name: string
      shownName: string
    }[]
    const dunlin = people.find((p) => p.name === 'dunlin')
    await plover
      .put(`/api/people/${dunlin?.id}`)
      .send({
        shownName: dunlin?.shownName,
        role: 'technician',
        areas: ['200 Membranes'],
        until: null,
        reason: 'test',
      })
      .expect(200)
    const narrow = await app.as('dunlin')
    const res = await narrow.post('/api/loops/several').send({ loops: [id], interval_months: 3, reason: 'x' })
    expect([res.status, says(res)]).toEqual([403, expect.stringContaining('look on in 900 Test')])
  })
})

describe('labels of tags', () => {
  const sheet = (query: string) => tern.get(`/api/loop-labels.pdf${query}`).buffer(true).parse(asBuffer)
  test('of some loops are a sheet, of an area that area, of all several sheets', async () => {
    const pages = async (query: string) => {
      const { body } = await sheet(query).expect(200)
      return (body as Buffer).toString('latin1').match(/\/Type \/Page\b/g)?.length ?? 0
    }
    expect(await pages('?tags=PT-202,ft-206')).toBe(1)
    expect(await pages('?area=100%20Intake')).toBe(1)
    expect(await pages('')).toBeGreaterThanOrEqual(1)
  })
  test('of nothing are none', async () => {
    await sheet('?tags=XX-1').expect(409)
    await sheet(`?tags=${Array.from({ length: 301 }, (_, i) => `T-${i}`).join(',')}`).expect(422)
  })
})
