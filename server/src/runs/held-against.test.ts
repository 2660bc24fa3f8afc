import { randomUUID } from 'node:crypto'
import type { StoredEvent } from '@calm/contract/events'
import type { RunEventBody } from '@calm/core/record/kinds/verification'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { testApp, testClock, type TestApp } from '../test/app.ts'
import { asLeft, close, events, PUMP, read, send, sign, starter } from '../test/verification.ts'

let app: TestApp
let wren: TestAgent
let dunlin: TestAgent
let heron: TestAgent
let it: Awaited<ReturnType<typeof starter>>
const ids = new Map<string, string>()
beforeAll(async () => {
  app = await testApp()
  ;[wren, dunlin, heron] = [await app.as('wren'), await app.as('dunlin'), await app.as('heron')]
  it = await starter(wren)
  for (const p of (await wren.get('/api/people')).body as { id: string; name: string }[])
    ids.set(p.name, p.id)
})
afterAll(() => app.stop())

type Start = ReturnType<typeof it.begin>
const one = (runId: string, body: RunEventBody, at: string, more: object = {}) => ({
  id: randomUUID(),
  runId,
  at,
  body,
  ...more,
})
const problem = (body: unknown) => (body as { errors?: { path: string; says: string }[] }).errors?.[0]
const inMinutes = (n: number) => new Date(testClock().getTime() + n * 60_000).toISOString()

describe('the server holds the loop', () => {
  const claims: readonly [why: string, place: string, change: (p: Start['payload']) => void][] = [
    ['a wider tolerance', 'tolerance', (p) => (p.tolerance.pctSpan = 5)],
    ['another way to join it', 'tolerance', (p) => (p.tolerance.mode = 'sum')],
    ['another range of the transmitter', 'inputRange', (p) => (p.inputRange.high = 100)],
    ['another unit', 'inputRange', (p) => (p.inputRange.unit = 'kPa(g)')],
    ['another range of the receiver', 'outputRange', (p) => (p.outputRange.low = 1)],
    ['an instrument nobody knows', 'equipment.1', (p) => void p.equipment.push(randomUUID())],
    ['a revision that is not there', 'revision', (p) => (p.revision = 99)],
    ['a revision of before', 'revision', (p) => (p.revision = 1)],
    [
      'an uncertainty that its own lines do not make',
      'U_pct',
      (p) =>
        Object.assign(p, {
          U_pct: 0.001,
          budget: {
            lines: [{ title: 'x', value: 1, unit: 'bar g', distribution: 'normal2', c: 1 }],
            missing: [],
            k: 2,
            method: 'formula',
            seed: null,
          },
        }),
    ],
    [
      'a budget without the certificate of the instrument it names',
      'U_pct',
      (p) =>
        Object.assign(p, {
          U_pct: 0.001,
          budget: {
            lines: [{ title: 'x', value: 0.001, unit: '% of span', distribution: 'normal2', c: 1 }],
            missing: [],
            k: 2,
            method: 'formula',
            seed: null,
          },
        }),
    ],
  ]
  test.each(claims)('%s is refused at its place', async (_why, place, change) => {
    const start = it.begin()
    change(start.payload)
    const res = await send(wren, events(randomUUID(), start))
    expect([res.status, problem(res.body)?.path]).toEqual([422, `events.0.body.payload.${place}`])
  })
  test('a deviation with its reason is taken, and stands on every paper', async () => {
    const run = randomUUID()
    const start = it.begin()
    start.payload.tolerance.pctSpan = 5
    Object.assign(start.payload, { deviation: { reason: 'the client’s contract says 5 %' } })
    await send(wren, events(run, start, read(0, 0), close, asLeft, sign('technician'))).expect(200)
    const csv = await wren.get(`/api/runs/${run}/readings.csv`).expect(200)
    expect(csv.text).toMatch(
      /Judged by 5 % of span; revision \d+ of the loop says 0\.2 % of span\. Reason: the client’s contract/,
    )
    const plain = randomUUID()
    await send(wren, events(plain, it.begin(), read(0, 0))).expect(200)
    expect((await wren.get(`/api/runs/${plain}/readings.csv`)).text).not.toContain('Judged by')
    // A deviation without a reason is none.
    Object.assign(start.payload, { deviation: { reason: '  ' } })
    const res = await send(wren, events(randomUUID(), start))
    expect(problem(res.body)?.path).toBe('events.0.body.payload.deviation.reason')
  })
})

