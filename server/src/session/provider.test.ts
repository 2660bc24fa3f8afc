import { sign } from 'node:crypto'
import type { Person } from '@calm/contract/people'
import { wrapProofText } from '@calm/core/record/signing/wrap-proof'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, afterEach, beforeAll, describe, expect, test } from 'vitest'
import { makeKey } from '../people/make-key.ts'
import { provePlant } from '../proof/prove.ts'
import { testApp, type TestApp } from '../test/app.ts'
import {
  CLIENT,
  startStandInProvider,
  type Fault,
  type Identity,
  type StandInProvider,
} from '../test/stand-in-provider.ts'
import { readProvider } from './provider-settings.ts'
import { providerOf } from './provider.ts'

const paths = (res: { body: unknown }) =>
  ((res.body as { errors?: { path: string }[] }).errors ?? []).map((e) => e.path)
let app: TestApp
let plant: StandInProvider
const ENVIRONMENT = {
  CALM_ADDRESS: 'http://127.0.0.1:4180',
  CALM_OIDC_CLIENT: CLIENT.id,
  CALM_OIDC_SECRET: CLIENT.secret,
  CALM_OIDC_NAME: 'Plant sign-in',
  CALM_OIDC_ROLES: 'calm-reviewers=reviewer, calm-technicians=technician,calm-admins=administrator',
}
const settingsOf = (env: Readonly<Record<string, string>>) => {
  const told = readProvider({ ...ENVIRONMENT, ...env })
  if (told === null || typeof told === 'string') throw new Error(told ?? 'none')
  return told
}
beforeAll(async () => {
  plant = await startStandInProvider()
  app = await testApp({
    settings: { provider: providerOf(settingsOf({ CALM_OIDC_ISSUER: plant.issuer })) },
  })
})
afterEach(() => {
  plant.fault = {}
})
afterAll(async () => {
  await app.stop()
  await plant.stop()
})

const CURLEW: Identity = {
  sub: 'c-17',
  preferred_username: 'curlew@plant.example',
  name: 'Curlew (technician)',
  groups: ['everybody', 'calm-technicians'],
}
/** Where somebody ends who is sent from address to address, with a browser of their own. */
async function goThere(agent: TestAgent): Promise<string> {
  const { headers } = await agent.get('/api/session/provider/go').expect(303)
  const there = await fetch(String(headers['location']), { redirect: 'manual' })
  const back = new URL(there.headers.get('location') ?? '')
  return `${back.pathname}${back.search}`
}
const signIn = async (who: Identity, fault: Fault = {}) => {
  plant.who = who
  plant.fault = fault
  const agent = app.anyone()
  const { headers } = await agent.get(await goThere(agent)).expect(303)
  const { body } = (await agent.get('/api/session').expect(200)) as { body: { person: Person | null } }
  return { agent, to: headers['location'], person: body.person }
}

