import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { defaultPath } from '../loop/default-path.ts'
import { errorComponents } from './components.ts'
import {
  MOST_POINTS,
  namedPlan,
  PLANS,
  pointsOf,
  sayPlan,
  type Direction,
  type OwnPlan,
  type PlanName,
} from './plan.ts'
import { appliedAt, loopScale, pointErrors, type Reading } from './reading-errors.ts'
import { plausibility } from './plausible.ts'
import { toleranceAt } from './tolerance.ts'
import { classify, judge } from './verdict.ts'

describe('plans', () => {
  const rows: readonly [plan: PlanName, readings: number, first: number, top: number, last: number][] = [
    ['P3', 3, 0, 100, 100],
    ['P5', 5, 0, 100, 100],
    ['P5UD', 9, 0, 100, 0],
    ['P6UD', 11, 0, 100, 0],
    ['P11', 11, 0, 100, 100],
    ['P11UD', 21, 0, 100, 0],
  ]
  test.each(rows)('%s has %d readings', (plan, n, first, top, last) => {
    const points = namedPlan(plan)
    expect(points).toHaveLength(n)
    expect(points[0]?.level_pct).toBe(first)
    expect(Math.max(...points.map((p) => p.level_pct))).toBe(top)
    expect(points.at(-1)?.level_pct).toBe(last)
    expect(points.filter((p) => p.level_pct === 100)).toHaveLength(1)
  })
  test('every plan has a title that tells its number of readings', () => {
    const both = Object.entries(PLANS).filter(([, plan]) => plan.down)
    expect(both.length).toBeGreaterThan(0)
    for (const [name, plan] of both)
      expect(plan.title).toContain(`${namedPlan(name as PlanName).length} readings`)
  })
})

describe('tolerance 0.1 % of span, 0.25 % of reading, 0.02 absolute, span 80', () => {
  const rows: readonly [x: number, max: number, sum: number][] = [
    [4, 0.08, 0.11],
    [20, 0.08, 0.15],
    [64, 0.16, 0.26],
  ]
  test.each(rows)('at %d the largest is %d, the sum %d', (x, max, sum) => {
    const parts = { pctSpan: 0.1, pctReading: 0.25, abs: 0.02 }
    expect(toleranceAt({ mode: 'max', ...parts }, 80, x)).toBeCloseTo(max, 12)
    expect(toleranceAt({ mode: 'sum', ...parts }, -80, x)).toBeCloseTo(sum, 12)
  })
  test('the smallest leaves out what is zero', () => {
    expect(toleranceAt({ mode: 'min', pctSpan: 0.1, pctReading: 0, abs: 0.02 }, 80, 4)).toBe(0.02)
  })
})

const range = { low: 0, high: 80, unit: 'bar(g)' }
const scale = loopScale(defaultPath({ transmitter: range, squareRoot: false, receiver: range }))
if (!scale) throw new Error('no scale')

const AS_FOUND: readonly [x: number, dir: Direction, pv: number, ma: number][] = [
  [0, 'up', 0.32, 4.058],
  [20, 'up', 20.344, 8.069],
  [40, 'up', 40.372, 12.081],
  [60, 'up', 60.404, 16.093],
  [80, 'up', 80.44, 20.106],
  [60, 'down', 60.452, 16.103],
  [40, 'down', 40.436, 12.093],
  [20, 'down', 20.392, 8.079],
  [0, 'down', 0.32, 4.058],
]
const reading = (
  [applied, direction, pv, loopCurrent_mA]: (typeof AS_FOUND)[number],
  index: number,
): Reading => ({
  index,
  direction,
  applied,
  pv,
  loopCurrent_mA,
  controller: null,
})
const tolerance = { mode: 'max' as const, pctSpan: 0.25, pctReading: 0, abs: 0 }

