import { describe, expect, test } from 'vitest'
import { driftChart, leavesOn, loopDrift, sayDrift, type PastErrors } from './loop-drift.ts'

const LEVELS = [0, 50, 100] as const
/** Yearly verifications that drift by so much of span a year at the top; `trims` are years it was put back to zero. */
function years(
  n: number,
  rate: number,
  scatter: readonly number[] = [],
  trims: readonly number[] = [],
): PastErrors[] {
  const out: PastErrors[] = []
  let top = 0
  for (let i = 0; i < n; i++) {
    if (i > 0) top += rate + (scatter[i] ?? 0)
    const found = LEVELS.map((l): [number, number] => [l, (top * l) / 100])
    if (trims.includes(i)) top = 0
    const left = LEVELS.map((l): [number, number] => [l, (top * l) / 100])
    const used = Math.abs(found[2]?.[1] ?? 0) / 0.5
    out.push({ at: `${2016 + i}-06-15T08:00:00.000Z`, found, left, T_pct: 0.5, used })
  }
  return out
}

describe('drift of a loop', () => {
  test('no history, and too little of it, is said plainly', () => {
    expect(loopDrift([], 12)).toBeNull()
    const d = loopDrift(years(3, 0.1), 12)
    expect(d?.drift).toEqual({ enough: false, periods: 2 })
    expect(d && sayDrift(d)[0]).toMatch(/Too little history.*2 of 3/)
    expect(d && leavesOn(d)).toBeNull()
  })
  test('a steady drift: the level that leaves first, its rate, and a day before the central line', () => {
    const d = loopDrift(years(5, 0.08, [0, 0.004, -0.003, 0.002, -0.003]), 12)
    if (!d?.drift.enough) throw new Error('not enough')
    expect(d.level_pct).toBe(100)
    expect(d.drift.rate * 365.25).toBeCloseTo(0.08, 2)
    expect(d.drift.significant).toBe(true)
    expect(d.drift.earliest_days ?? NaN).toBeLessThan(d.drift.central_days ?? NaN)
    expect(leavesOn(d)).toMatch(/^202[12]-/)
    expect(sayDrift(d).join(' ')).toMatch(/drifts by 0\.08 % of span a year at 100 %/)
  })
  test('a trim in between does not hide the drift', () => {
    const whole = loopDrift(years(6, 0.08, [0, 0.003, -0.003, 0.003, -0.003, 0.003]), 12)
    const reset = loopDrift(years(6, 0.08, [0, 0.003, -0.003, 0.003, -0.003, 0.003], [3]), 12)
    if (!whole?.drift.enough || !reset?.drift.enough) throw new Error('not enough')
    expect(reset.drift.rate).toBeCloseTo(whole.drift.rate, 9)
    expect(reset.a0_pct).toBeLessThan(whole.a0_pct)
  })
  test('scatter without a trend keeps the interval', () => {
    const d = loopDrift(years(5, 0, [0, 0.05, -0.06, 0.04, -0.05]), 12)
    expect(d && sayDrift(d)[0]).toMatch(/No drift shown over 4 periods/)
    expect(d?.byDrift_months).toBeNull()
    expect(d?.recommended_months).toBe(d?.staircase_months)
  })
  test.each([
    [[0.3, 0.4], 12, 15],
    [[0.7], 12, 12],
    [[0.9], 12, 9],
    [[1.2], 12, 6],
    [[1.2], 1, 1],
  ] as const)('used %j of the tolerance at %d months: %d by the staircase', (used, interval, wanted) => {
    const past = used.map((u, i) => ({ ...(years(3, 0)[i] as PastErrors), used: u }))
    expect(loopDrift(past, interval)?.staircase_months).toBe(wanted)
  })
  test('the shorter of both intervals is recommended', () => {
    const d = loopDrift(years(5, 0.12, [0, 0.002, -0.002, 0.002, -0.002]), 12)
    expect(d?.recommended_months).toBe(Math.min(d?.byDrift_months ?? 99, d?.staircase_months ?? 99))
  })
  test('levels of another plan are found where they are the same', () => {
    const past = years(4, 0.05)
    const [first] = past
    if (!first) throw new Error('none')
    const other = [{ ...first, left: [[100.4, 0] as const, [0.2, 0] as const] }, ...past.slice(1)]
    expect(loopDrift(other, 12)?.drift.enough).toBe(true)
  })
  test('the picture goes on past the last verification', () => {
    const past = years(5, 0.08, [0, 0.004, -0.003, 0.002, -0.003])
    const d = loopDrift(past, 12)
    const chart = d && driftChart(past, d)
    const x = chart?.series.flatMap((s) => s.points.map(([a]) => a)) ?? []
    expect(Math.max(...x)).toBeGreaterThan(2020.9)
    expect(chart?.series.map((s) => s.name)).toContain('at the earliest')
  })
})
