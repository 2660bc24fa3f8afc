import { createHmac, randomUUID } from 'node:crypto'
import { createServer, type Server } from 'node:http'
import type { AddressInfo } from 'node:net'
import type { SqlView, Token, Webhook } from '@calm/contract/programs'
import pg from 'pg'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { readCalendar } from '../test/calendar.ts'
import { testApp, type TestApp } from '../test/app.ts'
import { seal } from '../plant-log/sealer.ts'
import { AT, worked } from '../test/procedure.ts'
import { signedAsPageDoes } from '../test/signing.ts'
import { sendDue } from './sender.ts'
import { tellHead } from './tell-head.ts'

let app: TestApp
let plover: TestAgent
let wren: TestAgent
beforeAll(async () => {
  app = await testApp()
  plover = await app.as('plover')
  wren = await app.as('wren')
})
afterAll(() => app.stop())
const made = async (body: object) =>
  (await plover.post('/api/tokens').send(body).expect(201)).body as { token: Token; secret: string }
const by = (secret: string) => ({ Authorization: `Bearer ${secret}` })
const says = (res: { body: unknown }) => JSON.stringify(res.body)

describe('a token', () => {
  test('opens what a viewer sees, under the name of its program, and its use is told', async () => {
    const { token, secret } = await made({ name: 'historian', scope: 'look', days: 30 })
    const res = await app.anyone().get('/api/loops').set(by(secret)).expect(200)
    expect((res.body as unknown[]).length).toBeGreaterThan(20)
    await app.anyone().get('/api/loops/PT-202/package.zip').set(by(secret)).expect(200)
    const all = (await plover.get('/api/tokens').expect(200)).body as Token[]
    expect(all.find((t) => t.id === token.id)?.usedAt).not.toBeNull()
    expect(says({ body: all })).not.toContain(secret)
    const log = (await plover.get('/api/log?text=historian').expect(200)).body as {
      entries: { title: string }[]
    }
    expect(log.entries.map((e) => e.title)).toContain('Token made')
  })
  test.each<[string, 'get' | 'post' | 'put' | 'delete', string, number]>([
    ['changes nothing', 'post', '/api/loops', 403],
    ['takes nothing away', 'delete', '/api/own-parts/x', 403],
    ['decides nothing', 'put', '/api/plant/rules', 403],
    ['is no session', 'get', '/api/session', 403],
    ['has no preferences', 'get', '/api/preferences', 403],
    ['sees no log', 'get', '/api/log', 403],
    ['sees no register of people', 'get', '/api/people/register', 403],
    ['makes no other token', 'post', '/api/tokens', 403],
  ])('%s', async (_what, method, path, status) => {
    const { secret } = await made({ name: 'x', scope: 'look', days: 1 })
    const res = await app.anyone()[method](path).set(by(secret)).send({})
    expect(res.status).toBe(status)
  })
  test('ended, run out or made up it opens nothing', async () => {
    const { token, secret } = await made({ name: 'short', scope: 'look', days: 1 })
    const get = (s: string) => app.anyone().get('/api/loops').set(by(s))
    await get(secret).expect(200)
    await plover.delete(`/api/tokens/${token.id}`).expect(200)
    expect(says(await get(secret).expect(401))).toContain('opens nothing')
    await plover.delete(`/api/tokens/${token.id}`).expect(409)
    await get('calm_made-up').expect(401)
    await get(secret.slice(0, -1)).expect(401)
    const old = await made({ name: 'old', scope: 'look', days: 1 })
    await app.connection.pool.query(`update api_tokens set until = '2020-01-01' where name = 'old'`)
    await get(old.secret).expect(401)
  })
  test.each<[string, object, string]>([
    ['without a name', { name: ' ', scope: 'look', days: 1 }, 'name'],
    ['for ever', { name: 'x', scope: 'look', days: 9999 }, 'days'],
    ['for what is none', { name: 'x', scope: 'write', days: 1 }, 'scope'],
  ])('%s: told at its place', async (_what, body, path) => {
    const res = await plover.post('/api/tokens').send(body).expect(422)
    expect((res.body as { errors: { path: string }[] }).errors[0]?.path).toBe(path)
  })
  test('is made by an administrator', async () => {
    await wren.post('/api/tokens').send({ name: 'x', scope: 'look', days: 1 }).expect(403)
  })
})

