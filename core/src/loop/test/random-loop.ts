import fc from 'fast-check'
import { valuesOf, type Setting, type SettingValue } from '../../quantity/setting.ts'
import type { Family } from '../../family/family.ts'
import { defaultPath } from '../default-path.ts'
import { LoopDocument } from '../document.ts'

/** A possible value of an entry: numbers over the whole of what is possible, and often near what is usual. */
function valueOf(s: Setting): fc.Arbitrary<SettingValue> {
  switch (s.kind) {
    case 'number': {
      const near = Math.max(Math.abs(s.standard), (s.max - s.min) / 1000)
      return fc.oneof(
        fc.double({ min: s.min, max: s.max, noNaN: true }),
        fc
          .double({ min: -0.5, max: 0.5, noNaN: true })
          .map((d) => Math.min(s.max, Math.max(s.min, s.standard + d * near))),
      )
    }
    case 'choice':
      return fc.constantFrom(...s.options.map((o) => o.value))
    case 'flag':
      return fc.boolean()
    default:
      return fc.constant(s.standard)
  }
}

const UNITS = {
  coriolis: ['kg/h', 't/h'],
  thermal: ['kg/h'],
  'clamp-on': ['m3/h'],
  orifice: ['kPa', 'mbar'],
  temperature: ['degC'],
  ph: ['pH'],
} as const
const unitsOf = (family: Family): readonly string[] =>
  family.id in UNITS
    ? UNITS[family.id as keyof typeof UNITS]
    : family.id === 'pressure'
      ? ['bar(g)', 'kPa', 'm']
      : ['m']

/** A document of a family that could be saved, with any entries, any range and the root anywhere. */
export const randomLoop = (family: Family): fc.Arbitrary<LoopDocument> =>
  fc
    .record({
      values: fc.record(Object.fromEntries(family.settings.map((s) => [s.name, valueOf(s)])), {
        requiredKeys: [],
      }),
      unconfirmed: fc.subarray(family.settings.map((s) => `setUp.values.${s.name}`)),
      low: fc.double({ min: -5, max: 5, noNaN: true }),
      span: fc.double({ min: 0.5, max: 100, noNaN: true }),
      unit: fc.constantFrom(...unitsOf(family)),
      rootIn: fc.subarray(['transmitter', 'controller']),
      tolerance: fc.option(fc.double({ min: 0.05, max: 5, noNaN: true })),
    })
    .map(({ values, unconfirmed, low, span, unit, rootIn, tolerance }) => {
      const range = { low, high: low + span, unit }
      const path = defaultPath({ transmitter: range, squareRoot: false, receiver: range }).map((s) =>
        'transfer' in s && rootIn.includes(s.kind) ? { ...s, transfer: { kind: 'sqrt' as const } } : s,
      )
      return LoopDocument.parse({
        version: 4,
        trips: [],
        toKeyIn: [],
        tag: 'XT-1',
        service: '',
        area: '',
        type: '',
        signal: '',
        family: family.id,
        path,
        wiring: null,
        setUp: { values },
        tolerance: tolerance === null ? null : { mode: 'max', pctSpan: tolerance, pctReading: 0, abs: 0 },
        interval_months: null,
        lastCalibrated: null,
        remark: '',
        asTyped: {},
        unconfirmed: unconfirmed.filter((p) => p.replace('setUp.values.', '') in values),
      })
    })

/** The entries with their defaults, as a bench shows them. */
export const shownValues = (family: Family, d: LoopDocument): Readonly<Record<string, SettingValue>> =>
  valuesOf(family.settings, d.setUp?.values ?? {})
