import { randomUUID } from 'node:crypto'
import type { DeviceAnswer, DeviceBackup, DeviceOrder, DeviceView } from '@calm/contract/devices'
import type { RunInfo, StoredEvent } from '@calm/contract/events'
import type { LoopDetail } from '@calm/contract/loops'
import { contextOf } from '@calm/core/loop/procedure-context'
import type { DeviceCommand } from '@calm/core/device/command'
import { RULES, type ProcedureEventBody } from '@calm/core/procedure/events'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { testApp, testClock } from '../test/app.ts'
import { standInLink } from './store.ts'

let app: Awaited<ReturnType<typeof testApp>>
let wren: TestAgent
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
})
afterAll(() => app.stop())

const order = (loop: string, command: DeviceOrder['command'], id: string = randomUUID(), who = wren) =>
  who.post(`/api/loops/${loop}/device/commands`).send({ id, command })
const ask = async (loop: string, command: DeviceOrder['command']) =>
  (await order(loop, command).expect(200)).body as DeviceAnswer
const look = async (loop: string) =>
  (await wren.get(`/api/loops/${loop}/device`).expect(200)).body as DeviceView

describe('a device on its link', () => {
  test('wrong port, wrong passcode three times, then locked for a while', async () => {
    expect((await ask('PT-103', { kind: 'connect', port: 'C' })).says).toMatch(/look which port is new/)
    expect((await ask('PT-103', { kind: 'connect', port: 'A' })).ok).toBe(true)
    const tries = []
    for (const passcode of ['1', '2', '3', '2580'])
      tries.push(await ask('PT-103', { kind: 'unlock', passcode }))
    expect(tries.map((a) => a.ok)).toEqual([false, false, false, false])
    expect(tries[2]?.says).toMatch(/locked for 60 s/)
    expect(tries[3]?.says).toMatch(/s to wait/)
  })
  test('what is not stored is gone after a power cycle; the same command twice is done once', async () => {
    for (const command of [
      { kind: 'connect', port: 'A' },
      { kind: 'unlock', passcode: '2580' },
      { kind: 'write', settings: { damping_s: 3 } },
      { kind: 'applySettings' },
    ] as const)
      expect(await ask('PDT-201', command)).toMatchObject({ ok: true })
    expect((await look('PDT-201')).settingsWait).toBe('store')
    const id = randomUUID()
    const twice = await Promise.all([1, 2].map(() => order('PDT-201', { kind: 'power', on: false }, id)))
    expect(twice.map((r) => (r.body as DeviceAnswer).ok)).toEqual([true, true])
    await ask('PDT-201', { kind: 'power', on: true })
    await ask('PDT-201', { kind: 'connect', port: 'A' })
    expect((await look('PDT-201')).settings?.damping_s).toBe(0.8)
  })
  test('it never tells its hidden errors, and a loop that switches has none', async () => {
    expect(Object.keys(await look('PT-103'))).not.toContain('transmitter')
    await wren.get('/api/loops/LSH-104/device').expect(409)
  })
  test('wrong orders are told with their path; a viewer asks nothing', async () => {
    const res = await wren
      .post('/api/loops/PT-103/device/commands')
      .send({ id: randomUUID(), command: { kind: 'adjust', adjustment: { kind: 'fixCurrent', mA: 99 } } })
      .expect(422)
    const { errors } = res.body as { errors: { path: string }[] }
    expect(errors[0]?.path).toBe('command.adjustment.mA')
    const tern = await app.as('tern')
    await order('PT-103', { kind: 'store' }, randomUUID(), tern).expect(403)
  })
  test('a copy has no characterization; a backup of another sensor is told as such', async () => {
    const get = async (loop: string, kind: string) =>
      (await wren.get(`/api/loops/${loop}/device/backup?kind=${kind}`).expect(200)).body as DeviceBackup
    expect((await get('PDT-201', 'copy')).settings).not.toHaveProperty('characterization')
    const other = await get('PT-103', 'backup')
    expect(other.settings.characterization).toMatch(/^\d{6}$/)
    const { body } = await wren.post('/api/loops/PDT-201/device/differences').send(other).expect(200)
    expect(body).toMatchObject({ otherSensor: true })
    const same = await wren
      .post('/api/loops/PDT-201/device/differences')
      .send(await get('PDT-201', 'backup'))
      .expect(200)
    expect(same.body).toEqual({ otherSensor: false, changed: [] })
  })
})

