import { describe, expect, test } from 'vitest'
import { readStrapping } from './read-strapping.ts'
import { strappingSlips } from './strapping-slips.ts'

test('rows with a heading and decimal commas are taken', () =>
  expect(readStrapping([['level', 'volume'], ['0', '0'], ['0,5', '1,25'], [], ['1', '3']])).toEqual({
    rows: [
      [0, 0],
      [0.5, 1.25],
      [1, 3],
    ],
    says: null,
    took: 'Levels read in m (the heading names no unit), volumes in m³ (the heading names no unit).',
  }))
test.each<[string, string[][], (readonly [number, number])[]]>([
  [
    'cm and litres',
    [
      ['Level cm', 'Volume L'],
      ['0', '0'],
      ['50', '1250'],
    ],
    [
      [0, 0],
      [0.5, 1.25],
    ],
  ],
  [
    'mm in brackets',
    [
      ['dip [mm]', 'content (m3)'],
      ['0', '0'],
      ['500', '1.25'],
    ],
    [
      [0, 0],
      [0.5, 1.25],
    ],
  ],
  [
    'inches and US gallons',
    [
      ['level, in', 'volume, USgal'],
      ['0', '0'],
      ['100', '1000'],
    ],
    [
      [0, 0],
      [2.54, 3.785411784],
    ],
  ],
  [
    'only one unit',
    [
      ['level cm', 'volume'],
      ['0', '0'],
      ['50', '1.25'],
    ],
    [
      [0, 0],
      [0.5, 1.25],
    ],
  ],
  [
    'a heading in one cell',
    [['level cm volume L'], ['0', '0'], ['50', '1250']],
    [
      [0, 0],
      [0.5, 1.25],
    ],
  ],
])('units of the heading: %s', (_what, cells, rows) => {
  const r = readStrapping(cells)
  expect(r.says).toBeNull()
  r.rows.forEach((row, i) => row.forEach((x, j) => expect(x).toBeCloseTo(rows[i]?.[j] ?? NaN, 9)))
  expect(r.rows).toHaveLength(rows.length)
})
const wrong: readonly [why: string, cells: string[][], says: RegExp][] = [
  ['a word inside', [['0', '0'], ['1', 'full']], /Line 2 is not a level and a volume: “1; full”/],
  ['a falling volume', [['0', '5'], ['1', '4']], /Row 2: the volume 4 falls below 5/],
  ['nothing at all', [['a', 'b']], /No rows/],
  ['one row', [['0', '0']], /two rows/],
  ['centimetres without a word of it', [['level', 'volume'], ['0', '0'], ['340', '12']], /no tank is 340 m high/],
] // prettier-ignore
test.each(wrong)('%s: nothing is taken, and the line is named', (_why, cells, says) => {
  const r = readStrapping(cells)
  expect(r.rows).toEqual([])
  expect(r.says).toMatch(says)
})

const cylinder = (r_m: number, rows: number, step = 0.25) =>
  Array.from({ length: rows }, (_, i) => [i * step, Math.PI * r_m ** 2 * i * step] as const)
const lying = Array.from({ length: 21 }, (_, i) => {
  const [h, R] = [i * 0.1, 1]
  return [
    h,
    3 * (R * R * Math.acos((R - h) / R) - (R - h) * Math.sqrt(Math.max(0, 2 * R * h - h * h))),
  ] as const
})
describe('a digit typed wrong in a table', () => {
  test.each([
    ['an upright cylinder', cylinder(1.2, 15)],
    ['a lying cylinder', lying],
    ['a cone', Array.from({ length: 15 }, (_, i) => [i * 0.2, (i * 0.2) ** 3] as const)],
    [
      'a cone under a cylinder',
      [
        ...Array.from({ length: 6 }, (_, i) => [i * 0.2, (i * 0.2) ** 3] as const),
        ...Array.from({ length: 9 }, (_, i) => [1.2 + i * 0.2, 1 + (i + 1) * 0.6] as const),
      ],
    ],
  ])('%s has none', (_what, table) => {
    expect(strappingSlips(table)).toEqual([])
  })
  test('is found at its row, with what it should be', () => {
    const table = cylinder(1.2, 15).map(([h, v], i) => [h, i === 7 ? v + 0.9 : v] as const)
    const [slip, ...more] = strappingSlips(table)
    expect(more).toEqual([])
    expect(slip?.row).toBe(8)
    expect(slip?.likely).toBeCloseTo(cylinder(1.2, 15)[7]?.[1] ?? NaN, 9)
  })
})
