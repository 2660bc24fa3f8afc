import type { Log, LogJudgement } from '@calm/contract/logs'
import { Generator } from '@calm/core/statistics/generator'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { testApp, type TestApp } from '../test/app.ts'
import { longLog, PIECE } from '../test/long-log.ts'

let app: TestApp
let wren: TestAgent
let log: Log
const at = '/api/loops/FT-101/logs'
const START = Date.parse('2026-10-02T08:00:00Z')
const ROWS = 1_050_000
/** Where the first two parts meet: after so many rows that are at least 64 blocks of 4096; a block ends with its piece. */
const SEAM = 4 * PIECE + 6 * 4096
const HEAD = 'Time;Flow [m³/h];Signal [%]\n'

const g = new Generator(7)
const noise = Float64Array.from({ length: ROWS }, () => Math.round(200 * g.normal()) / 1000)
/** It stands still over the first seam, and its level changes later. */
const flow = (i: number) =>
  (i >= SEAM - 300 && i < SEAM + 200 ? 42.5 : 42 + (noise[i] ?? 0)) + (i >= 700_000 ? 2 : 0)
const line = (i: number) => {
  const time = new Date(START + i * 1000).toISOString().slice(0, 19).replace('T', ' ')
  return `${time};${flow(i).toFixed(3)};${i >= 900_000 && i < 900_100 ? 20 : 85}`
}

beforeAll(async () => {
  app = await testApp({ own: true })
  wren = await app.as('wren')
  log = await longLog(wren, at, { title: 'Twelve days', of: 'installed', head: HEAD, rows: ROWS, line })
}, 120_000)
afterAll(() => app.stop())

const judgement = async (more = '', stretch = `from=${log.from}&to=${log.to}`) =>
  (await wren.get(`${at}/${log.id}/judgement?channel=0&${stretch}${more}`).expect(200)).body as LogJudgement

describe('a log longer than a million samples', () => {
  test('is summed up and not judged until it is asked for', async () => {
    const told = await judgement()
    expect(told).toMatchObject({ findings: null, parts: null, total: null, stable: null })
    expect(told.statistics).toMatchObject({ n: ROWS, close: null })
  })
  test('is judged part by part: what lies over a seam once, and all of its total', async () => {
    const told = await judgement('&byParts=true')
    expect(told.parts).toBe(4)
    expect(told.findings?.map((f) => [f.code, (f.from - START) / 1000])).toEqual([
      ['FROZEN', SEAM - 300],
      ['STEP', 700_000],
      ['SIGNAL_LOW', 900_000],
    ])
    expect(told.findings?.[0]?.evidence).toMatchObject({ samples: 500, value: 42.5 })
    expect(told.findings?.[2]?.evidence).toMatchObject({ samples: 100, lowest: 20 })
    let net = 0
    for (let i = 1; i < ROWS; i++) net += (flow(i - 1) + flow(i)) / 2 / 3600
    // Values with too weak a signal are in no total: the gap that they leave is told.
    const weak = (100 / 3600) * 44
    expect(told.total?.gaps).toBe(1)
    expect(Math.abs((told.total?.net ?? 0) - (net - weak))).toBeLessThan(0.02)
    expect(told.stable?.count).toBeGreaterThanOrEqual(4)
  }, 120_000)
  test('what was judged is at hand: also for the paper, and only of that stretch', async () => {
    expect((await judgement()).findings).toHaveLength(3)
    const other = await judgement('', `from=${START + 5000}&to=${log.to}`)
    expect(other.findings).toBeNull()
    const svg = await wren
      .get(`${at}/${log.id}/plot.svg?channel=0&from=${log.from}&to=${log.to}`)
      .buffer(true)
      .expect(200)
    const [told] = /\d+ findings[^;]*/.exec((svg.body as Buffer).toString()) ?? []
    expect(told).toBe('3 findings in 1\u2009050\u2009000 samples, judged in 4 parts')
  })
  test('a stretch that is short enough is judged at once, however it is asked for', async () => {
    const told = await judgement('&byParts=true', `from=${START}&to=${START + 300_000_000}`)
    expect(told.parts).toBeNull()
    expect(told.findings?.map((f) => f.code)).toEqual(['FROZEN'])
  }, 60_000)
})
