import { randomUUID } from 'node:crypto'
import type { LogEntry } from '@calm/contract/plant-log'
import type { RegisteredPerson } from '@calm/contract/people'
import type { LoopDetail } from '@calm/contract/loops'
import pg from 'pg'
import { sql } from 'drizzle-orm'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, beforeEach, describe, expect, test } from 'vitest'
import { provePlant } from '../proof/prove.ts'
import { testApp, type TestApp } from '../test/app.ts'
import { foundAfter } from '../test/cheat.ts'
import { asLeft, close, events, read, send, sign, starter } from '../test/verification.ts'

/** PT-202 is in the one, PT-103 in the other. */
let own = ''
let other = ''
let app: TestApp
let plover: TestAgent
let wren: TestAgent
beforeAll(async () => {
  app = await testApp({ own: true })
  plover = await app.as('plover')
  wren = await app.as('wren')
  own = (await loop('PT-202')).area
  other = (await loop('PT-103')).area
})
afterAll(() => app.stop())

const loop = async (tag: string) => (await wren.get(`/api/loops/${tag}`).expect(200)).body as LoopDetail
const dunlin = async () => {
  const all = (await plover.get('/api/people/register').expect(200)).body as RegisteredPerson[]
  const found = all.find((p) => p.name === 'dunlin')
  if (!found) throw new Error('no dunlin')
  return found
}
const become = async (p: Partial<RegisteredPerson>) => {
  const { id, shownName } = await dunlin()
  return plover
    .put(`/api/people/${id}`)
    .send({ shownName, role: 'technician', areas: [], areaRoles: {}, until: null, reason: 'test', ...p })
}
const save = async (who: TestAgent, tag: string) => {
  const { document, revision } = await loop(tag)
  const service = `${document.service.slice(0, 40)} ${randomUUID().slice(0, 4)}`
  return who
    .put(`/api/loops/${tag}/document`)
    .send({ document: { ...document, service }, base: revision, reason: 'words' })
}

beforeEach(async () => {
  expect((await become({ role: 'viewer', areaRoles: {} })).status).toBe(200)
})

