import { randomUUID } from 'node:crypto'
import type { OwnKey, PasswordLink, RegisteredPerson } from '@calm/contract/people'
import type { LogEntry } from '@calm/contract/plant-log'
import { describe, expect, onTestFinished, test } from 'vitest'
import type TestAgent from 'supertest/lib/agent.js'
import { makeKey } from '../people/make-key.ts'
import { openKey } from '../test/open-key.ts'
import { provePlant } from '../proof/prove.ts'
import { testApp, testClock, type TestApp } from '../test/app.ts'
import { events, send, sign, starter, read, close, asLeft } from '../test/verification.ts'

const PASSWORD = 'the kettle is in the panel'
const OTHER = 'the panel is in the kettle'

/** A plant of one's own from nothing, with its first administrator signed in. */
async function ownPlant(clock: () => Date = testClock): Promise<{ app: TestApp; admin: TestAgent }> {
  const app = await testApp({ empty: true, settings: { demo: [] }, clock })
  onTestFinished(() => app.stop())
  const admin = app.anyone()
  await admin
    .post('/api/people/first')
    .send({ name: 'quay', shownName: 'Quay Mason', password: PASSWORD })
    .expect(200)
  return { app, admin }
}
const invitation = (over: object = {}) => ({
  id: randomUUID(),
  name: 'ibis',
  shownName: 'Ibis Fen',
  role: 'technician',
  areas: [],
  until: null,
  reason: 'joins the crew',
  ...over,
})
async function joined(app: TestApp, admin: TestAgent, over: object = {}) {
  const told = invitation(over)
  const link = (await admin.post('/api/people').send(told).expect(201)).body as PasswordLink
  const agent = app.anyone()
  await agent.post(`/api/invitations/${link.token}`).send({ password: PASSWORD }).expect(200)
  return { ...told, agent, link }
}
const registered = async (admin: TestAgent) =>
  (await admin.get('/api/people/register').expect(200)).body as RegisteredPerson[]
const titles = async (admin: TestAgent) =>
  ((await admin.get('/api/log?most=50').expect(200)).body as { entries: LogEntry[] }).entries.map(
    (e) => e.title,
  )

describe('the first administrator', () => {
  test('is asked for while nobody works here, and never again', async () => {
    const app = await testApp({ empty: true, settings: { demo: [] } })
    onTestFinished(() => app.stop())
    expect((await app.anyone().get('/api/session')).body).toEqual({ person: null, first: true })
    const first = { name: 'quay', shownName: 'Quay Mason', password: PASSWORD }
    const two = await Promise.all([1, 2].map(() => app.anyone().post('/api/people/first').send(first)))
    expect(two.map((r) => r.status).sort()).toEqual([200, 409])
    expect((await app.anyone().get('/api/session')).body).toEqual({ person: null, first: false })
  })
  test.each([
    ['too short', 'short', 'At least 12 characters'],
    ['common, in capitals', '123QWEASDZXC', 'most common passwords'],
    ['too long', 'x'.repeat(129), 'At most 128'],
  ])('a password that is %s is refused at its field', async (_, password, says) => {
    const app = await testApp({ empty: true, settings: { demo: [] } })
    onTestFinished(() => app.stop())
    const res = await app
      .anyone()
      .post('/api/people/first')
      .send({ name: 'quay', shownName: 'Quay', password })
    expect(res.status).toBe(422)
    expect(res.body.errors).toEqual([{ path: 'password', says: expect.stringContaining(says) }])
  })
  test('administers and signs nothing', async () => {
    const { admin } = await ownPlant()
    await admin.post('/api/loops').send({}).expect(403)
    await admin.get('/api/loops').expect(200)
  })
})

