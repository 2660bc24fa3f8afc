import { randomUUID } from 'node:crypto'
import { Readable } from 'node:stream'
import type { Log, LogComparison, LogJudgement, LogView, NewLog } from '@calm/contract/logs'
import type { StoredEvent } from '@calm/contract/events'
import { pixelsOf } from '@calm/core/logs/pixels'
import { sniff } from '@calm/core/logs/sniff/sniff'
import { strFromU8, unzipSync } from 'fflate'
import pg from 'pg'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest'
import { dumpPlant } from '../plant/dump.ts'
import { restorePlant } from '../plant/restore.ts'
import { provePlant } from '../proof/prove.ts'
import { testApp, testClock, type TestApp } from '../test/app.ts'
import { asBuffer } from '../test/as-buffer.ts'
import { freshDatabase } from '../test/database.ts'

let app: TestApp
let wren: TestAgent
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
})
afterAll(() => app.stop())

const START = Date.parse('2026-11-02T08:00:00Z')
const flow = (i: number) =>
  Math.round(100 * (42 + 3 * Math.sin(i / 47) + 2 * Math.sin(i / 19 + 1) + 1.5 * Math.sin(i / 111))) / 100
const row = (i: number, f = flow) =>
  `${new Date(START + i * 1000).toISOString().slice(0, 19).replace('T', ' ')};${f(i).toFixed(2).replace('.', ',')};85`
const HEAD = 'Time;Flow [m³/h];Signal [%]\n'
const lines = (from: number, to: number, f = flow) =>
  Array.from({ length: to - from }, (_, k) => row(from + k, f)).join('\n')
const mappingOf = (text: string) => {
  const told = sniff(text.split('\n').slice(0, 200))
  if (!told) throw new Error('nothing sniffed')
  return told.mapping
}
const newLog = (text: string, more: Partial<NewLog> = {}): NewLog => ({
  id: randomUUID(),
  title: 'Portable, intake',
  of: 'reference',
  source: 'file',
  instrument: null,
  site: '',
  files: ['intake.csv'],
  mapping: mappingOf(text) as NewLog['mapping'],
  ...more,
})
const at = '/api/loops/FT-101/logs'
const begin = (log: NewLog, who = wren) => who.post(at).send(log)
const piece = (id: string, n: number, text: string, more: object = {}) =>
  wren.post(`${at}/${id}/pieces`).send({ piece: n, file: 0, beginsFile: n === 0, text, ...more })
const keep = (id: string) => wren.post(`${at}/${id}/keep`).send({ at: testClock().toISOString() })
const says = (res: { body: unknown }) => JSON.stringify(res.body)

/** A log of 10 000 rows in three pieces, whole. */
async function whole(more: Partial<NewLog> = {}, f = flow): Promise<Log> {
  const text = HEAD + lines(0, 300, f)
  const log = newLog(text, more)
  await begin(log).expect(201)
  await piece(log.id, 0, `${HEAD}${lines(0, 4000, f)}\n`).expect(200)
  await piece(log.id, 1, `${lines(4000, 8000, f)}\n`).expect(200)
  await piece(log.id, 2, lines(8000, 10_000, f)).expect(200)
  return (await keep(log.id).expect(200)).body as Log
}