describe('a procedure as a run', () => {
  let loop: LoopDetail
  beforeAll(async () => {
    loop = (await wren.get('/api/loops/PT-103').expect(200)).body as LoopDetail
  })
  const started = (): Extract<ProcedureEventBody, { type: 'procedure.started' }> => {
    const context = contextOf(loop.document)
    if (!context) throw new Error('no range')
    return {
      type: 'procedure.started',
      payload: {
        procedure: 'loop-check',
        revision: loop.revision,
        context,
        withDevice: false,
        equipment: [],
        rules: RULES,
        withoutInstrument: 'for the test',
      },
    }
  }
  const step = (id: string, ticks: number): ProcedureEventBody => ({
    type: 'procedure.step',
    payload: { step: id, ticks, values: {}, choice: null, confirmed: false, note: '', confirmedBy: '' },
  })
  const event = (runId: string, body: ProcedureEventBody, id: string = randomUUID()) => ({
    id,
    runId,
    at: '2026-11-25T10:00:00.000Z',
    body,
  })
  const send = (who: TestAgent, ...events: object[]) => who.post('/api/loops/PT-103/events').send({ events })

  test('steps in order, once each; another person takes it over; the way back ends it', async () => {
    const run = randomUUID()
    const first = event(run, started())
    await send(wren, first).expect(200)
    await send(wren, first).expect(200)
    await send(wren, event(run, step('manual', 1))).expect(409)
    const cautions = event(run, step('cautions', 2))
    await send(wren, cautions, event(run, step('notify', 0))).expect(200)
    await send(wren, cautions).expect(200)

    const dunlin = await app.as('dunlin')
    await send(dunlin, event(run, step('manual', 1))).expect(409)
    const events = (await wren.get(`/api/runs/${run}`).expect(200)).body as { events: StoredEvent[] }
    expect(events.events.map((e) => e.type)).toEqual([
      'procedure.started',
      'procedure.step',
      'procedure.step',
    ])
    const from = events.events[0]?.by ?? ''
    await send(dunlin, event(run, { type: 'procedure.takenOver', payload: { from } })).expect(200)
    await send(wren, event(run, step('manual', 1))).expect(409)
    await send(dunlin, event(run, { type: 'procedure.abortAsked', payload: { reason: 'storm' } })).expect(200)
    const runs = (await wren.get('/api/loops/PT-103/runs').expect(200)).body as RunInfo[]
    expect(runs.find((r) => r.id === run)).toMatchObject({ kind: 'procedure', procedure: 'loop-check' })
    expect(['aborting', 'aborted']).toContain(runs.find((r) => r.id === run)?.state)
    const { body: proof } = await wren.get('/api/loops/PT-103/chain').expect(200)
    expect(proof).toMatchObject({ kind: 'whole' })
  })
  test.each<[string, string, (p: ReturnType<typeof started>['payload']) => void]>([
    ['a range of its own', 'context', (p) => Object.assign(p.context.range, { high: 7 })],
    ['a tolerance of its own', 'context', (p) => Object.assign(p.context, { tolerance_pct: 5 })],
    ['an instrument nobody knows', 'equipment.0', (p) => void p.equipment.push(randomUUID())],
    ['an older revision', 'revision', (p) => void (p.revision = 1)],
  ])('%s is refused at its place: the server holds the loop', async (_why, path, change) => {
    const body = started()
    change(body.payload)
    const res = await send(wren, event(randomUUID(), body)).expect(422)
    expect((res.body as { errors: { path: string }[] }).errors[0]?.path).toBe(`events.0.body.payload.${path}`)
  })
  test('an event of a verification does not fit into a procedure', async () => {
    const run = randomUUID()
    await send(wren, event(run, started())).expect(200)
    await send(wren, {
      id: randomUUID(),
      runId: run,
      at: '2026-11-25T10:00:00.000Z',
      body: { type: 'left.asFound', payload: {} },
    }).expect(409)
  })
})