describe('the calendar', () => {
  const lines = (text: string) => text.replace(/\r\n /g, '').split('\r\n')
  test('has every loop that is due on its day, by a token in the address', async () => {
    const { secret } = await made({ name: 'calendar', scope: 'calendar', days: 30 })
    const res = await app.anyone().get(`/api/calendar.ics?token=${secret}`).expect(200)
    expect(res.headers['content-type']).toMatch('text/calendar')
    const all = lines(res.text)
    const { due } = (await wren.get('/api/loops/PT-202').expect(200)).body as { due: string }
    const at = all.indexOf('SUMMARY:PT-202 due')
    expect(at).toBeGreaterThan(0)
    const entry = all.slice(all.lastIndexOf('BEGIN:VEVENT', at), all.indexOf('END:VEVENT', at))
    expect(entry).toContain(`DTSTART;VALUE=DATE:${due.replaceAll('-', '')}`)
    const read = readCalendar(res.text).find((e) => e.summary === 'PT-202 due')
    expect(read).toMatchObject({ starts: due, alarms_min: [] })
    expect(res.text).toContain('certificate ends')
    await app.anyone().get('/api/loops').set(by(secret)).expect(403)
  })
  test('of one area has that area alone', async () => {
    const { text } = await wren.get('/api/calendar.ics?area=100%20Intake').expect(200)
    const tags = readCalendar(text).map((e) => e.summary)
    expect(tags).toContain('PT-103 due')
    expect(tags.join()).not.toContain('PT-202')
  })
  test('of who looks after loops has theirs alone, however the name is written', async () => {
    const { id } = (await wren.get('/api/loops/PT-202').expect(200)).body as { id: string }
    const several = (assignee: string) =>
      wren
        .post('/api/loops/several')
        .send({ loops: [id], assignee, reason: 'shared out' })
        .expect(200)
    await several('Dunlin')
    const of = async (name: string) => {
      const { text } = await wren.get(`/api/calendar.ics?assignee=${name}`).expect(200)
      return readCalendar(text).map((e) => e.summary)
    }
    expect([await of('dunlin'), await of('Wren')]).toEqual([['PT-202 due'], []])
    await several('')
    expect(await of('Dunlin')).toEqual([])
  })
  test('is shut without one', async () => {
    await app.anyone().get('/api/calendar.ics').expect(401)
    await app.anyone().get('/api/calendar.ics?token=calm_none').expect(401)
  })
})