describe('a log is read in by pieces', () => {
  test('on a full disk it is said, nothing of the piece is stored, and with room again the same piece goes on', async () => {
    const log = newLog(HEAD + lines(0, 300))
    await begin(log).expect(201)
    await piece(log.id, 0, `${HEAD}${lines(0, 1000)}\n`).expect(200)
    const owner = new pg.Client({ connectionString: app.ownerUrl })
    await owner.connect()
    await owner.query(
      `create function no_room() returns trigger language plpgsql as
       $$ begin raise exception 'could not extend file: No space left on device' using errcode = '53100'; end $$`,
    )
    // The blocks are in by then: what was written of the piece is taken back.
    await owner.query('create trigger full_disk before insert on log_pieces execute function no_room()')
    const refused = await piece(log.id, 1, lines(1000, 2000))
    await owner.query('drop function no_room cascade')
    await owner.end()
    expect([refused.status, refused.type]).toEqual([507, 'application/problem+json'])
    expect((refused.body as { title: string }).title).toMatch(
      /^The disk of the server is full: nothing of this/,
    )
    const { body } = await wren.get(`${at}/${log.id}`).expect(200)
    expect(body).toMatchObject({ rows: 1000, pieces: 1, state: 'open' })
    await piece(log.id, 1, lines(1000, 2000)).expect(200)
    expect((await keep(log.id).expect(200)).body).toMatchObject({ rows: 2000, pieces: 2, state: 'kept' })
  })
  test('whole it stands in the record with its hash, and its rows are those of the file', async () => {
    const log = await whole()
    expect(log).toMatchObject({
      state: 'kept',
      rows: 10_000,
      wrongCount: 0,
      interval: 1000,
      from: START,
      to: START + 9_999_000,
      tag: 'FT-101',
      byName: 'Wren (technician)',
    })
    expect(log.channels.map((c) => [c.name, c.unit, c.kind, c.n])).toEqual([
      ['Flow', 'm3/h', 'value', 10_000],
      ['Signal', '%', 'quality', 10_000],
    ])
    const all = (await wren.get('/api/loops/FT-101/events').expect(200)).body as StoredEvent[]
    const mine = all.filter((e) => e.type === 'log.kept' && e.id === log.id)
    expect(mine).toHaveLength(1)
    expect(mine[0]?.payload).toMatchObject({ rows: 10_000, title: 'Portable, intake' })
    const csv = await wren
      .get(`${at}/${log.id}/samples.csv?from=${START + 3999_000}&to=${START + 4001_000}`)
      .expect(200)
    expect(csv.text.replace('\uFEFF', '').trim().split('\r\n')).toEqual([
      '"Time","Flow [m3/h]","Signal [%]"',
      ...[3999, 4000, 4001].map((i) => `${new Date(START + i * 1000).toISOString()},${flow(i)},85`),
    ])
  })
  test('sent twice, or gone on with after it broke off, it is the same log', async () => {
    const log = newLog(HEAD + lines(0, 50))
    const first = `${HEAD}${lines(0, 1000)}\n`
    await Promise.all([begin(log).expect(201), begin(log).expect(201)])
    await piece(log.id, 0, first).expect(200)
    expect((await piece(log.id, 0, first).expect(200)).body).toMatchObject({ pieces: 1, rows: 1000 })
    expect(says(await piece(log.id, 0, `${HEAD}${lines(0, 999)}\n`).expect(409))).toContain(
      'with other lines',
    )
    expect(says(await piece(log.id, 5, lines(5, 6)).expect(409))).toContain('Piece 1 comes next')
    expect((await wren.get(`${at}/${log.id}`).expect(200)).body).toMatchObject({ state: 'open', pieces: 1 })
    const both = await Promise.all([1, 2].map(() => piece(log.id, 1, lines(1000, 2000))))
    expect(both.some((r) => r.status === 200)).toBe(true)
    expect((await keep(log.id).expect(200)).body).toMatchObject({ rows: 2000, pieces: 2 })
    await keep(log.id).expect(200)
    expect(says(await piece(log.id, 2, lines(2000, 2001)).expect(409))).toContain('is whole')
  })
  test('pieces on their way are stored in their order, whichever comes first', async () => {
    const parts = [`${HEAD}${lines(0, 4000)}\n`, `${lines(4000, 8000)}\n`, lines(8000, 10_000)]
    const hashOf = async (log: Log) =>
      (await wren.get(`${at}/${log.id}/samples.csv?from=${log.from}&to=${log.to}`).expect(200)).text
    const alone = await whole()
    for (const order of [
      [0, 1],
      [1, 0],
      [0, 1, 2],
      [2, 0, 1],
    ]) {
      const log = newLog(HEAD + lines(0, 300))
      await begin(log).expect(201)
      const sent = await Promise.all(order.map((n) => piece(log.id, n, parts[n] ?? '')))
      expect(sent.map((r) => r.status)).toEqual(order.map(() => 200))
      if (order.length < 3) await piece(log.id, 2, parts[2] ?? '').expect(200)
      const kept = (await keep(log.id).expect(200)).body as Log
      expect(kept).toMatchObject({ rows: 10_000, pieces: 3, wrongCount: 0, from: alone.from, to: alone.to })
      expect(await hashOf(kept)).toBe(await hashOf(alone))
    }
  })
  test('what comes behind a piece that is refused is told which comes next, and nothing of it stays', async () => {
    const log = newLog(HEAD + lines(0, 300))
    await begin(log).expect(201)
    const [wrong, behind] = await Promise.all([
      piece(log.id, 0, HEAD + lines(0, 100), { file: 7 }),
      piece(log.id, 1, lines(100, 200)),
    ])
    expect([wrong.status, behind.status, says(behind)]).toEqual([
      422,
      409,
      expect.stringContaining('Piece 0 comes next'),
    ])
    expect((await wren.get(`${at}/${log.id}`).expect(200)).body).toMatchObject({ rows: 0, pieces: 0 })
  })
  test('what comes from a device is of a stand-in; a real loop has none', async () => {
    const log = newLog(HEAD + lines(0, 50), { source: 'link' })
    expect((await begin(log).expect(201)).body).toMatchObject({ source: 'link', simulated: true })
    await piece(log.id, 0, HEAD + lines(0, 500)).expect(200)
    await keep(log.id).expect(200)
    const all = (await wren.get('/api/loops/FT-101/events').expect(200)).body as StoredEvent[]
    expect(all.find((e) => e.id === log.id)?.payload).toMatchObject({ source: 'link', simulated: true })
    const { document } = (await wren.get('/api/loops/FT-203').expect(200)).body as { document: object }
    await wren
      .post('/api/loops')
      .send({
        id: randomUUID(),
        document: { ...document, tag: 'FT-971', lastCalibrated: null, wiring: null },
      })
      .expect(201)
    const real = (source: NewLog['source']) =>
      wren.post('/api/loops/FT-971/logs').send(newLog(HEAD + lines(0, 50), { source }))
    for (const source of ['link', 'memory'] as const)
      expect((await real(source).expect(422)).body).toMatchObject({ errors: [{ path: 'source' }] })
    expect((await real('typed').expect(201)).body).toMatchObject({ source: 'typed', simulated: false })
  })
  test('given up nothing of it stays; a whole one stays', async () => {
    const log = newLog(HEAD + lines(0, 50))
    await begin(log).expect(201)
    await piece(log.id, 0, HEAD + lines(0, 500)).expect(200)
    await wren.delete(`${at}/${log.id}`).expect(204)
    await wren.get(`${at}/${log.id}`).expect(404)
    const left = await app.connection.pool.query('select 1 from log_blocks where log_id = $1', [log.id])
    expect(left.rowCount).toBe(0)
    const kept = await whole()
    expect(says(await wren.delete(`${at}/${kept.id}`).expect(409))).toContain('it stays')
  })
  test('wrong lines are counted and told, with their line in the file; two files are one log', async () => {
    const log = newLog(HEAD + lines(0, 50), { files: ['a.csv', 'b.csv'] })
    await begin(log).expect(201)
    await piece(log.id, 0, `${HEAD}${lines(0, 3)}\nnonsense\n${lines(3, 5)}\n`).expect(200)
    await piece(log.id, 1, `${row(5).replace(',', 'x')}\n${lines(6, 8)}\n`).expect(200)
    const end = await piece(log.id, 2, `${HEAD}2026-13-45 00:00:00;1,5;80\n${lines(8, 10)}`, {
      file: 1,
      beginsFile: true,
    }).expect(200)
    expect(end.body).toMatchObject({
      rows: 9,
      wrongCount: 3,
      wrong: [
        { file: 0, line: 5, reason: 'FIELDS' },
        { file: 0, line: 8, reason: 'NUMBER' },
        { file: 1, line: 2, reason: 'TIME' },
      ],
    })
  })
  test.each<[string, (log: NewLog) => unknown, string]>([
    ['no name', (l) => ({ ...l, title: ' ' }), 'title'],
    [
      'no column of values',
      (l) => ({
        ...l,
        mapping: { ...l.mapping, columns: l.mapping.columns.map((c) => ({ ...c, kind: 'text' })) },
      }),
      'mapping.columns',
    ],
    [
      'no time',
      (l) => ({ ...l, mapping: { ...l.mapping, time: { format: 'NONE', unit_s: 1 } } }),
      'mapping.time.format',
    ],
    [
      'a unit nobody knows',
      (l) => ({
        ...l,
        mapping: { ...l.mapping, columns: l.mapping.columns.map((c) => ({ ...c, unit: 'stones' })) },
      }),
      'mapping.columns.0.unit',
    ],
    ['a zone nobody knows', (l) => ({ ...l, mapping: { ...l.mapping, zone: 'Moon/Sea' } }), 'mapping.zone'],
    ['an instrument that is not here', (l) => ({ ...l, instrument: randomUUID() }), 'instrument'],
  ])('%s is told at its place', async (_what, change, path) => {
    const res = await wren
      .post(at)
      .send(change(newLog(HEAD + lines(0, 50))) as object)
      .expect(422)
    expect((res.body as { errors: { path: string }[] }).errors.map((e) => e.path)).toContain(path)
  })
  test('without a row it is not kept; a viewer reads none in; of another loop it is not here', async () => {
    const log = newLog(HEAD + lines(0, 50))
    await begin(log).expect(201)
    await piece(log.id, 0, HEAD).expect(200)
    expect(says(await keep(log.id).expect(409))).toContain('No row of this log could be read')
    await wren.get(`/api/loops/PT-202/logs/${log.id}`).expect(404)
    await begin(newLog(HEAD + lines(0, 50)), await app.as('tern')).expect(403)
    expect(says(await wren.get(`${at}/${log.id}/view?from=0&to=1&width=10`).expect(409))).toContain(
      'not read in whole',
    )
  })
})

