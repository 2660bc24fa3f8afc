import { describe, expect, test } from 'vitest'
import { Generator } from '../statistics/generator.ts'
import { auditPath } from './audit.ts'
import { badLoop, goodLoop, type Configured } from './test/audit-plants.ts'

const found = (c: Configured) => auditPath(c.stages, c.needsRoot, c.tolerance)
const complaints = (c: Configured) => found(c).filter((f) => f.severity === 'stop' || f.severity === 'warn')

describe('the audit over plants that it has never seen', () => {
  test('500 good loops: nothing to complain of', () => {
    const g = new Generator(4)
    const cried = Array.from({ length: 500 }, () => goodLoop(g)).flatMap((c) =>
      complaints(c).map((f) => f.says),
    )
    expect(cried).toEqual([])
  })
  test('300 loops with one thing wrong: every one is told', () => {
    const g = new Generator(5)
    const silent = Array.from({ length: 300 }, () => badLoop(g)).filter((c) => complaints(c).length === 0)
    expect(silent.map((c) => c.mistake)).toEqual([])
  })
})
