import { randomBytes, randomUUID } from 'node:crypto'
import type { StoredEvent } from '@calm/contract/events'
import type { Log } from '@calm/contract/logs'
import type { KeepSite, Survey, SurveyRow } from '@calm/contract/surveys'
import { siteSurveyed } from '@calm/core/record/kinds/site-surveyed'
import { sniff } from '@calm/core/logs/sniff/sniff'
import type { LogOfSite } from '@calm/core/survey/site-shape'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { provePlant } from '../proof/prove.ts'
import { sha256Bytes } from '../record/digest.ts'
import { testApp, testClock, type TestApp } from '../test/app.ts'
import { asBuffer } from '../test/as-buffer.ts'

let app: TestApp
let wren: TestAgent
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
})
afterAll(() => app.stop())

const VALUES = {
  site: 'RAW1',
  by: 'od',
  od_mm: 323.8,
  wall_mm: 9.53,
  material: 'carbon_steel',
  liner: 'none',
  fluid: 'water',
  t_C: 15,
  flow_m3h: 500,
  disturbance: 'bend',
  upstream_D: 15,
  downstream_D: 6,
  serialA: 'K21-A',
  serialB: 'K21-B',
  speedRead_m_s: 1466,
} as const
const TRIES = [
  [40, 61],
  [45, 78],
  [55, 80],
  [60, 66],
  [50, 84],
].map(([at = 0, signal_pct = 0]) => ({ at, signal_pct }))
const HEAD = { id: randomUUID(), title: 'Intake, all lines', on: '2026-11-24' }
const site = (more: Partial<KeepSite> = {}) => ({
  id: randomUUID(),
  at: testClock().toISOString(),
  survey: HEAD,
  site: randomUUID(),
  after: 0,
  found: { values: VALUES, tries: TRIES, note: '' },
  log: null as string | null,
  pictures: [] as string[],
  ...more,
})
const keep = (body: object, tag = 'FT-206', who = wren) =>
  who.post(`/api/loops/${tag}/survey-sites`).send(body)
const survey = async (id = HEAD.id) => (await wren.get(`/api/surveys/${id}`).expect(200)).body as Survey
const says = (res: { body: unknown }) => JSON.stringify(res.body)
const photograph = () => Buffer.concat([Buffer.from([0xff, 0xd8, 0xff, 0xe0]), randomBytes(90_000)])
const address = (data: Buffer) => `data:image/jpeg;base64,${data.toString('base64')}`

/** Ten minutes of a steady flow; so much of it with a weak signal. */
async function logWith(weak: number, tag = 'FT-206'): Promise<Log> {
  // A fixed sequence that nobody takes for a period.
  let seed = 7
  const noise = () => (seed = (seed * 16807) % 2147483647) / 2147483647 - 0.5
  const text = `Time;Flow [m³/h];Signal [%]\n${Array.from({ length: 600 }, (_, i) => {
    const at = new Date(Date.parse('2026-11-24T09:00:00Z') + i * 1000).toISOString().slice(0, 19)
    return `${at.replace('T', ' ')};${(42 + noise() * 0.4).toFixed(3)};${i < weak ? 30 : 88}`
  }).join('\n')}\n`
  const mapping = sniff(text.split('\n').slice(0, 200))?.mapping
  const id = randomUUID()
  const root = `/api/loops/${tag}/logs`
  await wren
    .post(root)
    .send({
      id,
      title: `RAW1, ${weak} weak`,
      of: 'reference',
      instrument: null,
      site: 'RAW1',
      files: ['a.csv'],
      mapping,
    })
    .expect(201)
  await wren.post(`${root}/${id}/pieces`).send({ piece: 0, file: 0, beginsFile: true, text }).expect(200)
  const kept = await wren.post(`${root}/${id}/keep`).send({ at: testClock().toISOString() }).expect(200)
  return kept.body as Log
}

