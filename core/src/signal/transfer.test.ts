import { expect, describe, test } from 'vitest'
import { currentOfFraction } from './current-range.ts'
import { settlingTime_s, filterStep, damped } from './damping.ts'
import { powerTransfer } from './transfer.ts'

describe('transfer', () => {
  const rows: readonly [
    why: string,
    kind: 'linear' | 'sqrt' | 'pow3/2' | 'pow5/2',
    x: number,
    mA: number,
    digits: number,
  ][] = [
    ['26 linear', 'linear', 9 / 40, 7.6, 9],
    ['26 square root', 'sqrt', 9 / 40, 11.58947, 5],
    ['26 rectangular weir', 'pow3/2', 0.4, 8.04772, 5],
    ['26 V-notch', 'pow5/2', 0.4, 5.61909, 5],
  ]
  test.each(rows)('%s', (_why, kind, x, mA, digits) =>
    expect(currentOfFraction(powerTransfer(kind, x))).toBeCloseTo(mA, digits),
  )
  test('a square root below its cutoff: nothing, or a straight line that joins', () => {
    expect(powerTransfer('sqrt', 0.0024, 0.05)).toBe(0)
    expect(powerTransfer('sqrt', 0.0024, 0.05, 'linear')).toBeCloseTo(0.048, 12)
    expect(powerTransfer('sqrt', 0.0025, 0.05, 'linear')).toBeCloseTo(0.05, 12)
    expect(powerTransfer('sqrt', -1, 0.05)).toBe(0)
  })
})

describe('damping', () => {
  test('26 time to 99.9 %, one filter and two', () => {
    expect(settlingTime_s(3, 0.999)).toBeCloseTo(20.7233, 4)
    expect(settlingTime_s(3, 0.999, 2)).toBeCloseTo(27.7002, 4)
    expect(settlingTime_s(1, 0.632120558829)).toBeCloseTo(1, 9)
  })
  test('samples follow the curve', () => {
    let y = 4
    for (let i = 0; i < 50; i++) y = filterStep(y, 20, 3, 0.1)
    expect(y).toBeCloseTo(damped(4, 20, 3, 5), 9)
  })
})
