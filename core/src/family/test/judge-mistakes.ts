import { describe, expect, test } from 'vitest'
import { falseAlarms, tellMistake, type Mistake } from './mistakes.ts'

/** Of the mistakes of a family class so many are told, and so many with their cause. */
const TOLD = 0.95
const RIGHT = 0.9

/** The table of a family class as tests: each mistake, the shares, and no alarm on what is sane. */
export function judgeMistakes(bases: Parameters<typeof tellMistake>[0], mistakes: readonly Mistake[]): void {
  const results = mistakes.map((m) => ({ m, ...tellMistake(bases, m) }))
  describe('what people get wrong', () => {
    test('are forty or more, each once', () => {
      expect(mistakes.length).toBeGreaterThanOrEqual(40)
      expect(new Set(mistakes.map(([what]) => what)).size).toBe(mistakes.length)
    })
    test('is told nearly always', () => {
      const silent = results.filter((r) => !r.told).map((r) => r.m[0])
      expect([silent, silent.length <= (1 - TOLD) * mistakes.length]).toEqual([silent, true])
    })
    test('is told with its cause', () => {
      const other = results.filter((r) => !r.right).map((r) => [r.m[0], r.says])
      expect([other, other.length <= (1 - RIGHT) * mistakes.length]).toEqual([other, true])
    })
    test.each(Object.entries(bases))('%s: a sane set-up is not complained of', (_name, b) => {
      expect(falseAlarms(b.family, b.values, b.at)).toEqual([])
    })
  })
}