describe('an invitation', () => {
  test('tells whom it is for, sets the password once, and is in the log without its link', async () => {
    const { app, admin } = await ownPlant()
    const link = (await admin.post('/api/people').send(invitation()).expect(201)).body as PasswordLink
    expect((await app.anyone().get(`/api/invitations/${link.token}`).expect(200)).body).toEqual({
      shownName: 'Ibis Fen',
      name: 'ibis',
      joins: true,
    })
    const ibis = app.anyone()
    const res = await ibis.post(`/api/invitations/${link.token}`).send({ password: PASSWORD }).expect(200)
    expect(res.body.person).toMatchObject({ name: 'ibis', role: 'technician' })
    await app.anyone().post(`/api/invitations/${link.token}`).send({ password: OTHER }).expect(404)
    await ibis.get('/api/loops').expect(200)
    const log = await admin.get('/api/log?most=50')
    expect(JSON.stringify(log.body)).not.toContain(link.token)
    expect(await titles(admin)).toEqual(
      expect.arrayContaining(['Person invited', 'Invitation taken up', 'Person added']),
    )
  })
  test('is good for a day; another one ends it', async () => {
    let now = testClock()
    const { app, admin } = await ownPlant(() => now)
    const told = invitation()
    const first = (await admin.post('/api/people').send(told).expect(201)).body as PasswordLink
    const second = (await admin.post('/api/people').send(told).expect(201)).body as PasswordLink
    await app.anyone().get(`/api/invitations/${first.token}`).expect(404)
    now = new Date(now.getTime() + 86_400_000 - 1000)
    await app.anyone().get(`/api/invitations/${second.token}`).expect(200)
    now = new Date(now.getTime() + 2000)
    await app.anyone().get(`/api/invitations/${second.token}`).expect(404)
  })
  test('of two who take it up at once one does', async () => {
    const { app, admin } = await ownPlant()
    const link = (await admin.post('/api/people').send(invitation()).expect(201)).body as PasswordLink
    const both = await Promise.all(
      [PASSWORD, OTHER].map((password) =>
        app.anyone().post(`/api/invitations/${link.token}`).send({ password }),
      ),
    )
    expect(both.map((r) => r.status).sort()).toEqual([200, 404])
  })
  test.each([
    ['a name that is in use, in capitals', { name: 'QUAY' }, 409, 'name'],
    ['a name with a space', { name: 'i bis' }, 422, 'name'],
    ['a role that nobody has', { role: 'king' }, 422, 'role'],
    ['no reason', { reason: ' ' }, 422, 'reason'],
    ['a last day that is none', { until: 'soon' }, 422, 'until'],
  ])('with %s is refused at its field', async (_, over, status, path) => {
    const { admin } = await ownPlant()
    const res = await admin.post('/api/people').send(invitation(over))
    expect(res.status).toBe(status)
    expect(res.body.errors.map((e: { path: string }) => e.path)).toEqual([path])
  })
  test('comes from an administrator only', async () => {
    const { app, admin } = await ownPlant()
    const { agent } = await joined(app, admin)
    await agent
      .post('/api/people')
      .send(invitation({ name: 'rook' }))
      .expect(403)
    await agent.get('/api/people/register').expect(403)
    await agent.get('/api/log').expect(403)
  })
})

