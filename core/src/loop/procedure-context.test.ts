import { describe, expect, test } from 'vitest'
import type { LoopDocument } from './document.ts'
import { contextOf } from './procedure-context.ts'

const document = (more: Partial<LoopDocument>): LoopDocument => ({
  version: 4,
  trips: [],
  toKeyIn: [],
  tag: 'PDT-201',
  service: 'Filter',
  area: 'Filter house',
  type: 'differential pressure',
  signal: '4-20 mA',
  family: 'pressure',
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
      document({ setUp: { values: { duty: 'differential', manifold: 'five-valve', damping_s: 2 } } }),
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
    expect(contextOf(document({ tolerance: null, setUp: { values: { duty: 'absolute' } } }))).toMatchObject({
      tolerance_pct: 0.5,
      tau_s: 1,
      manifold: null,
      kind: 'absolute',
    }))
  test('the words of the type are not read any more', () => {
    const of = (type: string) => contextOf(document({ type }))?.kind
    expect([of('differential pressure'), of('absolute pressure')]).toEqual(['gauge', 'gauge'])
  })
  test('the cell of the set-up is the limit, as soon as somebody typed it', () => {
    const typed = document({ setUp: { values: { duty: 'differential', url_kPa: 60 } } })
    expect(contextOf(typed)?.limits).toEqual({ low: -600, high: 600 })
    const guessed = { ...typed, unconfirmed: ['setUp.values.url_kPa'] }
    expect(contextOf(guessed)?.limits).toEqual({ low: -200, high: 400 })
  })
  test('a flow meter brings what its own zero is good for', () => {
    const path = document({}).path.map((s) =>
      s.kind === 'transmitter' ? { ...s, range: { low: 0, high: 20, unit: 't/h' } } : s,
    )
    const c = contextOf(document({ family: 'coriolis', path, setUp: { values: { zs_kgh: 1.4 } } }))
    expect(c?.zero?.least).toBeCloseTo(0.0014, 12)
    expect(c?.zero?.most).toBeNull()
  })
  test('a switch has none', () => expect(contextOf(document({ path: [] }))).toBeNull())
})
