import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import type TestAgent from 'supertest/lib/agent.js'
import { testApp, type TestApp } from '../test/app.ts'
import { partsOf, type Address } from '@calm/contract/api/addresses'
import { API } from '@calm/contract/api/api'
import type { Endpoint } from '@calm/contract/api/endpoint'

let app: TestApp
let wren: TestAgent
let tern: TestAgent
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
  tern = await app.as('tern')
})
afterAll(() => app.stop())

const METHODS = { GET: 'get', POST: 'post', PUT: 'put', DELETE: 'delete' } as const
const ALL = (Object.entries(API) as [Address, Endpoint][]).map(([address, e]) => {
  const { method, path } = partsOf(address)
  return { ...e, method: METHODS[method], path }
})

describe('nothing is open by default', () => {
  test('only session, health, the description and links to set a password answer anyone', () => {
    const open = ALL.filter((e) => e.allow === 'anyone').map((e) => `${e.method} ${e.path}`)
    expect(open).toEqual([
      'get /api/session',
      'get /api/session/provider',
      'get /api/session/provider/go',
      'get /api/session/provider/back',
      'post /api/session',
      'get /api/session/demo',
      'delete /api/session',
      'get /api/health',
      'get /api/openapi.json',
      'post /api/people/first',
      'get /api/invitations/:token',
      'post /api/invitations/:token',
      // Calendar programs send no heads: the handler itself asks for the token in the address.
      'get /api/calendar.ics',
    ])
  })
  test('everything else asks for a sign-in', async () => {
    for (const e of ALL.filter((e) => e.allow !== 'anyone')) {
      const path = e.path.replace(/:(run|row)/g, '00000000-0000-4000-8000-000000000000').replace(/:\w+/g, 'x')
      const res = await app.anyone()[e.method](path)
      expect([e.path, res.status]).toEqual([e.path, 401])
      expect(res.type).toBe('application/problem+json')
    }
  })
  test('a viewer reads and computes, and writes nothing', async () => {
    await tern.get('/api/loops').expect(200)
    await tern.post('/api/calc/signal.currentState').send({ mA: 3.5 }).expect(200)
    for (const e of ALL.filter(
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
  test('five wrong passwords for a name, then a wait, also for the right one; other names go on', async () => {
    const slow = await testApp()
    const tryIt = async (name: string, password: string) =>
      (await slow.anyone().post('/api/session').send({ name, password })).status
    const statuses: number[] = []
    for (let i = 0; i < 6; i++) statuses.push(await tryIt('wren', `no ${i}`))
    expect(statuses).toEqual([401, 401, 401, 401, 401, 429])
    expect(await tryIt('Wren', 'salt-and-water')).toBe(429)
    expect(await tryIt('heron', 'salt-and-water')).toBe(200)
    await slow.stop()
  })
  test('many guesses at the same moment are many', async () => {
    const slow = await testApp()
    const all = await Promise.all(
      Array.from({ length: 20 }, (_, i) =>
        slow
          .anyone()
          .post('/api/session')
          .send({ name: 'wren', password: `guess ${i}` }),
      ),
    )
    expect(all.filter((r) => r.status === 401)).toHaveLength(5)
    expect(all.filter((r) => r.status === 429)).toHaveLength(15)
    await slow.stop()
  })
  test('thirty wrong ones from an address, whatever the names, and whoever it says it comes for', async () => {
    const slow = await testApp()
    let refused = 0
    for (let i = 0; i < 32; i++) {
      const res = await slow
        .anyone()
        .post('/api/session')
        .set('X-Forwarded-For', `10.0.0.${i}`)
        .send({ name: `n${i}`, password: 'no' })
      if (res.status === 429) refused++
    }
    expect(refused).toBe(2)
    const { rows } = await slow.connection.pool.query<{ outcome: string; n: string }>(
      'select outcome, count(*) n from sign_ins group by outcome order by outcome',
    )
    expect(rows).toEqual([
      { outcome: 'tried', n: '30' },
      { outcome: 'wrong', n: '30' },
    ])
    await slow.stop()
  })
  test('signed out everywhere, every session of that person is over', async () => {
    const [a, b, other] = [await app.as('dunlin'), await app.as('dunlin'), await app.as('heron')]
    expect((await a.delete('/api/session/everywhere').expect(200)).body).toMatchObject({ ended: 2 })
    await b.get('/api/loops').expect(401)
    await other.get('/api/loops').expect(200)
  })
  test('a session that nobody used for eight hours is over, and one of a week', async () => {
    for (const [key, hours] of [
      ['seenAt', 8.1],
      ['begunAt', 169],
    ] as const) {
      const agent = await app.as('dunlin')
      await agent.get('/api/loops').expect(200)
      await app.tamper(
        `update sessions set sess = jsonb_set(sess::jsonb, '{${key}}', to_jsonb(${Date.now() - hours * 3_600_000}::bigint))::json where sess ->> 'personId' = (select id::text from people where name = 'dunlin')`,
      )
      await agent.get('/api/loops').expect(401)
    }
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
      400,
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
    const large = await wren.post('/api/calc/units.convert').send({ text: 'x'.repeat(5_300_000) })
    expect(large.status).toBe(413)
    const list = await wren
      .post('/api/loop-list/preview')
      .send({ text: `Tag;Service\n${'A-1;x\n'.repeat(9_000)}` })
    expect(list.status).toBe(200)
  })
  test.each([
    ['not an encoding', '/api/loops/%E0%A4%A'],
    ['a NUL', '/api/loops/PT%00202'],
    ['a NUL in the query', '/api/loops/PT-202/pocket-card.csv?levels=1%00'],
    ['a way up', '/api/loops/..%2f..%2fetc%2fpasswd'],
    ['a way up with the other stroke', '/api/loops/..%5c..%5cetc'],
    ['the prototype as a name', '/api/loops/__proto__'],
    ['the prototype as a key', '/api/loops/PT-202/pocket-card.csv?__proto__[x]=1'],
  ])('an address with %s is refused with its place', async (_why, path) => {
    const { status, body } = await wren.get(path)
    expect([status, body.errors?.[0].path]).toEqual([400, 'address'])
  })
  test('nesting is told before anything walks it, the prototype with its place', async () => {
    const send = (text: string) =>
      wren.post('/api/calc/units.convert').set('Content-Type', 'application/json').send(text)
    const deep = await send('['.repeat(400_000) + ']'.repeat(400_000))
    expect([deep.status, deep.body.errors[0].says]).toEqual([400, expect.stringMatching(/deeper than 64/)])
    const proto = await send('{"a":[{"b":{"__proto__":{"x":1}}}]}')
    expect([proto.status, proto.body.errors[0].path]).toEqual([400, 'a.0.b.__proto__'])
    expect(({} as { x?: number }).x).toBeUndefined()
  })
  test('a broken address is told, an unknown one too', async () => {
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

test('what the API answers is kept by nobody on the way', async () => {
  for (const path of ['/api/loops', '/api/session', '/api/nothing-here'])
    expect((await wren.get(path)).headers['cache-control']).toBe('no-store')
})

test('another host name is not ours; the configured one is', async () => {
  const evil = await wren.get('/api/health').set('Host', 'rebound.example')
  expect([evil.status, evil.body.errors[0].path]).toEqual([421, 'host'])
  const named = await testApp({ settings: { address: 'https://calm.plant.example' } })
  const ask = (host: string) => named.anyone().get('/api/health').set('Host', host)
  expect((await ask('calm.plant.example')).status).toBe(200)
  expect((await ask('calm.plant.example.evil.example')).status).toBe(421)
  await named.stop()
})

describe('no large body before the session', () => {
  test('a stranger’s sign-in is refused by its size, all else by who sends it; who is signed in may send it', async () => {
    const body = { name: 'wren', password: 'x'.repeat(40_000) }
    expect((await app.anyone().post('/api/session').send(body)).status).toBe(413)
    expect(
      (
        await app
          .anyone()
          .post('/api/loop-list/preview')
          .send({ text: 'x'.repeat(40_000) })
      ).status,
    ).toBe(401)
    expect((await wren.post('/api/loop-list/preview').send({ text: 'x'.repeat(40_000) })).status).toBe(422)
  })
})

describe('a write goes under the name that its page shows', () => {
  test('another person signed in meanwhile: nothing is recorded', async () => {
    const { body: me } = await wren.get('/api/session')
    const { body: other } = await tern.get('/api/session')
    const write = (id: string) =>
      wren.post('/api/calc/signal.currentState').set('X-Calm-Person', id).send({ mA: 4 })
    expect((await write(me.person.id as string)).status).toBe(200)
    const refused = await write(other.person.id as string)
    expect([refused.status, refused.body.type]).toEqual([403, 'urn:calm-loop:another-person'])
  })
})

describe('health', () => {
  test('tells database, writing, disk, backups and calculations', async () => {
    const { body } = await app.anyone().get('/api/health').expect(200)
    expect(body).toMatchObject({
      ok: true,
      database: { ok: true },
      writing: { ok: true },
      disk: { says: expect.stringMatching(/MB free/) as string },
      backup: { ok: false, says: 'none is scheduled' },
      calculations: { ok: true },
    })
  })
})
