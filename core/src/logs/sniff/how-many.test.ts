import { describe, expect, test } from 'vitest'
import { MOST_ROWS, rowsGuessed, sayTooManyRows } from './how-many.ts'

describe('how many rows a file has, by parts of it', () => {
  const line = '2026-11-09 06:30:00;18.25\n'
  const text = line.repeat(100)
  test.each([
    ['a short file is counted', 2600, [{ bytes: 2600, text }], 100],
    ['three gigabytes', 3e9, [{ bytes: 2600, text }], 3e9 / 26],
    ['of two bytes a sign', 3e9, [{ bytes: 5200, text }], 3e9 / 52],
    ['lines with two ends', 2700, [{ bytes: 2700, text: text.replace(/\n/g, '\r\n') }], 100],
    ['empty lines are no rows', 2700, [{ bytes: 2700, text: text.replace(/\n/g, '\n\n') }], 100],
    [
      'lines that grow longer',
      1e6,
      [
        { bytes: 40, text: '1;2\n'.repeat(10) },
        { bytes: 120, text: '1000000;1.5\n'.repeat(10) },
      ],
      1e6 / 8,
    ],
    ['nothing', 0, [], 0],
  ])('%s', (_, bytes, parts, rows) => {
    expect(rowsGuessed(bytes, parts)).toBeCloseTo(rows, 6)
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
