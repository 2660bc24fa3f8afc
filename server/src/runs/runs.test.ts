import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import type TestAgent from 'supertest/lib/agent.js'
import { testApp, type TestApp } from '../test/app.ts'
import type { RunEventBody } from '@calm/core/record/kinds/verification'
import { CertificateFile } from '@calm/contract/certificate-file'
import { certificateData } from '../reports/certificate-data.ts'
import { certificateFile } from '../reports/certificate-file.ts'
import { asLeft, close, events, PUMP, read, send, sign, starter } from '../test/verification.ts'

let app: TestApp
let wren: TestAgent
let heron: TestAgent
let begin: Awaited<ReturnType<typeof starter>>['begin']
let equipment: ReadonlyMap<string, string>
const typed = (value: number) => ({ value, typed: String(value) })
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
  heron = await app.as('heron')
  const it = await starter(wren)
  begin = it.begin
  equipment = it.equipment
})
afterAll(() => app.stop())

describe('a verification over HTTP', () => {
  test('from start to countersignature, with verdict, due date, PDF and CSV', async () => {
    const run = randomUUID()
    await send(
      wren,
      events(
        run,
        begin(['GS-PC-011']),
        read(0, 0, 0.25),
        read(1, 42.5, 0.25),
        read(2, 85, 0.25),
        close,
        asLeft,
        sign('technician'),
      ),
    ).expect(200)
    await send(heron, events(run, sign('reviewer'))).expect(200)
    const { body: loop } = await wren.get('/api/loops/PT-202')
    expect(loop.summary).toMatchObject({ verdict: 'FAIL', parts: { verify: 'stop' } })
    expect(loop.summary.line[0]).toMatchObject({ station: 'sensor' })
    expect(loop.lastCalibrated).toBe('2026-11-23')
    // What failed cannot wait for its interval.
    expect(loop.due).toBe('2026-11-23')
    expect(loop.summary.dueNow).toEqual({ on: '2026-11-23', why: 'out of tolerance' })
    const pdf = await wren.get(`/api/runs/${run}/certificate.pdf`).buffer().expect(200)
    expect((pdf.body as Buffer).subarray(0, 5).toString()).toBe('%PDF-')
    const csv = await wren.get(`/api/runs/${run}/readings.csv`).expect(200)
    expect(csv.text).toContain('as found,1,up,0,bar(g),0.25,bar(g)')
    expect(csv.text.split('\r\n').filter((l) => l.startsWith('as'))).toHaveLength(6)
  })
  test('sent twice, sent in pieces, sent at the same time: stored once', async () => {
    const run = randomUUID()
    const list = events(run, begin(), read(0, 0), read(1, 42.5))
    await send(wren, list.slice(0, 2)).expect(200)
    const answers = await Promise.all([send(wren, list), send(wren, list), send(wren, list)])
    expect(answers.map((a) => a.status)).toEqual([200, 200, 200])
    expect(answers.map((a) => a.body.accepted as number).sort()).toEqual([0, 0, 1])
    const { body } = await wren.get(`/api/runs/${run}`)
    expect(body.events).toHaveLength(3)
  })
  test('an identifier used again for something else is refused', async () => {
    const run = randomUUID()
    const [start] = events(run, begin())
    await send(wren, [start]).expect(200)
    await send(wren, [{ ...start, body: read(0, 1) }]).expect(409)
  })
  test('a batch with one impossible event stores nothing and names it', async () => {
    const run = randomUUID()
    const list = events(run, begin(), close)
    const res = await send(wren, list)
    expect(res.status).toBe(409)
    expect(res.body).toMatchObject({ eventId: list[1]?.id, errors: [{ path: 'events.1.body' }] })
    await wren.get(`/api/runs/${run}`).expect(404)
  })
  const wrongReadings: readonly [why: string, value: unknown][] = [
    ['a text', { value: '4', typed: '4' }],
    ['no value', { typed: '4' }],
    ['a number beyond all quantities', { value: 1e16, typed: 'x' }],
    ['a column nobody knows', undefined],
  ]
  test.each(wrongReadings)('%s as a reading is told at its path', async (_why, value) => {
    const run = randomUUID()
    const bad = {
      type: 'reading.recorded',
      payload: {
        phase: 'asFound',
        index: 0,
        values: value === undefined ? { volts: typed(1) } : { pv: value },
      },
    }
    const res = await send(wren, [
      ...events(run, begin()),
      { id: randomUUID(), runId: run, at: '2026-11-23T10:00:00Z', body: bad },
    ])
    expect(res.status).toBe(422)
    expect(res.body.errors[0].path).toMatch(/^events\.1\.body\.payload\.values/)
  })
})

