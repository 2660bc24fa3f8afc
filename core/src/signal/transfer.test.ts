import { expect, describe, test } from 'vitest'
import { currentOfFraction } from './current-range.ts'
import { settlingTime_s } from './damping.ts'
import {
  applyTransfer,
  invertKnown,
  LINEAR,
  powerTransfer,
  tableProblem,
  type Known,
  type Transfer,
} from './transfer.ts'

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
})

describe('a path’s transfer, forth and back', () => {
  const root = { kind: 'sqrt', cutoff: 0.25 } as const
  const rising = {
    kind: 'table',
    points: [
      [0, 0],
      [0.5, 0.2],
      [1, 1],
    ],
  } as const
  const falling = {
    kind: 'table',
    points: [
      [1, 0],
      [0, 1],
    ],
  } as const
  test.each<[why: string, t: Transfer, u: number, q: number]>([
    ['a root at its cutoff is what it is', root, 0.0625, 0.25],
    ['just under it, nothing', root, 0.0624999, 0],
    ['a root of less than nothing', { kind: 'sqrt' }, -0.01, 0],
    ['a root without a cutoff', { kind: 'sqrt' }, 1e-6, 1e-3],
    ['a line goes on', LINEAR, 1.2, 1.2],
    ['a table between its points', rising, 0.25, 0.1],
    ['a table beyond its end', rising, 1.1, 1.16],
    ['a falling one, whatever the order of its rows', falling, 0.25, 0.75],
  ])('%s', (_why, t, u, q) => expect(applyTransfer(t, u)).toBeCloseTo(q, 12))

  test.each<[why: string, t: Transfer, known: Known, back: Known]>([
    ['a value', rising, { kind: 'value', phi: 0.1 }, { kind: 'value', phi: 0.25 }],
    [
      'the root of nothing is at most the square of its cutoff',
      root,
      { kind: 'value', phi: 0 },
      { kind: 'atMost', bound: 0.0625 },
    ],
    [
      'without a cutoff it is nothing',
      { kind: 'sqrt' },
      { kind: 'value', phi: 0 },
      { kind: 'atMost', bound: 0 },
    ],
    ['nothing known stays so', rising, { kind: 'none' }, { kind: 'none' }],
    [
      'an interval',
      LINEAR,
      { kind: 'interval', mid: 0.5, lo: 0.4, hi: 0.6 },
      { kind: 'interval', mid: 0.5, lo: 0.4, hi: 0.6 },
    ],
    [
      'at least stays at least where it rises',
      rising,
      { kind: 'atLeast', bound: 0.2 },
      { kind: 'atLeast', bound: 0.5 },
    ],
    [
      'and becomes at most where it falls',
      falling,
      { kind: 'atLeast', bound: 0.25 },
      { kind: 'atMost', bound: 0.75 },
    ],
    ['at most becomes at least', falling, { kind: 'atMost', bound: 0.25 }, { kind: 'atLeast', bound: 0.75 }],
    ['a root keeps its side', root, { kind: 'atMost', bound: 0.5 }, { kind: 'atMost', bound: 0.25 }],
  ])('back: %s', (_why, t, known, back) => expect(invertKnown(t, known)).toEqual(back))

  test.each<[points: readonly (readonly [number, number])[], says: RegExp | null]>([
    [[[0, 0]], /at least two points/],
    [
      [
        [0, 0],
        [1, 1],
      ],
      null,
    ],
    [
      [
        [1, 0],
        [0, 1],
      ],
      null,
    ],
    [
      [
        [0, 0],
        [0, 1],
      ],
      /same input, 0/,
    ],
    [
      [
        [0, 0],
        [0.5, 0.5],
        [1, 0.5],
      ],
      /turns back at input 1:/,
    ],
    [
      [
        [0, 0],
        [0.5, 0.7],
        [1, 0.6],
      ],
      /turns back at input 1:/,
    ],
    [
      [
        [0, 1],
        [0.5, 0.2],
        [1, 0.3],
      ],
      /turns back at input 1:/,
    ],
  ])('the table %j', (points, says) => {
    const told = tableProblem(points)
    expect(told ?? 'none').toMatch(says ?? /^none$/)
  })
})