describe('what an administrator does to an account', () => {
  test('locked: out at once, told why at the door, and in again', async () => {
    const { app, admin } = await ownPlant()
    const { id, agent } = await joined(app, admin)
    await admin
      .put(`/api/people/${id}/state`)
      .send({ state: 'locked', reason: 'lost the tablet' })
      .expect(200)
    await agent.get('/api/loops').expect(401)
    const door = await app
      .anyone()
      .post('/api/session')
      .send({ name: 'ibis', password: PASSWORD })
      .expect(401)
    expect(door.body.title).toMatch(/locked/)
    const wrong = await app.anyone().post('/api/session').send({ name: 'ibis', password: OTHER }).expect(401)
    expect(wrong.body.title).toBe('Wrong name or password.')
    await admin.put(`/api/people/${id}/state`).send({ state: 'active', reason: 'found it' }).expect(200)
    await app.anyone().post('/api/session').send({ name: 'ibis', password: PASSWORD }).expect(200)
  })
  test('left: the name stays, nothing of it changes any more', async () => {
    const { app, admin } = await ownPlant()
    const { id } = await joined(app, admin)
    await admin.put(`/api/people/${id}/state`).send({ state: 'left', reason: 'another works' }).expect(200)
    expect((await registered(admin)).find((p) => p.id === id)).toMatchObject({
      state: 'left',
      shownName: 'Ibis Fen',
    })
    await admin.put(`/api/people/${id}/state`).send({ state: 'active', reason: 'back' }).expect(409)
    await admin.post(`/api/people/${id}/password-reset`).send({ reason: 'back' }).expect(409)
  })
  test('the last administrator stays one, also where two leave at once', async () => {
    const { app, admin } = await ownPlant()
    const [me] = await registered(admin)
    const change = { shownName: 'Quay Mason', role: 'viewer', areas: [], until: null, reason: 'tired' }
    await admin.put(`/api/people/${me?.id}`).send(change).expect(409)
    await admin.put(`/api/people/${me?.id}/state`).send({ state: 'locked', reason: 'tired' }).expect(409)
    const other = await joined(app, admin, { role: 'administrator', name: 'rook' })
    const both = await Promise.all([
      admin.put(`/api/people/${other.id}`).send({ ...change, shownName: 'Rook' }),
      other.agent.put(`/api/people/${me?.id}`).send(change),
    ])
    expect(both.filter((r) => r.status === 200)).toHaveLength(1)
    expect(
      (await app.connection.pool.query("select 1 from people where role = 'administrator'")).rowCount,
    ).toBe(1)
  })
  test('a last day: in on that day, out on the next', async () => {
    let now = testClock()
    const { app, admin } = await ownPlant(() => now)
    const { agent } = await joined(app, admin, { until: '2026-11-27' })
    await agent.get('/api/loops').expect(200)
    now = new Date('2026-11-28T00:00:01.000Z')
    await agent.get('/api/loops').expect(401)
    const door = await app
      .anyone()
      .post('/api/session')
      .send({ name: 'ibis', password: PASSWORD })
      .expect(401)
    expect(door.body.title).toMatch(/ended on 2026-11-27/)
  })
  test('a reset: the old password opens nothing, the old key ends, the new ones work', async () => {
    const { app, admin } = await ownPlant()
    const { id, agent } = await joined(app, admin)
    const old = makeKey(PASSWORD, id).wrapped
    await agent.put('/api/session/key').send(old).expect(200)
    const link = (
      await admin.post(`/api/people/${id}/password-reset`).send({ reason: 'forgot it' }).expect(200)
    ).body as PasswordLink
    await agent.get('/api/loops').expect(401)
    await app.anyone().post('/api/session').send({ name: 'ibis', password: PASSWORD }).expect(401)
    const again = app.anyone()
    expect((await again.get(`/api/invitations/${link.token}`)).body.joins).toBe(false)
    await again.post(`/api/invitations/${link.token}`).send({ password: OTHER }).expect(200)
    expect((await again.get('/api/session/key')).body.key).toBeNull()
    await again.put('/api/session/key').send(old).expect(422)
    await again.put('/api/session/key').send(makeKey(OTHER, id).wrapped).expect(200)
    const { rows } = await app.connection.pool.query(
      'select ended from person_keys where person_id = $1 order by "from"',
      [id],
    )
    expect(rows).toEqual([{ ended: 'the password was reset' }, { ended: null }])
  })
  test('another role ends the sessions that had the old one', async () => {
    const { app, admin } = await ownPlant()
    const { id, agent } = await joined(app, admin)
    const change = {
      shownName: 'Ibis Fen',
      role: 'reviewer',
      areas: [],
      until: null,
      reason: 'passed the test',
    }
    await admin.put(`/api/people/${id}`).send(change).expect(200)
    await agent.get('/api/loops').expect(401)
  })
  test('areas: works there, looks on elsewhere', async () => {
    const app = await testApp({ own: true })
    onTestFinished(() => app.stop())
    const wren = await app.as('wren')
    const loop = (await wren.get('/api/loops/PT-202')).body as {
      area: string
      document: object
      revision: number
    }
    await app.tamper(`update people set areas = '["Elsewhere"]' where name = 'wren'`)
    const body = { base: loop.revision, document: { ...loop.document, service: 'other' }, reason: 'x' }
    const res = await wren.put('/api/loops/PT-202/document').send(body).expect(403)
    expect(res.body.title).toContain(`You work in Elsewhere and look on in ${loop.area}`)
    await wren.get('/api/loops/PT-202').expect(200)
    await app.tamper(`update people set areas = '["${loop.area}"]' where name = 'wren'`)
    await wren.put('/api/loops/PT-202/document').send(body).expect(200)
  })
})