describe('times', () => {
  test.each<[string, string]>([
    ['the year 1', '0001-01-01T00:00:00Z'],
    ['2090', '2090-01-01T00:00:00Z'],
    ['1970', '1970-01-01T00:00:00Z'],
    ['six minutes ahead', '+6'],
    ['two years ago', '2024-11-01T00:00:00Z'],
  ])('%s is refused at the field', async (_why, at) => {
    const t = at.startsWith('+') ? inMinutes(Number(at)) : at
    const res = await send(wren, [one(randomUUID(), it.begin(), t)])
    expect([res.status, problem(res.body)?.path]).toEqual([422, 'events.0.at'])
    expect(problem(res.body)?.says).toMatch(/year|future|ago/)
  })
  test('a clock four minutes ahead is a clock; the server’s time stands beside it, in the hash', async () => {
    const run = randomUUID()
    const at = inMinutes(4)
    await send(wren, [one(run, it.begin(), at)]).expect(200)
    const { body } = await wren.get(`/api/runs/${run}`).expect(200)
    const [e] = (body as { events: StoredEvent[] }).events
    expect(e).toMatchObject({ at, form: 2, outOfOrder: false })
    expect(Date.parse(e?.recordedAt ?? '')).toBeLessThan(Date.parse(at))
    expect((await wren.get('/api/loops/PT-202/chain')).body).toMatchObject({ kind: 'whole' })
    await app.tamper(`update events set recorded_at = recorded_at - interval '1 year' where id = '${e?.id}'`)
    expect((await wren.get('/api/loops/PT-202/chain')).body).toMatchObject({ kind: 'broken', eventId: e?.id })
    await app.tamper(`update events set recorded_at = recorded_at + interval '1 year' where id = '${e?.id}'`)
  })
  test('nothing of a run is before its beginning; what is out of order is kept and marked', async () => {
    const run = randomUUID()
    const [start, first, second] = events(run, it.begin(), read(0, 0), read(1, 42.5))
    await send(wren, [start]).expect(200)
    const early = await send(wren, [one(run, read(2, 85), '2026-11-23T09:00:00Z')])
    expect([early.status, problem(early.body)?.says]).toEqual([
      422,
      expect.stringMatching(/before this run began/),
    ])
    await send(wren, [second]).expect(200)
    await send(wren, [first]).expect(200)
    const { body } = await wren.get(`/api/runs/${run}`).expect(200)
    expect((body as { events: StoredEvent[] }).events.map((e) => e.outOfOrder).slice(1)).toEqual([
      false,
      true,
    ])
  })
  test('the same holds for what belongs to no run', async () => {
    const diagnosis = (at: string) =>
      wren.post('/api/loops/PT-202/diagnoses').send({
        id: randomUUID(),
        at,
        revision: 1,
        levels: [{ values: { MA: 12 }, dir: 1 }],
        U: {},
        says: ['x'],
      })
    for (const at of ['0001-01-01T00:00:00Z', '2090-01-01T00:00:00Z'])
      expect(problem((await diagnosis(at)).body)?.path).toBe('at')
    await diagnosis('2026-11-27T11:00:00Z').expect(201)
  })
})

describe('whose it is', () => {
  test('an event of another person is not recorded under this session’s name', async () => {
    const run = randomUUID()
    const at = '2026-11-23T12:00:00Z'
    const res = await send(dunlin, [one(run, it.begin(), at, { by: ids.get('wren') })])
    expect([res.status, res.body.type, problem(res.body)?.path]).toEqual([
      403,
      'urn:calm-loop:another-person',
      'events.0.by',
    ])
    await wren.get(`/api/runs/${run}`).expect(404)
    await send(wren, [one(run, it.begin(), at, { by: ids.get('wren') })]).expect(200)
  })
  test('the same event by another person, at another loop, with another time: told as what it is', async () => {
    const run = randomUUID()
    const [start] = events(run, it.begin())
    await send(wren, [start]).expect(200)
    expect((await send(wren, [start]).expect(200)).body).toEqual({ accepted: 0 })
    expect((await send(dunlin, [start])).body.title).toMatch(/recorded by Wren.* already/)
    expect((await send(wren, [start], 'PT-103')).body.title).toMatch(/record of PT-202 already/)
    // A second press has its own time; the first one stands.
    expect((await send(wren, [{ ...start, at: '2026-11-23T23:00:00Z' }]).expect(200)).body).toEqual({
      accepted: 0,
    })
    const body = it.begin([])
    expect((await send(wren, [{ ...start, body }])).body.title).toMatch(/other contents/)
  })
})

