import { describe, expect, test } from 'vitest'
import { defaultPath } from '../loop/default-path.ts'
import { Generator } from '../statistics/generator.ts'
import { questions } from './contradiction.ts'
import { namedPlan } from './plan.ts'
import { loopScale, type Reading } from './reading-errors.ts'

const range = { low: 0, high: 80, unit: 'bar(g)' }
const scale = loopScale(defaultPath({ transmitter: range, squareRoot: false, receiver: range }))
if (!scale) throw new Error('no scale')
const T = { mode: 'max', pctSpan: 0.5, pctReading: 0, abs: 0 } as const

/** A healthy loop read at five points, some of it changed. */
const read = (change: (r: Reading) => Partial<Reading> = () => ({})): Reading[] =>
  namedPlan('P5').map((p) => {
    const applied = (80 * p.level_pct) / 100
    const r: Reading = {
      index: p.index,
      direction: p.direction,
      applied,
      pv: applied,
      loopCurrent_mA: 4 + (16 * p.level_pct) / 100,
      controller: applied,
    }
    return { ...r, ...change(r) }
  })
const asked = (readings: readonly Reading[]) =>
  [...questions(scale, T, readings)].flatMap(([index, all]) => all.map((f) => `${index} ${f.where.join()}`))
const at = (index: number, change: Partial<Reading>) => (r: Reading) => (r.index === index ? change : {})

describe('readings that cannot all be true', () => {
  const rows: readonly [why: string, readings: Reading[], asked: string[]][] = [
    ['a healthy loop', read(), []],
    ['8 mA for 12 at half, the controller right', read(at(2, { loopCurrent_mA: 8 })), ['2 loopCurrent_mA']],
    [
      'the same without the transmitter’s reading',
      read((r) => ({ pv: null, ...(r.index === 2 ? { loopCurrent_mA: 8 } : {}) })),
      ['2 loopCurrent_mA'],
    ],
    ['the transmitter read with two digits exchanged', read(at(2, { pv: 44 })), ['2 pv']],
    ['the controller alone is odd at one point', read(at(1, { controller: 26 })), ['1 controller']],
    [
      'the current alone is odd, nothing else was read',
      read((r) => ({ pv: null, controller: null, ...(r.index === 3 ? { loopCurrent_mA: 16.9 } : {}) })),
      ['3 loopCurrent_mA'],
    ],
    [
      'every current of another loop',
      read(() => ({ loopCurrent_mA: 9.1 })),
      ['0 loopCurrent_mA', '1 loopCurrent_mA', '3 loopCurrent_mA', '4 loopCurrent_mA', '2 loopCurrent_mA'],
    ],
  ]
  test.each(rows)('%s', (_why, readings, expected) =>
    expect(asked(readings).sort()).toEqual([...expected].sort()),
  )
})

describe('a loop that is really wrong is judged, not asked about', () => {
  const rows: readonly [why: string, change: (r: Reading) => Partial<Reading>][] = [
    [
      'a zero shift of 3 %',
      (r) => ({
        pv: (r.pv ?? 0) + 2.4,
        loopCurrent_mA: (r.loopCurrent_mA ?? 0) + 0.48,
        controller: (r.controller ?? 0) + 2.4,
      }),
    ],
    ['a receiver scaled 10 % too far', (r) => ({ controller: (r.controller ?? 0) * 1.1 })],
    [
      'an output 4 % low, and the controller with it',
      (r) => ({ loopCurrent_mA: (r.loopCurrent_mA ?? 0) - 0.64, controller: (r.controller ?? 0) - 3.2 }),
    ],
    ['a controller that is stuck', () => ({ controller: 18 })],
  ]
  test.each(rows)('%s', (_why, change) => expect(asked(read(change))).toEqual([]))
  test('two thousand healthy loops with scatter: never asked', () => {
    const g = new Generator(8)
    const cried = Array.from({ length: 2000 }, () =>
      asked(
        read((r) => ({
          pv: (r.pv ?? 0) + 0.1 * g.normal(),
          loopCurrent_mA: (r.loopCurrent_mA ?? 0) + 0.02 * g.normal(),
          controller: (r.controller ?? 0) + 0.1 * g.normal(),
        })),
      ),
    ).flat()
    expect(cried).toEqual([])
  })
})
