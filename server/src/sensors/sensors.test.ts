import type { Sensor, SensorRevision } from '@calm/contract/sensors'
import type { LoopDetail } from '@calm/contract/loops'
import { randomUUID } from 'node:crypto'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { testApp } from '../test/app.ts'

let app: Awaited<ReturnType<typeof testApp>>
let wren: TestAgent
let heron: TestAgent
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
  heron = await app.as('heron')
})
afterAll(() => app.stop())

const describe_ = (values: Record<string, unknown>, more: Record<string, unknown> = {}) => ({
  kind: 'clamp-on-pair',
  values,
  state: 'shelf',
  certificate: 'C-1',
  certifiedOn: '2026-02-01',
  dueOn: null,
  remark: '',
  ...more,
})
const pair = (n: string, more: Record<string, unknown> = {}) =>
  describe_({ serialA: `${n}A`, serialB: `${n}B` }, more)
const save = (id: string, base: number, description: unknown, agent = wren, reason = 'first entry') =>
  agent.put(`/api/sensors/${id}`).send({ base, description, reason })
const list = async () => (await wren.get('/api/sensors').expect(200)).body as Sensor[]
const named = async (name: string) => (await list()).filter((s) => s.name === name)

describe('sensors as things', () => {
  test('the demo plant has a stock, and each knows the loop that it is on', async () => {
    const all = await list()
    expect(all.length).toBeGreaterThanOrEqual(10)
    expect(all.find((s) => s.name === '4471A / 4471B')?.on).toEqual(['FT-101'])
    expect(all.find((s) => s.name === 'TI-0562')?.on).toEqual(['FT-402'])
    expect(all.find((s) => s.name === 'E-3402')?.on).toEqual([])
    expect(all.find((s) => s.name === 'K-07')?.valid).toBe(true)
  })
  test('one added is stored once, however often it is sent, under the name of who did it', async () => {
    const id = randomUUID()
    await save(id, 0, pair('900')).expect(200)
    await save(id, 0, pair('900')).expect(200)
    expect(await named('900A / 900B')).toMatchObject([{ id, revision: 1, by: 'Wren (technician)', on: [] }])
  })
  test('described anew, what was before it stays', async () => {
    const id = randomUUID()
    await save(id, 0, pair('901')).expect(200)
    await save(id, 1, pair('901', { state: 'scrapped' }), heron, 'wedge cracked').expect(200)
    const past = (await wren.get(`/api/sensors/${id}/revisions`).expect(200)).body as SensorRevision[]
    expect(past.map((r) => [r.revision, r.description.state, r.by, r.reason])).toEqual([
      [2, 'scrapped', 'Heron (reviewer)', 'wedge cracked'],
      [1, 'shelf', 'Wren (technician)', 'first entry'],
    ])
  })
  test('of two who change one at once the second is told, and nothing is overwritten', async () => {
    const id = randomUUID()
    await save(id, 0, pair('902')).expect(200)
    const answers = await Promise.all([
      save(id, 1, pair('902', { remark: 'hers' })),
      save(id, 1, pair('902', { remark: 'his' }), heron),
    ])
    expect(answers.map((a) => a.status).sort()).toEqual([200, 409])
    expect((answers.find((a) => a.status === 409)?.body as { title: string }).title).toMatch(
      /described anew by .* meanwhile/,
    )
    expect(await named('902A / 902B')).toMatchObject([{ revision: 2 }])
  })
  test('a second one with the same serials is refused', async () => {
    await save(randomUUID(), 0, pair('903')).expect(200)
    const answer = await save(randomUUID(), 0, pair('903')).expect(409)
    expect((answer.body as { title: string }).title).toBe(
      'Clamp-on pair 903A / 903B is in the stock already.',
    )
  })
  test.each<[string, unknown, string, string]>([
    [
      'two pairs mixed',
      describe_({ serialA: '1A', serialB: '2B' }),
      'description.values.serialB',
      '1A and 2B are not a pair: matched sensors carry the same number and A or B.',
    ],
    [
      'a wedge that cannot be',
      describe_({ serialA: '1A', serialB: '1B', wedge_m_s: 24_700 }),
      'description.values.wedge_m_s',
      'Wedge sound speed is 24700 m/s; possible is 500 to 4000 m/s.',
    ],
  ])('%s: refused at its place', async (_what, description, path, says) => {
    const answer = await save(randomUUID(), 0, description).expect(422)
    expect((answer.body as { errors: unknown }).errors).toEqual([{ path, says }])
  })
  test('a loop that takes it is where it is; two loops with one are both told', async () => {
    const [sensor] = await named('8811A / 8811B')
    const take = async (tag: string) => {
      const { document, revision } = (await wren.get(`/api/loops/${tag}`).expect(200)).body as LoopDetail
      await wren
        .put(`/api/loops/${tag}/document`)
        .send({
          base: revision,
          document: { ...document, setUp: { ...document.setUp, sensor: sensor?.id } },
          reason: 'pair taken',
        })
        .expect(200)
    }
    await take('FT-203')
    await take('FT-101')
    expect((await named('8811A / 8811B'))[0]?.on).toEqual(['FT-101', 'FT-203'])
    expect((await named('4471A / 4471B'))[0]?.on).toEqual([])
  })
  test('a viewer looks and does not change; nobody takes anything away', async () => {
    const tern = await app.as('tern')
    await tern.get('/api/sensors').expect(200)
    await save(randomUUID(), 0, pair('904'), tern).expect(403)
    await wren.get(`/api/sensors/${randomUUID()}/revisions`).expect(404)
    await expect(app.connection.pool.query('update sensor_revisions set revision = 9')).rejects.toThrow(
      /permission denied/,
    )
  })
})
