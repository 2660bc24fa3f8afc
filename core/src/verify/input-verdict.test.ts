import { describe, expect, test } from 'vitest'
import type { InputResult } from './input-check.ts'
import { switchPoints } from './switch-points.ts'
import { inputVerdict, judgeForced, judgePoints, type PointCheck } from './input-verdict.ts'

const POINTS: PointCheck = {
  setpoint: 62,
  rate: 0.1,
  latency_s: 0.4,
  trips: [62.05, 62.02, 62.08],
  resets: [59.95, 59.99, 59.96],
  T: 0.5,
  deadbandLimits: [1, 3],
  unit: 'bar(g)',
}
describe('an input verified', () => {
  test.each([
    [1, 0, 'no', true, /as a NO contact should/],
    [0, 1, 'nc', true, /as a NC contact should/],
    [0, 1, 'no', false, /other contact is wired/],
    [1, 1, 'no', false, /reads 1 both ways/],
    [0, 0, 'nc', false, /does not follow/],
  ] as const)('%d while sensing, %d while not, %s: %s', (whileSensing, whileNot, contact, passes, says) => {
    const v = judgeForced({ whileSensing, whileNot }, contact)
    expect(v.passes).toBe(passes)
    expect(v.says[0]).toMatch(says)
  })
  test('a point with its delay taken out, deadband and repeatability', () => {
    const v = judgePoints(POINTS)
    expect(v.passes).toBe(true)
    expect(v.says.join(' ')).toMatch(/Trips at 62\.01 bar g.*deadband of 2\b.*Repeats within 0\.06/)
  })
  test.each<[string, Partial<PointCheck>, RegExp]>([
    ['off its setpoint', { setpoint: 63 }, /0\.99 below its setpoint/],
    ['reset on the wrong side', { resets: [63, 63, 63] }, /wrong side/],
    ['a deadband too wide', { deadbandLimits: [0, 1] }, /deadband of 2/],
    ['ramped too fast', { rate: 0.5 }, /ramp more slowly/],
  ])('%s fails', (_why, change, says) => {
    const v = judgePoints({ ...POINTS, ...change })
    expect(v.passes).toBe(false)
    expect(v.says.join(' ')).toMatch(says)
  })
  test('a ramp just as fast as allowed is no complaint, turned round neither; faster is', () => {
    const { fastest } = switchPoints(POINTS)
    const says = (rate: number) => judgePoints({ ...POINTS, rate }).says.join(' ')
    for (const rate of [fastest, -fastest]) expect(says(rate)).not.toMatch(/ramp more slowly/)
    for (const rate of [1.001 * fastest, -1.001 * fastest]) expect(says(rate)).toMatch(/ramp more slowly/)
  })
  test('once ramped there is no repeatability, and without a reset no deadband: neither is made up', () => {
    const once = judgePoints({ ...POINTS, trips: [62.05], resets: [] }).says
    expect(once).toHaveLength(1)
    expect(once[0]).toMatch(/^Trips at/)
  })
  test('on its setpoint it is not below it', () => {
    const at = judgePoints({ ...POINTS, latency_s: 0, trips: [62], resets: [60] })
    expect(at.says[0]).not.toMatch(/below/)
  })
  test('what was counted counts, with its words, between what was forced and what was ramped', () => {
    const forced = judgeForced({ whileSensing: 1, whileNot: 0 }, 'no')
    const counted = (inLimits: boolean) => ({ inLimits, says: ['counted'] }) as unknown as InputResult
    const all = inputVerdict(counted(true), forced, judgePoints(POINTS))
    expect(all.passes).toBe(true)
    expect(all.says.indexOf('counted')).toBe(1)
    expect(inputVerdict(counted(false), forced, null).passes).toBe(false)
    expect(inputVerdict(counted(true), null, null)).toEqual({ passes: true, says: ['counted'] })
  })
  test('nothing looked at passes nothing; one that fails fails all', () => {
    const good = judgePoints(POINTS)
    expect(inputVerdict(null, null, null).passes).toBe(false)
    expect(inputVerdict(null, null, good).passes).toBe(true)
    expect(inputVerdict(null, judgeForced({ whileSensing: 1, whileNot: 1 }, 'no'), good).passes).toBe(false)
  })
})