describe('one’s own account', () => {
  test('a new password: the key goes with it, other sessions end', async () => {
    const { app, admin } = await ownPlant()
    const { id, agent } = await joined(app, admin)
    await agent.put('/api/session/key').send(makeKey(PASSWORD, id).wrapped).expect(200)
    const { key } = (await agent.get('/api/session/key')).body as { key: OwnKey }
    const elsewhere = app.anyone()
    await elsewhere.post('/api/session').send({ name: 'ibis', password: PASSWORD }).expect(200)
    // Without the key it would be lost with the old password.
    await agent.put('/api/session/password').send({ now: PASSWORD, next: OTHER, key: null }).expect(409)
    const another = makeKey(OTHER, id).wrapped
    await agent.put('/api/session/password').send({ now: PASSWORD, next: OTHER, key: another }).expect(422)
    await agent.put('/api/session/password').send({ now: OTHER, next: OTHER, key: null }).expect(401)
    const same = { ...another, publicKey: key.publicKey }
    await agent.put('/api/session/password').send({ now: PASSWORD, next: OTHER, key: same }).expect(200)
    await elsewhere.get('/api/loops').expect(401)
    await agent.get('/api/loops').expect(200)
    await app.anyone().post('/api/session').send({ name: 'ibis', password: PASSWORD }).expect(401)
  })
  test('sessions are listed and ended one by one; nobody else’s are', async () => {
    const { app, admin } = await ownPlant()
    const { agent } = await joined(app, admin)
    const elsewhere = app.anyone()
    await elsewhere
      .post('/api/session')
      .set('User-Agent', 'a tablet')
      .send({ name: 'ibis', password: PASSWORD })
    const open = (await agent.get('/api/session/open').expect(200)).body as {
      id: string
      agent: string
      here: boolean
    }[]
    expect(open.map((s) => [s.agent, s.here]).sort()).toEqual(
      [
        ['', true],
        ['a tablet', false],
      ].sort(),
    )
    const other = open.find((s) => !s.here)?.id ?? ''
    await admin.delete(`/api/session/open/${other}`).expect(404)
    await agent.delete(`/api/session/open/${other}`).expect(200)
    await elsewhere.get('/api/loops').expect(401)
  })
  test('a wrong password at the key: held back after five, in the log by name', async () => {
    const { app, admin } = await ownPlant()
    const { id, agent } = await joined(app, admin)
    await agent.put('/api/session/key').send(makeKey(PASSWORD, id).wrapped).expect(200)
    for (let i = 0; i < 5; i++) {
      await agent.get('/api/session/key').expect(200)
      await agent.post('/api/session/key/failures').send({ tag: 'PT-1' }).expect(204)
    }
    expect((await agent.get('/api/session/key').expect(429)).body.title).toMatch(/Wait \d+ minutes/)
    expect((await titles(admin)).filter((t) => t === 'Signature failed')).toHaveLength(5)
  })
})

describe('people of the demo plant', () => {
  test('who came in while it was a demo is nobody once it is none, and somebody again with it', async () => {
    const demo = await testApp()
    const own = await testApp({ beside: demo, settings: { demo: [] } })
    const came = await demo
      .anyone()
      .post('/api/session')
      .send({ name: 'wren', password: 'salt-and-water' })
      .expect(200)
    const cookie = String(came.headers['set-cookie']).split(';')[0] ?? ''
    await demo.anyone().get('/api/loops').set('Cookie', cookie).expect(200)
    await own.anyone().get('/api/loops').set('Cookie', cookie).expect(401)
    await demo.anyone().get('/api/loops').set('Cookie', cookie).expect(200)
    await own.stop()
    await demo.stop()
  })
  test('do not come in anywhere else, even with their password', async () => {
    const app = await testApp({ settings: { demo: [] } })
    onTestFinished(() => app.stop())
    const res = await app
      .anyone()
      .post('/api/session')
      .send({ name: 'wren', password: 'salt-and-water' })
      .expect(401)
    expect(res.body.title).toMatch(/demo plant/)
  })
})

