import type { FactorOffer, FactorState } from '@calm/contract/people'
import { generate } from 'otplib'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { provePlant } from '../proof/prove.ts'
import { testApp, testClock, type TestApp } from '../test/app.ts'

const PASSWORD = 'salt-and-water'
let ahead_ms = 0
const clock = () => new Date(testClock().getTime() + ahead_ms)
const move = (ms: number) => (ahead_ms += ms)
let app: TestApp
let wren: TestAgent
let offer: FactorOffer
let codes: string[]
beforeAll(async () => {
  app = await testApp({ clock })
  wren = await app.as('wren')
})
afterAll(() => app.stop())
const codeNow = () => generate({ secret: offer.secret, epoch: Math.floor(clock().getTime() / 1000) })
const signIn = (code?: string, name = 'wren') =>
  app
    .anyone()
    .post('/api/session')
    .send({ name, password: PASSWORD, ...(code === undefined ? {} : { code }) })
const type = (res: { body: unknown }) => (res.body as { type?: string }).type

// One person's way through it, in this order.
describe('a second factor by time codes', () => {
  test('is offered to who types the password, and counts once a code of it is typed', async () => {
    await wren.post('/api/session/second-factor').send({ password: 'not this one' }).expect(401)
    offer = (await wren.post('/api/session/second-factor').send({ password: PASSWORD }).expect(200))
      .body as FactorOffer
    expect(offer.uri).toContain(`secret=${offer.secret}`)
    expect(offer.picture).toContain('<svg')
    expect((await signIn().expect(200)).body).toMatchObject({ first: false })
    const wrong = await wren.put('/api/session/second-factor').send({ code: '000000' }).expect(422)
    expect((wrong.body as { errors: { path: string }[] }).errors[0]?.path).toBe('code')
    const res = await wren
      .put('/api/session/second-factor')
      .send({ code: await codeNow() })
      .expect(200)
    codes = (res.body as { codes: string[] }).codes
    expect(new Set(codes).size).toBe(10)
    expect((await wren.get('/api/session/second-factor')).body as FactorState).toMatchObject({
      codesLeft: 10,
    })
    await wren.post('/api/session/second-factor').send({ password: PASSWORD }).expect(409)
  })
  test('the password alone opens nothing any more, and says what is asked for', async () => {
    const res = await signIn().expect(401)
    expect(type(res)).toBe('urn:calm-loop:second-factor')
  })
  test('the code of now opens, once; one that was used is refused', async () => {
    move(60_000)
    const code = await codeNow()
    await signIn(code).expect(200)
    expect(type(await signIn(code).expect(401))).toBe('urn:calm-loop:second-factor')
    move(31_000)
    await signIn(await codeNow()).expect(200)
  })
  test('of two windows with one code at once one comes in', async () => {
    move(60_000)
    const code = await codeNow()
    const both = await Promise.all([signIn(code), signIn(code)])
    expect(both.map((r) => r.status).sort()).toEqual([200, 401])
  })
  test('a recovery code opens once, however it is written, and stands in the log', async () => {
    const [first = ''] = codes
    await signIn(` ${first.toUpperCase().replace('-', ' ')} `).expect(200)
    await signIn(first).expect(401)
    const heron = await app.as('heron')
    const log = (await heron.get('/api/log?group=people').expect(200)).body as {
      entries: { title: string; says: string }[]
    }
    expect(log.entries.find((e) => e.title === 'Recovery code used')?.says).toMatch(/9 are left/)
  })
  test('codes cannot be guessed: five wrong ones, then a wait', async () => {
    move(20 * 60_000)
    for (let i = 0; i < 5; i++) await signIn(`00000${i}`).expect(401)
    expect((await signIn(await codeNow())).status).toBe(429)
    move(20 * 60_000)
    await signIn(await codeNow()).expect(200)
  })
  test('the record of the plant holds it; what changed quietly is found', async () => {
    const { db, pool } = app.connection
    expect((await provePlant(db)).mismatches).toEqual([])
    await pool.query('update second_factors set since = null')
    expect((await provePlant(db)).mismatches.map((m) => m.where).join()).toContain('second factor')
    await pool.query(
      `update second_factors set since = (select at from plant_events where type = 'factor.begun')`,
    )
  })
  test('ended by the person with the password, or by an administrator with the password’s reset', async () => {
    await wren.post('/api/session/second-factor/end').send({ password: 'no' }).expect(401)
    await wren.post('/api/session/second-factor/end').send({ password: PASSWORD }).expect(200)
    await wren.post('/api/session/second-factor/end').send({ password: PASSWORD }).expect(409)
    await signIn().expect(200)
    // Anew, with another secret.
    offer = (await wren.post('/api/session/second-factor').send({ password: PASSWORD }).expect(200))
      .body as FactorOffer
    move(60_000)
    await wren
      .put('/api/session/second-factor')
      .send({ code: await codeNow() })
      .expect(200)
    const plover = await app.as('plover')
    const all = (await plover.get('/api/people/register').expect(200)).body as { id: string; name: string }[]
    const id = all.find((p) => p.name === 'wren')?.id ?? ''
    await plover.post(`/api/people/${id}/password-reset`).send({ reason: 'phone lost' }).expect(200)
    const { rows } = await app.connection.pool.query<{ since: unknown; secret: string }>(
      'select since, secret from second_factors',
    )
    expect(rows).toEqual([{ since: null, secret: '' }])
    expect((await provePlant(app.connection.db)).mismatches).toEqual([])
  })
})
