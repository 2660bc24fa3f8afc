import { LoopDocument } from '@calm/core/loop/document'
import { describe, expect, test } from 'vitest'
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
  {
    version: 2,
    tag: 'FT-206',
    service: 'Brine mass flow',
    area: '200 Membranes',
    type: 'flow, Coriolis',
    signal: '4-20 mA HART',
    path: [
      { kind: 'process' },
      { kind: 'sensor' },
      { kind: 'transmitter', range: { low: 0, high: 62, unit: 't/h' }, transfer: { kind: 'linear' } },
      { kind: 'output', signal: '4-20', satLow_mA: 3.8, satHigh_mA: 20.5, failTo: 'low' },
    ],
    wiring: null,
    setUp: {
      family: 'coriolis',
      values: { factor_cert: '31.8425.08', K1_cert: '8243.517', D2_dev: '0.9982', tau_us: 10012.35 },
    },
    tolerance: null,
    interval_months: 12,
    lastCalibrated: '2025-12-09',
    remark: '',
    asTyped: { 'setUp.values.tau_us': '10012,35' },
    unconfirmed: ['setUp.values.K1_cert'],
  },
  {
    version: 3,
    tag: 'LSH-305',
    service: 'Brine tank high level',
    area: '300 Brine and salt',
    type: 'trip',
    signal: 'dry contact NO',
    family: 'switch',
    path: [],
    wiring: null,
    setUp: {
      values: { kind: 'trip', tripBy: 'points', onAt_m: 0.85, offAt_m: 0.6, waves_m: 0.1, mounting_m: 4 },
    },
    tolerance: null,
    interval_months: 12,
    lastCalibrated: null,
    remark: '',
    asTyped: {},
    unconfirmed: ['setUp.values.kind'],
  },
]

test.each(KEPT.map((d) => [d.version, d] as const))(
  'a document of version %d still opens',
  (_version, saved) => {
    const before = JSON.stringify(saved)
    const now = currentLoopDocument(saved)
    expect(LoopDocument.safeParse(now).error).toBeUndefined()
    expect(now.tag).toBe(saved['tag'])
    expect(Object.values(now.asTyped)).toEqual(Object.values(saved['asTyped'] ?? {}))
    expect(JSON.stringify(saved)).toBe(before)
  },
)
test('every step has its kept document', () => {
  expect(Object.keys(LOOP_DOCUMENT_STEPS).map(Number)).toEqual(KEPT.map((d) => d.version))
})

/** A document of version 2 with another type, set-up or path. */
const version2 = (more: Readonly<Record<string, unknown>>): SavedLoopDocument => ({
  ...(KEPT[1] as SavedLoopDocument),
  setUp: null,
  asTyped: {},
  unconfirmed: [],
  ...more,
})
const upgraded = (more: Readonly<Record<string, unknown>>): LoopDocument =>
  LoopDocument.parse(currentLoopDocument(version2(more)))

describe('version 3', () => {
  test('constants of a Coriolis meter stand under their role, the joined text with its split', () => {
    const now = LoopDocument.parse(currentLoopDocument(KEPT[1] as SavedLoopDocument))
    expect([now.family, now.setUp?.values]).toEqual([
      'coriolis',
      {
        flowFactor_certificate: '31.8425.08',
        lightPeriod_certificate: '8243.517',
        heavyDensity_device: '0.9982',
        period_us: 10012.35,
        joined: 'flowFactor',
        joinedWith: 'flowTemperature',
        splitAfter: 6,
      },
    ])
    expect(now.asTyped).toEqual({ 'setUp.values.period_us': '10012,35' })
    expect(now.unconfirmed).toEqual(['setUp.values.lightPeriod_certificate'])
  })
  const trips: readonly [kind: string, becomes: object][] = [
    ['near', { kind: 'points', onAt: 0.4, offAt: 0.4, same: 'falling' }],
    ['far', { kind: 'points', onAt: 0.4, offAt: 0.4, same: 'rising' }],
    ['inWindow', { kind: 'band', from: 0.4, to: 0.65, onInside: true }],
    ['outOfWindow', { kind: 'band', from: 0.4, to: 0.65, onInside: false }],
    ['hysteresisNear', { kind: 'points', onAt: 0.4, offAt: 0.65, same: 'rising' }],
    ['hysteresisFar', { kind: 'points', onAt: 0.65, offAt: 0.4, same: 'rising' }],
  ]
  test.each(trips)('a trip of the kind %s is a plan of the loop', (tripKind, becomes) => {
    const setUp = {
      family: 'switch',
      values: { kind: 'trip', tripKind, trip_m: 0.4, window_m: 0.25, mounting_m: 3, protects: 'highLevel' },
    }
    const now = upgraded({ path: [], setUp })
    expect(now.setUp?.values).toEqual({ kind: 'trip', mounting_m: 3 })
    expect(now.trips).toEqual([
      {
        name: 'FT-206',
        trip: becomes,
        alarm: 'low',
        contact: 'no',
        startUp: false,
        onInvalid: 'off',
        waves: 0.05,
        form: 'points',
      },
    ])
  })
  test('a relay that had one point acts above it or below it, and no two have one name', () => {
    const now = upgraded({
      trips: [
        { name: 'HH', at: 9, acts: 'above' },
        { name: 'HH', at: 1, acts: 'below' },
      ],
    })
    expect(now.trips.map((t) => [t.name, t.trip])).toEqual([
      ['HH', { kind: 'points', onAt: 9, offAt: 9, same: 'rising' }],
      ['HH 2', { kind: 'points', onAt: 1, offAt: 1, same: 'falling' }],
    ])
  })
  test('a switch whose relay nobody had typed gets no plan', () => {
    const setUp = { family: 'switch', values: { kind: 'trip' } }
    expect(upgraded({ path: [], setUp }).trips).toEqual([])
  })
  test('the root stands on the signal path alone', () => {
    const setUp = { family: 'orifice', values: { rootTx: 'yes', rootRx: 'yes', span_kPa: 6.65 } }
    expect(upgraded({ setUp }).setUp?.values).toEqual({ span_kPa: 6.65 })
  })
  test('without a set-up the words are read once more, and what they told waits to be confirmed', () => {
    const now = upgraded({ type: 'differential pressure' })
    expect([now.family, now.setUp?.values]).toEqual(['pressure', { duty: 'differential' }])
    expect(now.unconfirmed).toEqual(['setUp.values.duty'])
    expect(upgraded({ type: 'weight' }).family).toBeNull()
  })
})
