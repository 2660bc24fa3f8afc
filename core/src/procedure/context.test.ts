import { describe, expect, test } from 'vitest'
import type { LoopDocument } from '../loop/document.ts'
import { contextOf } from './context.ts'

const document = (more: Partial<LoopDocument>): LoopDocument => ({
  version: 2,
  tag: 'PDT-201',
  service: 'Filter',
  area: 'Filter house',
  type: 'differential pressure',
  signal: '4-20 mA',
  path: [{ kind: 'transmitter', range: { low: 0, high: 200, unit: 'mbar' }, transfer: { kind: 'linear' } }],
  wiring: null,
  setUp: null,
  tolerance: { mode: 'max', pctSpan: 0.5, pctReading: 0, abs: 0 },
  interval_months: 12,
  lastCalibrated: null,
  remark: '',
  asTyped: {},
  unconfirmed: [],
  ...more,
})

describe('what a procedure is made for', () => {
  test('from range, tolerance and set-up', () => {
    const c = contextOf(
      document({ setUp: { family: 'pressure', values: { manifold: 'five-valve', damping_s: 2 } } }),
    )
    expect(c).toMatchObject({
      range: { low: 0, high: 200, unit: 'mbar' },
      limits: { low: -200, high: 400 },
      kind: 'differential',
      tolerance_pct: 0.5,
      tau_s: 2,
      manifold: 'five-valve',
    })
  })
  test('an absolute tolerance becomes percent of span', () =>
    expect(
      contextOf(document({ tolerance: { mode: 'max', pctSpan: 0, pctReading: 0, abs: 2 } }))?.tolerance_pct,
    ).toBeCloseTo(1, 9))
  test('nothing entered: usual values, no manifold', () =>
    expect(contextOf(document({ tolerance: null, type: 'absolute pressure' }))).toMatchObject({
      tolerance_pct: 0.5,
      tau_s: 1,
      manifold: null,
      kind: 'absolute',
    }))
  test('a switch has none', () => expect(contextOf(document({ path: [] }))).toBeNull())
})
