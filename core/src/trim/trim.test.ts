import { describe, expect, test } from 'vitest'
import { readTransmitter, rawReading, transmitter, trueCurrent_mA } from '../transmitter/transmitter.ts'
import { adjust, type Adjustment } from './adjust.ts'
import { trimPlausible, type TrimSituation } from './plausible.ts'
import { recommend, type FoundPoint } from './recommend.ts'

const PDT = () => transmitter({ LSL: -20, USL: 160 }, { z: 0.62, g: -0.0061, zo: 0.021, go: -0.0018 }, 0, 80)
const READY: TrimSituation = { inManual: true, asFoundClosed: true, stable: true }
type Device = ReturnType<typeof PDT>
const at = (t: Device, x: number) => rawReading(t, x)
const rows = (t: Device) => [0, 40, 80].map((x) => readTransmitter(t, x))
function expectRows(t: Device, printed: readonly (readonly [pv: number, mA: number])[]) {
  rows(t).forEach((r, i) => {
    expect(r.PV).toBeCloseTo(printed[i]?.[0] ?? 0, 4)
    expect(r.mA).toBeCloseTo(printed[i]?.[1] ?? 0, 4)
  })
}

describe('W9 trims of one device', () => {
  const lower = (t: Device, x: number): Device => adjust(t, { kind: 'lowerTrim', applied: x }, at(t, x))
  const upper = (t: Device, x: number): Device => adjust(t, { kind: 'upperTrim', applied: x }, at(t, x))
  test('as found', () =>
    expectRows(PDT(), [
      [0.62, 4.1376],
      [40.376, 12.0745],
      [80.132, 20.0114],
    ]))
  test('lower, then upper: right at both points in one pass', () => {
    const t = upper(lower(PDT(), 0), 80)
    expectRows(t, [
      [0, 4.0138],
      [40, 11.9994],
      [80, 19.985],
    ])
    expect(t.state.a).toBeCloseTo(1.006137, 6)
    expect(t.state.b).toBeCloseTo(-0.623805, 6)
  })
  test('upper, then lower: wrong at the top by the lower shift', () => {
    const t = lower(upper(PDT(), 80), 0)
    expectRows(t, [
      [0, 4.0138],
      [39.6905, 11.9376],
      [79.381, 19.8614],
    ])
    expect(readTransmitter(t, 80).PV - 80).toBeCloseTo(-0.619, 3)
  })
  test('output trim only', () => {
    let t = PDT()
    t = adjust(t, { kind: 'outputTrim4', measured_mA: trueCurrent_mA(t, 4) }, 0)
    t = adjust(t, { kind: 'outputTrim20', measured_mA: trueCurrent_mA(t, 20) }, 0)
    expectRows(t, [
      [0.62, 4.124],
      [40.376, 12.0752],
      [80.132, 20.0264],
    ])
    expect(t.state.beta4).toBeCloseTo(3.9862, 6)
    expect(t.state.alpha).toBeCloseTo(1.001803, 6)
  })
  test('a re-range hides the zero: the current is nearly right, the reading is not', () =>
    expectRows(adjust(PDT(), { kind: 'range', LRV: 0.62, URV: 80.132 }, 0), [
      [0.62, 4.0138],
      [40.376, 11.9994],
      [80.132, 19.985],
    ]))
  test('factory trims come back, a held current is let go', () => {
    const trimmed = upper(lower(PDT(), 0), 80)
    expect(adjust(trimmed, { kind: 'restoreSensorTrim' }, 0).state).toEqual(PDT().state)
    const held = adjust(PDT(), { kind: 'fixCurrent', mA: 12 }, 0)
    expect(readTransmitter(held, 80).ideal_mA).toBe(12)
    expect(adjust(held, { kind: 'fixCurrent', mA: null }, 0).state).toEqual(PDT().state)
  })
})

