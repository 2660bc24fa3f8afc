import { describe, expect, test } from 'vitest'
import { estimate, logRows, notRemembered, rowsGot } from './log.ts'
import { Generator } from '../statistics/generator.ts'
import type { DeviceCommand } from './command.ts'
import { command } from './commands.ts'
import { readStandIn, settled, taskAt, type StandIn } from './stand-in.ts'
import { exact, go, OPEN, refused } from './test/at-device.ts'

const T = 1_000_000
const linked = () => go(exact(80, 'kg/h'), T, ...OPEN)

describe('what a device remembers of its readings', () => {
  const estimates: readonly [every_s: number, hours: number, rows: number, takes_s: number][] = [
    [1, 2, 7200, 120],
    [10, 24, 8640, 144],
    [60, 24, 1440, 24],
    [600, 24 * 60, 8640, 144],
  ]
  test.each(estimates)(
    'every %d s for %d h are %d readings and %d s on the link',
    (every_s, hours, rows, takes) => {
      expect(estimate(every_s, hours, 3)).toEqual({ rows, takes_s: takes, bytes: rows * 4 * 9 })
    },
  )
  test('the finer, the shorter: what is not remembered is told with what is', () => {
    expect(notRemembered(10, 24)).toBeNull()
    expect(notRemembered(1, 24)).toMatch(/last 2 hours, not 24/)
    expect(notRemembered(7, 1)).toMatch(/every 1, 10, 60, 600 s, not every 7 s/)
    expect(refused(linked(), T, { kind: 'history', every_s: 10, hours: 0.001 })).toMatch(
      /less than one reading/,
    )
  })
  test('it is fetched slowly, given up in the middle, and goes on from there', () => {
    const begun = go(linked(), T, { kind: 'history', every_s: 60, hours: 24 })
    expect(rowsGot(begun, T + 10)).toBe(600)
    const given = go(begun, T + 10, { kind: 'cancel' })
    expect(rowsGot(given, T + 500)).toBe(600)
    expect(logRows(given, T + 500)).toHaveLength(600)
    const on = go(given, T + 600, { kind: 'resume' })
    expect(taskAt(on, T + 601)).toMatchObject({ kind: 'history', takes_s: 14 })
    const done = settled(on, T + 614)
    expect(rowsGot(done, T + 700)).toBe(1440)
    expect(refused(done, T + 700, { kind: 'resume' })).toMatch(/Nothing is left/)
  })
  test('pulling the cable keeps what came; a second one while it runs is refused', () => {
    const begun = go(linked(), T, { kind: 'history', every_s: 60, hours: 24 })
    expect(refused(begun, T + 3, { kind: 'history', every_s: 60, hours: 1 })).toMatch(/busy/)
    const pulled = go(begun, T + 5, { kind: 'replug', port: 'B' })
    expect(rowsGot(pulled, T + 9)).toBe(300)
    expect(refused(pulled, T + 9, { kind: 'resume' })).toMatch(/connect first/)
    expect(rowsGot(go(pulled, T + 9, { kind: 'connect', port: 'B' }, { kind: 'resume' }), T + 11)).toBe(420)
  })
  test('rows are so far apart, end when they were asked for, and read the process', () => {
    const d = settled(go(linked(), T, { kind: 'history', every_s: 10, hours: 1 }), T + 60)
    const rows = logRows(d, T + 60)
    expect(rows).toHaveLength(360)
    expect(rows.at(-1)?.t_s).toBe(T)
    expect(rows.slice(1).every((r, i) => r.t_s - (rows[i]?.t_s ?? 0) === 10)).toBe(true)
    expect(rows.every((r) => r.PV !== null && r.PV > 30 && r.PV < 60)).toBe(true)
  })
  test('what measured nothing remembers no reading', () => {
    const lost = { ...linked(), started: false }
    const d = settled(go(lost, T, { kind: 'history', every_s: 10, hours: 1 }), T + 60)
    expect(new Set(logRows(d, T + 60).map((r) => r.PV))).toEqual(new Set([null]))
  })
  test('the time without supply is a gap', () => {
    const off = go(linked(), T + 1000, { kind: 'power', on: false })
    const on = go(off, T + 1600, { kind: 'power', on: true }, { kind: 'connect', port: 'A' })
    const d = settled(go(on, T + 3600, { kind: 'history', every_s: 10, hours: 1 }), T + 4000)
    const times = logRows(d, T + 4000).map((r) => r.t_s)
    expect(times.filter((t) => t >= T + 1000 && t < T + 1600)).toEqual([])
    expect(times).toHaveLength(300)
  })
  test('what was applied is in it from when it was applied', () => {
    const moved = go(linked(), T + 1000, { kind: 'apply', value: 10 })
    const rows = logRows(
      settled(go(moved, T + 2000, { kind: 'history', every_s: 10, hours: 0.5 }), T + 3000),
      T + 3000,
    )
    expect(rows.find((r) => r.t_s === T + 500)?.PV).toBeGreaterThan(30)
    expect(rows.at(-1)?.PV).toBeCloseTo(10, 1)
  })
  describe('what was read then stays what was read', () => {
    const at = (d: StandIn, t_s: number, since_s: number) => {
      const end = t_s + 1
      const hours = (end - since_s + 60) / 3600
      const fetched = settled(
        go({ ...d, connected: true }, end, { kind: 'history', every_s: 1, hours }),
        end + 1e4,
      )
      return new Map(logRows(fetched, end + 1e4).map((r) => [r.t_s, r.PV]))
    }
    test('a zero trim is a step in it, not another past', () => {
      const d = go(linked(), T, { kind: 'apply', value: 0 })
      const off = { ...d, transmitter: { ...d.transmitter, errors: { ...d.transmitter.errors, z: 0.9 } } }
      const before = readStandIn(off, T + 100).PV
      const trimmed = go(off, T + 120, { kind: 'adjust', adjustment: { kind: 'zeroTrim' } })
      const rows = at(trimmed, T + 400, T)
      expect(rows.get(T + 101)).toBeCloseTo(before, 1)
      expect(before).toBeCloseTo(0.9, 1)
      expect(rows.get(T + 300)).toBeCloseTo(0, 1)
    })
    test('what was applied between two tests is seen, with what came before and after', () => {
      let d = go(linked(), T, { kind: 'apply', value: 10 })
      d = go(d, T + 200, { kind: 'apply', value: 70 })
      d = go(d, T + 400, { kind: 'apply', value: null })
      const rows = at(d, T + 700, T - 60)
      expect([T - 30, T + 150, T + 350, T + 650].map((t) => Math.round(rows.get(t) ?? NaN))).toEqual([
        44, 10, 70, 44,
      ])
    })
    test('before it was started there is no reading; afterwards there is one', () => {
      const d = go(exact(80, 'm³/h', { family: 'clamp-on', started: false }), T, ...OPEN)
      const begun = go(d, T + 100, { kind: 'start' })
      const rows = at(settled(begun, T + 300), T + 300, T)
      expect([rows.get(T + 50), rows.get(T + 299)]).toEqual([null, expect.any(Number)])
    })
    test.each([3, 5, 8, 13, 21])('any commands, seed %i: every look of then is found in it', (seed) => {
      const g = new Generator(seed)
      let d = go(exact(80, 'kg/h'), T, ...OPEN)
      const looks: [number, number][] = []
      let t = T
      for (let i = 0; i < 16; i++) {
        t += 20 + Math.floor(40 * g.uniform())
        looks.push([t, readStandIn(d, t).PV])
        t += 1
        const acts: DeviceCommand[] = [
          { kind: 'apply', value: 70 * g.uniform() },
          { kind: 'apply', value: null },
          { kind: 'adjust', adjustment: { kind: 'zeroTrim' } },
          { kind: 'adjust', adjustment: { kind: 'range', LRV: 0, URV: 40 + 40 * g.uniform() } },
        ]
        const act = acts[Math.floor(acts.length * g.uniform())]
        if (act) d = command(d, t, act, `${seed} ${i}`).device
      }
      const rows = at(d, t + 30, T)
      for (const [then, PV] of looks) expect(rows.get(then)).toBeCloseTo(PV, 9)
    })
  })
})
