import { expect, describe, test } from 'vitest'
import { compute, type Values, codes } from '../test/through-form.ts'

describe('switches through their form', () => {
  const judged: readonly [why: string, values: Values, code: string][] = [
    ['1 means the other', { meaning1: 'notSensed' }, 'MEANING_REVERSED'],
    ['an alarm that needs current', { alarmOn: 'sensed' }, 'FAIL_UNSAFE'],
    ['an alarm without current', { alarmOn: 'sensed', contact: 'nc', meaning1: 'notSensed' }, 'FAIL_SAFE'],
    ['a target too far', { gap_mm: 30 }, 'OUT_OF_REACH'],
    ['limits on one side', { counter: true, least_s: 12 }, 'CYCLE_LIMITS'],
    [
      'a filter as long as the stroke',
      { counter: true, ideal_s: 0.04, least_s: 0.01, most_s: 0.1 },
      'FILTER_LONG',
    ],
  ]
  test.each(judged)('%s: %s', (_why, values, code) =>
    expect(codes(compute('switch', values))).toContain(code),
  )
})