describe('a plan of one’s own', () => {
  const plan = (change: Partial<OwnPlan>): OwnPlan => ({
    levels_pct: [95, 5, 50],
    way: 'up',
    repeats: 1,
    seed: 7,
    ...change,
  })
  const told = (p: OwnPlan) =>
    pointsOf(p)
      .map((x) => `${x.index}:${x.level_pct}${x.direction === 'up' ? '+' : '-'}`)
      .join(' ')
  const rows: readonly [plan: OwnPlan, points: string][] = [
    [plan({}), '0:5+ 1:50+ 2:95+'],
    [plan({ way: 'down' }), '0:95- 1:50- 2:5-'],
    [plan({ way: 'both' }), '0:5+ 1:50+ 2:95+ 3:50- 4:5-'],
    [plan({ repeats: 2 }), '0:5+ 1:50+ 2:95+ 3:5+ 4:50+ 5:95+'],
  ]
  test.each(rows)('%j', (p, points) => expect(told(p)).toBe(points))
  test('in random order every level comes as often as it is repeated, the same for the same seed', () => {
    const p = plan({ levels_pct: [0, 25, 50, 75, 100], way: 'random', repeats: 3 })
    const levels = pointsOf(p).map((x) => x.level_pct)
    for (const l of p.levels_pct) expect(levels.filter((x) => x === l)).toHaveLength(3)
    expect(told(p)).toBe(told(p))
    expect(told(p)).not.toBe(told({ ...p, seed: 8 }))
    // The direction of a point is where it is come from.
    const points = pointsOf({ ...p, repeats: 1 })
    expect(
      points.every(
        (x, i) => i === 0 || (x.direction === 'up') === x.level_pct >= (points[i - 1]?.level_pct ?? 0),
      ),
    ).toBe(true)
  })
  test('it is told in words, and its points are within what a run takes', () => {
    expect(sayPlan(plan({ way: 'random', repeats: 2 }))).toBe('95, 5, 50 % in random order, 2 times (seed 7)')
    expect(sayPlan('P9')).toBe('9 points up')
    expect(
      pointsOf(plan({ levels_pct: Array.from({ length: 6 }, (_, i) => i * 20), repeats: 10 })).length,
    ).toBeLessThan(MOST_POINTS)
  })
})

describe('PT-202 as found', () => {
  const errors = AS_FOUND.map(reading).map((r) => pointErrors(scale, tolerance, r))
  const series = (pick: (e: NonNullable<(typeof errors)[number]>) => number | null) =>
    errorComponents(
      errors.flatMap((e) => {
        const v = e && pick(e)
        return e && v !== null ? [{ level_pct: e.level_pct, direction: e.direction, error_pct: v }] : []
      }),
    )
  test('sensor: zero, span, linearity and hysteresis', () => {
    const c = series((e) => e.sensor_pct)
    expect(c?.zero_pct).toBeCloseTo(0.4, 6)
    expect(c?.span_pct).toBeCloseTo(0.15, 6)
    expect(c?.terminalLinearity_pct).toBeCloseTo(0.03, 6)
    expect(c?.independentLinearity_pct).toBeCloseTo(0.015, 6)
    expect(c?.hysteresis_pct).toBeCloseTo(0.08, 6)
    expect(c?.repeatability_pct).toBeNull()
  })
  test('output: zero, span, linearity and hysteresis', () => {
    const c = series((e) => e.output_pct)
    expect(c?.zero_pct).toBeCloseTo(-0.0375, 6)
    expect(c?.span_pct).toBeCloseTo(0.15, 6)
    expect(c?.terminalLinearity_pct).toBeCloseTo(0.0025, 6)
    expect(c?.hysteresis_pct).toBeCloseTo(-0.005, 6)
  })
  test('the largest error of the loop is 0.6625 % and decides', () => {
    const j = judge({
      scale,
      tolerance,
      plan: namedPlan('P5UD'),
      readings: AS_FOUND.map(reading),
      U_pct: 0,
      phase: 'asFound',
    })
    expect(Math.max(...(j?.points ?? []).map((p) => Math.abs(p.loop_pct ?? 0)))).toBeCloseTo(0.6625, 9)
    expect(j?.class).toBe('FAIL')
    expect(j?.missing).toEqual([])
    expect(j?.sentence).toBe(
      'Out of tolerance as found: reads 0.106 mA high at 80 bar g rising, +0.66 % of span. Tolerance is ±0.25 %; uncertainty was not stated.',
    )
  })
  test('sensor, output and receiver add up to the whole loop', () => {
    fc.assert(
      fc.property(
        ...([0, 1, 2].map(() => fc.double({ min: -0.3, max: 0.3, noNaN: true })) as [
          fc.Arbitrary<number>,
          fc.Arbitrary<number>,
          fc.Arbitrary<number>,
        ]),
        (a, b, c) => {
          const e = pointErrors(scale, tolerance, {
            index: 0,
            direction: 'up',
            applied: 40,
            pv: 40 + a,
            loopCurrent_mA: 12 + b,
            controller: 40 + c,
          })
          expect((e?.sensor_pct ?? 0) + (e?.output_pct ?? 0) + (e?.receiver_pct ?? 0)).toBeCloseTo(
            e?.loop_pct ?? NaN,
            9,
          )
        },
      ),
    )
  })
})

