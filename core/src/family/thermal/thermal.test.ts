import { expect, describe, test } from 'vitest'
import { insertion, meanFactor } from './insertion.ts'
import {
  driftOf,
  minutesToLeave,
  nozzleFlow,
  criticalFlowFunction,
  nozzleVerdict,
  oxygenAfter_pct,
} from './nozzle.ts'

const near = (measured: number, printed: number, relative = 1e-5) =>
  expect(Math.abs(measured - printed), `${measured} for ${printed}`).toBeLessThanOrEqual(
    relative * Math.abs(printed),
  )

describe('thermal insertion', () => {
  const probe = {
    stack_mm: 312,
    wall_mm: 9.27,
    id_mm: 254.46,
    tip_mm: 12,
    stem_mm: 19.05,
    probe_mm: null,
    gauge_kPa: 720,
  }
  test('W19 depth mark, blockage, force and flow', () => {
    const i = insertion(probe)
    near(i.mark_mm, 460.5)
    near(i.blockage, 0.947845)
    near(i.force_N, 205.217)
    expect(i.needsRetractor).toBe(true)
    near(insertion({ ...probe, gauge_kPa: 340 }).force_N, 96.908)
    const m = meanFactor(7)
    near(m.F, 0.816667)
    near(m.meanDepth, 0.12114, 4e-5)
    near(14.2 * m.F * i.blockage * (Math.PI / 4) * 0.25446 ** 2 * 3600, 2012.34)
  })
  test('a probe that does not reach, and a tip that would touch, are refused', () => {
    expect(insertion({ ...probe, probe_mm: 470 }).refused).toMatch(/does not reach/)
    expect(insertion({ ...probe, id_mm: 40, tip_mm: 15 }).refused).toMatch(/far wall/)
  })
  test('W20 nitrogen through the nozzle', () => {
    const n = nozzleFlow(3.2, 705, 22, 118, null)
    near(n?.Cstar ?? 0, 0.686492, 2e-6)
    near(n?.Re ?? 0, 293417)
    near(n?.Cd ?? 0, 0.990879, 2e-6)
    near(n?.massFlow_g_s ?? 0, 13.0311)
    expect(n?.choked).toBe(true)
    near(
      ((nozzleFlow(3.2, 705, 32, 118, null)?.massFlow_g_s ?? 0) / (n?.massFlow_g_s ?? 1) - 1) * 100,
      -1.6947,
      1e-4,
    )
    expect(criticalFlowFunction(6000, 20)).toBeNull()
  })
  test('W21 against the baseline, and drift', () => {
    const references = [305, 505, 705, 905].map(
      (p) => (nozzleFlow(3.2, p, 22, 100, null)?.massFlow_g_s ?? 0) * 3.6,
    )
    ;[20.2111, 33.5474, 46.9119, 60.3011].forEach((r, i) => near(references[i] ?? 0, r))
    const indicated = [20.3, 33.62, 46.75, 60.1]
    const rows = nozzleVerdict(
      references.map((reference, i) => ({ reference, indicated: indicated[i] ?? 0, baseline_pct: null })),
      1,
      0.2,
      60,
    )
    ;[0.4398, 0.2163, -0.345, -0.3334].forEach((d, i) => near(rows[i]?.deviation_pct ?? 0, d, 3e-4))
    ;[1.5937, 1.3577, 1.2558, 1.199].forEach((l, i) => near(rows[i]?.limit_pct ?? 0, l, 3e-5))
    expect(rows.every((r) => r.verdict === 'PASS')).toBe(true)
    const d = driftOf([0, 1, 2, 3], [0.1, 0.28, 0.61, 0.79], 1)
    near(d?.slope ?? 0, 0.24)
    near(d?.crossesAt ?? 0, 3.8125)
    expect(driftOf([0, 1], [0, 1], 1)).toBeNull()
  })
  test('W26 nitrogen in a room', () => {
    near(oxygenAfter_pct(42, 55, 15), 15.065, 2e-5)
    near(minutesToLeave(42, 55) ?? 0, 3.1768, 2e-5)
  })
})
