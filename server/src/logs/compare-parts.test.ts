import type { Log, LogComparison } from '@calm/contract/logs'
import { Generator } from '@calm/core/statistics/generator'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { testApp, type TestApp } from '../test/app.ts'
import { longLog } from '../test/long-log.ts'

let app: TestApp
let wren: TestAgent
const at = '/api/loops/FT-101/logs'
const START = Date.parse('2026-10-02T08:00:00Z')
/** A sample a second of one, and every half minute of the others, over twelve days. */
const ROWS = 1_050_000
const EVERY = 30
const DAY_S = 86_400

const g = new Generator(8)
const flow = (s: number) => 42 + 6 * Math.sin(s / 347) + 4 * Math.sin(s / 1119 + 1) + 3 * Math.sin(s / 4911)
const line = (s: number, x: number) =>
  `${new Date(START + s * 1000).toISOString().slice(0, 19).replace('T', ' ')};${x.toFixed(3)}`
const installed = (s: number) =>
  s >= 262_000 && s < 262_500 ? 42.5 : 1.02 * flow(s - 47) - 0.4 + 0.05 * g.normal()
const litres = (s: number) => (flow(s) + 0.05 * g.normal()) / 3.6

let long: Log
let portable: Log
const beside = (title: string, of: (s: number) => number, unit = 'm³/h') =>
  longLog(wren, at, {
    ...{ title, of: 'reference', head: `Time;Flow [${unit}]\n`, rows: ROWS / EVERY },
    line: (i) => line(i * EVERY, of(i * EVERY)),
  })

beforeAll(async () => {
  app = await testApp({ own: true })
  wren = await app.as('wren')
  const head = 'Time;Flow [m³/h]\n'
  long = await longLog(wren, at, {
    ...{ title: 'Twelve days', of: 'installed', head, rows: ROWS },
    line: (i) => line(i, installed(i)),
  })
}, 180_000)
afterAll(() => app.stop())

const compare = (other: Log, more = `from=${START}&to=${START + ROWS * 1000}`) =>
  wren.get(`${at}/${long.id}/comparison?channel=0&with=${other.id}&withChannel=0&maxLag=600&${more}`)

describe('a log of more than a million samples against another one', () => {
  test('in another unit: lag, line and what is left out are those of the whole', async () => {
    portable = await beside('Portable', litres, 'L/s')
    const told = (await compare(portable).expect(200)).body as LogComparison
    expect(told).toMatchObject({ ambiguous: null, unit: 'm3/h', clocks: null, step_ms: 30_000, parts: 4 })
    expect(told.lag_s).toBeCloseTo(47, 0)
    expect(told.gain).toBeCloseTo(1.02, 2)
    expect(told.offset).toBeCloseTo(-0.4, 1)
    expect(told.leftOut).toMatchObject([{ of: 'a', code: 'FROZEN', evidence: { samples: 500, value: 42.5 } }])
    // Neither what stood still nor what lies outside of both is a pair, and no pair is told twice.
    expect(told.n).toBeGreaterThan(ROWS / EVERY - 30)
    expect(told.n).toBeLessThan(ROWS / EVERY - 15)
    expect(told.plot.reduce((n, m) => n + m.n, 0)).toBe(told.n)
    expect(told.byStretch).not.toBeNull()
  }, 120_000)
  test('whose clock runs away is told so, and by how much a day', async () => {
    const apart = await beside('Its clock is slow', (s) => flow(s + (40 * s) / DAY_S) + 0.05 * g.normal())
    const { clocks, ...told } = (await compare(apart).expect(200)).body as LogComparison
    expect(clocks?.perDay_s).toBeCloseTo(40, 0)
    expect(clocks?.uPerDay_s).toBeLessThan(2)
    // The lag of each time is taken out of what they differ by: with one for the whole this would be a meter that scatters.
    expect(told.sdDifference).toBeLessThan(0.4)
    expect(told.gain).toBeCloseTo(1.02, 2)
  }, 120_000)
  test('that changes its unit is refused by name', async () => {
    const changed = await beside(
      'Its display was changed',
      (s) => flow(s) / (s > 500_000 ? 3.6 : 1) + 0.05 * g.normal(),
    )
    const says = (await compare(changed).expect(409)).body as { title: string; detail?: string }
    expect(JSON.stringify(says)).toContain('The second log changes its unit in this stretch')
  }, 120_000)
  test('a short part of the same two is compared at once', async () => {
    const told = (await compare(portable, `from=${START}&to=${START + 100_000_000}`).expect(200))
      .body as LogComparison
    expect(told.parts).toBeNull()
    expect(told.lag_s).toBeCloseTo(47, 0)
  }, 120_000)
})