describe('what is refused, in its order', () => {
  const t = PDT()
  const rows: readonly [why: string, a: Adjustment, x: number, s: Partial<TrimSituation>, code: string][] = [
    ['in automatic', { kind: 'zeroTrim' }, 0, { inManual: false, asFoundClosed: false }, 'LOOP_IN_AUTO'],
    ['no as-found', { kind: 'zeroTrim' }, 0, { asFoundClosed: false, stable: false }, 'NO_AS_FOUND'],
    [
      'a re-range needs as-found too',
      { kind: 'range', LRV: 0, URV: 40 },
      0,
      { asFoundClosed: false },
      'NO_AS_FOUND',
    ],
    ['unstable', { kind: 'zeroTrim' }, 0, { stable: false }, 'UNSTABLE'],
    ['a range needs no stable input', { kind: 'range', LRV: 0, URV: 40 }, 0, { stable: false }, 'OK'],
    ['outside the sensor', { kind: 'lowerTrim', applied: -30 }, 0, {}, 'OUT_OF_LIMITS'],
    ['a wrong unit', { kind: 'lowerTrim', applied: 80 }, 5, {}, 'FAR_FROM_PV'],
    ['pressure left in', { kind: 'zeroTrim' }, 12, {}, 'SHIFT_TOO_LARGE'],
    ['points too close', { kind: 'upperTrim', applied: 20 }, 20, {}, 'SPAN_TOO_SMALL'],
    ['a slope that jumps', { kind: 'upperTrim', applied: 80 }, 70, {}, 'SLOPE_TOO_LARGE'],
    ['a span below the least', { kind: 'range', LRV: 0, URV: 1 }, 0, {}, 'SPAN_TOO_SMALL'],
    ['a meter on the wrong jack', { kind: 'outputTrim4', measured_mA: 0.02 }, 0, {}, 'MA_IMPLAUSIBLE'],
    ['a good zero', { kind: 'zeroTrim' }, 0, {}, 'OK'],
    ['a loop test needs nothing', { kind: 'fixCurrent', mA: 12 }, 0, { inManual: false }, 'OK'],
  ]
  test.each(rows)('%s', (_why, a, x, s, code) =>
    expect(trimPlausible(t, a, rawReading(t, x), { ...READY, ...s }).code).toBe(code),
  )
  test('an absolute device is not zeroed', () => {
    const abs = transmitter({ LSL: 0, USL: 10, kind: 'absolute' }, {}, 0, 10)
    expect(trimPlausible(abs, { kind: 'zeroTrim' }, 0.5, READY).code).toBe('ABS_ZERO')
  })
  test('warnings come along with an OK', () => {
    const warned = (a: Adjustment, raw: number) => trimPlausible(t, a, raw, READY).warnings
    expect(warned({ kind: 'zeroTrim' }, 5)).toEqual(['SHIFT_LARGE'])
    expect(warned({ kind: 'upperTrim', applied: 60 }, 60.2)).toEqual(['POINT_INSIDE'])
    expect(warned({ kind: 'outputTrim20', measured_mA: 20.3 }, 0)).toEqual(['OUTPUT_FAR'])
    expect(warned({ kind: 'range', LRV: 0, URV: 10 }, 0)).toEqual(['TURNDOWN'])
    expect(warned({ kind: 'lowerTrim', applied: 3 }, 3)).toContain('COPIED')
  })
})

