import { describe, expect, test } from 'vitest'
import type { StandIn } from './stand-in.ts'
import { countedUnit, totalsAt } from './totals.ts'
import { exact, go, OPEN, refused } from './test/at-device.ts'

const values = (d: StandIn, t_s: number) => totalsAt(d, t_s).map((t) => Number(t.value.toFixed(2)))
/** At rest at zero from the beginning. */
const still = (unit: string) => {
  const d = exact(3600, unit, { process: 0 })
  return { ...d, motion: { ...d.motion, from: 0, to: 0, raw: 0 } }
}

describe('totalizers', () => {
  const units: readonly [rate: string, counted: string | null][] = [
    ['kg/h', 'kg'],
    ['L/min', 'L'],
    ['m3/h', 'm3'],
    ['bar', null],
    ['m/s', null],
    ['kg/m3', null],
  ]
  test.each(units)('%s counts %s', (rate, counted) => {
    expect(countedUnit(rate)?.unit ?? null).toBe(counted)
  })
  test('3600 kg/h for 1000 s are 1000 kg, however often it is looked at', () => {
    const d = still('kg/h')
    const flowing = { ...d, motion: { ...d.motion, from: 3600, to: 3600, raw: 3600 } }
    expect(values(flowing, 1000)).toEqual([1000, 1000])
    const asked = go(flowing, 400, ...OPEN, { kind: 'markAsFound' })
    expect(values(go(asked, 700, { kind: 'store' }), 1000)).toEqual([1000, 1000])
  })
  test('backwards counts in the second alone', () => {
    const d = still('kg/h')
    const back = { ...d, motion: { ...d.motion, from: -360, to: -360, raw: -360 } }
    expect(values(back, 1000)).toEqual([0, -100])
  })
  test('a change of the flow counts with what it was before it', () => {
    const flowing = go(still('kg/h'), 1000, { kind: 'apply', value: 3600 })
    // Valves take their time; from there on it is a kilogram a second.
    const after = values(flowing, 1100)[0] ?? 0
    expect(after).toBeGreaterThan(85)
    expect(after).toBeLessThan(100)
    expect((values(flowing, 2100)[0] ?? 0) - after).toBeCloseTo(1000, 1)
  })
  test('set to zero one at a time, with what it stood at in the audit; without supply nothing is counted', () => {
    const d = still('kg/h')
    const flowing = go({ ...d, motion: { ...d.motion, from: 3600, to: 3600, raw: 3600 } }, 100, ...OPEN)
    const reset = go(flowing, 500, { kind: 'resetTotal', which: 2 })
    expect(values(reset, 600)).toEqual([600, 100])
    expect(reset.audit.at(-1)?.says).toMatch(/Totalizer 2 set to 0; it stood at 500/)
    const off = go(reset, 600, { kind: 'power', on: false })
    expect(values(go(off, 5000, { kind: 'power', on: true }), 5100)).toEqual([700, 200])
  })
  test('a pressure counts nothing', () => {
    const d = go(exact(10, 'bar'), 1, ...OPEN)
    expect(totalsAt(d, 100)).toEqual([])
    expect(refused(d, 2, { kind: 'resetTotal', which: 1 })).toMatch(/counts nothing/)
  })
})
