import { wordsOf } from '../test/words-of.ts'
import type { Equipment } from '@calm/contract/equipment'
import { randomUUID } from 'node:crypto'
import { lookedOf } from '@calm/contract/device-looked'
import type { DeviceAnswer, DeviceOrder, DeviceView } from '@calm/contract/devices'
import type { RunInfo, StoredEvent } from '@calm/contract/events'
import type { LoopDetail, LoopRow } from '@calm/contract/loops'
import { contextOf } from '@calm/core/loop/procedure-context'
import { adviceFor } from '@calm/core/procedure/advice'
import { carefulAnswer } from '@calm/core/procedure/careful-answer'
import { outcomeOf } from '@calm/core/procedure/closing'
import { foldProcedure, gatesAt } from '@calm/core/procedure/engine'
import { RULES, type ProcedureEventBody } from '@calm/core/procedure/events'
import type { ProcedureRun } from '@calm/core/procedure/run'
import { USUAL_GATES } from '@calm/core/procedure/gate-numbers'
import { knownTo } from '@calm/core/procedure/known-to'
import { seenOf } from '@calm/core/procedure/seen'
import { readEquipment } from '@calm/core/verify/equipment-spec'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { testApp, testClock } from '../test/app.ts'

const LOOP = 'PT-405'
const TIMES = 60
let app: Awaited<ReturnType<typeof testApp>>
let wren: TestAgent
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
})
afterAll(() => app.stop())

const ask = async (command: DeviceOrder['command']) =>
  (await wren.post(`/api/loops/${LOOP}/device/commands`).send({ id: randomUUID(), command }).expect(200))
    .body as DeviceAnswer
const look = async () => (await wren.get(`/api/loops/${LOOP}/device`).expect(200)).body as DeviceView
const send = (run: string, body: ProcedureEventBody, id: string = randomUUID()) =>
  wren.post(`/api/loops/${LOOP}/events`).send({
    events: [{ id, runId: run, at: testClock().toISOString(), body }],
  })
async function told(run: string): Promise<ProcedureRun> {
  const { body } = await wren.get(`/api/runs/${run}`).expect(200)
  const folded = foldProcedure(
    (body as { events: StoredEvent[] }).events.map((e) => ({
      body: { type: e.type, payload: e.payload } as ProcedureEventBody,
      by: e.by,
      at: e.at,
    })),
  )
  if (!folded) throw new Error('no run')
  return folded
}
async function begun(procedure: string): Promise<string> {
  const loop = (await wren.get(`/api/loops/${LOOP}`).expect(200)).body as LoopDetail
  const context = contextOf(loop.document)
  if (!context) throw new Error('no range')
  const id = randomUUID()
  await send(id, {
    type: 'procedure.started',
    payload: { procedure, revision: loop.revision, context, withDevice: true, equipment: [], rules: RULES },
  }).expect(200)
  return id
}
/** What a window would send now: what the device shows, and what it saw. */
async function answer(run: ProcedureRun): Promise<{ body: ProcedureEventBody; shut: number }> {
  const step = run.left[0]
  if (!step) throw new Error('no step')
  const seen = seenOf(lookedOf(await look(), run.started))
  const shows = {
    pv: seen?.pv ?? 0,
    mA: seen?.mA ?? 0,
    applied: seen?.standard ?? 0,
    measured: seen?.mA ?? 0,
  }
  const choice = step.judged ? (adviceFor(run)?.choice ?? null) : undefined
  const body = carefulAnswer(
    step,
    shows,
    {
      ...(choice === undefined ? {} : { choice }),
      ...(seen && (step.gates ?? []).length > 0 ? { seen } : {}),
    },
    testClock().toISOString(),
    'once',
  )
  if (body.type !== 'procedure.step') throw new Error('no step')
  const { payload } = body
  const gates = gatesAt(run, step, payload, testClock().toISOString())
  return { body: { type: 'procedure.step', payload }, shut: gates.filter((g) => !g.holds).length }
}
/** Does steps with patience until one with this identifier is next, or to the end. */
async function until(run: string, id: string | null): Promise<ProcedureRun> {
  for (let i = 0; i < 80; i++) {
    const here = await told(run)
    if (!here.left[0] || here.left[0].id === id) return here
    await expect.poll(async () => (await answer(here)).shut, { timeout: 10_000, interval: 100 }).toBe(0)
    await send(run, (await answer(here)).body).expect(200)
  }
  throw new Error('no end')
}

