import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import type TestAgent from 'supertest/lib/agent.js'
import { testApp, type TestApp } from '../test/app.ts'
import { endpointsOf } from '../app.ts'
import { pino } from 'pino'

let app: TestApp
let wren: TestAgent
let tern: TestAgent
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
  tern = await app.as('tern')
})
afterAll(() => app.stop())

const describeAll = () =>
  endpointsOf({
    connection: app.connection,
    live: { join: () => undefined, stop: () => Promise.resolve() },
    log: pino({ level: 'silent' }),
    webFolder: null,
    signInsPerMinute: 1,
  })

describe('nothing is open by default', () => {
  test('only session, health and the description answer anyone', () => {
    const open = describeAll()
      .filter((e) => e.allow === 'anyone')
      .map((e) => `${e.method} ${e.path}`)
    expect(open).toEqual([
      'get /api/health',
      'get /api/openapi.json',
      'get /api/session',
      'post /api/session',
      'delete /api/session',
    ])
  })
  test('everything else asks for a sign-in', async () => {
    for (const e of describeAll().filter((e) => e.allow !== 'anyone')) {
      const path = e.path.replace(/:(run|row)/g, '00000000-0000-4000-8000-000000000000').replace(/:\w+/g, 'x')
      const res = await app.anyone()[e.method](path)
      expect([e.path, res.status]).toEqual([e.path, 401])
      expect(res.type).toBe('application/problem+json')
    }
  })
  test('a viewer reads and computes, and writes nothing', async () => {
    await tern.get('/api/loops').expect(200)
    await tern.post('/api/calc/signal.currentState').send({ mA: 3.5 }).expect(200)
    for (const e of describeAll().filter(
      (e) => e.method !== 'get' && e.allow !== 'anyone' && !e.allow.includes('viewer'),
    ))
      expect((await tern[e.method](e.path.replace(/:\w+/g, 'PT-202'))).status).toBe(403)
  })
})

describe('signing in', () => {
  test('wrong name and wrong password are told alike', async () => {
    const a = await app.anyone().post('/api/session').send({ name: 'wren', password: 'x' })
    const b = await app.anyone().post('/api/session').send({ name: 'nobody', password: 'x' })
    expect([a.status, b.status]).toEqual([401, 401])
    expect(a.body.title).toBe(b.body.title)
  })
  test('no answer ever holds a password hash', async () => {
    const res = await app.anyone().post('/api/session').send({ name: 'WREN', password: 'salt-and-water' })
    expect(res.status).toBe(200)
    expect(res.text).not.toContain('argon2')
    expect((await wren.get('/api/people')).text).not.toContain('argon2')
  })
  test('the cookie is kept from scripts and from other sites', async () => {
    const res = await app.anyone().post('/api/session').send({ name: 'wren', password: 'salt-and-water' })
    expect(res.headers['set-cookie']?.[0]).toMatch(/HttpOnly; SameSite=Strict/)
  })
  test('signing out ends the session on the server', async () => {
    const agent = await app.as('dunlin')
    await agent.delete('/api/session').expect(204)
    await agent.get('/api/loops').expect(401)
  })
  test('the eleventh try in a minute waits', async () => {
    const slow = await testApp({ signInsPerMinute: 10 })
    const statuses: number[] = []
    for (let i = 0; i < 11; i++)
      statuses.push((await slow.anyone().post('/api/session').send({ name: 'wren', password: 'no' })).status)
    await slow.stop()
    expect(statuses.slice(0, 10).every((s) => s === 401)).toBe(true)
    expect(statuses[10]).toBe(429)
  })
})

describe('writes from elsewhere', () => {
  test.each([
    ['another origin', { origin: 'https://elsewhere.example' }],
    ['another site by the browser’s word', { 'sec-fetch-site': 'cross-site' }],
    ['a sandboxed page', { origin: 'null' }],
  ])('%s is refused', async (_why, headers) => {
    const res = await wren.post('/api/calc/signal.currentState').set(headers).send({ mA: 4 })
    expect(res.status).toBe(403)
    expect(res.body.type).toBe('urn:calm-loop:other-site')
  })
})

describe('bad input never becomes a 500', () => {
  const rows: readonly [why: string, path: string, body: string, status: number][] = [
    ['not JSON', '/api/loops', '{"id":', 400],
    ['a number', '/api/loops', '4', 422],
    ['null', '/api/loops', 'null', 422],
    ['an empty object', '/api/loops', '{}', 422],
    ['an array', '/api/loops/PT-202/events', '[]', 422],
    ['1e400 in a calculation', '/api/calc/signal.currentState', '{"mA":1e400}', 422],
    ['text for a number', '/api/calc/signal.currentState', '{"mA":"NaN"}', 422],
    ['a NUL in a text', '/api/loop-list/preview', '{"text":"a;b\\u0000"}', 422],
    ['half a character', '/api/loop-list/preview', '{"text":"a;b\\ud800"}', 422],
    ['an unknown calculation', '/api/calc/no.such', '{}', 404],
    [
      'an unknown loop',
      '/api/loops/XX-1/events',
      '{"events":[{"id":"0190a6c0-0000-7000-8000-000000000000","runId":"0190a6c0-0000-7000-8000-000000000001","at":"2026-11-23T10:00:00Z","body":{"type":"left.asFound","payload":{}}}]}',
      404,
    ],
    [
      'a prototype key',
      '/api/calc/units.convert',
      '{"value":1,"from":"bar","to":"kPa","__proto__":{"x":1}}',
      422,
    ],
  ]
  test.each(rows)('%s', async (_why, path, body, status) => {
    const res = await wren.post(path).set('Content-Type', 'application/json').send(body)
    expect(res.status).toBe(status)
    expect(res.body).toMatchObject({
      status,
      title: expect.any(String) as string,
      requestId: expect.any(String) as string,
    })
  })
  test('a body of 5 MB is too large, a list of 3 MB is not', async () => {
    const large = await wren.post('/api/calc/units.convert').send({ text: 'x'.repeat(5_000_000) })
    expect(large.status).toBe(413)
    const list = await wren
      .post('/api/loop-list/preview')
      .send({ text: `Tag;Service\n${'A-1;x\n'.repeat(9_000)}` })
    expect(list.status).toBe(200)
  })
  test('a broken address is told, an unknown one too', async () => {
    expect((await wren.get('/api/loops/%E0%A4%A')).status).toBe(400)
    expect((await wren.get('/api/nothing-here')).status).toBe(404)
  })
})

test('the description lists every endpoint and every calculation', async () => {
  const { body } = await app.anyone().get('/api/openapi.json').expect(200)
  expect(body.paths['/api/loops/{loop}/events'].post).toBeTypeOf('object')
  expect(
    body.paths['/api/calc/units.convert'].post.requestBody.content['application/json'].schema.properties,
  ).toHaveProperty('p_baro')
})

test('every answer carries a request id and the security headers', async () => {
  const res = await app.anyone().get('/api/health').expect(200)
  expect(res.headers['x-request-id']).toMatch(/^[0-9a-f-]{36}$/)
  expect(res.headers['content-security-policy']).toContain("script-src 'self';")
  expect(res.headers['x-powered-by']).toBeUndefined()
})