describe('a role of its own in an area', () => {
  test('who looks on works in one area, and is told so in another', async () => {
    await become({ role: 'viewer', areaRoles: { [own]: 'technician' } })
    const who = await app.as('dunlin')
    expect((await save(who, 'PT-202')).status).toBe(200)
    const refused = await save(who, 'PT-103')
    expect(refused.status).toBe(403)
    expect(JSON.stringify(refused.body)).toContain('A viewer may not do this')
  })
  test('who looks on in general adds loops, imports and changes several in the area of work, and in no other', async () => {
    await become({ role: 'viewer', areaRoles: { [own]: 'technician' } })
    let who = await app.as('dunlin')
    const add = async (area: string, tag: string) => {
      const { document } = await loop('PT-202')
      return who.post('/api/loops').send({ id: randomUUID(), document: { ...document, tag, area } })
    }
    const bring = async (area: string, tag: string) =>
      who.post('/api/loop-list/import').send({
        id: randomUUID(),
        text: `Tag;Service;Area;Type;LRV;URV;Unit;Signal\n${tag};Spare;${area};pressure;0;10;bar g;4-20 mA`,
        update: [],
      })
    const several = async (tag: string) =>
      who
        .post('/api/loops/several')
        .send({ loops: [(await loop(tag)).id], interval_months: 5, reason: 'by area' })
    const at = async (area: string, n: number, tag: string) => [
      (await add(area, `PT-97${n}`)).status,
      (await bring(area, `PT-97${n + 1}`)).status,
      (await several(tag)).status,
    ]
    expect(await at(own, 1, 'PT-202')).toEqual([201, 200, 200])
    expect(await at(other, 3, 'PT-103')).toEqual([403, 403, 403])
    await become({ role: 'viewer', areaRoles: { [own]: 'planner' } })
    who = await app.as('dunlin')
    expect((await several('PT-202')).status).toBe(200)
    expect((await add(own, 'PT-975')).status).toBe(403)
    await become({ role: 'viewer' })
    who = await app.as('dunlin')
    expect((await several('PT-202')).status).toBe(403)
  })
  test('who works looks on in one area', async () => {
    await become({ areaRoles: { [own]: 'viewer' } })
    const who = await app.as('dunlin')
    const refused = await save(who, 'PT-202')
    expect([refused.status, JSON.stringify(refused.body)]).toEqual([
      403,
      expect.stringContaining(`look on in ${own}`),
    ])
    expect((await save(who, 'PT-103')).status).toBe(200)
    // Nor by a list, nor several at once.
    const { id } = await loop('PT-202')
    await who
      .post('/api/loops/several')
      .send({ loops: [id], interval_months: 3, reason: 'x' })
      .expect(403)
  })
  test('a reviewer of one area reviews there and nowhere else', async () => {
    await become({ areaRoles: { [own]: 'reviewer' } })
    const who = await app.as('dunlin')
    const signed = async (tag: string) => {
      const { begin } = await starter(wren, tag)
      const run = randomUUID()
      const list = events(run, begin(), read(0, 0), close, asLeft, sign('technician'))
      await send(wren, list, tag).expect(200)
      return run
    }
    const run = await signed('PT-202')
    await send(who, events(run, sign('reviewer', 'reviewed'))).expect(200)
    expect((await provePlant(app.connection.db)).mismatches).toEqual([])
    await become({ areaRoles: { [other]: 'reviewer' } })
    const elsewhere = await signed('PT-202')
    const again = await app.as('dunlin')
    const refused = await send(again, events(elsewhere, sign('reviewer', 'reviewed')))
    expect([refused.status, JSON.stringify(refused.body)]).toEqual([
      403,
      expect.stringContaining('Only a reviewer may countersign'),
    ])
  })
  test.each(['%00', 'nowhere', 'x'.repeat(500)])(
    'a loop that is none is told as for anybody: %s',
    async (tag) => {
      await become({ areaRoles: { [own]: 'viewer' } })
      const who = await app.as('dunlin')
      const answer = async (agent: TestAgent) => {
        const res = await agent.post(`/api/loops/${tag}/events`).send({ events: [] })
        return res.status
      }
      expect(await answer(who)).toBe(await answer(wren))
      expect([400, 404, 422]).toContain(await answer(who))
    },
  )
  test('moving a loop into an area where one looks on is refused', async () => {
    await become({ areaRoles: { [other]: 'viewer' } })
    const who = await app.as('dunlin')
    const { document, revision } = await loop('PT-202')
    const res = await who
      .put('/api/loops/PT-202/document')
      .send({ document: { ...document, area: other }, base: revision, reason: 'x' })
    expect(res.status).toBe(403)
  })
  test('it stands in the log, ends the sessions of before, and goes again', async () => {
    const before = await app.as('dunlin')
    await become({ role: 'viewer', areaRoles: { [own]: 'planner' } })
    expect((await before.get('/api/loops')).status).toBe(401)
    expect((await dunlin()).areaRoles).toEqual({ [own]: 'planner' })
    const { entries } = (await plover.get('/api/log').expect(200)).body as { entries: LogEntry[] }
    expect(entries[0]?.says ?? JSON.stringify(entries[0])).toContain(`is viewer, planner in ${own}`)
    await become({})
    expect((await dunlin()).areaRoles).toEqual({})
  })
  test('an administrator has none; what is no role is told at its place', async () => {
    const none = await become({ role: 'administrator', areaRoles: { [own]: 'technician' } })
    expect([none.status, none.body.errors[0].path]).toEqual([422, `areaRoles.${own}`])
    const wrong = await become({ areaRoles: { [own]: 'king' } as never })
    expect([wrong.status, wrong.body.errors[0].path]).toEqual([422, `areaRoles.${own}`])
  })
  test('changed in the database it is found', async () => {
    await become({ areaRoles: { [own]: 'viewer' } })
    const client = new pg.Client({ connectionString: app.ownerUrl })
    await client.connect()
    const says = await foundAfter(client, (db) =>
      db.execute(
        sql`update people set area_roles = ${JSON.stringify({ [own]: 'reviewer' })}::jsonb where name = 'dunlin'`,
      ),
    )
    await client.end()
    expect(says).toEqual([expect.stringMatching(/areaRoles/)])
  })
})
