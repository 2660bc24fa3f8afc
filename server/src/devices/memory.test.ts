import { randomUUID } from 'node:crypto'
import type { StoredEvent } from '@calm/contract/events'
import type { SettingsReadBack } from '@calm/contract/read-back'
import type { DeviceAnswer, DeviceMemory, DeviceOrder, DeviceView, LinkTest } from '@calm/contract/devices'
import { settingsReadBack } from '@calm/core/record/kinds/settings-read-back'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { testApp, testClock } from '../test/app.ts'

let app: Awaited<ReturnType<typeof testApp>>
let wren: TestAgent
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
})
afterAll(() => app.stop())

const order = (loop: string, command: DeviceOrder['command'], id: string = randomUUID()) =>
  wren.post(`/api/loops/${loop}/device/commands`).send({ id, command })
const ask = async (loop: string, command: DeviceOrder['command']) =>
  (await order(loop, command).expect(200)).body as DeviceAnswer
const open = async (loop: string) => {
  await ask(loop, { kind: 'connect', port: 'A' })
  await ask(loop, { kind: 'unlock', passcode: '2580' })
}
const look = async (loop: string) =>
  (await wren.get(`/api/loops/${loop}/device`).expect(200)).body as DeviceView
const memory = async (loop: string) =>
  (await wren.get(`/api/loops/${loop}/device/memory`).expect(200)).body as DeviceMemory
const later = (ms: number) => new Promise((done) => setTimeout(done, ms))

describe('what a device holds, against its sheet', () => {
  test('it was set up by the sheet of its loop; one line keyed in otherwise is told, recorded once, and gone unstored', async () => {
    await wren.get('/api/loops/FT-101/device/memory').expect(409)
    await wren
      .post('/api/loops/FT-101/device/memory')
      .send({ id: randomUUID(), at: testClock().toISOString() })
      .expect(409)
    await open('FT-101')
    const whole = await memory('FT-101')
    expect(whole.length).toBeGreaterThan(10)
    expect(whole.filter((l) => !l.same)).toEqual([])
    const line = whole.find((l) => /^Pipe wall$/.test(l.says))
    if (!line) throw new Error(whole.map((l) => l.says).join())
    const id = randomUUID()
    for (let sent = 0; sent < 2; sent++)
      await order('FT-101', { kind: 'keyIn', lines: { [line.says]: '7.11 mm' } }, id).expect(200)
    expect((await memory('FT-101')).filter((l) => !l.same)).toMatchObject([
      { says: line.says, holds: '7.11 mm' },
    ])
    const kept = (await wren.get('/api/loops/FT-101/configurations').expect(200)).body as {
      id: string
      note: string
      byName: string
    }[]
    expect(kept.filter((k) => k.id === id)).toMatchObject([
      { note: `Keyed in: ${line.says} 7.11 mm.`, byName: 'Wren (technician)' },
    ])
    // What stands there now goes into the record as read back, once, and marked as read over a simulated link.
    const back = { id: randomUUID(), at: testClock().toISOString() }
    for (let sent = 0; sent < 2; sent++) {
      const res = await wren.post('/api/loops/FT-101/device/memory').send(back).expect(201)
      const told = res.body as SettingsReadBack
      expect(told).toMatchObject({ link: 'simulated', left: 0 })
      expect(told.lines.filter((l) => !l.same)).toMatchObject([{ says: line.says, read: '7.11 mm' }])
    }
    const events = (await wren.get('/api/loops/FT-101/events').expect(200)).body as StoredEvent[]
    const record = events.filter((e) => e.type === 'settings.readBack')
    expect(record.map((e) => e.id)).toEqual([back.id])
    expect(settingsReadBack.says(settingsReadBack.payload.parse(record[0]?.payload))).toMatch(
      /1 differs\.[^]*Read over the link of the stand-in, simulated\./,
    )
    const tern = await app.as('tern')
    await tern
      .post('/api/loops/FT-101/device/memory')
      .send({ ...back, id: randomUUID() })
      .expect(403)
    await ask('FT-101', { kind: 'power', on: false })
    await ask('FT-101', { kind: 'power', on: true })
    await open('FT-101')
    expect((await memory('FT-101')).filter((l) => !l.same)).toEqual([])
  })
  test('FT-403 lost its memory: it measures nothing and names the lines of its plate', async () => {
    await open('FT-403')
    const lost = (await memory('FT-403')).filter((l) => l.vital)
    expect(lost).toHaveLength(3)
    expect(lost.every((l) => l.holds === null && !l.same)).toBe(true)
    const view = await look('FT-403')
    expect(view.alerts.join()).toMatch(/memory is lost/)
    expect(view.samples.at(-1)?.PV).toBe(0)
    const lines = Object.fromEntries(lost.map((l) => [l.says, l.sheet ?? '']))
    expect((await ask('FT-403', { kind: 'keyIn', lines })).ok).toBe(true)
    expect((await look('FT-403')).alerts.join()).not.toMatch(/memory is lost/)
    // What is lost with it is still to be keyed in.
    expect((await memory('FT-403')).filter((l) => !l.same).map((l) => l.says)).toContain('Totalizer 1')
  })
  test('a constant that it measures by is not changed under the verdict that was given with it', async () => {
    await open('FT-206')
    const held = (await memory('FT-206')).find(
      (l) => /^\d[\d.]+$/.test(l.holds ?? '') && l.part === 'Characterization',
    )
    if (!held?.holds) throw new Error('no constant')
    const other = await ask('FT-206', { kind: 'keyIn', lines: { [held.says]: `1${held.holds}` } })
    expect(other).toMatchObject({ ok: false })
    expect(other.says).toMatch(/a constant that it measures by/)
    expect((await memory('FT-206')).find((l) => l.says === held.says)?.holds).toBe(held.holds)
    expect((await ask('FT-206', { kind: 'keyIn', lines: { [held.says]: held.holds } })).ok).toBe(true)
  })
  test('what is too long, or has no name, is refused with its path', async () => {
    const res = await order('FT-101', { kind: 'keyIn', lines: { Wall: 'x'.repeat(300) } }).expect(422)
    expect((res.body as { errors: { path: string }[] }).errors[0]?.path).toBe('command.lines.Wall')
  })
})

