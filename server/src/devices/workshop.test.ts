import { randomUUID } from 'node:crypto'
import type { DeviceAnswer } from '@calm/contract/devices'
import type { Sensor, SensorRevision } from '@calm/contract/sensors'
import type { Workshop, WorkshopAnswer } from '@calm/contract/workshop'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { loadDemoPlant } from '../demo/load.ts'
import { testApp, testClock } from '../test/app.ts'

/** Time goes on by itself, and by as much as somebody waits. */
let waited_ms = 0
const now = () => new Date(testClock().getTime() + waited_ms)
const wait = (s: number) => (waited_ms += 1000 * s)
let app: Awaited<ReturnType<typeof testApp>>
let wren: TestAgent
beforeAll(async () => {
  app = await testApp({ clock: now })
  wren = await app.as('wren')
})
afterAll(() => app.stop())

const sensors = async () => (await wren.get('/api/sensors').expect(200)).body as Sensor[]
const onLink = async () => {
  const all = (await sensors()).filter((s) => s.linked)
  const [first, second] = all
  if (!first || !second) throw new Error('two pH sensors of the demo plant hang on the link')
  return [first, second] as const
}
const look = async (s: Sensor) => (await wren.get(`/api/sensors/${s.id}/device`).expect(200)).body as Workshop
const ask = async (s: Sensor, command: object) =>
  (await wren.post(`/api/sensors/${s.id}/device/commands`).send({ id: randomUUID(), command }).expect(200))
    .body as DeviceAnswer
const act = async (s: Sensor, what: object, id = randomUUID(), agent = wren) =>
  (await agent.post(`/api/sensors/${s.id}/device/beakers`).send({ id, act: what }).expect(200))
    .body as WorkshopAnswer
const connect = async (s: Sensor) => {
  await ask(s, { kind: 'connect', port: 'A' })
  await ask(s, { kind: 'unlock', passcode: '2580' })
}
/** Into a bottle, and as long as it asks for there. */
async function into(s: Sensor, pH: number, wait_s = 40) {
  await ask(s, { kind: 'apply', value: pH })
  wait(wait_s)
}
async function taken(s: Sensor, buffer: number) {
  await into(s, buffer)
  return act(s, { kind: 'take', buffer })
}