describe('the smallest right action', () => {
  const T = { sensor: 0.2, output: 0.1, total: 0.25 }
  const uncertainty = { sensor: 0.04, output: 0.02, total: 0.045 }
  const base = { L: 0, U: 80, Ld: 0, Ud: 80, T, uncertainty }
  const point = (x: number, dir: 'up' | 'down', pv: number, mA: number): FoundPoint => ({ x, dir, pv, mA })
  test('W10 PT-202: sensor and output, since a zero trim would leave too much', () => {
    const r = recommend({
      ...base,
      points: [
        point(0, 'up', 0.32, 4.058),
        point(20, 'up', 20.344, 8.069),
        point(40, 'up', 40.372, 12.081),
        point(60, 'up', 60.404, 16.093),
        point(80, 'up', 80.44, 20.106),
        point(60, 'down', 60.452, 16.103),
        point(40, 'down', 40.436, 12.093),
        point(20, 'down', 20.392, 8.079),
        point(0, 'down', 0.32, 4.058),
      ],
    })
    expect(r.sensor?.zero_pct).toBeCloseTo(0.4, 6)
    expect(r.sensor?.span_pct).toBeCloseTo(0.15, 6)
    expect(r.sensor?.terminalLinearity_pct).toBeCloseTo(0.03, 6)
    expect(r.sensor?.independentLinearity_pct).toBeCloseTo(0.015, 6)
    expect(r.sensor?.hysteresis_pct).toBeCloseTo(0.08, 6)
    expect(r.output?.zero_pct).toBeCloseTo(-0.0375, 6)
    expect(r.output?.span_pct).toBeCloseTo(0.15, 6)
    expect(r.output?.terminalLinearity_pct).toBeCloseTo(0.0025, 6)
    expect(r.output?.hysteresis_pct).toBeCloseTo(-0.005, 6)
    expect(r.largestTotal).toBeCloseTo(0.6625, 6)
    expect(r.action).toBe('sensorTrim+outputTrim')
    for (const e of r.errors) expect(e.es + e.er + e.eo).toBeCloseTo(e.et, 12)
  })
  test('W10b a zero hidden by a re-range', () => {
    const points = [0, 20, 40, 60, 80].map((x) => point(x, 'up', x + 0.4, 4 + (16 * x) / 80))
    const r = recommend({ ...base, Ld: 0.4, Ud: 80.4, points })
    expect(r.errors[0]?.es).toBeCloseTo(0.5, 9)
    expect(r.errors[0]?.er).toBeCloseTo(-0.5, 9)
    expect(r.largestTotal).toBeCloseTo(0, 9)
    expect(r.action).toBe('rerange+zeroTrim')
    expect(r.mistakes).toEqual(['RERANGE_MASKS_SENSOR'])
  })
  const straight = (pv: (x: number) => number, mA: (x: number, pv: number) => number) =>
    [0, 20, 40, 60, 80].map((x) => point(x, 'up', pv(x), mA(x, pv(x))))
  const follow = (_x: number, pv: number) => 4 + (16 * pv) / 80
  const cases: readonly [
    why: string,
    points: FoundPoint[],
    more: object,
    action: string,
    mistakes: string[],
  ][] = [
    ['healthy', straight((x) => x + 0.02, follow), {}, 'none', []],
    ['zero only', straight((x) => x + 0.4, follow), {}, 'zeroTrim', []],
    ['zero of an absolute device', straight((x) => x + 0.4, follow), { absolute: true }, 'sensorTrim', []],
    [
      'an elevated range whose zero was not read',
      straight((x) => x + 0.4, follow).slice(1),
      {},
      'sensorTrim',
      [],
    ],
    ['a bent sensor', straight((x) => x + 0.9 * (x / 80) * (1 - x / 80) * 4, follow), {}, 'repair', []],
    [
      'the output hides it',
      straight(
        (x) => x + 0.4,
        (x) => 4 + (16 * x) / 80,
      ),
      {},
      'zeroTrim+outputTrim',
      ['OUTPUT_MASKS_SENSOR'],
    ],
    [
      'zeroed in open air',
      straight((x) => x - 1.013, follow),
      { absolute: true, atm: 1.013 },
      'sensorTrim',
      ['ABS_ZEROED'],
    ],
    [
      'equipment as bad as the tolerance',
      straight((x) => x + 0.4, follow),
      { uncertainty: { sensor: 0.3, output: 0.02, total: 0.3 } },
      'retest',
      ['LOW_TUR'],
    ],
  ]
  // The sensor is 0.5 % off; what is left of it on the current is half of what the output takes away at a sixth.
  test.each([
    [0.1, ['OUTPUT_MASKS_SENSOR']],
    [0.166, ['OUTPUT_MASKS_SENSOR']],
    [0.167, []],
    [0.3, []],
  ])('%s %% left of 0.5 %% on the current: hidden where that halves it', (left, mistakes) => {
    const points = straight(
      (x) => x + 0.4,
      (x) => 4 + (16 * x) / 80 + 0.16 * left,
    )
    expect(recommend({ ...base, points }).mistakes).toEqual(mistakes)
  })
  test.each(cases)('%s', (_why, points, more, action, mistakes) => {
    const r = recommend({ ...base, points, ...more })
    expect(r.action).toBe(action)
    expect(r.mistakes).toEqual(mistakes)
  })
})
