import { describe, expect, test } from 'vitest'
import { faultyLog } from '../test/faulty-logs.ts'
import { LOG_FINDINGS, USUAL_JUDGEMENT } from './finding.ts'
import { judgeLog } from './judge.ts'

const judged = (log: ReturnType<typeof faultyLog>) =>
  judgeLog(log, { ...USUAL_JUDGEMENT, ...(log.range ? { range: log.range } : {}) })

test('logs without a fault are silent', () => {
  const loud = Array.from({ length: 40 }, (_, i) => i).flatMap((i) =>
    judged(faultyLog(7000 + i, null)).map((f) => [i, f.code]),
  )
  expect(loud).toEqual([])
})

describe('a fault of the promised size is found', () => {
  /** What stands beside it by rights: a value beyond the range for a while is a level that changed, twice. */
  const BESIDE: Partial<Record<string, readonly string[]>> = { OUT_OF_RANGE: ['STEP'] }
  test.each(LOG_FINDINGS)('%s', (code) => {
    const missed: unknown[] = []
    for (let i = 0; i < 8; i++) {
      const found = judged(faultyLog(100 + i, code)).map((f) => f.code)
      const others = found.filter((c) => c !== code && !BESIDE[code]?.includes(c))
      if (!found.includes(code) || others.length > 0) missed.push([i, found])
    }
    expect(missed).toEqual([])
  })
})
