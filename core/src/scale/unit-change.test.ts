import { describe, expect, test } from 'vitest'
import { defaultPath } from '../loop/default-path.ts'
import { usualRelay, type RelayPlan } from '../signal/relay-plan.ts'
import type { Stage } from '../signal/stage.ts'
import { leftBehind } from './unit-change.ts'

const pathIn = (unit: string, limits?: { low: number; high: number }): Stage[] =>
  defaultPath({ transmitter: { low: 0, high: 100, unit }, squareRoot: false, receiver: null }).map((s) =>
    s.kind === 'sensor' && limits ? { ...s, limits } : s,
  )
const high: RelayPlan = {
  ...usualRelay('PSHH', 0, 100),
  trip: { kind: 'points', onAt: 80, offAt: 78, same: 'rising' },
  waves: 0.5,
}
const LIMITS = { low: -1, high: 160 }
const changed = (from: string, to: string, more: { trips?: RelayPlan[]; limits?: typeof LIMITS } = {}) =>
  leftBehind(
    { path: pathIn(from, LIMITS), trips: [high] },
    { path: pathIn(to, more.limits ?? LIMITS), trips: more.trips ?? [high] },
  )

describe('what a new unit leaves behind', () => {
  test('the same unit leaves nothing', () => {
    expect(changed('bar(g)', 'bar(g)')).toBeNull()
  })
  test('nothing but the range stood in it', () => {
    const of = (unit: string) => ({ path: pathIn(unit), trips: [] })
    expect(leftBehind(of('bar(g)'), of('psi(g)'))).toBeNull()
  })
  // 1 bar = 14.503 774 psi; 1 bar = 100 kPa.
  test.each<[string, string, number[]]>([
    ['bar(g)', 'psi(g)', [1160.302, 1131.294, 7.251887, -14.50377, 2320.604]],
    ['bar(g)', 'kPa(g)', [8000, 7800, 50, -100, 16000]],
    // A difference has no zero point: 0.5 °C are 0.9 °F.
    ['degC', 'degF', [176, 172.4, 0.9, 30.2, 320]],
  ])('from %s to %s every point keeps its place', (from, to, [on, off, waves, low, top]) => {
    const told = changed(from, to)
    expect(told?.taken).toEqual([
      { path: 'path.sensor.limits', value: { low, high: top } },
      { path: 'trips', value: [{ ...high, trip: { ...high.trip, onAt: on, offAt: off }, waves }] },
    ])
  })
  test('it is told as it would be read now', () => {
    const says = changed('bar(g)', 'psi(g)')?.says ?? []
    expect(says[0]).toBe('Limits of the sensor: -1 to 160 psi g')
    expect(says[1]).toMatch(/PSHH.*80 psi g/)
  })
  test('what was changed with it is left alone', () => {
    const mine = { ...high, trip: { ...high.trip, onAt: 1160, offAt: 1130 } } as RelayPlan
    expect(changed('bar(g)', 'psi(g)', { trips: [mine] })?.taken?.map((t) => t.path)).toEqual([
      'path.sensor.limits',
    ])
    const both = changed('bar(g)', 'psi(g)', { trips: [mine], limits: { low: -14, high: 2320 } })
    expect(both).toBeNull()
  })
  test('a unit of another kind is told, and cannot be taken over', () => {
    const told = changed('bar(g)', 'm3/h')
    expect([told?.says.length, told?.taken]).toEqual([2, null])
  })
})
