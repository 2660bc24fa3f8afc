import { describe, expect, test } from 'vitest'
import { certificateFor, uncoveredDay } from './certificate-for.ts'

const of = (number: string, certifiedOn: string, dueOn: string) => ({
  certificate: number,
  certifiedOn,
  dueOn,
})
const HISTORY = [
  of('A', '2024-03-01', '2025-03-01'),
  of('B', '2025-02-20', '2026-02-20'),
  of('C', '2026-04-01', '2027-04-01'),
]

describe('which certificate speaks for a day', () => {
  test.each([
    ['2024-03-01', 'A', 'its first day'],
    ['2025-02-19', 'A', 'the last one before the next'],
    ['2025-02-20', 'B', 'of two that cover it, the newer'],
    ['2026-02-20', 'B', 'its last day'],
    ['2026-03-15', 'C', 'a gap: none does, the newest is told'],
    ['2023-01-01', 'C', 'before all of them'],
    ['2026-11-29', 'C', 'the one of now'],
  ])('%s: %s, %s', (day, number) => {
    expect(certificateFor(HISTORY, day)?.certificate).toBe(number)
  })
  test('of some days the first that none covers', () => {
    expect(uncoveredDay(HISTORY, ['2026-05-01', '2026-03-15', '2026-03-20'])).toBe('2026-03-15')
    expect(uncoveredDay(HISTORY, ['2024-06-01', '2026-05-01'])).toBeNull()
  })
  test('a wrong day that was corrected under the same number speaks for nothing', () => {
    const typo = [of('A', '2024-03-01', '2034-03-01'), of('A', '2024-03-01', '2025-03-01')]
    expect(uncoveredDay(typo, ['2026-01-01'])).toBe('2026-01-01')
    expect(certificateFor(typo, '2026-01-01')?.dueOn).toBe('2025-03-01')
  })
  test('of no history there is none', () => {
    expect(certificateFor([], '2026-01-01')).toBeNull()
  })
})
