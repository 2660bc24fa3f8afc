import { expect, describe, test } from 'vitest'
import { layerThickness_m, readProbe, levelFromProbeEnd, checkProbe } from './probe.ts'
import { row, known, type Values, compute, refused, codes } from '../test/through-form.ts'
import { currentOfFraction } from '../../signal/current-range.ts'

describe('guided wave', () => {
  const PROBE = { probe_m: 2.4, topDead_m: 0.12, bottomDead_m: 0.08, at4_m: 2.32, at20_m: 0.12 }
  test('7 LT-301', () => {
    expect(checkProbe(PROBE)).toMatchObject({ span_m: expect.closeTo(2.2, 9) as number, flags: [] })
    const r = readProbe(PROBE, 1.47)
    expect(r.percent).toBeCloseTo(38.6364, 4)
    expect(r.current_mA).toBeCloseTo(10.1818, 4)
    const high = checkProbe({ ...PROBE, at20_m: 0.05 })
    expect(high.flags).toEqual(['FULL_IN_TOP_DEAD_ZONE'])
    expect(high.reachHigh_pct).toBeCloseTo(96.9163, 4)
    expect(currentOfFraction((high.reachHigh_pct ?? 0) / 100)).toBeCloseTo(19.5066, 4)
  })
  const flags: readonly [why: string, at4: number, at20: number, flags: string[]][] = [
    ['reversed', 0.12, 2.32, ['POINTS_REVERSED_OR_EQUAL']],
    ['zero near the end', 2.35, 0.12, ['ZERO_IN_BOTTOM_DEAD_ZONE']],
    ['zero beyond the end', 2.5, 0.12, ['ZERO_IN_BOTTOM_DEAD_ZONE', 'ZERO_BEYOND_PROBE']],
    ['all at once', 2.5, 0.05, ['FULL_IN_TOP_DEAD_ZONE', 'ZERO_IN_BOTTOM_DEAD_ZONE', 'ZERO_BEYOND_PROBE']],
  ]
  test.each(flags)('%s', (_why, at4_m, at20_m, expected) =>
    expect(checkProbe({ ...PROBE, at4_m, at20_m }).flags).toEqual(expected),
  )
  test('8 the end of the probe through a liquid that hardly reflects', () => {
    const r = levelFromProbeEnd(2.4, 3.052, 2.1)
    expect(r.height_m).toBeCloseTo(1.45167, 5)
    expect(r.surface_m).toBeCloseTo(0.94833, 5)
    expect(layerThickness_m(1.6, 1.0, 4)).toBeCloseTo(0.3, 12)
  })
})

describe('guided wave through its form', () => {
  const PROBE: Values = { probe_m: 2.4, topDead_m: 0.12, bottomDead_m: 0.08, distance_m: 1.47 }
  test('7 LT-301 by the usual points', () => {
    const r = compute('guided-wave', PROBE)
    expect(row(r, 'Span')).toBeCloseTo(2.2, 9)
    expect(row(r, 'Current of the reading')).toBeCloseTo(10.1818, 4)
    expect(codes(r)).toEqual(['ZONES_CLEAR'])
  })
  const judged: readonly [why: string, values: Values, code: string][] = [
    ['100 % in the upper dead zone', { points: 'distance', at20_m: 0.05 }, 'FULL_IN_TOP_DEAD_ZONE'],
    ['0 % in the lower one', { points: 'distance', at4_m: 2.38 }, 'ZERO_IN_BOTTOM_DEAD_ZONE'],
    ['reversed points', { points: 'distance', at4_m: 0.2, at20_m: 2 }, 'POINTS_REVERSED_OR_EQUAL'],
    ['dead zones that eat the probe', { topDead_m: 1.5, bottomDead_m: 1 }, 'POINTS_REVERSED_OR_EQUAL'],
    ['a poor reflector on a rod', { eps: 1.5 }, 'EPS_LOW'],
    ['a probe longer than the tank', { shape: 'rectangular', points: 'level', zero_m: 2.2 }, 'PROBE_TOUCHES'],
    [
      'a tank deeper than the probe',
      { shape: 'rectangular', points: 'level', zero_m: 3, level20_m: 2.8 },
      'TANK_TALLER',
    ],
    ['an end that fits no level', { apparentEnd_m: 30 }, 'PROBE_END'],
  ]
  test.each(judged)('%s', (_why, values, code) =>
    expect(codes(compute('guided-wave', { ...PROBE, ...values }))).toContain(code),
  )
  test('8 the level by the probe’s end', () => {
    const r = compute('guided-wave', { ...PROBE, eps: 2.1, apparentEnd_m: 3.052 })
    expect(row(r, 'Level above the probe’s end, by its echo')).toBeCloseTo(1.45167, 5)
  })
  test('a strapping table is used, and a falling one is told with its row', () => {
    const strapping = [
      [0, 0],
      [1, 2],
      [2.4, 6],
    ] as const
    const r = compute('guided-wave', { ...PROBE, shape: 'table', strapping })
    expect(row(r, 'Volume at 100 %')).toBeCloseTo(2 + (4 * 1.2) / 1.4, 9)
    const [told] = refused('guided-wave', {
      strapping: [
        [0, 0],
        [1, 3],
        [2, 1],
      ],
    })
    expect(told?.[1]).toMatch(/Row 3: the volume 1 falls/)
  })
  test('a table of ten thousand rows computes at once', () => {
    const strapping = Array.from({ length: 10_000 }, (_, i) => [i / 4000, (i / 4000) ** 1.1] as const)
    const r = compute('guided-wave', { ...PROBE, shape: 'table', strapping })
    expect(row(r, 'Volume at 100 %')).toBeCloseTo(2.2 ** 1.1, 3)
  })
  test('the vessel’s curve for the transmitter’s table rises', () => {
    const v = known('guided-wave').vessel?.({ ...PROBE, shape: 'vertical', head1: 'tori10' }) ?? null
    expect(v?.rows).toBe(11)
    expect(v?.volume_m3(0.5)).toBeGreaterThan(v?.volume_m3(0.25) ?? 0)
  })
})