describe('a webhook', () => {
  let heard: { headers: Record<string, unknown>; body: string }[] = []
  let answers: number[] = []
  let server: Server
  let url: string
  beforeAll(async () => {
    server = createServer((req, res) => {
      let body = ''
      req.on('data', (c: Buffer) => (body += c.toString()))
      req.on('end', () => {
        heard.push({ headers: req.headers, body })
        res.writeHead(answers.shift() ?? 204).end()
      })
    })
    await new Promise<void>((done) => server.listen(0, '127.0.0.1', done))
    url = `http://127.0.0.1:${(server.address() as AddressInfo).port}/calm`
  })
  afterAll(() => new Promise((done) => server.close(done)))
  const archive = async (tag: string) => {
    const { id } = (await wren.get(`/api/loops/${tag}`).expect(200)).body as { id: string }
    await wren.post(`/api/loops/${id}/archive`).send({ reason: 'x' }).expect(200)
    await wren.post(`/api/loops/${id}/bring-back`).send({ reason: 'y' }).expect(200)
  }
  const later = (s: number) => new Date(Date.now() + s * 1000)
  const state = async (id: string) =>
    ((await plover.get('/api/webhooks').expect(200)).body as Webhook[]).find((w) => w.id === id)

  test('is told of a procedure that was signed, and of heads once in a day', async () => {
    const { body } = await plover
      .post('/api/webhooks')
      .send({ url, about: ['records of loops', 'heads of the record'] })
      .expect(201)
    const { webhook } = body as { webhook: Webhook }
    const run = await worked(wren, 'zero-trim')
    const signed = [
      {
        id: randomUUID(),
        runId: run,
        at: AT,
        body: { type: 'procedure.signed', payload: { as: 'technician', statement: 'x' } },
      },
    ]
    const events = await signedAsPageDoes(wren, signed, 'PT-103')
    await wren.post('/api/loops/PT-103/events').send({ events }).expect(200)
    const head = await seal(app.connection.db, app.parts.plantKey, later(0))
    if (!head) throw new Error('nothing was sealed')
    const nextDay = new Date(Date.parse(head.at) + 86_400_000 + 1).toISOString()
    for (const at of [head.at, head.at, nextDay]) await tellHead(app.connection.db, { ...head, at })
    heard = []
    while ((await sendDue(app.connection.db, later(1))) > 0);
    const sent = heard.map(
      (h) => JSON.parse(h.body) as { type: string; data: { tag?: string; root?: string } },
    )
    expect(sent.filter((s) => s.type === 'record.procedure.signed').map((s) => s.data.tag)).toEqual([
      'PT-103',
    ])
    expect(sent.filter((s) => s.type === 'head.signed').map((s) => s.data.root)).toEqual([
      head.root,
      head.root,
    ])
    await plover.delete(`/api/webhooks/${webhook.id}`).expect(200)
  })
  test('is told of each event once, signed; what does not arrive is sent again, and given up in the end', async () => {
    const { body } = await plover
      .post('/api/webhooks')
      .send({ url, about: ['records of loops'] })
      .expect(201)
    const { webhook, secret } = body as { webhook: Webhook; secret: string }
    await archive('PT-103')
    answers = [500]
    heard = []
    await sendDue(app.connection.db, later(0))
    expect(heard).toHaveLength(2)
    const sent = heard.map((h) => JSON.parse(h.body) as { type: string; data: { tag: string } })
    expect(sent.map((s) => `${s.type} ${s.data.tag}`).sort()).toEqual([
      'record.loop.archived PT-103',
      'record.loop.brought-back PT-103',
    ])
    for (const { headers, body: text } of heard) {
      const signed = `${String(headers['webhook-id'])}.${String(headers['webhook-timestamp'])}.${text}`
      const key = Buffer.from(secret.slice('whsec_'.length), 'base64')
      expect(headers['webhook-signature']).toBe(
        `v1,${createHmac('sha256', key).update(signed).digest('base64')}`,
      )
    }
    expect(await state(webhook.id)).toMatchObject({ waiting: 1, givenUp: 0, trouble: 'answered 500' })
    // Not before its time.
    await sendDue(app.connection.db, later(0))
    expect(heard).toHaveLength(2)
    await sendDue(app.connection.db, later(10))
    expect(heard).toHaveLength(3)
    expect(await state(webhook.id)).toMatchObject({ waiting: 0, givenUp: 0 })
    answers = Array.from({ length: 30 }, () => 503)
    await archive('PT-202')
    for (let s = 0; s < 10; s++) await sendDue(app.connection.db, later(100_000 * (s + 1)))
    expect(await state(webhook.id)).toMatchObject({ waiting: 0, givenUp: 2, trouble: 'answered 503' })
    await plover.delete(`/api/webhooks/${webhook.id}`).expect(200)
    answers = []
    heard = []
    await archive('PT-103')
    await sendDue(app.connection.db, later(1))
    expect(heard).toEqual([])
  })
  test('of the log hears of the log alone; two servers send nothing twice', async () => {
    await plover
      .post('/api/webhooks')
      .send({ url, about: ['the log of the plant'] })
      .expect(201)
    heard = []
    await plover.put('/api/plant/rules').send({ retention_years: 11 }).expect(200)
    await Promise.all([1, 2, 3].map(() => sendDue(app.connection.db, later(1))))
    expect(heard.map((h) => (JSON.parse(h.body) as { type: string }).type)).toEqual([
      // That it began is the first thing in the log that it could hear, and it was begun after that.
      'log.rules.changed',
    ])
  })
  test.each([
    ['ftp://x.example', 'url'],
    ['no address', 'url'],
  ])('%s is no address', async (address, path) => {
    const res = await plover
      .post('/api/webhooks')
      .send({ url: address, about: ['records of loops'] })
      .expect(422)
    expect((res.body as { errors: { path: string }[] }).errors[0]?.path).toBe(path)
  })
  test('nobody answers there: it is told', async () => {
    const gone = 'http://127.0.0.1:1/'
    const { body } = await plover
      .post('/api/webhooks')
      .send({ url: gone, about: ['records of loops'] })
      .expect(201)
    await archive('PT-103')
    await sendDue(app.connection.db, later(1))
    expect(await state((body as { webhook: Webhook }).webhook.id)).toMatchObject({ trouble: 'not reached' })
  })
})

describe('views for programs that read the database', () => {
  test('are told with their columns, and hold what the plant shows', async () => {
    const views = (await plover.get('/api/views').expect(200)).body as SqlView[]
    expect(views.map((v) => v.name)).toEqual([
      'reading.events',
      'reading.instruments',
      'reading.loops',
      'reading.procedures',
      'reading.verifications',
    ])
    expect(views.every((v) => v.says !== '' && v.columns.length > 4)).toBe(true)
  })
  test('a reader sees them, changes nothing, and sees nothing else', async () => {
    const owner = new pg.Client({ connectionString: app.ownerUrl })
    await owner.connect()
    const { rows: name } = await owner.query<{ d: string }>('select current_database() as d')
    const role = `${name[0]?.d ?? ''}_readers`
    await owner.query('begin')
    await owner.query(`set local role "${role}"`)
    const { rows } = await owner.query<{ tag: string; verdict: string }>(
      `select tag, verdict from reading.loops where tag = 'PT-202'`,
    )
    expect(rows).toEqual([{ tag: 'PT-202', verdict: 'PASS' }])
    const { rows: n } = await owner.query<{ n: number }>(
      'select count(*)::int as n from reading.verifications',
    )
    expect(n[0]?.n).toBeGreaterThan(20)
    for (const wrong of [
      'select * from people',
      'select * from loops',
      `update reading.loops set tag = 'X'`,
      'select * from api_tokens',
    ]) {
      await owner.query('savepoint s')
      await expect(owner.query(wrong)).rejects.toMatchObject({ code: '42501' })
      await owner.query('rollback to savepoint s')
    }
    await owner.query('rollback')
    await owner.end()
  })
})