describe('a tolerance limit counts as inside', () => {
  const rows: readonly [why: string, e: number, T: number, U: number, verdict: string][] = [
    ['well inside', 0.1, 0.25, 0.06, 'PASS'],
    ['at the guard band', 0.19, 0.25, 0.06, 'PASS'],
    ['between guard band and limit', 0.21, 0.25, 0.06, 'CONDITIONAL_PASS'],
    ['past the limit, not for certain', -0.3, 0.25, 0.06, 'CONDITIONAL_FAIL'],
    ['past all doubt', 0.32, 0.25, 0.06, 'FAIL'],
    ['exactly at the limit, simple acceptance', 0.25, 0.25, 0, 'PASS'],
    ['just past it, simple acceptance', 0.2501, 0.25, 0, 'FAIL'],
  ]
  test.each(rows)('%s', (_why, e, T, U, verdict) => expect(classify(e, T, U)).toBe(verdict))
  test('0.1004 against 0.10 fails and is printed so that it shows', () => {
    const r: Reading = {
      index: 0,
      direction: 'up',
      applied: 0,
      pv: 0.08032,
      loopCurrent_mA: null,
      controller: null,
    }
    const j = judge({
      scale,
      tolerance: { ...tolerance, pctSpan: 0.1 },
      plan: namedPlan('P3'),
      readings: [r],
      U_pct: 0,
      phase: 'asLeft',
    })
    expect(j?.class).toBe('FAIL')
    expect(j?.sentence).toContain('+0.1004 % of span. Tolerance is ±0.1000 %')
    expect(j?.missing).toEqual([1, 2])
  })
})

test('a saturated current says nothing about the output', () => {
  const e = pointErrors(scale, tolerance, {
    index: 0,
    direction: 'up',
    applied: 83,
    pv: 83,
    loopCurrent_mA: 20.5,
    controller: null,
  })
  expect(e?.saturated).toBe(true)
  expect(e?.output_pct).toBeNull()
})

test('behind a square root a dp error is seen enlarged at low flow', () => {
  const s = loopScale(
    defaultPath({
      transmitter: { low: 0, high: 400, unit: 'mbar' },
      squareRoot: true,
      receiver: { low: 0, high: 90, unit: 'm3/h' },
    }),
  )
  if (!s) throw new Error('no scale')
  const e = pointErrors(s, tolerance, {
    index: 0,
    direction: 'up',
    applied: 4,
    pv: 5,
    loopCurrent_mA: null,
    controller: null,
  })
  expect(appliedAt(s, 25)).toBe(25)
  expect(e?.level_pct).toBeCloseTo(10, 9)
  expect(e?.sensorInput_pct).toBeCloseTo(0.25, 9)
  expect(e?.sensor_pct).toBeCloseTo(100 * (Math.sqrt(0.0125) - 0.1), 9)
})