describe('a log is looked at', () => {
  let log: Log
  beforeAll(async () => {
    log = await whole()
  })
  const view = async (query: string) =>
    (await wren.get(`${at}/${log.id}/view?channel=0&${query}`).expect(200)).body as LogView
  test.each([
    [0, 9_999_000, 100],
    [1_234_567, 7_654_321, 37],
    [-50_000, 50_000, 10],
  ])('from %d to %d in %d pixels: the true ends of each', async (from, to, width) => {
    const told = await view(`from=${START + from}&to=${START + to}&width=${width}`)
    const all = Array.from({ length: 10_000 }, (_, i) => i)
    const direct = pixelsOf(
      all.map((i) => START + i * 1000),
      all.map(flow),
      START + from,
      START + to,
      width,
    )
    expect(told.kind).toBe('pixels')
    expect([told.min, told.max]).toEqual([direct.map((p) => p.min), direct.map((p) => p.max)])
  })
  test('near enough, the samples themselves', async () => {
    const told = await view(`from=${START + 5000}&to=${START + 8000}&width=800`)
    expect(told).toMatchObject({
      kind: 'samples',
      t: [0, 1000, 2000, 3000],
      min: [5, 6, 7, 8].map(flow),
    })
  })
  test('summed up and judged, the signal with it', async () => {
    const { body } = await wren
      .get(`${at}/${log.id}/judgement?channel=0&from=${log.from}&to=${log.to}`)
      .expect(200)
    const told = body as LogJudgement
    expect(told.statistics).toMatchObject({ n: 10_000, close: { gaps: 0, left: 0 } })
    expect(told.statistics?.mean).toBeCloseTo(42, 0)
    expect(told.total?.net).toBeCloseTo(((told.statistics?.close?.timeMean ?? 0) * 9999) / 3600, 6)
    expect(told.findings?.map((f) => f.code)).toContain('PERIODIC')
    expect(told.against).toMatchObject({ T: expect.any(Number) as number })
    expect(told.stable).not.toBeNull()
  })
  test('the percent of its signal are not held against the percent of the loop', async () => {
    const { body } = await wren
      .get(`${at}/${log.id}/judgement?channel=1&from=${log.from}&to=${log.to}`)
      .expect(200)
    expect((body as LogJudgement).against).toBeNull()
  })
  test('out again in files of so many rows, none lost and none twice', async () => {
    const ask = (rows: number, to = log.to) =>
      wren.get(`${at}/${log.id}/samples.zip?from=${log.from}&to=${to}&rows=${rows}`)
    const { body } = await ask(4000).buffer(true).parse(asBuffer).expect(200)
    const files = Object.entries(unzipSync(new Uint8Array(body as Buffer)))
    const texts = files.map(([, bytes]) => strFromU8(bytes).trimEnd().split('\r\n'))
    expect(texts.map((t) => t.length - 1)).toEqual([4000, 4000, 2000])
    expect(new Set(texts.map((t) => t[0])).size).toBe(1)
    const whole = await wren.get(`${at}/${log.id}/samples.csv?from=${log.from}&to=${log.to}`).expect(200)
    expect(texts.flatMap((t) => t.slice(1))).toEqual(whole.text.trimEnd().split('\r\n').slice(1))
    const one = await ask(4000, (log.from ?? 0) + 10_000)
      .buffer(true)
      .parse(asBuffer)
      .expect(200)
    expect(Object.keys(unzipSync(new Uint8Array(one.body as Buffer)))).toHaveLength(1)
    await ask(10).expect(422)
  })
  test('on paper', async () => {
    const { body, headers } = await wren
      .get(`${at}/${log.id}/report.pdf?channel=0&from=${log.from}&to=${log.to}`)
      .buffer(true)
      .parse(asBuffer)
      .expect(200)
    expect(headers['content-type']).toBe('application/pdf')
    expect((body as Buffer).subarray(0, 5).toString()).toBe('%PDF-')
  })
  test('its plot as a drawing: whose it is, in which unit, and that it was simulated only where it was', async () => {
    const { body, headers } = await wren
      .get(`${at}/${log.id}/plot.svg?channel=0&from=${log.from}&to=${log.to}`)
      .buffer(true)
      .parse(asBuffer)
      .expect(200)
    expect(headers['content-type']).toMatch('image/svg+xml')
    expect(headers['content-disposition']).toMatch(/\.svg/)
    const svg = (body as Buffer).toString()
    expect(svg).toContain(`<title>${log.tag} `)
    expect(svg).toContain(' over the hours from ')
    expect(svg.includes('SIMULATED')).toBe(log.simulated)
    expect(svg).toMatch(/<polyline/)
    expect(svg).toMatch(/\d+ findings? in 10\u2009000 samples; held against the range of the loop/)
    await wren.get(`${at}/${log.id}/plot.svg?channel=0&from=5&to=1`).expect(422)
  })
  test('other lines stand under it, each with its own axis, and nothing is judged of them', async () => {
    const drawing = async (beside: string) =>
      wren
        .get(`${at}/${log.id}/plot.svg?channel=0&from=${log.from}&to=${log.to}&beside=${beside}`)
        .buffer(true)
        .parse(asBuffer)
    const alone = ((await drawing(`${log.id}.0`)).body as Buffer).toString()
    const several = ((await drawing(`${log.id}.0,${log.id}.0`)).body as Buffer).toString()
    const count = (svg: string, of: RegExp) => (svg.match(of) ?? []).length
    expect([count(alone, /<svg/g), count(several, /<svg/g)]).toEqual([3, 4])
    expect(count(several, /Not judged here\./g)).toBe(2)
    const res = await drawing(`${log.id}.9`)
    expect([
      res.status,
      (await drawing('that one')).status,
      (await drawing(`${randomUUID()}.0`)).status,
    ]).toEqual([422, 422, 404])
  })
  test.each([
    ['channel=7&from=0&to=1&width=5', 'channel'],
    ['from=5&to=1&width=5', 'to'],
    ['from=0&to=1&width=99999', 'width'],
  ])('%s is told', async (query, path) => {
    const res = await wren.get(`${at}/${log.id}/view?${query}`).expect(422)
    expect((res.body as { errors: { path: string }[] }).errors.map((e) => e.path)).toContain(path)
  })
  test('two logs are compared in the unit of the first; what is no flow is not', async () => {
    const inLitres = (i: number) => Math.round((1000 * (1.02 * flow(i - 6))) / 3.6) / 1000
    const text = HEAD.replace('m³/h', 'L/s') + lines(0, 50, inLitres)
    const other = newLog(text, { of: 'installed', title: 'Installed' })
    await begin(other).expect(201)
    await piece(
      other.id,
      0,
      HEAD.replace('m³/h', 'L/s') + lines(0, 6000, (i) => Math.round(inLitres(i) * 100) / 100),
    ).expect(200)
    await keep(other.id).expect(200)
    const ask = (channel: number) =>
      wren.get(
        `${at}/${other.id}/comparison?channel=0&with=${log.id}&withChannel=${channel}&from=${START}&to=${START + 6e6}&maxLag=60`,
      )
    const told = (await ask(0).expect(200)).body as LogComparison
    expect(told).toMatchObject({ ambiguous: null, unit: 'L/s' })
    expect(told.lag_s).toBeCloseTo(6, 0)
    expect(told.gain).toBeCloseTo(1.02, 2)
    expect(told.leftOut).toEqual([])
    expect(told.plot.reduce((n, m) => n + m.n, 0)).toBe(told.n)
    expect(says(await ask(1).expect(422))).toContain('cannot be held against')
  })
})

