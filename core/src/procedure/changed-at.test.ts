import { expect, test } from 'vitest'
import { PROCEDURES } from './catalogue.ts'
import { changedAt } from './outcome.ts'
import type { ProcedureRun } from './run.ts'
import type { Step } from './step.ts'

const step = (id: string, more: Partial<Step> = {}): Step => ({
  id,
  kind: 'read',
  title: '',
  says: '',
  ...more,
})
const run = (...steps: Step[]) =>
  ({
    done: steps.map((s, i) => ({ step: s, at: `2026-01-0${i + 1}T00:00:00.000Z` })),
  }) as unknown as ProcedureRun
const write = step('zero', { kind: 'write' })
const keyed = step('plate', { keysIn: true })
const back = step('abort-revertTrim')
const cases: readonly [string, ProcedureRun, string | null][] = [
  ['nothing but readings', run(step('a'), step('b')), null],
  ['a trim', run(step('a'), write, step('b')), '02'],
  ['two: the later', run(write, step('a'), write), '03'],
  ['a trim that was put back', run(write, back), null],
  ['constants keyed in from a plate', run(step('a'), keyed, step('b')), '02'],
  ['constants, and a trim that was put back: the constants stay', run(keyed, write, back), '01'],
]
test.each(cases)('when a run last changed what the device reads: %s', (_, r, day) =>
  expect(changedAt(r)).toBe(day === null ? null : `2026-01-${day}T00:00:00.000Z`),
)
test('the procedure of a lost memory keys in what the device measures by', () => {
  const context = {
    tag: 'FT-1',
    range: { low: 0, high: 100, unit: 'kg/h' },
    limits: null,
    kind: 'gauge' as const,
    tolerance_pct: 0.5,
    tau_s: 1,
    manifold: null,
    told: {},
  }
  const lost = PROCEDURES.find((p) => p.id === 'memory-lost')
  expect(
    lost
      ?.steps(context as unknown as Parameters<typeof lost.steps>[0])
      .filter((s) => s.keysIn)
      .map((s) => s.id),
  ).toEqual(['plate'])
})