describe('what cannot be signed', () => {
  const upTo = async (bodies: RunEventBody[], start: RunEventBody = it.begin()) => {
    const run = randomUUID()
    await send(wren, events(run, start, ...bodies)).expect(200)
    return run
  }
  const refused = async (run: string, body: RunEventBody = sign('technician'), who = wren) => {
    const res = await send(who, events(run, body))
    expect(res.status).toBeGreaterThanOrEqual(400)
    return (problem(res.body)?.says ?? res.body.title) as string
  }
  test('a record without instruments; named later it can be', async () => {
    const run = await upTo([read(0, 0), close, asLeft], it.begin([]))
    expect(await refused(run)).toMatch(/No instrument is named/)
    const named: RunEventBody = {
      type: 'equipment.named',
      payload: { equipment: [it.equipment.get(PUMP) ?? ''] },
    }
    await send(wren, events(run, named, sign('technician'))).expect(200)
    expect(await refused(run, named)).toMatch(/signed: its instruments stand/)
  })
  test('850 % of the range, unless somebody looked again and says so', async () => {
    const far = read(1, 722.5)
    const run = await upTo([read(0, 0), far, close, asLeft])
    expect(await refused(run)).toMatch(/As found, point 2: 722\.5 bar.*far outside.*confirm/s)
    const confirm: RunEventBody = {
      type: 'reading.confirmed',
      payload: { phase: 'asFound', index: 1, columns: ['applied', 'loopCurrent_mA', 'controller'] },
    }
    await send(wren, events(run, confirm, sign('technician'))).expect(200)
    // Typed anew, it is a new value that nobody has looked at again.
    const again = await upTo([read(0, 0), far, confirm, far, close, asLeft])
    expect(await refused(again)).toMatch(/point 2/)
  })
  test('a minus sign of the meter’s leads', async () => {
    const swapped = read(1, 42.5)
    if (swapped.type === 'reading.recorded')
      swapped.payload.values.loopCurrent_mA = { value: -12, typed: '-12' }
    expect(await refused(await upTo([read(0, 0), swapped, close, asLeft]))).toMatch(/leads are swapped/)
  })
  test('an instrument whose certificate had ended, whatever day the client says it was', async () => {
    const bench = 'GS-MM-007'
    const run = randomUUID()
    const back = (i: number) => new Date(Date.parse('2026-10-01T08:00:00Z') + i * 60_000).toISOString()
    const list = [it.begin([bench]), read(0, 0), close, asLeft].map((body, i) => one(run, body, back(i)))
    Object.assign(list[0]?.body.payload ?? {}, { revision: 1 })
    await send(wren, list).expect(200)
    const res = await send(wren, [one(run, sign('technician'), back(9))])
    expect([res.status, res.body.title]).toEqual([
      409,
      expect.stringMatching(/no valid certificate on 2026-11-27: it ended on 2026-10-30/),
    ])
  })
  test('an empty statement', async () => {
    const run = await upTo([read(0, 0), close, asLeft])
    const res = await send(wren, events(run, sign('technician', '   ')))
    expect([res.status, problem(res.body)?.path]).toEqual([422, 'events.0.body.payload.statement'])
  })
  test('twice: the second technician is told that it is signed, the reviewer that it is reviewed', async () => {
    const run = await upTo([read(0, 0), close, asLeft, sign('technician')])
    expect(await refused(run, sign('technician'), dunlin)).toMatch(/signed already/)
    await send(heron, events(run, sign('reviewer', 'Checked.'))).expect(200)
    expect(await refused(run, sign('reviewer', 'Again.'), heron)).toMatch(/signed and reviewed already/)
  })
})
