import { describe, expect, test } from 'vitest'
import { estimate, logRows, notRemembered, rowsGot } from './log.ts'
import { settled, taskAt } from './stand-in.ts'
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
})
