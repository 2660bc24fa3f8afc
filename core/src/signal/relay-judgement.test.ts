import { describe, expect, test } from 'vitest'
import { demonstration, judgeRelay, judgeRelaysTogether, type RelayPlace } from './relay-judgement.ts'
import {
  currentFor_mA,
  plannedPoints,
  relayState,
  RelayPlanSchema,
  sayRelay,
  usualRelay,
  valueOf,
  type RelayPlan,
} from './relay-plan.ts'

const points = (onAt: number, offAt: number, same: 'falling' | 'rising' = 'rising') =>
  ({ kind: 'points', onAt, offAt, same }) as const
const band = (from: number, to: number, onInside: boolean) => ({ kind: 'band', from, to, onInside }) as const
/** A brine tank looked at from above: energised while the distance is large, off at high level. */
const HIGH: RelayPlan = {
  ...usualRelay('LSH-1', 0, 4),
  trip: points(0.85, 0.6),
  alarm: 'low',
  waves: 0.05,
}
const PLACE: RelayPlace = { unit: 'm', range: { low: 0.3, high: 4 }, level: (d) => 4 - d }
const finds = (p: Partial<RelayPlan>, place = PLACE) =>
  judgeRelay({ ...HIGH, ...p }, place).map((f) => f.code)

describe('a relay that protects', () => {
  const rows: readonly [why: string, plan: Partial<RelayPlan>, finds: string[]][] = [
    ['energised while safe, NO contact', {}, ['TRIPS', 'FAILS_SAFE']],
    [
      'energise to trip with NC hides a dead relay',
      { trip: points(0.6, 0.85), contact: 'nc' },
      ['TRIPS', 'POWER_LOSS_HIDES', 'LOST_ECHO_HIDES'],
    ],
    ['the wrong contact keeps the permit', { contact: 'nc' }, ['PERMIT_IN_ALARM']],
    ['hold on a lost echo', { onInvalid: 'hold' }, ['TRIPS', 'FAILS_SAFE', 'LOST_ECHO_HIDES']],
    ['one point for both chatters', { trip: points(0.6, 0.6) }, ['TRIPS', 'FAILS_SAFE', 'CHATTERS']],
    ['two points nearer than the waves', { waves: 0.4 }, ['TRIPS', 'FAILS_SAFE', 'CHATTERS']],
    ['the other alarm wants the other kind', { alarm: 'high' }, ['PERMIT_IN_ALARM']],
    ['energised while near', { alarm: 'high', trip: points(0.6, 0.85) }, ['TRIPS', 'FAILS_SAFE']],
    ['outside a band trips neither', { trip: band(0.6, 0.85, false) }, ['NO_TRIP']],
    ['a band without a width', { trip: band(0.6, 0.6, true) }, ['NO_TRIP', 'NO_BAND']],
    [
      'a point the signal never reaches',
      { trip: points(0.5, 0.2) },
      ['TRIPS', 'FAILS_SAFE', 'OUTSIDE_RANGE'],
    ],
  ]
  test.each(rows)('%s', (_why, plan, expected) => expect(finds(plan)).toEqual(expected))
  test('where it trips is told as a level too', () =>
    expect(judgeRelay(HIGH, PLACE)[0]?.evidence?.map((e) => e.value)).toEqual([0.6, 3.4]))
})

describe('a relay that controls', () => {
  test.each<[string, Partial<RelayPlan>, string[]]>([
    ['stops on a lost signal', {}, ['STOPS_ON_LOST']],
    ['goes on with the NC contact', { contact: 'nc' }, ['RUNS_ON_LOST']],
    ['holds', { onInvalid: 'hold' }, ['HOLDS_ON_LOST']],
    ['is told to run', { onInvalid: 'on' }, ['RUNS_ON_LOST']],
  ])('%s', (_why, plan, expected) => expect(finds({ alarm: 'none', ...plan })).toEqual(expected))

  const out: RelayPlan = { ...usualRelay('K1', 0, 12), trip: points(4, 9) }
  const back: RelayPlan = { ...usualRelay('K2', 0, 12), trip: points(9, 4) }
  test('two that move a target to and fro never pull together', () =>
    expect(judgeRelaysTogether([out, back], 'ft')).toEqual([]))
  test.each<[string, RelayPlan]>([
    ['bands that overlap', { ...back, trip: points(8, 3) }],
    ['both up at power', { ...back, startUp: true }],
    ['the other contact', { ...back, contact: 'nc' }],
  ])('%s: they can', (why, b) =>
    expect(
      judgeRelaysTogether([why === 'both up at power' ? { ...out, startUp: true } : out, b], 'ft').map(
        (f) => f.code,
      ),
    ).toEqual(['BOTH_ON']),
  )
  test('a protective relay is not asked', () =>
    expect(judgeRelaysTogether([{ ...out, alarm: 'low' }, out], 'ft')).toEqual([]))
})

