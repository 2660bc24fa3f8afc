import { randomUUID } from 'node:crypto'
import type { CircuitReadings } from '@calm/contract/circuit-readings'
import type { StoredEvent } from '@calm/contract/events'
import type { LoopDetail } from '@calm/contract/loops'
import { testPoints, testStates } from '@calm/core/wire/test-points'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { testApp } from '../test/app.ts'

let app: Awaited<ReturnType<typeof testApp>>
let wren: TestAgent
let points: { id: string; reads: number }[]
let state = ''
let instruments: { id: string; name: string; valid: boolean }[]
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
  const loop = (await wren.get('/api/loops/PT-202').expect(200)).body as LoopDetail
  const { wiring } = loop.document
  if (!wiring) throw new Error('PT-202 is not wired')
  const states = testStates(wiring).map((s) => s.title)
  const at = states.indexOf('12 mA')
  state = states[at] ?? ''
  points = testPoints(wiring).points.map((p) => ({ id: p.id, reads: parseFloat(p.readings[at] ?? '') }))
  instruments = (await wren.get('/api/equipment').expect(200)).body as typeof instruments
})
afterAll(() => app.stop())

const body = (change: object = {}) => ({
  id: randomUUID(),
  at: '2026-11-25T10:00:00.000Z',
  state,
  equipment: null,
  readings: points.map((p) => ({ id: p.id, value: p.reads })),
  ...change,
})
const send = (what: object, tag = 'PT-202') => wren.post(`/api/loops/${tag}/circuit-readings`).send(what)

describe('what was read at a loop’s test points', () => {
  test('is judged by the saved wiring and stands once in the record, with the instrument', async () => {
    const meter = instruments.find((e) => e.valid && e.name.startsWith('Loop calibrator'))
    const once = body({ equipment: meter?.id })
    const answers = await Promise.all([send(once), send(once)])
    expect(answers.map((a) => a.status)).toEqual([201, 201])
    const kept = answers[0].body as CircuitReadings
    expect(kept.says).toMatch(/All \d+ are as they should be/)
    expect(kept.instrument).toMatch(/^Loop calibrator, mA, /)
    const events = (await wren.get('/api/loops/PT-202/events').expect(200)).body as StoredEvent[]
    expect(events.filter((e) => e.type === 'circuit.read')).toHaveLength(1)
    expect((await wren.get('/api/loops/PT-202/chain').expect(200)).body).toMatchObject({ kind: 'whole' })
  })
  test('an open wire is told with what explains all of it', async () => {
    const readings = points.filter((p) => p.id.startsWith('wire ')).map((p) => ({ id: p.id, value: 0 }))
    const { body: kept } = (await send(body({ readings })).expect(201)) as { body: CircuitReadings }
    expect(kept.readings.every((r) => !r.fits)).toBe(true)
    expect(kept.says).toMatch(/0.00 mA for 12.00. \d+ things explain it/)
    expect(kept.causes.length).toBeGreaterThan(1)
  })
  test.each<[string, () => object, string, RegExp]>([
    ['a state that the loop has not', () => body({ state: 'full moon' }), 'state', /not read at/],
    [
      'a point that is not there',
      () => body({ readings: [{ id: 'X:a|X:b', value: 1 }] }),
      'readings.0.id',
      /no such test point/,
    ],
    ['nothing', () => body({ readings: [] }), 'readings', /one test point at least/],
    [
      'an instrument that nobody has',
      () => body({ equipment: randomUUID() }),
      'equipment',
      /no such instrument/,
    ],
    [
      'an instrument whose certificate has ended',
      () => body({ equipment: instruments.find((e) => !e.valid)?.id }),
      'equipment',
      /ended on/,
    ],
  ])('%s is refused at its place', async (_what, what, path, says) => {
    const { body: problem } = (await send(what()).expect(422)) as {
      body: { errors: { path: string; says: string }[] }
    }
    expect(problem.errors.find((e) => e.path === path)?.says).toMatch(says)
  })
  test('a loop that is not wired has nothing to read', async () => {
    await send(body(), 'TT-407').expect(409)
  })
})
