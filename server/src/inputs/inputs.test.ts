import { randomUUID } from 'node:crypto'
import type { InputVerified, LiveInput } from '@calm/contract/inputs'
import type { LoopDetail } from '@calm/contract/loops'
import type { StoredEvent } from '@calm/contract/events'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { testApp } from '../test/app.ts'

let app: Awaited<ReturnType<typeof testApp>>
let wren: TestAgent
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
})
afterAll(() => app.stop())
const look = async (seconds: number) =>
  (await wren.get(`/api/loops/ZS-306/input?seconds=${seconds}`).expect(200)).body as LiveInput
const AT = '2026-11-26T10:00:00.000Z'
const verification = (more: object = {}) => ({
  id: randomUUID(),
  at: AT,
  revision: 1,
  forced: { whileSensing: 1, whileNot: 0, contact: 'no' },
  counted: null,
  points: null,
  ...more,
})
const send = (body: object, tag = 'ZS-306') => wren.post(`/api/loops/${tag}/input/verifications`).send(body)
const loop = async () => (await wren.get('/api/loops/ZS-306').expect(200)).body as LoopDetail

describe('a discrete input', () => {
  test('goes on by itself, with bounces, the same for every window', async () => {
    const a = await look(600)
    const b = await look(600)
    expect(a.edges.length).toBeGreaterThan(60)
    const common = (l: LiveInput) => l.edges.filter((e) => e.t > b.from_s && e.t < a.t_s)
    expect(common(b)).toEqual(common(a))
    expect(a.edges.at(-1)?.level ?? false).toBe(a.level)
  })
  test('counted and forced both ways it is in the record once, and the loop is verified', async () => {
    const live = await look(3600)
    const counted = {
      from_s: live.from_s,
      to_s: live.t_s,
      filter_ms: 10,
      ideal_s: 10,
      least_s: 8,
      most_s: 15,
      planned_s: null,
      good: null,
    }
    const body = verification({ counted })
    const told = (await Promise.all([send(body), send(body)])).map(
      (r) => [r.status, r.body as InputVerified] as const,
    )
    expect(told.map(([s]) => s)).toEqual([201, 201])
    expect(told[0]?.[1].count).toBeGreaterThan(250)
    expect(told[0]?.[1].passes).toBe(true)
    const events = (await wren.get('/api/loops/ZS-306/events').expect(200)).body as StoredEvent[]
    expect(events.filter((e) => e.type === 'input.verified')).toHaveLength(1)
    expect(await loop()).toMatchObject({
      summary: { parts: { verify: 'good' } },
      lastCalibrated: '2026-11-26',
    })
    const unfiltered = await send(verification({ counted: { ...counted, filter_ms: 0 } })).expect(201)
    expect((unfiltered.body as InputVerified).passes).toBe(false)
    expect((await loop()).summary.parts.verify).toBe('stop')
  })
  const wrong: readonly [string, object, string][] = [
    [
      'a window that ends before it begins',
      {
        counted: {
          from_s: 5,
          to_s: 4,
          filter_ms: 1,
          ideal_s: 1,
          least_s: 0,
          most_s: 2,
          planned_s: null,
          good: null,
        },
      },
      'counted.to_s',
    ],
    [
      'no trip at all',
      {
        points: {
          setpoint: 1,
          unit: 'bar',
          rate: 0.1,
          latency_s: 0,
          trips: [],
          resets: [],
          T: 1,
          deadbandLimits: [0, 1],
        },
      },
      'points.trips',
    ],
    ['a bit of 2', { forced: { whileSensing: 2, whileNot: 0, contact: 'no' } }, 'forced.whileSensing'],
  ]
  test.each(wrong)('%s is told with its path', async (_why, more, path) => {
    const { body } = await send(verification(more)).expect(422)
    expect((body as { errors: { path: string }[] }).errors.map((e) => e.path)).toContain(path)
  })
  test('a loop that measures has no input, and a viewer records nothing', async () => {
    await wren.get('/api/loops/PT-202/input').expect(409)
    const tern = await app.as('tern')
    await tern.post('/api/loops/ZS-306/input/verifications').send(verification()).expect(403)
  })
})
