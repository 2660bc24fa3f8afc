import { describe, expect, test } from 'vitest'
import { compilePath, computeFrom, shownValue } from '../signal/path.ts'
import { STAGE_ORDER } from '../signal/stage.ts'
import { defaultPath } from './default-path.ts'
import { OPTIONAL_STAGES, onSide, SIDED_STAGES, sideOf, withoutStage, withStage } from './optional-stages.ts'

const range = { low: 0, high: 60, unit: 'm3/h' }
const base = defaultPath({ transmitter: range, squareRoot: false, receiver: range })
/** Reading at a kind of station when the process stands at 30 m³/h. */
function at(stages: ReturnType<typeof withStage>, kind: string): number | null {
  const path = compilePath(stages)
  const values = computeFrom(path, 0, 30)
  return shownValue(values[path.stations.findIndex((s) => s.kind === kind)] ?? { kind: 'none' })
}

describe('stages that come and go', () => {
  test.each(OPTIONAL_STAGES)('%s: added at its place, taken away again', (kind) => {
    const bare = withoutStage(base, kind)
    const more = withStage(bare, kind)
    expect(more.map((s) => STAGE_ORDER.indexOf(s.kind))).toEqual(
      more.map((s) => STAGE_ORDER.indexOf(s.kind)).sort((a, b) => a - b),
    )
    expect(withStage(more, kind)).toEqual(more)
    expect(withoutStage(more, kind)).toEqual(bare)
  })
  test('pulses and their total say the flow again; the display follows the current when the controller goes', () => {
    const full = withStage(withStage(withStage(base, 'frequency'), 'totalizer'), 'display')
    expect(at(full, 'frequency')).toBeCloseTo(500, 9)
    expect(at(full, 'totalizer')).toBeCloseTo(30, 9)
    expect(at(full, 'display')).toBeCloseTo(30, 9)
    const bare = withoutStage(full, 'controller')
    expect(bare.find((s) => s.kind === 'display')).toMatchObject({ from: 'current' })
    expect(at(bare, 'display')).toBeCloseTo(30, 9)
  })
  test('an isolator that makes 0-20 of 4-20 leaves the current at its own place', () => {
    const iso = withStage(base, 'isolator').map((s) =>
      s.kind === 'isolator'
        ? { ...s, outLow_mA: 0 }
        : s.kind === 'input'
          ? { ...s, signal: '0-20' as const }
          : s,
    )
    expect(at(iso, 'output')).toBeCloseTo(12, 9)
    expect(at(iso, 'isolator')).toBeCloseTo(10, 9)
    expect(at(iso, 'shunt')).toBeCloseTo(2.5, 9)
    expect(at(iso, 'controller')).toBeCloseTo(30, 3)
    // And backwards from the controller.
    const path = compilePath(iso)
    const back = computeFrom(path, path.stations.length - 1, 15)
    expect(
      shownValue(back[path.stations.findIndex((s) => s.kind === 'output')] ?? { kind: 'none' }),
    ).toBeCloseTo(8, 9)
  })
  describe('either side of an isolator that makes 0-20 of 4-20', () => {
    const full = ['isolator', 'converter', 'display'].reduce(
      (s, k) => withStage(s, k as 'isolator'),
      withoutStage(base, 'controller'),
    )
    const iso = full.map((s) => (s.kind === 'isolator' ? { ...s, outLow_mA: 0 } : s))
    test.each(SIDED_STAGES)('%s: there and back is as it was', (kind) => {
      const before = onSide(iso, kind, 'before')
      expect([sideOf(iso, kind), sideOf(before, kind)]).toEqual(['behind', 'before'])
      expect(onSide(before, kind, 'behind')).toEqual(iso)
      expect(onSide(before, kind, 'before')).toEqual(before)
    })
    test('a card before it takes the transmitter’s own current, behind it the isolator’s', () => {
      expect(at(iso, 'shunt')).toBeCloseTo(2.5, 9)
      expect(at(iso, 'input')).toBe(3750)
      const before = onSide(iso, 'input', 'before')
      expect(at(before, 'shunt')).toBeCloseTo(3, 9)
      expect(at(before, 'input')).toBe(5000)
      expect(at(before, 'display')).toBeCloseTo(30, 9)
    })
    test('without an isolator, or on a controller’s display, there is no choice', () => {
      expect(sideOf(base, 'input')).toBeNull()
      expect(sideOf(withStage(withStage(base, 'isolator'), 'display'), 'display')).toBeNull()
      expect(onSide(base, 'input', 'before')).toEqual(base)
    })
  })
  test('a converter reads the current whatever the card does', () => {
    const c = withStage(base, 'converter').map((s) =>
      s.kind === 'converter' ? { ...s, range: { low: 0, high: 100, unit: '%' } } : s,
    )
    expect(at(c, 'converter')).toBeCloseTo(50, 9)
  })
})
