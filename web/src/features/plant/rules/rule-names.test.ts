import { describe, expect, test } from 'vitest'
import { ruleName, ruleValue } from './rule-names.ts'

describe('rules in the words of the page', () => {
  test.each<[string, string]>([
    ['paper', 'Paper'],
    ['byKind.pressure', 'Pressure and differential pressure'],
    ['byKind.any.interval_months', 'Any other kind: interval, months'],
    ['plans.Flow meters', 'Test plan Flow meters'],
    ['something newer', 'something newer'],
  ])('%s', (path, name) => {
    expect(ruleName(path)).toBe(name)
  })
  test.each<[string, string]>([
    ['A4', 'A4'],
    ['{"tolerance_pct":0.5,"interval_months":null,"signatures":3}', 'tolerance, % of span 0.5, signatures 3'],
    ['["reviewed","approved"]', 'reviewed, approved'],
  ])('%s', (text, says) => {
    expect(ruleValue(text)).toBe(says)
  })
})