describe('what measures nothing is in none of the numbers', () => {
  /** The flow of an instrument beside the whole log, from what its rows say. */
  const other = async (title: string, text: string) => {
    const log = newLog(HEAD + lines(0, 50), { of: 'installed', title })
    await begin(log).expect(201)
    await piece(log.id, 0, HEAD + text).expect(200)
    return (await keep(log.id).expect(200)).body as Log
  }
  const noisy = (i: number) =>
    flow(i) + Math.round(100 * (((Math.sin(i * 12.9898) * 43_758.5453) % 1) * 0.2)) / 100
  const N = 3000
  let reference: Log
  beforeAll(async () => (reference = await other('Beside it', lines(0, N, noisy))))
  const compared = (log: Log) =>
    wren.get(
      `${at}/${log.id}/comparison?channel=0&with=${reference.id}&withChannel=0&from=${START}&to=${START + 1000 * N}`,
    )
  test('values with a weak signal: neither in the mean nor in what it is known to', async () => {
    const text = Array.from({ length: N }, (_, i) =>
      i >= 1000 && i < 1300 ? `${row(i, () => 7).slice(0, -2)}20` : row(i, noisy),
    ).join('\n')
    const log = await other('Weak for five minutes', text)
    const { body } = await wren
      .get(`${at}/${log.id}/judgement?channel=0&from=${START}&to=${START + 1000 * N}`)
      .expect(200)
    const { statistics, findings, total } = body as LogJudgement
    expect(statistics).toMatchObject({ n: N - 300, close: { weak: 300, nulls: 0 } })
    expect(statistics?.min).toBeGreaterThan(30)
    expect(findings?.map((f) => f.code)).toContain('SIGNAL_LOW')
    // What was not measured is not totalled as if it had been.
    expect(total).toMatchObject({ complete: false, gaps: 1 })
    const told = (await compared(log).expect(200)).body as LogComparison
    expect(told.leftOut.map((f) => [f.of, f.code])).toEqual([['a', 'SIGNAL_LOW']])
    expect(Math.abs(told.meanDifference)).toBeLessThan(0.05)
  })
  test('a value that stood still is not held against the other', async () => {
    const log = await other(
      'Held its output',
      lines(0, N, (i) => (i >= 2000 && i < 2600 ? 42.5 : noisy(i))),
    )
    const told = (await compared(log).expect(200)).body as LogComparison
    expect(told.leftOut).toMatchObject([{ of: 'a', code: 'FROZEN', evidence: { samples: 600, value: 42.5 } }])
    expect(Math.abs(told.meanDifference)).toBeLessThan(0.05)
    expect(told.n).toBeLessThan(N - 590)
  })
  test('behind a change of unit nothing is compared', async () => {
    const log = await other(
      'Its display was changed',
      lines(0, N, (i) => (i < 1500 ? noisy(i) : Math.round(100 * (noisy(i) / 3.6)) / 100)),
    )
    expect(says(await compared(log).expect(409))).toContain('The first log changes its unit in this stretch')
  })
})

