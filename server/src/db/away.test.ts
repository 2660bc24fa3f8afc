import { createServer, request, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import { randomUUID } from 'node:crypto'
import pg from 'pg'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { createApp } from '../app.ts'
import { testApp, type TestApp } from '../test/app.ts'
import { databaseIsGone } from './away.ts'
import { connect } from './connection.ts'
import { events, read, send, starter } from '../test/verification.ts'

let app: TestApp
let wren: TestAgent
let begin: Awaited<ReturnType<typeof starter>>['begin']
let owner: pg.Client
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
  begin = (await starter(wren)).begin
  owner = new pg.Client({ connectionString: app.ownerUrl })
  await owner.connect()
})
afterAll(async () => {
  await owner.end()
  await app.stop()
})
/** Every connection of the application breaks, whatever it was doing. */
const breakAll = () =>
  owner.query(
    `select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()`,
  )
const waiting = async () =>
  (
    await owner.query<{ n: number }>(
      `select count(*)::int n from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock'`,
    )
  ).rows[0]?.n ?? 0

describe('a database that goes away under work', () => {
  test('a write in flight is a 503 and not stored; sent again it is stored once, and the server goes on by itself', async () => {
    const run = randomUUID()
    const list = events(run, begin(), read(0, 0))
    await owner.query('begin')
    await owner.query(`select 1 from loops where tag = 'PT-202' for update`)
    const flight = send(wren, list).then((r) => r)
    await expect.poll(waiting).toBeGreaterThan(0)
    await breakAll()
    await owner.query('rollback')
    const answer = await flight
    expect([answer.status, answer.type]).toEqual([503, 'application/problem+json'])
    expect(answer.headers['retry-after']).toBe('2')
    await expect.poll(async () => (await wren.get('/api/health')).status).toBe(200)
    expect((await send(wren, list).expect(200)).body).toEqual({ accepted: 2 })
    expect((await send(wren, list).expect(200)).body).toEqual({ accepted: 0 })
    await expect
      .poll(async () => (await wren.get('/api/loops/PT-202/chain')).body.kind as string)
      .toBe('whole')
  })
  test('breaks at any moment of many writes: nothing else than 200 and 503, nothing lost, nothing doubled', async () => {
    const run = randomUUID()
    await send(wren, events(run, begin())).expect(200)
    const stored = new Set<string>()
    const odd: number[] = []
    let over = false
    const writer = async () => {
      while (!over) {
        const [e] = events(run, read(0, 0, Math.random()))
        for (let tries = 0; tries < 40; tries++) {
          const { status } = await send(wren, [e])
          if (status === 200) {
            if (e) stored.add(e.id)
            break
          }
          if (status !== 503) odd.push(status)
        }
      }
    }
    const writers = [writer(), writer(), writer()]
    // On a busy machine few get through between two breaks: on until enough have.
    for (let i = 0; i < 25 || (stored.size <= 5 && i < 150); i++) {
      await new Promise((r) => setTimeout(r, 20 + 100 * Math.random()))
      await breakAll()
    }
    over = true
    await Promise.all(writers)
    expect(odd).toEqual([])
    expect(stored.size).toBeGreaterThan(5)
    const { rows } = await owner.query<{ id: string }>(
      `select id from events where run_id = $1 and type = 'reading.recorded'`,
      [run],
    )
    expect(new Set(rows.map((r) => r.id))).toEqual(stored)
  })
})

test('a transaction that cannot even begin gives its connection back, however often', async () => {
  const { pool, db } = connect(app.ownerUrl, { warn: () => undefined })
  const closed = (client: pg.PoolClient) => void (client as unknown as pg.Client).end()
  pool.on('acquire', closed)
  // More often than there are connections in the pool.
  for (let i = 0; i < 25; i++)
    await expect(db.transaction(() => Promise.resolve(1))).rejects.toSatisfy(databaseIsGone)
  pool.off('acquire', closed)
  expect(await db.transaction(() => Promise.resolve('goes on'))).toBe('goes on')
  expect(pool.totalCount - pool.idleCount).toBe(0)
  await pool.end()
})

test('a file that is not there is a 404 with a sentence and says nothing of the database', async () => {
  const web = await createApp({ ...app.parts, webFolder: import.meta.dirname })
  const server = createServer(web)
  await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
  const { port } = server.address() as AddressInfo
  const res = await fetch(`http://127.0.0.1:${port}/assets/no-such-file.js`)
  const body = (await res.json()) as { title: string; type: string }
  expect([res.status, body.type]).toEqual([404, 'urn:calm-loop:not-found'])
  expect(body.title).toBe('There is no such file. Reload the page.')
  await new Promise((done) => server.close(done))
})

describe('slow bodies', () => {
  let server: Server
  let port = 0
  let cookie = ''
  beforeAll(async () => {
    server = createServer(await createApp(app.parts))
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
    port = (server.address() as AddressInfo).port
    const res = await fetch(`http://127.0.0.1:${port}/api/session`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ name: 'wren', password: 'salt-and-water' }),
    })
    cookie = res.headers.getSetCookie()[0]?.split(';')[0] ?? ''
  })
  afterAll(() => {
    server.closeAllConnections()
    server.close()
  })
  /** A body that begins and does not end. */
  const begun = () => {
    const req = request({
      port,
      method: 'POST',
      path: '/api/calc/signal.currentState',
      headers: { cookie, 'content-type': 'application/json', 'content-length': '9' },
    })
    req.on('error', () => undefined)
    req.write('{"mA"')
    return req
  }
  test('so many at once of one person; when they end, the place is free again', async () => {
    const open = Array.from({ length: 16 }, begun)
    const ask = () =>
      fetch(`http://127.0.0.1:${port}/api/calc/signal.currentState`, {
        method: 'POST',
        headers: { cookie, 'content-type': 'application/json' },
        body: '{"mA":4}',
      }).then((r) => r.status)
    await expect.poll(ask, { timeout: 5000 }).toBe(429)
    for (const r of open) r.destroy()
    await expect.poll(ask, { timeout: 5000 }).toBe(200)
  })
})

test('who asks is told by a proxy only where one is named', async () => {
  const named = await testApp({ settings: { proxy: 'loopback' } })
  const tried = (address: string) =>
    named.anyone().post('/api/session').set('X-Forwarded-For', address).send({ name: 'x', password: 'no' })
  await tried('203.0.113.7').expect(401)
  const { rows } = await named.connection.pool.query<{ address: string }>(
    `select distinct address from sign_ins where outcome = 'tried'`,
  )
  expect(rows).toEqual([{ address: '203.0.113.7' }])
  await named.stop()
})