describe('the way to a device', () => {
  test('ports as they are now; the test says which part is silent', async () => {
    expect((await wren.get('/api/loops/PT-103/device/ports').expect(200)).body).toEqual([
      { name: 'A', adaptor: true },
      { name: 'B', adaptor: false },
      { name: 'C', adaptor: false },
    ])
    await ask('PT-103', { kind: 'replug', port: 'C' })
    const { body } = await wren.get('/api/loops/PT-103/device/link?port=A').expect(200)
    expect((body as LinkTest)[0]).toMatchObject({ part: 'Port A', answers: false })
    expect((body as LinkTest)[3]?.answers).toBeNull()
    await ask('PT-103', { kind: 'replug', port: 'A' })
    await wren.get('/api/loops/PT-103/device/link').expect(422)
  })
})

describe('files of a device', () => {
  test('its readings: estimated, fetched, given up, gone on with, and marked as simulated', async () => {
    await open('FT-206')
    await wren.get('/api/loops/FT-206/device/history.csv').expect(409)
    await ask('FT-206', { kind: 'speed', factor: 60 })
    expect((await ask('FT-206', { kind: 'history', every_s: 1, hours: 24 })).says).toMatch(/last 2 hours/)
    expect((await ask('FT-206', { kind: 'history', every_s: 60, hours: 24 })).says).toMatch(/1440 readings/)
    await later(100)
    await ask('FT-206', { kind: 'cancel' })
    const part = (await look('FT-206')).download
    expect(part?.got).toBeGreaterThan(0)
    expect(part?.got).toBeLessThan(1440)
    await ask('FT-206', { kind: 'resume' })
    await expect.poll(async () => (await look('FT-206')).download?.got, { timeout: 5000 }).toBe(1440)
    const { text } = await wren.get('/api/loops/FT-206/device/history.csv').expect(200)
    const rows = text.trim().split('\r\n')
    expect(rows).toHaveLength(1441)
    expect(rows[0]).toMatch(/^time,FT-206 \[.+\],.*source$/)
    expect(rows.slice(1).every((r) => r.endsWith(',simulated'))).toBe(true)
    const times = rows.slice(1).map((r) => Date.parse(r.split(',', 1)[0] ?? ''))
    expect(times.slice(1).every((t, i) => t - (times[i] ?? 0) === 60_000)).toBe(true)
  })
  test('its audit and its alarm list, with times', async () => {
    await ask('PT-103', { kind: 'source', mA: 12 })
    await ask('PT-103', { kind: 'source', mA: null })
    const audit = (await wren.get('/api/loops/PT-103/device/service.csv?file=audit').expect(200)).text
    expect(audit).toMatch(/The calibrator gives 12 mA.*,simulated/)
    const alarms = (await wren.get('/api/loops/PT-103/device/service.csv?file=alarms').expect(200)).text
    expect(alarms).toMatch(/Z,2\d{3}-.*Z,.*calibrator gives 12 mA/)
    await wren.get('/api/loops/PT-103/device/service.csv?file=log').expect(422)
  })
})