describe('a pH sensor on the link of the workshop, without a loop', () => {
  test('two bottles, written, read back, checked: its data have offset, slope and the day, once', async () => {
    const [s] = await onLink()
    await connect(s)
    expect((await taken(s, 7)).workshop.beakers).toHaveLength(1)
    expect((await taken(s, 4)).workshop.beakers).toHaveLength(2)
    const written = await act(s, { kind: 'write' })
    expect([written.ok, written.workshop.written, written.workshop.device.stored]).toEqual([true, true, true])
    await into(s, 7)
    const id = randomUUID()
    const checked = await act(s, { kind: 'check', buffer: 7 }, id)
    expect(checked.says).toMatch(/^Offset .* slope .*As left it shows .*within ±0.05/)
    expect((await act(s, { kind: 'check', buffer: 7 }, id)).says).toBe('Done already.')
    const after = (await sensors()).find((x) => x.id === s.id)
    expect(after).toMatchObject({ revision: s.revision + 1, by: 'Wren (technician)' })
    expect(after?.description.state).toBe('shelf')
    expect(after?.description.certifiedOn).toBe(now().toISOString().slice(0, 10))
    const past = (await wren.get(`/api/sensors/${s.id}/revisions`).expect(200)).body as SensorRevision[]
    expect(past[0]?.reason).toMatch(/^Calibrated over the link of the stand-in \(simulated\)/)
    expect((await look(s)).beakers).toEqual([])
  })
  test('hasty hands, the wrong bottle, the same one twice: told, and nothing is taken', async () => {
    const [, s] = await onLink()
    expect((await act(s, { kind: 'take', buffer: 7 })).says).toBe('No link: connect first.')
    await connect(s)
    expect((await act(s, { kind: 'take', buffer: 7 })).says).toMatch(/stands in no bottle/)
    await into(s, 7, 4)
    expect((await act(s, { kind: 'take', buffer: 7 })).says).toMatch(/Waits for 10 s in this bottle/)
    wait(40)
    expect((await act(s, { kind: 'take', buffer: 4.01 })).says).toMatch(/it is near pH/)
    expect((await act(s, { kind: 'take', buffer: 5.5 })).says).toMatch(/not a buffer of the set/)
    expect((await act(s, { kind: 'write' })).says).toBe('Take a bottle first.')
    expect((await act(s, { kind: 'take', buffer: 7 })).ok).toBe(true)
    expect((await act(s, { kind: 'take', buffer: 7 })).says).toMatch(/closer than pH/)
    expect((await act(s, { kind: 'check', buffer: 7 })).says).toMatch(/Nothing is written/)
    expect((await look(s)).beakers).toHaveLength(1)
  })
  test('locked it is not written into; adjusted past the bench it is not either', async () => {
    const [, s] = await onLink()
    await act(s, { kind: 'again' })
    await connect(s)
    await taken(s, 7)
    await ask(s, { kind: 'lock' })
    expect((await act(s, { kind: 'write' })).says).toMatch(/locked: unlock it/)
    expect((await look(s)).written).toBe(false)
    const past = await ask(s, { kind: 'adjust', adjustment: { kind: 'zeroTrim' } })
    expect([past.ok, past.says]).toEqual([false, expect.stringMatching(/step of a procedure/)])
  })
  test('written and found bad in a bottle: what was found is put back, its data stay', async () => {
    const [, s] = await onLink()
    await act(s, { kind: 'again' })
    await connect(s)
    await taken(s, 7)
    await taken(s, 4)
    const before = (await sensors()).find((x) => x.id === s.id)
    expect((await act(s, { kind: 'write' })).ok).toBe(true)
    await into(s, 10)
    // The bottle in hand is said to be another one.
    const bad = await act(s, { kind: 'check', buffer: 9.18 })
    expect([bad.ok, bad.workshop.written]).toEqual([false, false])
    expect(bad.says).toMatch(/more than 0.05 off.*put back into the sensor/)
    expect((await sensors()).find((x) => x.id === s.id)?.revision).toBe(before?.revision)
  })
  test('a demo plant that was loaded before they hung there gets them at the next start, and nobody else does', async () => {
    const own = randomUUID()
    const [first] = await onLink()
    await wren
      .put(`/api/sensors/${own}`)
      .send({
        base: 0,
        description: { ...first.description, values: { serial: 'E-7001' } },
        reason: 'bought',
      })
      .expect(200)
    await app.tamper('delete from sensor_stand_ins')
    expect((await sensors()).filter((s) => s.linked)).toEqual([])
    expect(await loadDemoPlant(app.connection.db)).toBe(false)
    const linked = (await sensors()).filter((s) => s.linked).map((s) => s.id)
    expect(linked).toHaveLength(2)
    expect(linked).not.toContain(own)
  })
  test('ports and the way to it, part by part; a real sensor has no stand-in; a viewer looks', async () => {
    const [s] = await onLink()
    const ports = (await wren.get(`/api/sensors/${s.id}/device/ports`).expect(200)).body as object[]
    expect(ports).toContainEqual({ name: 'A', adaptor: true })
    const way = (await wren.get(`/api/sensors/${s.id}/device/link?port=C`).expect(200)).body as object[]
    expect(way[0]).toMatchObject({ part: 'Port C', answers: false })
    const real = (await sensors()).find((x) => !x.linked)
    const answer = await wren.get(`/api/sensors/${real?.id ?? ''}/device`).expect(409)
    expect((answer.body as { title: string }).title).toMatch(/a real one/)
    const tern = await app.as('tern')
    await tern.get(`/api/sensors/${s.id}/device`).expect(200)
    await tern
      .post(`/api/sensors/${s.id}/device/beakers`)
      .send({ id: randomUUID(), act: { kind: 'again' } })
      .expect(403)
    const wrong = await wren
      .post(`/api/sensors/${s.id}/device/beakers`)
      .send({ id: randomUUID(), act: { kind: 'take', buffer: 20 } })
      .expect(422)
    expect((wrong.body as { errors: object[] }).errors).toEqual([
      { path: 'act.buffer', says: 'At most pH 14.' },
    ])
  })
})