describe('logs of the demo plant have their stories', () => {
  test.each<[string, string, string[]]>([
    ['FT-101', 'Intake main', ['DRIFT', 'STEP']],
    ['FT-101', 'Portable meter', ['STEP']],
    ['PT-103', 'Discharge pressure', ['PERIODIC']],
    ['FT-203', 'Permeate flow', ['UNIT_CHANGED']],
    ['PT-405', 'Instrument air', ['FROZEN']],
    ['TT-205', 'Feed temperature', ['QUANTISED']],
    ['LT-301', 'Brine tank', ['SPIKE']],
    ['FT-304', 'Wash water', ['AT_LIMIT']],
    ['FT-402', 'Process air', ['GAP']],
  ])('%s, %s', async (tag, title, codes) => {
    const all = (await wren.get('/api/logs').expect(200)).body as Log[]
    const log = all.find((l) => l.tag === tag && l.title.startsWith(title))
    const { body } = await wren
      .get(`/api/loops/${tag}/logs/${log?.id}/judgement?channel=0&from=${log?.from}&to=${log?.to}`)
      .expect(200)
    const told = body as LogJudgement
    expect([...new Set(told.findings?.map((f) => f.code))]).toEqual(codes)
    // A flow that is measured by its differential pressure is held against the flow that the loop shows.
    expect(told.against).not.toBeNull()
  })
})

describe('a log is evidence', () => {
  test('it is in a backup, and proved there; changed or gone it is found', async () => {
    const log = await whole()
    const found = async () =>
      (await provePlant(app.connection.db)).mismatches.map((m) => `${m.where}: ${m.says}`)
    expect(await found()).toEqual([])
    const from = new pg.Client({ connectionString: app.ownerUrl })
    await from.connect()
    let text = ''
    for await (const part of dumpPlant(from, new Date())) text += part
    const to = new pg.Client({ connectionString: await freshDatabase(inject('databaseUrl')) })
    await to.connect()
    await restorePlant(to, Readable.from(text.trimEnd().split('\n')))
    const sum = `select count(*)::int as n, encode(sha256(string_agg(samples, ''::bytea order by log_id, channel, block)), 'hex') as h from log_blocks`
    expect((await to.query<{ n: number }>(sum)).rows).toEqual((await from.query(sum)).rows)
    await to.end()
    await from.end()
    await app.tamper(
      `update log_blocks set samples = set_byte(samples, 9, get_byte(samples, 9) # 1) where log_id = '${log.id}' and channel = 0 and block = 1`,
    )
    expect(await found()).toEqual([expect.stringMatching(/^FT-101, event \d+: The samples of the log/)])
  })
})