describe('a site of a survey', () => {
  test('stands in the record of its loop, judged by what is there', async () => {
    const log = await logWith(0)
    const body = site({ log: log.id })
    expect((await keep(body).expect(201)).body).toEqual({ stored: true })
    const events = (await wren.get('/api/loops/FT-206/events').expect(200)).body as StoredEvent[]
    const told = events.filter((e) => e.type === siteSurveyed.type && e.id === body.id)
    expect(told).toHaveLength(1)
    const here = (await survey()).sites[0]
    expect(here).toMatchObject({
      tag: 'FT-206',
      keeping: 1,
      log: { heard_pct: 100, rows: 600, unit: 'm³/h' },
    })
    expect(here?.log?.mean).toBeCloseTo(42, 1)
    expect(siteSurveyed.says(siteSurveyed.payload.parse(told[0]?.payload))).toContain(
      'RAW1 in “Intake, all lines”',
    )
  })
  test('the signal is judged by the share of samples that have one', async () => {
    const of = async (weak: number) =>
      (await wren.get(`/api/loops/FT-206/logs/${(await logWith(weak)).id}/of-site`).expect(200))
        .body as LogOfSite
    expect((await of(60)).heard_pct).toBeCloseTo(90, 6)
    expect((await of(180)).heard_pct).toBeCloseTo(70, 6)
  })
  test('sent again it is stored once; kept again it is the newer one that counts', async () => {
    const first = site()
    await keep(first).expect(201)
    expect((await keep(first).expect(201)).body).toEqual({ stored: false })
    const second = site({
      site: first.site,
      after: 1,
      found: { values: { ...VALUES, site: 'RAW2' }, tries: TRIES, note: 'rail turned' },
    })
    await keep(second).expect(201)
    const mine = (await survey()).sites.filter((s) => s.site === first.site)
    expect(mine).toMatchObject([{ keeping: 2, found: { note: 'rail turned' } }])
  })
  test('two who keep one site: the second is told, and nothing is lost', async () => {
    const first = site()
    await keep(first).expect(201)
    const theirs = await keep(site({ site: first.site, after: 0 }), 'FT-206', await app.as('dunlin')).expect(
      409,
    )
    expect(says(theirs)).toContain('kept by somebody since')
    const both = await Promise.all(
      [1, 1].map((after) => keep(site({ site: first.site, after })).then((r) => r.status)),
    )
    expect(both.sort()).toEqual([201, 409])
  })
  test('one event is one person’s', async () => {
    const body = site()
    await keep(body).expect(201)
    await keep(body, 'FT-206', await app.as('dunlin')).expect(409)
    await keep({ ...body, found: { ...body.found, note: 'another' } }).expect(409)
  })
  test.each<[string, object, string]>([
    ['no name', { found: { values: { ...VALUES, site: '' }, tries: [], note: '' } }, 'found.values.site'],
    [
      'a wall in the wrong unit',
      { found: { values: { ...VALUES, wall_mm: 9530 }, tries: [], note: '' } },
      'found.values.wall_mm',
    ],
    [
      'an entry of nothing',
      { found: { values: { ...VALUES, x: 1 }, tries: [], note: '' } },
      'found.values.x',
    ],
    [
      'a signal above 100 %',
      { found: { values: VALUES, tries: [{ at: 1, signal_pct: 101 }], note: '' } },
      'found.tries.0.signal_pct',
    ],
    ['a survey without a name', { survey: { ...HEAD, title: ' ' } }, 'survey.title'],
    ['a day that is none', { survey: { ...HEAD, on: '2026-02-30' } }, 'survey.on'],
    ['a day before anybody measured', { survey: { ...HEAD, on: '0000-01-01' } }, 'survey.on'],
    ['a picture that is none', { pictures: [address(Buffer.from('MZ'))] }, 'pictures.0'],
    ['a picture of another', { stay: ['0'.repeat(64)] }, 'stay.0'],
  ])('%s is told at its place', async (_what, change, path) => {
    const res = await keep(site(change)).expect(422)
    expect((res.body as { errors: { path: string }[] }).errors.map((e) => e.path)).toContain(path)
  })
  test('one log is of one place', async () => {
    const log = await logWith(0)
    const first = site({ log: log.id })
    await keep(first).expect(201)
    expect(says(await keep(site({ log: log.id })).expect(422))).toContain('of the site RAW1 already')
    await keep(site({ site: first.site, after: 1, log: log.id })).expect(201)
  })
  test('a log of another day than the survey’s proves nothing', async () => {
    const log = await logWith(0)
    const head = { id: randomUUID(), title: 'Another day', on: '2026-11-10' }
    await keep(site({ survey: head, log: log.id })).expect(201)
    const [s] = (await survey(head.id)).sites
    expect(s?.points.find((p) => p.of === 'log')?.state).toBe('notYet')
  })
  test('a log of another loop is none of this one', async () => {
    const log = await logWith(0, 'FT-101')
    await keep(site({ log: log.id })).expect(404)
  })
  test('a viewer keeps none, and sees them', async () => {
    const tern = await app.as('tern')
    await keep(site(), 'FT-206', tern).expect(403)
    await tern.get(`/api/surveys/${HEAD.id}`).expect(200)
    expect((await tern.get(`/api/surveys/${randomUUID()}`).expect(200)).body).toBeNull()
    await tern.get(`/api/surveys/${randomUUID()}/report.pdf`).expect(404)
    await tern.get('/api/surveys/none').expect(422)
  })
})

