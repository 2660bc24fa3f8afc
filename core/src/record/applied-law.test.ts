import { describe, expect, test } from 'vitest'
import { comparisonBudget, NO_EXTRAS } from '../verify/comparison-budget.ts'
import { appliedSpan, fromApplied, toApplied } from './applied-law.ts'
import { AppliedLaw } from './kinds/applied.ts'

const celsius = { low: 0, high: 150, unit: 'degC' }
const pt100: AppliedLaw = { kind: 'resistance', r0_ohm: 100 }
const k: AppliedLaw = { kind: 'thermocouple', type: 'K', junction_C: 25 }
const hertz: AppliedLaw = { kind: 'linear', unit: 'Hz', low: 0, high: 1000 }
const flow = { low: 0, high: 90, unit: 'm3/h' }

describe('what is set stands for what is applied', () => {
  // IEC 60751 and IEC 60584-1: values of the published tables.
  const rows: readonly [
    why: string,
    law: AppliedLaw,
    range: typeof celsius,
    input: number,
    set: number,
    digits: number,
  ][] = [
    ['platinum at 100 °C', pt100, celsius, 100, 138.5055, 4],
    ['platinum at 0 °C', pt100, celsius, 0, 100, 9],
    ['platinum at 150 °C', pt100, celsius, 150, 157.325, 3],
    ['platinum 1000 at 100 °C', { kind: 'resistance', r0_ohm: 1000 }, celsius, 100, 1385.055, 2],
    ['a range in Fahrenheit', pt100, { low: 32, high: 302, unit: 'degF' }, 212, 138.5055, 4],
    [
      'type K at 300 °C, junction at 25 °C: 12.209 less 1.000 mV',
      k,
      { low: 0, high: 600, unit: 'degC' },
      300,
      11.209,
      2,
    ],
    ['type K at the junction’s own temperature', k, celsius, 25, 0, 9],
    ['half of a frequency range', hertz, flow, 45, 500, 9],
    [
      'a falling law',
      { kind: 'linear', unit: 'mm', low: 400, high: 20 },
      { low: 0, high: 100, unit: '%' },
      25,
      305,
      9,
    ],
  ]
  test.each(rows)('%s', (_why, law, range, input, set, digits) => {
    expect(toApplied(law, input, range)).toBeCloseTo(set, digits)
    const back = toApplied(law, input, range)
    expect(fromApplied(law, back ?? NaN, range)).toBeCloseTo(input, 6)
  })
  test('what no sensor can have stands for nothing', () => {
    expect(fromApplied(pt100, 5, celsius)).toBeNull()
    expect(fromApplied(k, 80, celsius)).toBeNull()
    expect(appliedSpan(pt100, { low: 0, high: 900, unit: 'degC' })).toBeNull()
  })
  test('a law without a span is refused', () => {
    expect(AppliedLaw.safeParse({ kind: 'linear', unit: 'V', low: 5, high: 5 }).success).toBe(false)
    expect(AppliedLaw.safeParse({ kind: 'thermocouple', type: 'K', junction_C: 400 }).success).toBe(false)
  })
})

describe('the uncertainty of what is set', () => {
  const decade = {
    name: 'Decade',
    functions: [
      {
        low: 1,
        high: 400,
        unit: 'ohm',
        uncertainty: { pctReading: 0, pctRange: 0, absolute: 0.04 },
        drift: null,
        resolution: 0,
      },
    ],
  }
  const meter = {
    name: 'Meter',
    functions: [
      {
        low: 0,
        high: 24,
        unit: 'mA',
        uncertainty: { pctReading: 0, pctRange: 0, absolute: 0.004 },
        drift: null,
        resolution: 0,
      },
    ],
  }
  test('0.04 Ω of a decade is 0.1 °C, 0.07 % of 150 °C, where the table is flattest', () => {
    const b = comparisonBudget({ input: celsius }, [decade, meter], NO_EXTRAS, appliedSpan(pt100, celsius))
    expect(b.missing).toEqual([])
    const line = b.lines.find((l) => l.title === 'Decade, certificate')
    // dR/dt of platinum at 150 °C: 100·(A + 2·B·150) = 0.37358 Ω/°C.
    expect((line?.value ?? 0) * (line?.c ?? 0)).toBeCloseTo((0.04 / 0.3737) * (100 / 150), 3)
  })
  test('a decade is no standard for a loop that is applied in degrees', () => {
    const b = comparisonBudget({ input: celsius }, [decade, meter])
    expect(b.missing).toEqual(['No instrument was chosen for what is applied (°C).'])
  })
})