describe('who may sign', () => {
  const ready = async (serials: string[] = [PUMP]) => {
    const run = randomUUID()
    await send(wren, events(run, begin(serials), read(0, 0), close, asLeft)).expect(200)
    return run
  }
  test('a technician does not countersign', async () => {
    const run = await ready()
    await send(wren, events(run, sign('technician'))).expect(200)
    await send(await app.as('dunlin'), events(run, sign('reviewer'))).expect(403)
  })
  test('two who sign at once: one signature stands, the other is told', async () => {
    const run = await ready()
    const dunlin = await app.as('dunlin')
    const both = await Promise.all([
      send(wren, events(run, sign('technician'))),
      send(dunlin, events(run, sign('technician'))),
    ])
    expect(both.map((r) => r.status).sort()).toEqual([200, 409])
    const { body } = await wren.get(`/api/runs/${run}`).expect(200)
    expect((body as { events: { type: string }[] }).events.filter((e) => e.type === 'signed')).toHaveLength(1)
  })
  test('the budget and the rule that were agreed stand in the certificate', async () => {
    const run = randomUUID()
    const start = begin()
    Object.assign(start.payload, {
      deviation: { reason: 'Lines by hand.' },
      U_pct: 0.02,
      rule: 'guarded',
      budget: {
        lines: [
          { title: 'Pump, certificate', value: 0.012, unit: 'bar g', distribution: 'normal2', c: 1.2 },
          { title: 'Pump, drift since', value: 0.006, unit: 'bar g', distribution: 'rect', c: 1.2 },
        ],
        missing: [],
        k: 2,
        method: 'trials',
        seed: 20317,
      },
    })
    await send(wren, events(run, start, read(0, 0), close, asLeft)).expect(200)
    const pdf = await wren.get(`/api/runs/${run}/certificate.pdf`).buffer().expect(200)
    expect((pdf.body as Buffer).length).toBeGreaterThan(10_000)
    // A line that no budget can have is told at its path.
    const bad = structuredClone(start)
    Object.assign(bad.payload.budget?.lines[0] ?? {}, { value: -1 })
    const res = await send(wren, events(randomUUID(), bad))
    expect(res.status).toBe(422)
    expect(res.body.errors[0].path).toBe('events.0.body.payload.budget.lines.0.value')
  })
  test('a certificate tells whose it is, what it comes to, and carries itself as data', async () => {
    const run = randomUUID()
    const start = begin()
    start.payload.circumstances = {
      order: 'WO-77',
      place: 'Skid 2',
      ambient: '21 °C',
      procedure: 'P-14',
      maker: 'made up',
      model: 'M 1',
      serial: '0042',
    }
    await wren
      .put('/api/plant/rules')
      .send({ letterhead: { name: 'Brine Works', address: 'Salt Road 1' } })
      .expect(200)
    await send(wren, events(run, start, read(0, 0), close, asLeft)).expect(200)
    const pdf = (await wren.get(`/api/runs/${run}/certificate.pdf`).buffer().expect(200)).body as Buffer
    const file = certificateFile(await certificateData(app.connection.db, run))
    expect(CertificateFile.parse(file)).toEqual(file)
    expect(file).toMatchObject({
      number: run.slice(0, 8).toUpperCase(),
      plant: { name: 'Brine Works', address: 'Salt Road 1' },
      device: { maker: 'made up', model: 'M 1', serial: '0042' },
      circumstances: { order: 'WO-77', place: 'Skid 2', ambient: '21 °C', procedure: 'P-14' },
      uncertainty_pctSpan: null,
      signatures: [],
      asLeft: { points: [{ point: 1, applied: { value: 0, asTyped: '0' } }, {}, {}] },
    })
    expect(file.overall.says).toMatch(/2 points of the plan were not read/)
    expect(file.overall.nextDue).toMatch(/^\d{4}-\d\d-\d\d$/)
    expect(pdf.includes('certificate.json')).toBe(true)
  })
  test('a reviewer does not countersign what they signed themselves', async () => {
    const run = await ready()
    await send(heron, events(run, sign('technician'))).expect(200)
    expect((await send(heron, events(run, sign('reviewer')))).body.title).toMatch(/second person/)
  })
  test('nobody begins with an instrument whose certificate has ended', async () => {
    const res = await send(wren, events(randomUUID(), begin(['GS-MM-007'])))
    expect([res.status, res.body.title]).toEqual([
      409,
      'The certificate of Multimeter ended on 2026-10-30. Choose another instrument.',
    ])
  })
  test('no uncertainty is claimed without an instrument', async () => {
    const start = begin([])
    start.payload.U_pct = 0.02
    const res = await send(wren, events(randomUUID(), start))
    expect([res.status, res.body.errors[0].path]).toEqual([422, 'events.0.body.payload.U_pct'])
  })
  test('what is set stands for what the law says, not for what the sender says', async () => {
    const temperature = await starter(wren, 'TT-205')
    const start = temperature.begin([])
    start.payload.applies = { kind: 'resistance', r0_ohm: 100 }
    const [run, set] = [
      randomUUID(),
      (value: number, typed: string): RunEventBody => ({
        type: 'reading.recorded',
        payload: { phase: 'asFound', index: 0, values: { applied: { value, typed } } },
      }),
    ]
    await send(wren, events(run, start), 'TT-205').expect(200)
    await send(wren, events(run, set(100, '138.5055 ohm')), 'TT-205').expect(200)
    const lies: readonly [value: number, typed: string, says: RegExp][] = [
      [99, '138.5055 ohm', /stands for 100 °C, not for 99/],
      [100, '100', /stands for 0 °C, not for 100/],
      [100, '5 ohm', /no setting in Ω that stands for a value of this sensor/],
      [100, '3 bar', /no setting in Ω/],
    ]
    for (const [value, typed, says] of lies) {
      const res = await send(wren, events(run, set(value, typed)), 'TT-205')
      expect([res.status, res.body.errors[0].path]).toEqual([
        422,
        'events.0.body.payload.values.applied.value',
      ])
      expect(res.body.errors[0].says).toMatch(says)
    }
  })
  test('nobody signs with an instrument whose certificate has ended', async () => {
    const run = await ready([])
    const named = {
      type: 'equipment.named' as const,
      payload: { equipment: [equipment.get('GS-MM-007') ?? ''] },
    }
    const res = await send(wren, events(run, named, sign('technician')))
    expect(res.status).toBe(409)
    expect(res.body.title).toMatch(
      /Multimeter had no valid certificate on 2026-11-23: it ended on 2026-10-30/,
    )
  })
})