describe('a step at a device and its event are one act', () => {
  beforeAll(async () => {
    await ask({ kind: 'connect', port: 'A' })
    await ask({ kind: 'unlock', passcode: '2580' })
    await ask({ kind: 'speed', factor: TIMES })
  })
  test('a hasty hand is refused by the server, whatever the window says it saw', async () => {
    const run = await begun('sensor-trim')
    const at = await until(run, 'asFound-1-read')
    const honest = await answer(at)
    const step = honest.body.type === 'procedure.step' ? honest.body.payload : null
    if (!step?.seen) throw new Error('nothing seen')
    // Right after the pump was worked, with a window that claims a minute of rest.
    await ask({ kind: 'apply', value: 6 })
    const lies = { ...step, seen: { ...step.seen, window_s: 60, n: 240, pvSlope: 0, pvScatter: 0 } }
    const refused = await send(run, { type: 'procedure.step', payload: lies }).expect(409)
    const { title, errors } = refused.body as { title: string; errors: { path: string }[] }
    expect(title).toMatch(/Right input: waits for 0|Standing still: waits/)
    expect(errors[0]?.path).toBe('events.0.body')
    expect((await told(run)).done).toHaveLength(at.done.length)
    await send(run, { type: 'procedure.abortAsked', payload: { reason: 'enough' } }).expect(200)
    await until(run, null)
  })
  test('a trim is written once with its event, sent twice or by two windows; refused, nothing is changed', async () => {
    const run = await begun('sensor-trim')
    await until(run, 'decide')
    await send(run, {
      type: 'procedure.step',
      payload: {
        ...{ step: 'decide', ticks: 0, values: {}, choice: 'adjust', confirmed: false, confirmedBy: '' },
        note: 'to see it written',
      },
    }).expect(200)
    const at = await until(run, 'lower')
    await expect.poll(async () => (await answer(at)).shut, { timeout: 10_000, interval: 100 }).toBe(0)
    const trims = async () => (await look()).history.trims
    const before = await trims()
    const wrong = (await answer(at)).body
    if (wrong.type === 'procedure.step') wrong.payload.values['applied'] = 5
    await send(run, wrong).expect(409)
    expect(await trims()).toBe(before)
    const { body } = await answer(at)
    const id = randomUUID()
    const [one, two] = await Promise.all([send(run, body, id), send(run, body, id)])
    expect([one.status, two.status]).toEqual([200, 200])
    expect(await trims()).toBe(before + 1)
    // Locked meanwhile: the device says no, and the record holds nothing of it.
    await ask({ kind: 'lock' })
    const store = await told(run)
    const apply = await answer(store)
    await send(run, apply.body).expect(200)
    const upper = await told(run)
    await expect.poll(async () => (await answer(upper)).shut, { timeout: 10_000, interval: 100 }).toBe(0)
    const refused = await send(run, (await answer(upper)).body).expect(409)
    expect((refused.body as { title: string }).title).toMatch(/locked/)
    expect((await told(run)).done).toHaveLength(upper.done.length)
    await ask({ kind: 'unlock', passcode: '2580' })
    const end = await until(run, null)
    expect(end.state).toBe('done')
    const outcome = outcomeOf(end)
    expect(['adjusted', 'look', 'out']).toContain(outcome?.result)
    const runs = (await wren.get(`/api/loops/${LOOP}/runs`).expect(200)).body as RunInfo[]
    expect(runs.find((r) => r.id === run)?.verdict).toBe(outcome?.result)
    const pdf = await wren.get(`/api/runs/${run}/certificate.pdf`).expect(200)
    expect(pdf.headers['content-disposition']).toMatch(/PT-405-.*-procedure\.pdf/)
    expect((pdf.body as Buffer).subarray(0, 5).toString()).toBe('%PDF-')
    const list = (await wren.get('/api/loops').expect(200)).body as LoopRow[]
    const mark = list.find((l) => l.tag === LOOP)?.summary.parts.trim
    expect(mark).toBe({ adjusted: 'good', look: 'look', out: 'stop' }[outcome?.result as 'adjusted'])
  })
  test('typed work needs an instrument that covers it, or a reason', async () => {
    const loop = (await wren.get(`/api/loops/${LOOP}`).expect(200)).body as LoopDetail
    const context = contextOf(loop.document)
    if (!context) throw new Error('no range')
    const started = (more: object): ProcedureEventBody => ({
      type: 'procedure.started',
      payload: {
        ...{ procedure: 'loop-check', revision: loop.revision, context, withDevice: false, equipment: [] },
        rules: RULES,
        ...more,
      },
    })
    const refused = await send(randomUUID(), started({})).expect(422)
    const { errors } = refused.body as { errors: { path: string; says: string }[] }
    expect(errors[0]).toMatchObject({ path: 'events.0.body.payload.equipment' })
    expect(errors[0]?.says).toMatch(/Missing: a meter for the loop current, 4 to 20 mA/)
    await send(randomUUID(), started({ withoutInstrument: 'only to look' })).expect(200)
  })
  test('how well it knows the current is the register’s to say; gates that came later are not left out', async () => {
    const loop = (await wren.get(`/api/loops/${LOOP}`).expect(200)).body as LoopDetail
    const context = contextOf(loop.document)
    const register = (await wren.get('/api/equipment').expect(200)).body as Equipment[]
    const meter = register.find((e) => e.name === 'Loop calibrator, mA')
    if (!context || !meter) throw new Error('no range, or no meter')
    const read = readEquipment(meter)
    const known = knownTo(context, [
      { name: meter.name, functions: read.kind === 'read' ? read.functions : [] },
    ])
    expect(known?.current).toBeGreaterThan(0)
    const started = (more: object): ProcedureEventBody => ({
      type: 'procedure.started',
      payload: {
        ...{ procedure: 'loop-check', revision: loop.revision, context, withDevice: false },
        ...{ equipment: [meter.id], rules: RULES },
        ...more,
      },
    })
    const says = async (more: object) =>
      (
        (await send(randomUUID(), started(more)).expect(422)).body as {
          errors: { path: string; says: string }[]
        }
      ).errors[0]
    expect(await says({ knownTo: { current: 1 } })).toMatchObject({
      path: 'events.0.body.payload.knownTo.current',
      says: expect.stringMatching(/By the register it is .*, not 1\./) as string,
    })
    expect(await says({ knownTo: { applied: 0.01 } })).toMatchObject({
      says: 'None of the instruments named states an uncertainty for that.',
    })
    await send(randomUUID(), started({ ...(known ? { knownTo: known } : {}) })).expect(200)
  })
  test.each([
    ['FT-101', 'clamp-on-start-up', 2],
    ['AT-204', 'ph-buffers', 3],
    ['FT-203', 'gas-verification', 3],
  ])(
    '%s: a page of before that begins %s over the link by rules %i is told to reload',
    async (tag, procedure, rules) => {
      const loop = (await wren.get(`/api/loops/${tag}`).expect(200)).body as LoopDetail
      const begun = (by: number) =>
        wren.post(`/api/loops/${tag}/events`).send({
          events: [
            {
              id: randomUUID(),
              runId: randomUUID(),
              at: testClock().toISOString(),
              body: {
                type: 'procedure.started',
                payload: {
                  ...{ procedure, revision: loop.revision, withDevice: true },
                  ...{ context: contextOf(loop.document), equipment: [], rules: by },
                },
              },
            },
          ],
        })
      const { body } = await begun(rules).expect(422)
      expect((body as { errors: { says: string }[] }).errors[0]?.says).toMatch(
        /has gates now .* Reload the page/,
      )
      await begun(RULES).expect(200)
    },
  )
  test('what a reading has to be is decided by the plant: a page that knows an older decision is told', async () => {
    const plover = await app.as('plover')
    const decide = (gates: object) => plover.put('/api/plant/rules').send({ gates })
    const wrong = await decide({ still_s: 1, apart_s: 15, input_pct: 0.1 }).expect(422)
    expect((wrong.body as { errors: { path: string; says: string }[] }).errors[0]).toMatchObject({
      path: 'gates.still_s',
      says: 'At least 5 s.',
    })
    await wren.put('/api/plant/rules').send({ gates: USUAL_GATES }).expect(403)
    // An older page says three of them: the others stay as they were.
    await decide({ still_s: 10, apart_s: 60, input_pct: 0.1 }).expect(200)
    const loop = (await wren.get(`/api/loops/${LOOP}`).expect(200)).body as LoopDetail
    const context = contextOf(loop.document)
    if (!context) throw new Error('no range')
    const started = (more: object): ProcedureEventBody => ({
      type: 'procedure.started',
      payload: {
        ...{ procedure: 'loop-check', revision: loop.revision, context, withDevice: false, equipment: [] },
        ...{ withoutInstrument: 'only to look', rules: RULES },
        ...more,
      },
    })
    const refused = await send(randomUUID(), started({})).expect(422)
    expect((refused.body as { errors: object[] }).errors[0]).toMatchObject({
      path: 'events.0.body.payload.gates.apart_s',
      says: 'The plant asks for 60, not for 15. Reload the page.',
    })
    await send(randomUUID(), started({ gates: { ...USUAL_GATES, apart_s: 60 } })).expect(200)
    await decide(USUAL_GATES).expect(200)
  })
  test('its certificate ends while the work goes on: no reading by it, unless somebody says why', async () => {
    const loop = (await wren.get(`/api/loops/${LOOP}`).expect(200)).body as LoopDetail
    const context = contextOf(loop.document)
    const register = (await wren.get('/api/equipment').expect(200)).body as Equipment[]
    const meter = register.find((e) => e.name === 'Loop calibrator, mA')
    if (!context || !meter) throw new Error('no range, or no meter')
    const run = randomUUID()
    await send(run, {
      type: 'procedure.started',
      payload: {
        ...{ procedure: 'loop-check', revision: loop.revision, context, withDevice: false },
        ...{ equipment: [meter.id], rules: RULES },
      },
    }).expect(200)
    /** Steps as a careful technician answers them, up to one that has gates. */
    for (;;) {
      const now = await told(run)
      const [step] = now.left
      if (!step || (step.gates ?? []).length > 0) break
      await send(run, carefulAnswer(step, {})).expect(200)
    }
    const [step] = (await told(run)).left
    if (!step) throw new Error('no step')
    const values = { mA: 4.001, shown: context.receiver?.shows[0] ?? 0 }
    const body = (more: object): ProcedureEventBody => {
      const careful = carefulAnswer(step, values)
      if (careful.type !== 'procedure.step') throw new Error('no step')
      return { ...careful, payload: { ...careful.payload, values, ...more } }
    }
    const { id } = meter
    const words = wordsOf(meter)
    const due = (dueOn: string) =>
      wren
        .put(`/api/equipment/${id}`)
        .send({ ...words, dueOn, reason: 'typed wrong' })
        .expect(200)
    await due(new Date(testClock().getTime() - 86_400_000).toISOString().slice(0, 10))
    const refused = await send(run, body({})).expect(409)
    expect((refused.body as { title: string }).title).toMatch(
      /Instruments in date: waits for an instrument in date: the certificate of Loop calibrator, mA ended on/,
    )
    await send(run, body({ overruled: { gates: ['equipment', 'still'], reason: 'only to look' } })).expect(
      200,
    )
    await due(words.dueOn)
  })
})

