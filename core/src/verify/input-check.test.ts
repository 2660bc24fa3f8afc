import { describe, expect, test } from 'vitest'
import { edgesBetween, levelAt, type Cylinder } from '../device/cylinder.ts'
import { checkInput, countTable, inputTable, type InputTask } from './input-check.ts'
import { debounce } from './debounce.ts'

const CYLINDER: Cylinder = { seed: 306, ideal_s: 10 }
const task = (more: Partial<InputTask> = {}): InputTask => ({
  edges: edgesBetween(CYLINDER, 0, 3600),
  from_s: 0,
  to_s: 3600,
  filter_ms: 10,
  ideal_s: 9,
  least_s: 8,
  most_s: 15,
  planned_s: null,
  good: null,
  ...more,
})
/** A plain machine: a rising edge every so many seconds, held for one. */
const regular = (every_s: number, n: number) =>
  Array.from({ length: n }, (_, i) => [
    { t: (i + 1) * every_s, level: true },
    { t: (i + 1) * every_s + 1, level: false },
  ]).flat()

describe('a stand-in cylinder', () => {
  test('the same window is the same, in one piece or in two', () => {
    const whole = edgesBetween(CYLINDER, 100, 2000)
    expect([...edgesBetween(CYLINDER, 100, 777), ...edgesBetween(CYLINDER, 777, 2000)]).toEqual(whole)
    expect(whole.every((e, i) => i === 0 || e.t >= (whole[i - 1]?.t ?? 0))).toBe(true)
    expect(edgesBetween({ ...CYLINDER, seed: 1 }, 100, 2000)).not.toEqual(whole)
  })
  test('its level is that of the last edge', () => {
    const edges = edgesBetween(CYLINDER, 0, 600)
    for (const e of edges) expect(levelAt(CYLINDER, e.t + 1e-9)).toBe(e.level)
    expect(levelAt(CYLINDER, 0)).toBe(false)
  })
  test('it bounces, and a filter makes one rise and one fall of every stroke', () => {
    const edges = edgesBetween(CYLINDER, 0, 3600)
    const clean = debounce(edges, 0.05, 3600)
    expect(edges.length).toBeGreaterThan(1.5 * clean.length)
    expect(clean.every((e, i) => e.level === (i % 2 === 0))).toBe(true)
  })
})

describe('an input over a window', () => {
  test('a regular machine: every figure by hand', () => {
    const r = checkInput(
      task({ edges: regular(10, 100), to_s: 1001.5, ideal_s: 10, planned_s: 1000, good: 95 }),
    )
    expect([r.count, r.bounced, r.tooShort, r.tooLong]).toEqual([100, 0, 0, 0])
    expect(r.cycles.mean).toBeCloseTo(10, 9)
    expect([r.effect.A, r.effect.P, r.effect.Q, r.effect.OEE]).toEqual([1, 1, 0.95, 0.95])
    expect(r.inLimits).toBe(true)
  })
  test('without a filter a bounce is counted as a part, and that is told', () => {
    const good = checkInput(task())
    const none = checkInput(task({ filter_ms: 0 }))
    expect(none.count).toBeGreaterThan(good.count)
    expect([good.inLimits, none.inLimits]).toEqual([true, false])
    expect(none.says.join(' ')).toMatch(/counted twice/)
  })
  test('a stop of minutes goes to availability, a jam to performance', () => {
    const edges = [...regular(10, 30), ...regular(10, 30).map((e) => ({ ...e, t: e.t + 300 + 190 }))]
    const r = checkInput(task({ edges, to_s: 800, ideal_s: 10 }))
    expect(r.cycles.downtime_s).toBeCloseTo(190, 6)
    expect(r.effect.A).toBeCloseTo((800 - 190) / 800, 9)
    expect(r.effect.OEE).toBeCloseTo(r.effect.A * r.effect.P * r.effect.Q, 12)
  })
  test('an ideal that is slower than the machine is called wrong, never clipped', () => {
    const r = checkInput(task({ edges: regular(8, 100), to_s: 801, ideal_s: 10, least_s: 5 }))
    expect(r.effect.P).toBeGreaterThan(1)
    expect(r.says.join(' ')).toMatch(/faster than the ideal of 10 s: the ideal cycle is set too long/)
    expect(r.inLimits).toBe(false)
  })
  const causes: readonly [why: string, more: Partial<InputTask>, says: RegExp][] = [
    ['more good ones than counted', { good: 150 }, /150 good out of 100 counted is impossible/],
    [
      'planned for longer than it was counted',
      { planned_s: 3600 },
      /longer than the 1001 s that were counted/,
    ],
    [
      'planned for less than it worked',
      { planned_s: 500 },
      /only 500 s are planned: the planned time is too short/,
    ],
    [
      'every stroke counted twice',
      {
        edges: regular(10, 100)
          .flatMap((e) => [e, { ...e, t: e.t + 2.5 }])
          .sort((a, b) => a.t - b.t),
        filter_ms: 0,
      },
      /strokes are counted twice/,
    ],
  ]
  test.each(causes)('%s: the right cause is told', (_why, more, says) => {
    const r = checkInput(task({ edges: regular(10, 100), to_s: 1001, ideal_s: 10, ...more }))
    expect(r.says.join(' ')).toMatch(says)
    expect(r.inLimits).toBe(false)
  })
  test('a standstill longer than what was planned', () => {
    const edges = [...regular(10, 5), ...regular(10, 5).map((e) => ({ ...e, t: e.t + 700 }))]
    expect(checkInput(task({ edges, to_s: 800, ideal_s: 10, planned_s: 300 })).says.join(' ')).toMatch(
      /stood still for 650 s of a planned time of 300 s/,
    )
  })
  test('counts and cycles go out with their times, losses and alarms', () => {
    const edges = [...regular(10, 3), { t: 48, level: true }, { t: 49, level: false }, { t: 53, level: true }]
    const t = task({ edges, to_s: 60, ideal_s: 10, least_s: 8, most_s: 15 })
    const zero = Date.parse('2026-11-28T06:00:00Z')
    expect(countTable(checkInput(t), t, zero).rows).toEqual([
      ['1', '2026-11-28T06:00:10.000Z', '', '', ''],
      ['2', '2026-11-28T06:00:20.000Z', '10.000', '', ''],
      ['3', '2026-11-28T06:00:30.000Z', '10.000', '', ''],
      ['4', '2026-11-28T06:00:48.000Z', '18.000', 'short stop', 'too long'],
      ['5', '2026-11-28T06:00:53.000Z', '5.000', '', 'too short'],
    ])
  })
  test('nothing came: nothing is claimed', () => {
    const r = checkInput(task({ edges: [] }))
    expect([r.count, r.inLimits]).toEqual([0, false])
    expect(inputTable(r).rows.flat().join(' ')).not.toMatch(/NaN|Infinity/)
  })
})
