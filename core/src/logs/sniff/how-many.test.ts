import { describe, expect, test } from 'vitest'
import { MOST_ROWS, rowsGuessed, sayTooManyRows } from './how-many.ts'

describe('how many rows a file has, by its first lines', () => {
  const line = '2026-11-09 06:30:00;18.25'
  test.each([
    ['a short file is counted', 50 * 26, 50, 1 as const, 50],
    ['three gigabytes', 3e9, 2000, 1 as const, 3e9 / 26],
    ['of two bytes a sign', 3e9, 2000, 2 as const, 3e9 / 52],
    ['nothing', 0, 0, 1 as const, 0],
  ])('%s', (_, bytes, lines, perSign, rows) => {
    expect(rowsGuessed(bytes, Array<string>(lines).fill(line), perSign)).toBeCloseTo(rows, 6)
  })
  test.each([0, MOST_ROWS, 13_000_000])('%d rows may be a log: the guess may be wrong', (rows) => {
    expect(sayTooManyRows(rows)).toBeNull()
  })
  test.each([
    [13_300_000, 'About 13 million rows: a log holds at most 12 million. '],
    [115_384_615, 'About 115 million rows: '],
  ])('%d rows are too many, and what is possible is said', (rows, says) => {
    expect(sayTooManyRows(rows)).toContain(says)
    expect(sayTooManyRows(rows)).toContain('a row less often')
  })
})