describe('a signature', () => {
  const at = async () => {
    const app = await testApp({ own: true })
    onTestFinished(() => app.stop())
    const wren = await app.as('wren')
    const { begin } = await starter(wren)
    const run = randomUUID()
    await send(wren, events(run, begin(), read(0, 0), close, asLeft)).expect(200)
    return { app, wren, run }
  }
  const signed = async (app: TestApp, agent: TestAgent, list: unknown[]) => {
    const { signedAsPageDoes } = await import('../test/signing.ts')
    return (await signedAsPageDoes(agent, list, 'PT-202')) as {
      body: { payload: { signature: Record<string, string> } }
    }[]
  }
  const post = (agent: TestAgent, list: unknown[]) =>
    agent.post('/api/loops/PT-202/events').send({ events: list })
  test.each([
    [
      'none',
      (s: Record<string, string>) => {
        for (const k of Object.keys(s)) Reflect.deleteProperty(s, k)
      },
      422,
    ],
    ['over something else', (s: Record<string, string>) => void (s['of'] = '0'.repeat(64)), 422],
    ['by nobody’s key', (s: Record<string, string>) => void (s['key'] = '0'.repeat(64)), 422],
    [
      'of another value',
      (s: Record<string, string>) =>
        void (s['value'] = s['value']?.replace(/./, (c) => (c === '0' ? '1' : '0')) ?? ''),
      422,
    ],
    ['with another meaning', (s: Record<string, string>) => void (s['meaning'] = 'reviewed'), 422],
  ])('%s is refused at its place', async (_, change, status) => {
    const { app, wren, run } = await at()
    const list = await signed(app, wren, events(run, sign('technician')))
    change(list[0]?.body.payload.signature ?? {})
    const res = await post(wren, list)
    expect(res.status).toBe(status)
    expect(res.body.errors[0].path).toMatch(/^events\.0\.body\.payload\.signature/)
  })
  test('moved to another time is another one', async () => {
    const { app, wren, run } = await at()
    const [event] = await signed(app, wren, events(run, sign('technician')))
    const later = new Date(Date.parse((event as unknown as { at: string }).at) + 1000).toISOString()
    const res = await post(wren, [{ ...event, at: later }])
    expect(res.body.errors[0]).toMatchObject({ path: 'events.0.body.payload.signature.value' })
  })
  test('by a revoked key is refused; a colleague’s stays good, and the proof is whole', async () => {
    const { app, wren, run } = await at()
    const list = await signed(app, wren, events(run, sign('technician')))
    const plover = await app.as('plover')
    const id = (await registered(plover)).find((p) => p.name === 'wren')?.id ?? ''
    await plover.post(`/api/people/${id}/key-end`).send({ reason: 'seen over the shoulder' }).expect(200)
    const res = await post(wren, list)
    expect(res.body.errors[0].says).toContain('There is no signing key')
    const { mismatches, signatures } = await provePlant(app.connection.db)
    expect(mismatches).toEqual([])
    expect(signatures).toBeGreaterThan(10)
  })
})

describe('a key as a browser makes it', () => {
  test('opens by the password and the person, and by nothing else', () => {
    const { wrapped } = makeKey(PASSWORD, 'a')
    expect(openKey(wrapped, PASSWORD, 'a').asymmetricKeyType).toBe('ed25519')
    expect(() => openKey(wrapped, OTHER, 'a')).toThrow()
    expect(() => openKey(wrapped, PASSWORD, 'b')).toThrow()
  })
  test('the worked example opens', () => {
    const key = openKey(
      {
        publicKey: 'c561fa9f643fe5c60113cce9db282fde2b9e5ca5fc6b6fc0d1679bb339c9f72f',
        salt: '000102030405060708090a0b0c0d0e0f',
        iv: '101112131415161718191a1b',
        wrapped:
          'a7b5d2f2001313d72510b1d55836d7e9b1afe3e036dce8bba8199ede5522a80730705ae4453772c478c2fa45b8e169f976297d2239e7bb6a0e7cd3c4f473cd7e',
        rounds: 600_000,
      },
      'salt-and-water',
      '018f3c1e-7b1a-7c3e-9a52-0f6f3f0a0001',
    )
    expect(key.export({ format: 'der', type: 'pkcs8' }).toString('hex')).toMatch(/2a$/)
  })
})