describe('a pH sensor is written where it is: in the device, in the record, and in the plant’s own stock', () => {
  test('the sensor of the loop has its new offset, slope and day, once', async () => {
    const heron = await app.as('heron')
    const sensors = async () =>
      (await wren.get('/api/sensors').expect(200)).body as {
        id: string
        name: string
        revision: number
        description: { values: Record<string, number | string>; certifiedOn: string }
      }[]
    const sensor = (await sensors()).find((s) => s.name === 'E-3318')
    if (!sensor) throw new Error('no sensor')
    const loop = (await wren.get('/api/loops/AT-204').expect(200)).body as LoopDetail
    const document = {
      ...loop.document,
      setUp: { values: {}, ...loop.document.setUp, sensor: sensor.id },
    }
    await heron
      .put('/api/loops/AT-204/document')
      .send({ base: loop.revision, document, reason: 'its sensor' })
      .expect(200)
    const now = (await wren.get('/api/loops/AT-204').expect(200)).body as LoopDetail
    const context = contextOf(now.document)
    if (!context) throw new Error('no range')
    const run = randomUUID()
    let at = testClock().getTime()
    const post = async (body: ProcedureEventBody, id: string = randomUUID()) => {
      const event = { id, runId: run, at: new Date(at).toISOString(), body }
      const send = () => wren.post('/api/loops/AT-204/events').send({ events: [event] })
      await send().expect(200)
      await send().expect(200)
    }
    at -= 60 * 60_000
    await post({
      type: 'procedure.started',
      payload: {
        ...{ procedure: 'ph-buffers', revision: now.revision, context, withDevice: false, equipment: [] },
        rules: RULES,
      },
    })
    for (let i = 0; i < 30; i++) {
      const folded = foldProcedure(
        ((await wren.get(`/api/runs/${run}`).expect(200)).body as { events: StoredEvent[] }).events.map(
          (e) => ({
            body: { type: e.type, payload: e.payload } as ProcedureEventBody,
            by: e.by,
            at: e.at,
          }),
        ),
      )
      const step = folded?.left[0]
      if (!step) break
      at += 90_000
      const two = step.id === 'buffer-2'
      const reads = { buffer: two ? 4.005 : 7, mV: two ? 170 : -4, t: 25, pv: two ? 4.02 : 7.01 }
      await post(carefulAnswer(step, reads, {}, new Date(at).toISOString()))
    }
    const after = (await sensors()).find((s) => s.id === sensor.id)
    expect(after?.revision).toBe(sensor.revision + 1)
    expect(after?.description.values['offset_mV']).toBeCloseTo(-4, 1)
    expect(after?.description.values['slope_pct']).toBeCloseTo(98.2, 0)
    expect(after?.description.certifiedOn).toBe(new Date(at).toISOString().slice(0, 10))
    expect(String(after?.description.values['slopes']).split(' ')).toHaveLength(4)
  })
})