test('below 10 % flow there is no verdict', () => {
  const s = loopScale(
    defaultPath({
      transmitter: { low: 0, high: 400, unit: 'mbar' },
      squareRoot: true,
      receiver: { low: 0, high: 90, unit: 'm3/h' },
    }),
  )
  if (!s) throw new Error('no scale')
  const low: Reading = {
    index: 0,
    direction: 'up',
    applied: 0,
    pv: 1,
    loopCurrent_mA: null,
    controller: null,
  }
  expect(pointErrors(s, tolerance, low)?.withinTolerance).toBeNull()
  const good: Reading = { ...low, index: 1, applied: 100, pv: 100 }
  expect(
    judge({ scale: s, tolerance, plan: namedPlan('P3'), readings: [low, good], U_pct: 0, phase: 'asLeft' })
      ?.class,
  ).toBe('PASS')
})

describe('a receiver is judged by what it should show, not by what it is scaled to', () => {
  const judged = (receiver: { low: number; high: number; unit: string }, controller: number) => {
    const s = loopScale(
      defaultPath({ transmitter: { low: -15, high: 185, unit: 'mbar' }, squareRoot: false, receiver }),
    )
    if (!s) throw new Error('no scale')
    return pointErrors(s, tolerance, {
      index: 0,
      direction: 'up',
      applied: 85,
      pv: 85,
      loopCurrent_mA: 12,
      controller,
    })
  }
  const rows: readonly [
    why: string,
    receiver: { low: number; high: number; unit: string },
    controller: number,
    receiver_pct: number,
  ][] = [
    ['left at the old range it reads high', { low: 0, high: 200, unit: 'mbar' }, 100, 7.5],
    ['the same range in another unit is right', { low: -1.5, high: 18.5, unit: 'kPa' }, 8.5, 0],
    ['percent is taken at its own scale', { low: 0, high: 100, unit: '%' }, 50, 0],
  ]
  test.each(rows)('%s', (_why, receiver, controller, pct) => {
    expect(judged(receiver, controller)?.receiver_pct).toBeCloseTo(pct, 9)
  })
  test('a root taken twice shows as an error of the receiver', () => {
    const path = defaultPath({
      transmitter: { low: 0, high: 100, unit: 'mbar' },
      squareRoot: true,
      receiver: { low: 0, high: 100, unit: '%' },
    })
    const s = loopScale(
      path.map((st) => (st.kind === 'controller' ? { ...st, transfer: { kind: 'sqrt' as const } } : st)),
    )
    if (!s) throw new Error('no scale')
    const e = pointErrors(s, tolerance, {
      index: 0,
      direction: 'up',
      applied: 25,
      pv: 25,
      loopCurrent_mA: 12,
      controller: 100 * Math.SQRT1_2,
    })
    expect(e?.receiver_pct).toBeCloseTo(20.7107, 4)
    expect(e?.output_pct).toBeCloseTo(0, 9)
  })
})

describe('values that look like a slip are asked about', () => {
  const usual: Reading = {
    index: 0,
    direction: 'up',
    applied: 40,
    pv: 40.1,
    loopCurrent_mA: 12.02,
    controller: 40.1,
  }
  const rows: readonly [why: string, change: Partial<Reading>, where: string | null, says: RegExp][] = [
    ['nothing odd', {}, null, /./],
    ['a little outside the range', { applied: 88, pv: 88, controller: 88 }, null, /./],
    ['a decimal dropped', { applied: 400 }, 'applied', /400 bar g is far outside the range 0 to 80 bar g/],
    ['the wrong column', { pv: 12.02 }, 'pv', /far from the applied 40/],
    ['swapped leads', { loopCurrent_mA: -12 }, 'loopCurrent_mA', /leads are swapped/],
    ['a current no loop carries', { loopCurrent_mA: 120 }, 'loopCurrent_mA', /more than a loop carries/],
    ['kPa in a column of bar', { controller: 4010 }, 'controller', /far outside 0 to 80 bar g/],
  ]
  test.each(rows)('%s', (_why, change, where, says) => {
    const found = plausibility(scale, { ...usual, ...change })
    expect(found.map((f) => f.where[0])).toEqual(where === null ? [] : [where])
    expect(found[0]?.says ?? 'nothing').toMatch(says)
  })
})
