import { randomUUID } from 'node:crypto'
import type { LoopDetail } from '@calm/contract/loops'
import type { FactorOffer } from '@calm/contract/people'
import { generate } from 'otplib'
import type { Response } from 'express'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { testApp, testClock, type TestApp } from './test/app.ts'
import { close, events, read, send, starter } from './test/verification.ts'

const PASSWORD = 'salt-and-water'
let a: TestApp
let b: TestApp
let ahead_ms = 0
const clock = () => new Date(testClock().getTime() + ahead_ms)
beforeAll(async () => {
  a = await testApp({ clock })
  b = await testApp({ beside: a, clock })
})
afterAll(async () => {
  await b.stop()
  await a.stop()
})
const signIn = (app: TestApp, body: object) => app.anyone().post('/api/session').send(body)
/** What somebody is who comes to the other server with the cookie of the one. */
const at = async (app: TestApp, cookie: string) =>
  (
    (await app.anyone().get('/api/session').set('Cookie', cookie).expect(200)).body as {
      person: object | null
    }
  ).person
const cookieOf = (res: { headers: Record<string, unknown> }) =>
  (res.headers['set-cookie'] as string[])[0]?.split(';')[0] ?? ''

describe('two servers on one database', () => {
  test('a session of the one is one of the other, and ends on both', async () => {
    const cookie = cookieOf(await signIn(a, { name: 'tern', password: PASSWORD }).expect(200))
    expect(await at(b, cookie)).not.toBeNull()
    await b.anyone().delete('/api/session/everywhere').set('Cookie', cookie).expect(200)
    expect(await at(a, cookie)).toBeNull()
  })
  test('five wrong passwords, whichever server heard them, and both wait', async () => {
    for (const app of [a, b, a, b, a])
      await signIn(app, { name: 'dunlin', password: 'wrong wrong wrong' }).expect(401)
    await signIn(b, { name: 'dunlin', password: PASSWORD }).expect(429)
    ahead_ms += 20 * 60_000
    await signIn(b, { name: 'dunlin', password: PASSWORD }).expect(200)
  })
  test('a time code that opened at the one opens nothing at the other', async () => {
    const heron = await a.as('heron')
    const { secret } = (
      await heron.post('/api/session/second-factor').send({ password: PASSWORD }).expect(200)
    ).body as FactorOffer
    const codeNow = () => generate({ secret, epoch: Math.floor(clock().getTime() / 1000) })
    await heron
      .put('/api/session/second-factor')
      .send({ code: await codeNow() })
      .expect(200)
    ahead_ms += 60_000
    const body = { name: 'heron', password: PASSWORD, code: await codeNow() }
    const both = await Promise.all([signIn(a, body), signIn(b, body)])
    expect(both.map((r) => r.status).sort()).toEqual([200, 401])
  })
  test('of two who save at once one is told of the other; work sent to both is stored once', async () => {
    const [wa, wb] = [await a.as('wren'), await b.as('wren')]
    const loop = (await wa.get('/api/loops/FT-206').expect(200)).body as LoopDetail
    const save = (agent: TestAgent, service: string) =>
      agent
        .put('/api/loops/FT-206/document')
        .send({ base: loop.revision, document: { ...loop.document, service }, reason: 'two servers' })
    const both = await Promise.all([save(wa, 'one'), save(wb, 'two')])
    expect(both.map((r) => r.status).sort()).toEqual([200, 409])
    const run = randomUUID()
    const { begin } = await starter(wa)
    const list = events(run, begin(), read(0, 0), read(1, 42.5), read(2, 85), close)
    const sent = await Promise.all([wa, wb, wa, wb].map((agent) => send(agent, list)))
    expect(sent.map((r) => (r.body as { accepted: number }).accepted).sort()).toEqual([0, 0, 0, list.length])
  })
  test('a window at the one hears what is done at the other', async () => {
    const heard: string[] = []
    const res = {
      writeHead: () => res,
      write: (text: string) => void heard.push(text),
      writableLength: 0,
      end: () => undefined,
      on: () => res,
    }
    b.parts.live.join(res as unknown as Response, { sessionId: 's', personId: 'p', address: '127.0.0.1' })
    const wa = await a.as('wren')
    const loop = (await wa.get('/api/loops/PT-202').expect(200)).body as LoopDetail
    await wa
      .post('/api/loops')
      .send({ id: randomUUID(), document: { ...loop.document, tag: 'PT-399' } })
      .expect(201)
    await expect.poll(() => heard.join(''), { timeout: 10_000 }).toContain('"tag":"PT-399"')
  })
  test('an import and its undoing at two servers at once: one of them, whole', async () => {
    const [wa, wb] = [await a.as('wren'), await b.as('wren')]
    const id = randomUUID()
    const text = `Tag;Type;LRV;URV;Unit;Signal\n${Array.from({ length: 40 }, (_, i) => `XT-${i};pressure;0;1;bar;4-20 mA`).join('\n')}\n`
    const bring = (agent: TestAgent) => agent.post('/api/loop-list/import').send({ id, text, update: [] })
    const brought = await Promise.all([bring(wa), bring(wb)])
    expect(brought.map((r) => [r.status, (r.body as { created: number }).created])).toEqual([
      [200, 40],
      [200, 40],
    ])
    const undo = (agent: TestAgent) => agent.post(`/api/loop-list/imports/${id}/undo`).send({ reason: 'x' })
    const undone = await Promise.all([undo(wa), undo(wb)])
    expect(undone.map((r) => r.status).sort()).toEqual([200, 409])
  })
})
