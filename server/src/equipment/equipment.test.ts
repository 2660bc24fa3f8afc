import { wordsOf } from '../test/words-of.ts'
import { randomUUID } from 'node:crypto'
import type { Equipment, EquipmentPast, InstrumentPictures } from '@calm/contract/equipment'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { provePlant } from '../proof/prove.ts'
import { asBuffer } from '../test/as-buffer.ts'
import { testApp, type TestApp } from '../test/app.ts'
import { asLeft, close, events, PUMP, read, send, sign, starter } from '../test/verification.ts'

let app: TestApp
let wren: TestAgent
beforeAll(async () => {
  app = await testApp({ own: true })
  wren = await app.as('wren')
})
afterAll(() => app.stop())

const list = async () => (await wren.get('/api/equipment').expect(200)).body as Equipment[]
const pump = async () => {
  const found = (await list()).find((e) => e.serial === PUMP)
  if (!found) throw new Error('no pump')
  return found
}
const change = async (over: Readonly<Record<string, string>>, who = wren) => {
  const here = await pump()
  const { id } = here
  const words = wordsOf(here)
  return who.put(`/api/equipment/${id}`).send({ ...words, reason: 'certified anew', ...over })
}

describe('photographs of an instrument', () => {
  const PNG =
    'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=='
  const plate = { shows: 'The plate', pictures: [`data:image/png;base64,${PNG}`] }
  const keep = (id: string, body: object, who = wren) => who.post(`/api/equipment/${id}/pictures`).send(body)
  test('are kept once, in the log, and come back as they were', async () => {
    const { id, name, serial } = await pump()
    const first = (await keep(id, plate).expect(200)).body as InstrumentPictures[]
    expect(first).toMatchObject([{ shows: 'The plate', byName: 'Wren (technician)' }])
    expect((await keep(id, plate).expect(200)).body).toEqual(first)
    expect((await keep(id, { ...plate, shows: 'Again' }).expect(200)).body).toMatchObject([
      { shows: 'Again' },
      { shows: 'The plate' },
    ])
    const sha = first[0]?.pictures[0] ?? ''
    const got = await wren
      .get(`/api/equipment/${id}/pictures/${sha}`)
      .buffer(true)
      .parse(asBuffer)
      .expect(200)
    expect([got.headers['content-type'], (got.body as Buffer).toString('base64')]).toEqual(['image/png', PNG])
    // Of this instrument alone.
    const other = (await list()).find((e) => e.id !== id)?.id ?? ''
    await wren.get(`/api/equipment/${other}/pictures/${sha}`).expect(404)
    const log = (await (await app.as('plover')).get('/api/log.csv').expect(200)).text
    expect(log).toContain(`${name}, serial ${serial}: The plate (1 picture).`)
  })
  test.each<[string, object, string]>([
    ['none', { shows: '', pictures: [] }, 'pictures'],
    ['something else than a picture', { pictures: ['data:image/png;base64,aGVsbG8gdGhlcmU='] }, 'pictures.0'],
    ['too many words', { ...plate, shows: 'x'.repeat(201) }, 'shows'],
  ])('%s is refused at its field', async (_, body, path) => {
    const res = await keep((await pump()).id, body).expect(422)
    expect((res.body as { errors: { path: string }[] }).errors.map((e) => e.path)).toEqual([path])
  })
  test('of who only looks none are taken', async () => {
    await keep((await pump()).id, plate, await app.as('tern')).expect(403)
  })
  test('one that is changed in the database is found and named', async () => {
    await app.tamper(`update picture_parts set data = data || '\\x00'`)
    const { mismatches } = await provePlant(app.connection.db)
    expect(mismatches).toMatchObject([
      { field: 'picture', where: expect.stringContaining(PUMP) as string },
      {},
    ])
    await app.tamper(`update picture_parts set data = substring(data from 1 for octet_length(data) - 1)`)
    expect((await provePlant(app.connection.db)).mismatches).toEqual([])
  })
})

describe('a new certificate', () => {
  test('takes the place of the old one, which goes on speaking for the work that was done under it', async () => {
    const before = await pump()
    const { begin } = await starter(wren)
    const run = randomUUID()
    await send(wren, events(run, begin(), read(0, 0), close, asLeft)).expect(200)
    await send(wren, events(run, sign('technician'))).expect(200)
    const renewed = { certificate: 'NEW-1', certifiedOn: '2026-11-26', dueOn: '2027-11-26' }
    const res = await change(renewed)
    expect(res.status).toBe(200)
    expect(await pump()).toMatchObject(renewed)
    // Read on the 23rd under the old one; the reviewer signs over what stood there then.
    const facts = (await wren.get(`/api/runs/${run}/signing`).expect(200)).body as {
      instruments: Equipment[]
    }
    expect(facts.instruments[0]).toMatchObject({ serial: PUMP, certificate: before.certificate })
    const past = (await wren.get(`/api/equipment/${before.id}/past`).expect(200)).body as EquipmentPast[]
    expect(past.map((p) => p.certificate).slice(0, 2)).toEqual(['NEW-1', before.certificate])
    expect(past[0]).toMatchObject({ reason: 'certified anew', byName: 'Wren (technician)' })
    expect((await provePlant(app.connection.db)).mismatches).toEqual([])
  })
  test('that begins after the work does not cover it', async () => {
    const { begin, equipment } = await starter(wren)
    const id = equipment.get(PUMP) ?? ''
    const { rows } = await app.connection.pool.query<{ n: number }>(
      `select count(*)::int n from plant_events where subject = $1`,
      [id],
    )
    expect(rows[0]?.n).toBeGreaterThan(2)
    const run = randomUUID()
    const late = { ...events(run, begin())[0], at: '2021-06-01T08:00:00.000Z' }
    const res = await send(wren, [late])
    expect(res.status).not.toBe(200)
  })
  test.each([
    ['no reason', { reason: ' ' }, 'reason'],
    ['dates the wrong way round', { certifiedOn: '2027-01-01', dueOn: '2026-01-01' }, 'dueOn'],
    ['a range that nobody can read', { range: 'wide' }, 'range'],
    ['no name', { name: '' }, 'name'],
  ])('%s is refused at its field, and nothing changed', async (_, over, path) => {
    const before = await pump()
    const res = await change(over)
    expect(res.status).toBe(422)
    expect((res.body as { errors: { path: string }[] }).errors.map((e) => e.path)).toContain(path)
    expect(await pump()).toEqual(before)
  })
  test('that changes nothing is no entry', async () => {
    const { id } = await pump()
    const count = async () =>
      (await app.connection.pool.query('select 1 from plant_events where subject = $1', [id])).rowCount
    const before = await count()
    await change({})
    expect(await count()).toBe(before)
  })
  test('is nothing for who only looks', async () => {
    expect((await change({ certificate: 'X' }, await app.as('tern'))).status).toBe(403)
  })
})

describe('an instrument out of use', () => {
  test('is no choice for new work; brought back it is', async () => {
    const { id } = await pump()
    const { begin } = await starter(wren)
    await wren.put(`/api/equipment/${id}/retired`).send({ retired: true, reason: 'dropped' }).expect(200)
    const refused = await send(wren, events(randomUUID(), begin()))
    expect(refused.status).toBe(422)
    expect(JSON.stringify(refused.body)).toContain('is retired')
    await wren.put(`/api/equipment/${id}/retired`).send({ retired: false, reason: 'mended' }).expect(200)
    await send(wren, events(randomUUID(), begin())).expect(200)
    expect((await provePlant(app.connection.db)).mismatches).toEqual([])
  })
})
