import { describe, expect, test } from 'vitest'
import { AT_REST, energise } from '../part/energise.ts'
import type { Fault } from '../part/fault.ts'
import { judgeReadings, type PointReading } from './readings.ts'
import { CORRECT, wiringOf } from './proof/test/wirings.ts'
import { testPoints } from './test-points.ts'

const of = (title: string) => {
  const parts = CORRECT.find(([t]) => t === title)?.[1]
  if (!parts) throw new Error(title)
  return wiringOf(parts)
}
const w = of('2-wire, fuse')
const state = { power: true, current_mA: 12, actuated: [] }
/** What a good meter shows at every point, a little off. */
const readAll = (faults: readonly Fault[], supply_V = 24): PointReading[] => {
  const real = { ...w, parts: { ...w.parts, 'PS-1': { kind: 'supply', settings: { voltage_V: supply_V } } } }
  const e = energise(real, { ...AT_REST, faults })
  return testPoints(w).points.map((p, i) => {
    const wire = /^wire (.+)$/.exec(p.id)?.[1]
    const [red = '', black = ''] = p.id.split('|')
    const value =
      wire === undefined ? (e.volts(red) ?? 0) - (e.volts(black) ?? 0) : Math.abs(e.wire_A(wire) ?? 0) * 1000
    return { id: p.id, value: value * (1 + (i % 2 === 0 ? 0.004 : -0.004)) }
  })
}
const wireBetween = (a: string, b: string) =>
  Object.entries(w.wires).find(([, x]) => [x.from, x.to].sort().join() === [a, b].sort().join())?.[0] ?? ''

describe('what was read in the field', () => {
  test('as it should be, in any order, with what a meter is off by', () => {
    const all = readAll([])
    for (const some of [all, [...all].reverse(), all.slice(0, 1)]) {
      const j = judgeReadings(w, state, some)
      expect(j.judged.every((r) => r.fits)).toBe(true)
      expect(j.causes).toEqual([])
    }
  })
  test.each([22, 26.5])('a supply of %s V is the plant’s, not a fault of the loop', (volts) => {
    expect(judgeReadings(w, state, readAll([], volts)).causes).toEqual([])
  })
  const faults: readonly [why: string, fault: Fault, says: RegExp][] = [
    [
      'a broken wire',
      { kind: 'open', wire: wireBetween('PT-1:minus', 'W-1:f2') },
      /broken \(PT-1 − to W-1 2 field\)|broken/,
    ],
    ['a loose terminal', { kind: 'loose', wire: wireBetween('PT-1:plus', 'W-1:f1'), ohm: 400 }, /loose/],
    ['a shorted transmitter', { kind: 'short', part: 'PT-1' }, /PT-1 shorted/],
    ['a wet junction', { kind: 'leakage', part: 'PT-1', ohm: 5000 }, /PT-1 wet/],
    ['leads swapped', { kind: 'reversed', part: 'PT-1' }, /PT-1 leads swapped/],
    ['a dead supply', { kind: 'noSupply', part: 'PS-1' }, /PS-1 gives nothing/],
  ]
  test.each(faults)('%s is among what explains all readings', (_, fault, says) => {
    const j = judgeReadings(w, state, readAll([fault]))
    expect(j.judged.some((r) => !r.fits)).toBe(true)
    expect(j.causes.join('; ')).toMatch(says)
  })
  test('readings that nothing explains are not explained away', () => {
    const odd = readAll([]).map((r, i) => ({ ...r, value: i === 1 ? r.value + 3.3 : r.value }))
    const j = judgeReadings(w, state, odd)
    expect(j.causes).toEqual([])
    expect(j.says).toMatch(/No single fault/)
  })
  test('nothing read, nothing said', () => {
    expect(judgeReadings(w, state, []).says).toBe('Nothing is read yet.')
  })
})