describe('the record proves itself', () => {
  test('whole, through the endpoint and for the plant', async () => {
    expect((await wren.get('/api/loops/PT-202/chain')).body.kind).toBe('whole')
    expect((await heron.get('/api/chain')).body).toMatchObject({ loops: 24, mismatches: [] })
  })
  const tamper: readonly [why: string, tag: string, change: string, says: RegExp][] = [
    [
      'a reading changed',
      'FT-206',
      `update events set payload = jsonb_set(payload, '{values,pv,value}', '1') where type = 'reading.recorded' and seq = 4`,
      /Event 4 .* was changed/,
    ],
    [
      'an author changed',
      'LT-102',
      `update events set by = (select id from people where name = 'tern') where seq = 3`,
      /Event 3 .* was changed/,
    ],
    [
      'the last event cut off',
      'LT-404',
      `delete from events where seq = (select max(seq) from events e where e.loop_id = events.loop_id)`,
      /ends at event/,
    ],
    [
      'a revision rewritten',
      'AT-204',
      `update loop_revisions set document = jsonb_set(document, '{remark}', '"x"') where number = 1`,
      /Revision 1 is not/,
    ],
  ]
  test.each(tamper)('%s is named', async (_why, tag, change, says) => {
    const of = change.includes('loop_revisions') ? 'loop_revisions' : 'events'
    await app.tamper(`${change} and ${of}.loop_id = (select id from loops where tag = '${tag}')`)
    const { body } = await wren.get(`/api/loops/${tag}/chain`)
    expect(body.kind).toBe('broken')
    expect(body.says).toMatch(says)
  })
})
