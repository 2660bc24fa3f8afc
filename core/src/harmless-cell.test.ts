import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { harmlessCell, unguardedCell } from './harmless-cell.ts'

describe('a cell on its way into a spreadsheet', () => {
  test.each([
    ['a number', '4.5'],
    ['a negative number', '-4.5'],
    ['a decimal comma', '-0,25'],
    ['a sign in front', '+16'],
    ['an exponent', '-1e-9'],
    ['thousands', '-1 250'],
    ['a tag', 'PT-202'],
    ['nothing', ''],
    ['a remark that only holds a sign', 'pump = off'],
    ['a plain apostrophe', "'s-Hertogenbosch"],
  ])('%s stays as it is', (_why, cell) => expect(harmlessCell(cell)).toBe(cell))
  test.each([
    ['a formula', '=1+1'],
    ['a sum that begins like a number', '-1+1'],
    ['a number with a call behind it', '+1-cmd|calc'],
    ['dots that make no number', '-1.2.3'],
    ['a date with a sign', '-1/2'],
    ['two signs', '--4'],
    ['an exponent that ends nowhere', '+1e'],
    ['an at sign', '@SUM(A1)'],
    ['a tab in front', '\t=1'],
    ['white space in front', '  =1'],
    ['a line break in front', '\n=1'],
    ['a full-width sign', '\uff1d1+1'],
    ['a sign and a letter', '-DANGER'],
  ])('%s is guarded and comes back', (_why, cell) => {
    expect(harmlessCell(cell)).toBe(`'${cell}`)
    expect(unguardedCell(harmlessCell(cell))).toBe(cell)
  })
  test('whatever it holds: out and in again it is the same, and nothing that leaves would run', () => {
    const cell = fc.string({ unit: fc.constantFrom(...`=+-@'.,1e5 \t\nA`), maxLength: 8 })
    fc.assert(
      fc.property(cell, (text) => {
        const out = harmlessCell(text)
        expect(unguardedCell(out)).toBe(text)
        expect(/^\s*[=+@-]/.test(out) && !/^[+-]?[\d.,][\d.,e+-]*$/i.test(out)).toBe(false)
      }),
      { numRuns: 5000 },
    )
  })
})