describe('a plan', () => {
  test.each<[string, Partial<RelayPlan>, string]>([
    ['two points, falling', { trip: points(4, 9) }, 'K1: on at 4 ft falling, off at 9 ft'],
    ['one point', { trip: points(4, 4) }, 'K1: on at 4 ft rising, off at 4 ft'],
    ['a band typed the other way round', { trip: band(3, 1, false) }, 'K1: on outside 1 to 3 ft'],
  ])('%s in one line', (_what, more, says) =>
    expect(sayRelay({ ...usualRelay('K1', 0, 12), ...more }, 'ft')).toBe(says),
  )
  test('a band typed the other way round is the same band', () => {
    const at = (x: number) => relayState({ ...HIGH, trip: band(0.85, 0.6, true) }, x, false)
    expect([at(0.5), at(0.7), at(0.9)]).toEqual([false, true, false])
  })
  test.each([
    [4, 2],
    [12, 6],
    [20, 10],
    [3.8, 1.9],
    [3.6, null],
    [21, null],
  ])('%d mA stand for %s', (mA, x) => {
    const r = { at4: 2, at20: 10 }
    const found = valueOf(r, mA / 1000)
    expect(found === null ? null : Number(found.toFixed(9))).toBe(x)
    expect(currentFor_mA(r, 2 + (8 * (mA - 4)) / 16)).toBeCloseTo(mA, 9)
  })
  test('a plan to begin with is sound, and its words are', () => {
    expect(RelayPlanSchema.parse(usualRelay('K1', 0, 4)).trip).toEqual(points(3, 2.8))
    expect(RelayPlanSchema.safeParse({ ...HIGH, name: ' ' }).success).toBe(false)
  })
  test('the demonstration goes through both points, and a lost echo counts as off', () => {
    const moments = demonstration(HIGH)
    expect(moments.some((m) => m.x === null && !m.closed)).toBe(true)
    const at = (which: (x: number) => boolean) =>
      new Set(moments.flatMap((m) => (m.x !== null && which(m.x) ? [m.relay] : [])))
    expect([at((x) => x >= 0.85), at((x) => x <= 0.6)]).toEqual([new Set([true]), new Set([false])])
    expect(moments.some((m) => m.closed)).toBe(true)
  })
})

describe('points that a check ramps to', () => {
  test('both of two points with the way back between them, both ends of a band, one where on and off are one', () => {
    const plan = {
      alarm: 'none',
      contact: 'no',
      startUp: false,
      onInvalid: 'off',
      waves: 0,
      form: 'points',
    } as const
    expect(
      plannedPoints(
        [
          { ...plan, name: 'K1', trip: { kind: 'points', onAt: 9, offAt: 4, same: 'rising' } },
          { ...plan, name: 'K2', trip: { kind: 'band', from: 2, to: 8.5, onInside: true } },
          { ...plan, name: 'K3', trip: { kind: 'points', onAt: 6, offAt: 6, same: 'falling' } },
        ],
        'ft',
      ),
    ).toEqual([
      { says: 'K1, on at 9 ft', at: 9, deadband: 5 },
      { says: 'K1, off at 4 ft', at: 4, deadband: 5 },
      { says: 'K2, changes at 2 ft', at: 2, deadband: null },
      { says: 'K2, changes at 8.5 ft', at: 8.5, deadband: null },
      { says: 'K3, on at 6 ft', at: 6, deadband: null },
    ])
  })
})
