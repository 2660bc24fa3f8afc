import { describe, expect, test } from 'vitest'
import { cellText, readListFile } from './read-sheet.ts'

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
  test('text stays as it is', async () => {
    await expect(readListFile(new File(['a;b\n1;2'], 'x.csv'))).resolves.toBe('a;b\n1;2')
  })
  test('what is no spreadsheet says so', async () => {
    await expect(readListFile(new File(['no sheet'], 'x.XLSX'))).rejects.toThrow(/cannot be read/)
  })
})
