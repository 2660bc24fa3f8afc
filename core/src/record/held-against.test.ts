import { describe, expect, test } from 'vitest'
import { defaultPath } from '../loop/default-path.ts'
import type { LoopDocument } from '../loop/document.ts'
import { readEquipment } from '../verify/equipment-spec.ts'
import { comparisonBudget, type KnownInstrument } from '../verify/comparison-budget.ts'
import { loopScale } from '../verify/reading-errors.ts'
import { signingProblems } from './may-sign.ts'
import { runDeviations } from './run-deviations.ts'
import type { Run } from './run.ts'
import { foldRun } from './test/fold-run.ts'
import type { Column } from './kinds/reading-values.ts'
import type { RunEventBody } from './kinds/verification.ts'
import type { RunStartedPayload } from './kinds/run-started.ts'

const range = { low: 0, high: 80, unit: 'bar(g)' }
const path = defaultPath({ transmitter: range, squareRoot: false, receiver: range }) as LoopDocument['path']
const document = {
  path,
  tolerance: { mode: 'max', pctSpan: 0.25, pctReading: 0, abs: 0 },
} as LoopDocument
const started: RunStartedPayload = {
  plan: 'P3',
  revision: 1,
  tolerance: { mode: 'max', pctSpan: 0.25, pctReading: 0, abs: 0 },
  inputRange: range,
  outputRange: range,
  equipment: ['e'],
  U_pct: 0,
}

describe('what a verification says differently from the recorded loop', () => {
  const rows: readonly [why: string, change: Partial<RunStartedPayload>, says: RegExp | null][] = [
    ['nothing', {}, null],
    [
      'an uncertainty of nothing that was chosen',
      { U_pct: 0.1 },
      /^U is stated\. No instrument was chosen for what is applied \(bar g\)\.$/,
    ],
    [
      'a wider tolerance',
      { tolerance: { mode: 'max', pctSpan: 2, pctReading: 0, abs: 0 } },
      /^Judged by 2 % of span; revision 1 of the loop says 0\.25 % of span\.$/,
    ],
    [
      'parts joined in another way',
      { tolerance: { mode: 'sum', pctSpan: 0.25, pctReading: 0.1, abs: 0.2 } },
      /^Judged by the sum of 0\.25 % of span, 0\.1 % of reading, 0\.2 bar g;/,
    ],
    ['a larger range', { inputRange: { ...range, high: 100 } }, /^Transmitter taken as 0 to 100 bar g;/],
    ['another unit', { outputRange: { ...range, unit: 'kPa(g)' } }, /^Receiver taken as 0 to 80 kPa g;/],
  ]
  test.each(rows)('%s', (_why, change, says) => {
    const told = runDeviations({ ...started, ...change }, document, [])
    if (says === null) return expect(told).toEqual([])
    expect(told).toHaveLength(1)
    return expect(told[0]?.says).toMatch(says)
  })
  test('a document without tolerance or range cannot be kept to', () => {
    const told = runDeviations(started, { ...document, tolerance: null, path: [] }, [])
    expect(told.map((d) => d.path)).toEqual(['tolerance', 'inputRange', 'outputRange'])
  })

  const words = { range: '0 to 100 bar', uncertainty: '0.02 bar', drift: '0.01 bar', resolution: '0.001 bar' }
  const read = readEquipment(words)
  const pump: KnownInstrument = { name: 'Pump', functions: read.kind === 'read' ? read.functions : [] }
  const scale = loopScale(path)
  const made = scale && comparisonBudget(scale, [pump])
  const budget = (
    change: (lines: NonNullable<RunStartedPayload['budget']>['lines']) => void,
    U = made?.budget.U,
  ) => {
    const lines = (made?.lines ?? []).map((l) => ({ ...l }))
    change(lines)
    return {
      U_pct: U ?? 0,
      budget: { lines, missing: [], k: 2, method: 'formula' as const, seed: null },
    }
  }
  test('an uncertainty somebody knows belongs to a standard that reaches over the range', () => {
    const short = readEquipment({ ...words, range: '0 to 60 bar' })
    const small = { name: 'Small', functions: short.kind === 'read' ? short.functions : [] }
    const told = (x: KnownInstrument) =>
      runDeviations({ ...started, U_pct: 0.1 }, document, [x]).map((d) => d.says)
    expect(told(pump)).toEqual([])
    expect(told(small).join()).toMatch(/Small goes from 0 to 60 bar; 0 to 80 is needed/)
  })
  test('the register’s own budget is none', () =>
    expect(runDeviations({ ...started, ...budget(() => undefined) }, document, [pump])).toEqual([]))
  test.each<[string, ReturnType<typeof budget>, RegExp]>([
    [
      'a certificate made smaller',
      budget((l) => l[0] && (l[0].value /= 10)),
      /reckoned smaller than 0\.02 bar/,
    ],
    ['a line left out', budget((l) => void l.shift()), /reckoned not at all, against 0\.02 bar/],
    ['a sensitivity made smaller', budget((l) => l[0] && (l[0].c /= 10)), /reckoned smaller than/],
    ['a sum that its lines do not make', budget(() => undefined, 0.001), /U is stated as 0\.001 %/],
  ])('%s is told', (_why, change, says) =>
    expect(
      runDeviations({ ...started, ...change }, document, [pump])
        .map((d) => d.says)
        .join(' '),
    ).toMatch(says),
  )
})