describe('the plant’s own sign-in', () => {
  test('is offered by its name', async () => {
    expect((await app.anyone().get('/api/session/provider').expect(200)).body).toEqual({
      name: 'Plant sign-in',
    })
  })
  test('who was never here comes with the role that is told there, and is the same person the next time', async () => {
    const first = await signIn(CURLEW)
    expect(first).toMatchObject({
      to: '/',
      person: { name: 'curlew', shownName: 'Curlew (technician)', role: 'technician' },
    })
    // Another name there is still the same person.
    const again = await signIn({ ...CURLEW, preferred_username: 'curlew.new', name: 'C. New' })
    expect(again.person?.id).toBe(first.person?.id)
    expect((await first.agent.get('/api/session/key').expect(200)).body).toEqual({
      key: null,
      signsInElsewhere: true,
    })
    // The log tells it, and the rows are what it tells.
    expect(await provePlant(app.connection.db)).toMatchObject({ mismatches: [] })
  })
  test('the signing password is changed by who opens the key, and by nobody else', async () => {
    const { agent, person } = await signIn({ ...CURLEW, sub: 'key-1', preferred_username: 'phalarope' })
    const id = person?.id ?? ''
    const { wrapped, privateKey } = makeKey('foam under the pier', id)
    await agent.put('/api/session/key').send(wrapped).expect(200)
    const anew = { ...wrapped, salt: '0'.repeat(32), wrapped: 'ab'.repeat(64) }
    const proved = (key: typeof wrapped, by = privateKey, whose = id) => ({
      ...key,
      proof: sign(null, Buffer.from(wrapProofText(whose, key)), by).toString('hex'),
    })
    const send = (body: object, as = agent) => as.put('/api/session/key/password').send(body)
    const other = makeKey('foam under the pier', id)
    for (const [body, status, path] of [
      [proved(anew, other.privateKey), 422, 'proof'],
      [proved(anew, privateKey, 'somebody else'), 422, 'proof'],
      [{ ...proved(anew), wrapped: 'cd'.repeat(64) }, 422, 'proof'],
      [proved(other.wrapped, other.privateKey), 422, 'key.publicKey'],
      [anew, 422, 'proof'],
    ] as const) {
      const res = await send(body)
      expect([res.status, paths(res)]).toEqual([status, [path]])
    }
    expect((await agent.get('/api/session/key').expect(200)).body).toMatchObject({ key: wrapped })
    expect((await send(proved(anew)).expect(200)).body).toMatchObject({ key: anew })
    // Who has a password here changes that, and is asked for it.
    const here = await app.as('wren')
    expect((await send(proved(anew), here)).status).toBe(409)
    expect(await provePlant(app.connection.db)).toMatchObject({ mismatches: [] })
  })
  test('another role there is another role here, and every session under the old one ends', async () => {
    const old = await signIn(CURLEW)
    const now = await signIn({ ...CURLEW, groups: ['calm-technicians', 'calm-reviewers'] })
    expect(now.person).toMatchObject({ id: old.person?.id, role: 'reviewer' })
    expect((await old.agent.get('/api/session').expect(200)).body).toMatchObject({ person: null })
    const none = await signIn({ ...CURLEW, groups: ['everybody'] })
    expect(none).toMatchObject({ to: '/sign-in?elsewhere=role', person: null })
    expect((await now.agent.get('/api/session').expect(200)).body).toMatchObject({ person: null })
  })
  test.each<[says: string, who: Identity, why: string]>([
    ['no role of ours', { ...CURLEW, sub: 'x-1', groups: ['everybody'] }, 'role'],
    ['no groups at all', { sub: 'x-2', preferred_username: 'stilt' }, 'role'],
    // A name is no proof: wren has a password here.
    ['the name of somebody here', { ...CURLEW, sub: 'x-3', preferred_username: 'wren' }, 'taken'],
    [
      'the same in capitals',
      { ...CURLEW, sub: 'x-4', preferred_username: 'WREN@elsewhere.example' },
      'taken',
    ],
    ['a name that could be none here', { ...CURLEW, sub: 'x-5', preferred_username: '7' }, 'answer'],
  ])('%s: not in', async (_, who, why) => {
    expect(await signIn(who)).toMatchObject({ to: `/sign-in?elsewhere=${why}`, person: null })
  })
  test.each<[says: string, fault: Fault]>([
    ['it says no', { denies: true }],
    ['another nonce', { nonce: 'of somebody else' }],
    ['for another program', { audience: 'another' }],
    ['by another sign-in', { issuer: 'http://127.0.0.1:1' }],
    ['over since an hour', { expired: true }],
    ['signed by a key that nobody knows', { otherKey: true }],
  ])('%s: not in', async (_, fault) => {
    expect(await signIn(CURLEW, fault)).toMatchObject({ to: '/sign-in?elsewhere=answer', person: null })
  })
  test('an answer that another browser asked for, one sent twice, and one without a question: not in', async () => {
    plant.who = CURLEW
    const [asks, other] = [app.anyone(), app.anyone()]
    const answer = await goThere(asks)
    await goThere(other)
    const refused = { location: '/sign-in?elsewhere=answer' }
    expect((await other.get(answer).expect(303)).headers).toMatchObject(refused)
    expect((await app.anyone().get(answer).expect(303)).headers).toMatchObject(refused)
    const late = await goThere(asks)
    expect((await asks.get(late).expect(303)).headers).toMatchObject({ location: '/' })
    expect((await asks.get(late).expect(303)).headers).toMatchObject(refused)
  })
  test('what anybody can send writes nothing into the log of the plant; who is known and kept out stands there', async () => {
    const failures = async () => {
      const { rows } = await app.connection.pool.query<{ n: number }>(
        `select count(*)::int as n from plant_events where type = 'sign-in.failed'`,
      )
      return rows[0]?.n ?? -1
    }
    const before = await failures()
    for (let i = 0; i < 5; i++)
      await app.anyone().get('/api/session/provider/back?code=1&state=2').expect(303)
    expect(await failures()).toBe(before)
    await signIn({ ...CURLEW, sub: 'x-9', groups: [] })
    expect(await failures()).toBe(before + 1)
  })
  test('who is locked here stays out, whatever is told there', async () => {
    const { person } = await signIn(CURLEW)
    const plover = await app.as('plover')
    await plover
      .put(`/api/people/${person?.id ?? ''}/state`)
      .send({ state: 'locked', reason: 'lost tablet' })
      .expect(200)
    expect(await signIn(CURLEW)).toMatchObject({ to: '/sign-in?elsewhere=locked', person: null })
    await plover
      .put(`/api/people/${person?.id ?? ''}/state`)
      .send({ state: 'active', reason: 'found' })
      .expect(200)
    expect((await signIn(CURLEW)).to).toBe('/')
    await plover
      .post(`/api/people/${person?.id ?? ''}/password-reset`)
      .send({ reason: 'forgot it' })
      .expect(409)
  })
  test('it has no password here: none opens it, and none is changed', async () => {
    const { agent, person } = await signIn(CURLEW)
    await app
      .anyone()
      .post('/api/session')
      .send({ name: person?.name, password: 'salt-and-water' })
      .expect(401)
    await agent
      .put('/api/session/password')
      .set('X-Calm-Person', person?.id ?? '')
      .send({ now: 'anything at all', next: 'a sentence to remember', key: null })
      .expect(401)
  })
  test('where it is away that is said, and it is asked again the next time', async () => {
    const gone = await startStandInProvider()
    const provider = providerOf(settingsOf({ CALM_OIDC_ISSUER: gone.issuer }))
    await gone.stop()
    const beside = await testApp({ beside: app, settings: { provider } })
    const { headers } = await beside.anyone().get('/api/session/provider/go').expect(303)
    expect(headers['location']).toBe('/sign-in?elsewhere=away')
    await beside.stop()
  })
  test('into an empty plant an administrator comes first', async () => {
    const empty = await testApp({
      empty: true,
      settings: { provider: providerOf(settingsOf({ CALM_OIDC_ISSUER: plant.issuer })) },
    })
    const goIn = async (who: Identity) => {
      plant.who = who
      const agent = empty.anyone()
      return (await agent.get(await goThere(agent)).expect(303)).headers['location']
    }
    expect(await goIn(CURLEW)).toBe('/sign-in?elsewhere=first')
    expect(await goIn({ ...CURLEW, sub: 'boss', preferred_username: 'boss', groups: ['calm-admins'] })).toBe(
      '/',
    )
    expect(await goIn(CURLEW)).toBe('/')
    await empty.stop()
  })
  test('a plant without one has no such address', async () => {
    const beside = await testApp({ beside: app })
    expect((await beside.anyone().get('/api/session/provider').expect(200)).body).toEqual({ name: null })
    await beside.anyone().get('/api/session/provider/go').expect(404)
    await beside.anyone().get('/api/session/provider/back?code=1&state=2').expect(404)
    await beside.stop()
  })
})

