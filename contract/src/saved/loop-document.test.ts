import { LoopDocument } from '@calm/core/loop/document'
import { expect, test } from 'vitest'
import { currentLoopDocument, LOOP_DOCUMENT_STEPS, type SavedLoopDocument } from './loop-document.ts'

/** One kept document of every version there has been, never edited. */
const KEPT: readonly SavedLoopDocument[] = [
  {
    version: 1,
    tag: 'PT-202',
    service: 'Membrane feed pressure',
    area: '200 Membranes',
    type: 'pressure',
    signal: '4-20 mA HART',
    path: [
      { kind: 'process' },
      { kind: 'sensor' },
      { kind: 'transmitter', range: { low: 0, high: 85, unit: 'bar(g)' }, transfer: { kind: 'linear' } },
      { kind: 'output', signal: '4-20', satLow_mA: 3.8, satHigh_mA: 20.5, failTo: 'low' },
    ],
    tolerance: { mode: 'max', pctSpan: 0.2, pctReading: 0, abs: 0 },
    interval_months: 6,
    lastCalibrated: '2026-06-15',
    remark: 'trip at 78 bar',
    asTyped: { 'path.transmitter.range.high': '85,0' },
    unconfirmed: ['path.output.failTo'],
  },
]

test.each(KEPT.map((d) => [d.version, d] as const))(
  'a document of version %d still opens',
  (version, saved) => {
    const before = JSON.stringify(saved)
    const now = currentLoopDocument(saved)
    expect(LoopDocument.safeParse(now).error).toBeUndefined()
    expect(now.tag).toBe(saved['tag'])
    expect(now.asTyped).toEqual(saved['asTyped'])
    if (version < 2) expect([now.wiring, now.setUp]).toEqual([null, null])
    expect(JSON.stringify(saved)).toBe(before)
  },
)
test('every step has its kept document', () => {
  expect(Object.keys(LOOP_DOCUMENT_STEPS).map(Number)).toEqual(KEPT.map((d) => d.version))
})