describe('what stands between a record and its signature', () => {
  const typed = (value: number) => ({ value, typed: String(value) })
  const reading = (index: number, values: Partial<Record<Column, number>>): RunEventBody => ({
    type: 'reading.recorded',
    payload: {
      phase: 'asFound',
      index,
      values: Object.fromEntries(Object.entries(values).map(([k, v]) => [k, typed(v)])),
    },
  })
  const run = (equipment: string[], ...more: RunEventBody[]): Run => {
    const bodies: RunEventBody[] = [{ type: 'run.started', payload: { ...started, equipment } }, ...more]
    const folded = foldRun(bodies.map((body) => ({ body, by: 'a', at: '2026-11-23T10:00:00.000Z' })))
    if (!folded) throw new Error('no run')
    return folded
  }
  const confirm = (index: number, columns: Column[]): RunEventBody => ({
    type: 'reading.confirmed',
    payload: { phase: 'asFound', index, columns },
  })
  const rows: readonly [why: string, r: Run, codes: string[]][] = [
    ['nothing', run(['e'], reading(0, { applied: 0, pv: 0.1, loopCurrent_mA: 4.02 })), []],
    ['no instrument', run([], reading(0, { applied: 0 })), ['NO_INSTRUMENT']],
    [
      'an instrument named later',
      run([], { type: 'equipment.named', payload: { equipment: ['e'] } }, reading(0, { applied: 0 })),
      [],
    ],
    ['850 % of range', run(['e'], reading(1, { applied: 680 })), ['UNCONFIRMED_READING']],
    [
      '850 % of range, looked at again',
      run(['e'], reading(1, { applied: 680 }), confirm(1, ['applied'])),
      [],
    ],
    [
      'looked at again in another column',
      run(['e'], reading(1, { applied: 680 }), confirm(1, ['pv'])),
      ['UNCONFIRMED_READING'],
    ],
    [
      'looked at again, then typed anew',
      run(['e'], reading(1, { applied: 680 }), confirm(1, ['applied']), reading(1, { applied: 690 })),
      ['UNCONFIRMED_READING'],
    ],
    ['a minus sign', run(['e'], reading(1, { applied: 40, loopCurrent_mA: -12 })), ['UNCONFIRMED_READING']],
    ['a device that is far off', run(['e'], reading(1, { applied: 40, pv: 75 })), ['UNCONFIRMED_READING']],
    ['a device that is out, as devices are', run(['e'], reading(1, { applied: 40, pv: 44 })), []],
  ]
  test.each(rows)('%s', (_why, r, codes) =>
    expect(signingProblems(r, path).map((p) => p.code)).toEqual(codes),
  )
})