describe('what takes time, and what is kept', () => {
  const open = async (loop: string) => {
    await ask(loop, { kind: 'connect', port: 'A' })
    await ask(loop, { kind: 'unlock', passcode: '2580' })
  }
  /** As the step of a procedure gives it, together with its event. */
  const asStep = async (loop: string, command: DeviceCommand) => {
    const { db } = app.connection
    const { id } = (await wren.get(`/api/loops/${loop}`).expect(200)).body as LoopDetail
    const { answer } = await standInLink(db).askIn(
      db,
      id,
      { id: randomUUID(), command },
      testClock().getTime(),
    )
    expect(answer.ok).toBe(true)
  }
  test.each([
    { kind: 'adjust', adjustment: { kind: 'zeroTrim' } },
    { kind: 'revert' },
    { kind: 'markAsFound' },
    { kind: 'healthCheck', output: 'held' },
  ] as const)('$kind is a step of a procedure: asked for by itself it is refused', async (command) => {
    await open('PT-405')
    expect(await ask('PT-405', command)).toMatchObject({
      ok: false,
      says: 'This is a step of a procedure, so that it stands in the record: begin one.',
    })
  })
  test('each loop has a device of its family, with what it is applied with', async () => {
    const told = await Promise.all(['PT-202', 'AT-204', 'FT-206', 'TT-205', 'FT-402'].map(look))
    expect(told.map((d) => [d.family, d.tool])).toEqual([
      ['Pressure transmitter', 'Hand pump and gauge on the manifold'],
      ['pH transmitter', 'Buffer bottles'],
      ['Coriolis mass flow meter', 'Valves before and behind'],
      ['Temperature transmitter', 'Resistance decade, by the sensor’s table'],
      ['Thermal mass flow meter', 'Nitrogen bottle, regulator and nozzle'],
    ])
  })
  test('a health check goes on over a restart of everything but the database, and its first one stays the reference', async () => {
    await open('FT-206')
    expect((await ask('FT-206', { kind: 'speed', factor: 60 })).says).toMatch(/60 times/)
    const before = (await look('FT-206')).t_s
    await asStep('FT-206', { kind: 'healthCheck', output: 'held' })
    expect((await look('FT-206')).task).toMatchObject({ kind: 'healthCheck' })
    await expect.poll(async () => (await look('FT-206')).checks, { timeout: 15_000, interval: 500 }).toBe(1)
    const after = await look('FT-206')
    expect(after.t_s - before).toBeGreaterThan(239)
    expect(after.signals.every((s) => s.reference !== null && s.checked === s.reference)).toBe(true)
    await ask('FT-206', { kind: 'speed', factor: 1 })
    expect((await look('FT-206')).t_s - after.t_s).toBeLessThan(60)
  })
  test('a read is given up; an address of a neighbour is refused', async () => {
    await open('TT-205')
    await ask('TT-205', { kind: 'readAll' })
    expect((await ask('TT-205', { kind: 'cancel' })).ok).toBe(true)
    expect((await look('TT-205')).task).toBeNull()
    expect((await ask('TT-205', { kind: 'write', settings: { address: 1 } })).says).toMatch(/taken/)
  })
  test('a configuration is kept once, and told against device, documents and the last verification', async () => {
    const at = '2026-11-26T10:00:00.000Z'
    const keep = (id: string) => wren.post('/api/loops/PT-202/configurations').send({ id, at })
    const id = randomUUID()
    await keep(id).expect(409)
    await open('PT-202')
    expect((await Promise.all([keep(id), keep(id)])).map((r) => r.status)).toEqual([201, 201])
    const list = (await wren.get('/api/loops/PT-202/configurations').expect(200)).body as { id: string }[]
    expect(list.map((k) => k.id)).toEqual([id])
    await ask('PT-202', { kind: 'write', settings: { damping_s: 5 } })
    await ask('PT-202', { kind: 'applySettings' })
    const { body } = await wren.get(`/api/loops/PT-202/configurations/${id}/differences`).expect(200)
    expect((body as { device: unknown[] }).device).toEqual([{ key: 'damping_s', from: '0.8', to: '5' }])
    expect((body as { verification: unknown }).verification).toBeNull()
    await wren.get(`/api/loops/PT-202/configurations/${randomUUID()}/differences`).expect(404)
    const tern = await app.as('tern')
    await tern.post('/api/loops/PT-202/configurations').send({ id: randomUUID(), at }).expect(403)
  })
  test('as found is written back on the way back', async () => {
    await open('PT-405')
    await asStep('PT-405', { kind: 'markAsFound' })
    const before = (await look('PT-405')).range
    await asStep('PT-405', { kind: 'adjust', adjustment: { kind: 'range', LRV: 0, URV: 9 } })
    expect((await look('PT-405')).range).toEqual({ LRV: 0, URV: 9 })
    await asStep('PT-405', { kind: 'revert' })
    expect(await look('PT-405')).toMatchObject({ range: before, stored: true })
  })
})