describe('a survey', () => {
  test('is the sites of several loops, each judged by itself', async () => {
    const head = { id: randomUUID(), title: 'Boosters', on: '2026-11-25' }
    await keep(site({ survey: head }), 'FT-101').expect(201)
    await keep(
      site({
        survey: head,
        found: { values: { ...VALUES, site: 'B2', upstream_D: 2 }, tries: [], note: '' },
      }),
    ).expect(201)
    const { sites } = await survey(head.id)
    expect(sites.map((s) => [s.tag, s.state])).toEqual([
      ['FT-101', 'look'],
      ['FT-206', 'look'],
    ])
    const all = (await wren.get('/api/surveys').expect(200)).body as SurveyRow[]
    expect(all[0]).toMatchObject({ title: 'Boosters', sites: [{ name: 'RAW1' }, { name: 'B2' }] })
  })
  test('FT-101 is a clamp-on meter: another pipe than its set-up has is told', async () => {
    const head = { id: randomUUID(), title: 'Against its own', on: '2026-11-25' }
    await keep(site({ survey: head }), 'FT-101').expect(201)
    const [s] = (await survey(head.id)).sites
    expect(s?.points.find((p) => p.of === 'setUp')).toMatchObject({ state: 'look' })
  })
  test('its photographs are evidence, and its report has them', async () => {
    const head = { id: randomUUID(), title: 'With pictures', on: '2026-11-25' }
    // A picture that every reader knows: one white pixel.
    const pixel =
      'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mP8z8BQDwAEhQGAhKmMIQAAAABJRU5ErkJggg=='
    const first = site({ survey: head, pictures: [`data:image/png;base64,${pixel}`] })
    await keep(first).expect(201)
    const sha = sha256Bytes(Buffer.from(pixel, 'base64'))
    await wren.get(`/api/loops/FT-206/pictures/${sha}`).expect(200)
    await keep(site({ survey: head, site: first.site, after: 1, stay: [sha] })).expect(201)
    expect((await survey(head.id)).sites[0]?.pictures.map((p) => p.sha256)).toEqual([sha])
    const { body } = await wren
      .get(`/api/surveys/${head.id}/report.pdf`)
      .buffer(true)
      .parse(asBuffer)
      .expect(200)
    expect((body as Buffer).subarray(0, 5).toString()).toBe('%PDF-')
    await app.tamper(`delete from picture_parts where sha256 = '${sha}'`)
    const found = (await provePlant(app.connection.db)).mismatches.map((m) => m.says)
    expect(found).toContainEqual(expect.stringMatching(/^The picture .* is gone/))
  })
  test('a large photograph is kept too', async () => {
    await keep(site({ pictures: [address(photograph())] })).expect(201)
  })
})
