import { describe, expect, test } from 'vitest'
import { Chain, stagesOfChain } from '../signal/chain.ts'
import { judgeReRange, rangeFigures, tripPlaces } from './re-range.ts'
import { usualRelay, type RelayPlan } from '../signal/relay-plan.ts'
import { WORKED_CODES } from '../signal/test/worked-codes.ts'

const stages = stagesOfChain(
  Chain.parse({
    ...WORKED_CODES,
    lrv: 0,
    urv: 80,
    inUnit: 'bar',
    lo: 0,
    hi: 80,
    unit: 'bar',
    lsl: -20,
    usl: 160,
  }),
)
const relayAt = (name: string, at: number): RelayPlan => ({
  ...usualRelay(name, 0, 100),
  trip: { kind: 'points', onAt: at, offAt: at, same: 'rising' },
})
const TRIPS = [relayAt('PSHH-202', 78)]
const range = (low: number, high: number) => ({ low, high, unit: 'bar' })

describe('range work', () => {
  test('turndown, resolution and accuracy of a range', () => {
    const f = rangeFigures(stages, range(0, 8))
    expect(f.turndown).toBe(20)
    expect(f.perCount).toBeCloseTo(8 / 27648, 12)
    expect(f.perHundredthMA).toBeCloseTo(0.005, 12)
    expect(f.accuracy).toBeCloseTo((0.015 + 0.005 * 20) * 0.08, 12)
  })
  test('a trip keeps its pressure and moves on the current', () => {
    expect(tripPlaces(range(0, 80), range(0, 100), TRIPS)[0]).toEqual({
      name: 'PSHH-202',
      at: 78,
      before_mA: 4 + (16 * 78) / 80,
      after_mA: 4 + (16 * 78) / 100,
      reachable: true,
    })
  })
  const rows: readonly [why: string, low: number, high: number, code: string][] = [
    ['no span', 5, 5, 'NO_SPAN'],
    ['beyond the sensor', 0, 200, 'RANGE_OUTSIDE_SENSOR'],
    ['a small span of a large cell', 0, 8, 'TURNDOWN'],
    ['turned round', 80, 0, 'ACTION_TURNED'],
    ['a trip out of reach', 0, 60, 'TRIP_UNREACHABLE'],
    ['a trip that moves', 0, 100, 'TRIP_MOVES'],
    ['what is always said', 0, 80, 'SENSOR_TRIM_STAYS'],
  ]
  test.each(rows)('%s', (_why, low, high, code) =>
    expect(judgeReRange(stages, range(low, high), TRIPS).map((f) => f.code)).toContain(code),
  )
})

describe('the last current that a trip is reached at', () => {
  // 0 to 16 of a unit makes the current minus four.
  const reachable = (mA: number) =>
    tripPlaces(range(0, 16), range(0, 16), [relayAt('T', mA - 4)])[0]?.reachable
  test.each([
    [3.79, false],
    [3.8, true],
    [20.5, true],
    [20.51, false],
  ])('%s mA: %s', (mA, told) => expect(reachable(mA)).toBe(told))
})