describe('what the environment tells of it', () => {
  const ISSUER = { CALM_OIDC_ISSUER: 'https://sign-in.plant.example' }
  test.each<[says: string, env: Readonly<Record<string, string>>, told: RegExp | null]>([
    ['nothing', {}, null],
    ['no https', { CALM_OIDC_ISSUER: 'http://sign-in.plant.example' }, /by https/],
    ['no address', { CALM_OIDC_ISSUER: 'sign-in' }, /by https/],
    ['no address of ours', { ...ISSUER, CALM_ADDRESS: '' }, /CALM_ADDRESS is not/],
    ['no secret', { ...ISSUER, CALM_OIDC_SECRET: '' }, /are needed/],
    ['no roles', { ...ISSUER, CALM_OIDC_ROLES: ' , ' }, /is empty/],
    ['a role that there is not', { ...ISSUER, CALM_OIDC_ROLES: 'a=viewer, b=boss' }, /holds “b=boss”/],
    ['a role of nobody', { ...ISSUER, CALM_OIDC_ROLES: '=viewer' }, /holds “=viewer”/],
  ])('%s', (_, env, told) => {
    const read = readProvider({ ...ENVIRONMENT, ...env })
    expect(read === null || typeof read === 'string').toBe(true)
    expect(read ?? '').toMatch(told ?? /^$/)
  })
  test('groups may hold an equals sign; the last one tells the role', () => {
    const { roles, claim, back } = settingsOf({ ...ISSUER, CALM_OIDC_ROLES: 'cn=calm=planner' })
    expect([...roles]).toEqual([['cn=calm', 'planner']])
    expect([claim, back.href]).toEqual(['groups', 'http://127.0.0.1:4180/api/session/provider/back'])
  })
})
