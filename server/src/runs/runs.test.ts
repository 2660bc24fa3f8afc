import { randomUUID } from 'node:crypto'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import type TestAgent from 'supertest/lib/agent.js'
import { testApp, type TestApp } from '../test/app.ts'
import { asLeft, close, events, PUMP, read, send, sign, starter } from '../test/verification.ts'

let app: TestApp
let wren: TestAgent
let heron: TestAgent
let begin: Awaited<ReturnType<typeof starter>>['begin']
const typed = (value: number) => ({ value, typed: String(value) })
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
  heron = await app.as('heron')
  begin = (await starter(wren)).begin
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
    const start = begin([])
    Object.assign(start.payload, {
      U_pct: 0.02,
      rule: 'guarded',
      budget: {
        lines: [
          { title: 'Pump, certificate', value: 0.012, unit: 'bar g', distribution: 'normal2', c: 1.2 },
          { title: 'Pump, drift since', value: 0.006, unit: 'bar g', distribution: 'rect', c: 1.2 },
        ],
        missing: ['No instrument was chosen for the loop current (mA).'],
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
  test('a reviewer does not countersign what they signed themselves', async () => {
    const run = await ready()
    await send(heron, events(run, sign('technician'))).expect(200)
    expect((await send(heron, events(run, sign('reviewer')))).body.title).toMatch(/second person/)
  })
  test('nobody signs with an instrument whose certificate has ended', async () => {
    const run = await ready(['GS-MM-007'])
    const res = await send(wren, events(run, sign('technician')))
    expect(res.status).toBe(409)
    expect(res.body.title).toMatch(
      /Multimeter had no valid certificate on 2026-11-23: it ended on 2026-10-30/,
    )
  })
})

describe('the record proves itself', () => {
  test('whole, through the endpoint and for the plant', async () => {
    expect((await wren.get('/api/loops/PT-202/chain')).body.kind).toBe('whole')
    expect((await heron.get('/api/chain')).body).toMatchObject({ broken: [] })
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
