import { describe, expect, test } from 'vitest'
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
  test('nothing looked at passes nothing; one that fails fails all', () => {
    const good = judgePoints(POINTS)
    expect(inputVerdict(null, null, null).passes).toBe(false)
    expect(inputVerdict(null, null, good).passes).toBe(true)
    expect(inputVerdict(null, judgeForced({ whileSensing: 1, whileNot: 1 }, 'no'), good).passes).toBe(false)
  })
})
