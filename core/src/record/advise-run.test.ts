import { describe, expect, test } from 'vitest'
import { defaultPath } from '../loop/default-path.ts'
import { adviseRun, recommendForRun } from './advise-run.ts'
import type { RunEventBody } from './kinds/verification.ts'
import { applyRunEvent, type Run } from './run.ts'

const range = { low: 0, high: 80, unit: 'bar(g)' }
const path = defaultPath({ transmitter: range, squareRoot: false, receiver: range })
const typed = (value: number) => ({ value, typed: String(value) })

/** Three points read with a sensor error (% of span at 0 and at 100 %) and an output error in mA. */
function run(zero: number, full: number, more_mA: number, close = true, withPv = true, U_pct = 0): Run {
  const events: RunEventBody[] = [
    {
      type: 'run.started',
      payload: {
        plan: 'P3',
        revision: 1,
        tolerance: { mode: 'max', pctSpan: 0.25, pctReading: 0, abs: 0 },
        inputRange: range,
        outputRange: range,
        equipment: ['e'],
        U_pct,
      },
    },
    ...[0, 1, 2].map((index): RunEventBody => {
      const applied = 40 * index
      const pv = applied + 0.8 * (zero + ((full - zero) * index) / 2)
      return {
        type: 'reading.recorded',
        payload: {
          phase: 'asFound',
          index,
          values: {
            applied: typed(applied),
            ...(withPv ? { pv: typed(pv) } : {}),
            loopCurrent_mA: typed(4 + 0.2 * pv + more_mA),
          },
        },
      }
    }),
    ...(close ? [{ type: 'phase.closed', payload: { phase: 'asFound' } } as const] : []),
  ]
  const folded = events.reduce<Run | null>((r, body) => {
    const next = applyRunEvent(r, { body, by: 'wren', at: '2026-11-25T10:00:00.000Z' })
    if (next.kind === 'refused') throw new Error(next.says)
    return next.run
  }, null)
  if (!folded) throw new Error('no run')
  return folded
}

describe('the smallest right action after as found', () => {
  const cases: [why: string, zero: number, full: number, mA: number, action: string][] = [
    ['all within', 0.05, 0.05, 0, 'none'],
    ['the same everywhere', 0.6, 0.6, 0, 'zeroTrim'],
    ['zero and span', 0.2, 0.9, 0, 'sensorTrim'],
    ['only the current', 0, 0, 0.1, 'outputTrim'],
    ['both', 0.6, 0.6, 0.1, 'zeroTrim+outputTrim'],
  ]
  test.each(cases)('%s', (_why, zero, full, mA, action) =>
    expect(recommendForRun(run(zero, full, mA), path)?.action).toBe(action),
  )
  test('a sensor error hidden by the output is named first', () =>
    expect(adviseRun(run(0.6, 0.6, -0.096), path)[0]).toMatch(/hide a sensor error/))
  test('nothing is said before as found is closed, nor without the transmitter’s reading', () => {
    expect(adviseRun(run(0.6, 0.6, 0, false), path)).toEqual([])
    expect(adviseRun(run(0.6, 0.6, 0, true, false), path)).toEqual([])
    expect(adviseRun(run(0.6, 0.6, 0), [])).toEqual([])
  })
  test('an uncertainty as large as the tolerance: read again', () =>
    expect(recommendForRun(run(0.6, 0.6, 0, true, true, 0.3), path)?.mistakes).toContain('LOW_TUR'))
})
