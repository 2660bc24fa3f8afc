import { expect, test } from 'vitest'
import { readStrapping } from './read-strapping.ts'

test('rows with a heading and decimal commas are taken', () =>
  expect(readStrapping([['level', 'volume'], ['0', '0'], ['0,5', '1,25'], [], ['1', '3']])).toEqual({
    rows: [
      [0, 0],
      [0.5, 1.25],
      [1, 3],
    ],
    says: null,
  }))
const wrong: readonly [why: string, cells: string[][], says: RegExp][] = [
  ['a word inside', [['0', '0'], ['1', 'full']], /Line 2 is not a level and a volume: “1; full”/],
  ['a falling volume', [['0', '5'], ['1', '4']], /Row 2: the volume 4 falls below 5/],
  ['nothing at all', [['a', 'b']], /No rows/],
  ['one row', [['0', '0']], /two rows/],
] // prettier-ignore
test.each(wrong)('%s: nothing is taken, and the line is named', (_why, cells, says) => {
  const r = readStrapping(cells)
  expect(r.rows).toEqual([])
  expect(r.says).toMatch(says)
})
