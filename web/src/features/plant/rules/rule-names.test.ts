import { describe, expect, test } from 'vitest'
import { ruleName, ruleValue } from './rule-names.ts'

describe('rules in the words of the page', () => {
  test.each<[string, string]>([
    ['paper', 'Paper'],
    ['byKind.pressure', 'Pressure and differential pressure'],
    ['byKind.any.interval_months', 'Any other kind: interval, months'],
    ['plans.Flow meters', 'Test plan Flow meters'],
    ['plans.Flow meters.levels_pct', 'Test plan Flow meters: points, %'],
    ['something newer', 'something newer'],
  ])('%s', (path, name) => {
    expect(ruleName(path)).toBe(name)
  })
  test.each<[string, string, string]>([
    ['paper', 'A4', 'A4'],
    ['wireColours', 'na', 'North America'],
    ['decimalSign', 'comma', '12,5'],
    ['inputWords', 'sensor', 'after the sensor: one that switches to plus is sourcing'],
    ['dates.form', 'slashes', '11/23/2026'],
    ['decision', 'guarded', 'Guard band: accepted only inside the tolerance less the uncertainty'],
    ['water', 'not said', 'not said'],
    [
      'byKind.any',
      '{"tolerance_pct":0.5,"interval_months":null,"signatures":3}',
      'tolerance, % of span 0.5, signatures 3',
    ],
    ['signing.second', '["reviewed","approved"]', 'reviewed, approved'],
  ])('%s: %s', (path, text, says) => {
    expect(ruleValue(path, text)).toBe(says)
  })
})
