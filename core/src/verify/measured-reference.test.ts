import { describe, expect, test } from 'vitest'
import { isFlowUnit, measuredFlow, type Measured } from './measured-reference.ts'

const bucket: Measured = {
  by: 'weighed',
  mass_kg: 18.04,
  seconds: 60,
  density_kg_m3: 998.2,
  massU_kg: 0.02,
  startStop_s: 0.3,
  densityU_pct: 0.1,
}
const tank: Measured = {
  by: 'drawn',
  diameter_m: 2,
  from_m: 3.1,
  to_m: 2.6,
  seconds: 1800,
  diameterU_m: 0.004,
  levelU_m: 0.002,
  startStop_s: 1,
}
const pulses: Measured = {
  by: 'counted',
  pulses: 2345,
  seconds: 120,
  K: 50,
  per: 'L',
  KU_pct: 0.2,
  startStop_s: 0.1,
}
const flow = (m: Measured, unit: string) => {
  const f = measuredFlow(m, unit)
  return f.kind === 'flow' ? f : null
}

describe('a flow from what was caught', () => {
  test('a bucket: the scale’s air buoyancy is a tenth of a percent', () => {
    // 18.04 kg in a minute is 1084.336 L/h of water at 998.2 kg/m³, and 0.105 % more for the air.
    expect(flow(bucket, 'L/h')?.reference).toBeCloseTo(
      ((18.04 / 998.2) * 60_000 * (1 - 1.2 / 8000)) / (1 - 1.2 / 998.2),
      6,
    )
    expect(flow(bucket, 'm3/h')?.reference).toBeCloseTo(1.08548, 4)
    // ±0.01 kg, ±0.3 s rectangular, ±0.05 %: 0.0554, 0.2887, 0.05 %.
    expect(flow(bucket, 'L/h')?.U_pct).toBeCloseTo(2 * Math.hypot(0.0554, 0.28868, 0.05), 3)
  })
  test('as a mass flow the density plays no part', () => {
    const f = flow(bucket, 'kg/h')
    expect(f?.reference).toBeCloseTo(1083.5, 0)
    expect(flow({ ...bucket, densityU_pct: 50 }, 'kg/h')?.U_pct).toBe(f?.U_pct)
  })
  test('a reference meter by its pulses: factor, one pulse at both ends, the clock', () => {
    // 2345 pulses of 50 for a litre in 120 s: 46.9 L, 1.407 m³/h.
    expect(flow(pulses, 'm3/h')?.reference).toBeCloseTo(1.407, 9)
    expect(flow(pulses, 'L/min')?.reference).toBeCloseTo(23.45, 9)
    expect(flow(pulses, 'm3/h')?.U_pct).toBeCloseTo(
      2 * Math.hypot(0.1, 100 / Math.sqrt(6) / 2345, 100 / Math.sqrt(3) / 120 / 10),
      9,
    )
    expect(flow({ ...pulses, per: 'kg' }, 't/h')?.reference).toBeCloseTo(1.407, 9)
  })
  test('a tank: diameter twice, both levels, the clock', () => {
    expect(flow(tank, 'm3/h')?.reference).toBeCloseTo(Math.PI * 0.5 * 2, 9)
    const volume = 100 * Math.hypot((2 * 0.002) / 2, (Math.SQRT2 * 0.001) / 0.5)
    expect(flow(tank, 'm3/h')?.U_pct).toBeCloseTo(2 * Math.hypot(volume, 100 / Math.sqrt(3) / 1800), 9)
    // Filled instead of emptied is the same flow.
    expect(flow({ ...tank, from_m: 2.6, to_m: 3.1 }, 'm3/h')?.reference).toBe(flow(tank, 'm3/h')?.reference)
  })
  const wrong: readonly [why: string, m: Measured, unit: string, says: RegExp][] = [
    ['no time', { ...bucket, seconds: 0 }, 'm3/h', /how long/],
    ['an empty bucket', { ...bucket, mass_kg: 0 }, 'm3/h', /above 0 kg/],
    [
      'grams per cubic centimetre',
      { ...bucket, density_kg_m3: 0.998 },
      'm3/h',
      /density is that of the liquid/,
    ],
    ['no pulses', { ...pulses, pulses: 0 }, 'm3/h', /one at least/],
    ['no factor', { ...pulses, K: 0 }, 'm3/h', /for one unit/],
    ['pulses of a mass in cubic metres', { ...pulses, per: 'kg' }, 'm3/h', /say nothing in m³\/h/],
    ['levels that are equal', { ...tank, to_m: 3.1 }, 'm3/h', /nothing flowed/],
    ['a tank for a mass flow', tank, 'kg/h', /says nothing in kg\/h/],
  ]
  test.each(wrong)('%s is said', (_why, m, unit, says) => {
    const f = measuredFlow(m, unit)
    expect(f.kind === 'refused' && f.says).toMatch(says)
  })
  test('flows are flows', () => {
    expect(['m3/h', 'L/min', 'kg/h', 't/h', 'm', '%', 'bar(g)'].map(isFlowUnit)).toEqual([
      true,
      true,
      true,
      true,
      false,
      false,
      false,
    ])
  })
})
