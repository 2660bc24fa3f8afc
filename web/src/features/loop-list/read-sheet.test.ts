import { describe, expect, test } from 'vitest'
import { cellText, readSheetAsList } from './read-sheet.ts'

describe('cells of a spreadsheet as they would be typed', () => {
  test.each<[unknown, string]>([
    [null, ''],
    [undefined, ''],
    ['PT-1', 'PT-1'],
    [0.2, '0.2'],
    [85, '85'],
    [new Date('2026-06-15T00:00:00.000Z'), '2026-06-15'],
    [true, 'true'],
  ])('%s', (cell, text) => {
    expect(cellText(cell)).toBe(text)
  })
  test('what is no spreadsheet says so', async () => {
    await expect(readSheetAsList(new File(['no sheet'], 'x.xlsx'))).rejects.toThrow(/cannot be read/)
  })
})
