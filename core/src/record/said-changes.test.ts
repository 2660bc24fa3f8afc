import { usualRelay } from '../signal/relay-plan.ts'
import { describe, expect, test } from 'vitest'
import { z } from 'zod'
import { defaultPath } from '../loop/default-path.ts'
import type { LoopDocument } from '../loop/document.ts'
import { fieldName } from '../loop/field-names.ts'
import { withField } from '../loop/field-path.ts'
import { NOTHING_WIRED, withWire } from '../part/wiring.ts'
import { StageSchema } from '../signal/schema.ts'
import { sayChanges, sayField, titleOfField } from './said-changes.ts'

const range = { low: 0, high: 10, unit: 'bar(g)' }
const base: LoopDocument = {
  version: 4,
  trips: [],
  toKeyIn: [],
  tag: 'FT-1',
  service: 'Main',
  area: 'Intake',
  type: 'flow',
  signal: '4-20 mA',
  family: 'clamp-on',
  path: defaultPath({ transmitter: range, squareRoot: false, receiver: range }),
  wiring: { ...NOTHING_WIRED, parts: { 'PS-1': { kind: 'supply', settings: {} } } },
  setUp: { values: {}, tolerances: {} },
  tolerance: { mode: 'max', pctSpan: 0.5, pctReading: 0, abs: 0 },
  interval_months: 12,
  lastCalibrated: null,
  remark: '',
  asTyped: {},
  unconfirmed: [],
}
const changed = (path: string, value: unknown, typed?: string): LoopDocument => ({
  ...withField(base, path, value),
  asTyped: typed === undefined ? {} : { [path]: typed },
})
/** As “bench: name: before → after”. */
const said = (after: LoopDocument, before = base): string[] =>
  sayChanges(before, after).flatMap((g) =>
    g.changes.map((c) => `${g.bench}: ${c.name}: ${c.before} → ${c.after}`),
  )

describe('what changed, in the words of the screens', () => {
  test.each([
    ['a text of the loop', changed('service', 'Sea main'), 'Loop: Service: Main → Sea main'],
    ['something taken away', changed('remark', 'new'), 'Loop: Remark: not given → new'],
    [
      'an end of the range with its unit',
      changed('path.transmitter.range.high', 12.5),
      'Scale: Transmitter, 20 mA point (URV): 10 bar g → 12.5 bar g',
    ],
    [
      'as it was typed',
      changed('path.transmitter.range.high', 1.2 * 10, '1200 kPa'),
      'Scale: Transmitter, 20 mA point (URV): 10 bar g → 1200 kPa',
    ],
    [
      'not as it was typed once, where another value stands there now',
      changed('path.transmitter.range.high', 8, '1200 kPa'),
      'Scale: Transmitter, 20 mA point (URV): 10 bar g → 8 bar g',
    ],
    [
      'without the noise of a computed number',
      changed('path.transmitter.range.high', 0.1 + 0.2),
      'Scale: Transmitter, 20 mA point (URV): 10 bar g → 0.3 bar g',
    ],
    [
      'a choice of the line',
      changed('path.controller.transfer', { kind: 'sqrt' }),
      'Scale: Controller, transfer function: linear → square root',
    ],
    ['a tolerance', changed('tolerance.pctSpan', 1), 'Scale: Tolerance, % of span: 0.5 → 1'],
    [
      'an entry that nobody had made',
      changed('setUp.values.liner_mm', 6),
      'Set up: Liner thickness: not given → 6 mm',
    ],
    [
      'an entry in inches',
      changed('setUp.values.od_mm', 25.4 * 12, '12 in'),
      'Set up: Outside diameter: not given → 12 in',
    ],
    [
      'what kind of meter it is',
      { ...base, family: 'coriolis' },
      'Set up: This loop is: Clamp-on transit time → Coriolis',
    ],
    [
      'relays',
      {
        ...base,
        trips: [
          {
            ...usualRelay('HH', 0, 12),
            trip: { kind: 'points' as const, onAt: 9, offAt: 8.5, same: 'rising' as const },
          },
        ],
      },
      'Wire: Relays: not given → HH: on at 9 bar g rising, off at 8.5 bar g',
    ],
    [
      'a setting of a part, by its title',
      changed('wiring.parts.PS-1.settings.voltage_V', 25),
      'Wire: PS-1, Voltage: 24 V → 25 V',
    ],
    [
      'a sensor of the stock, not its identifier',
      changed('setUp.sensor', '95b26f05-0682-4136-982e-c4a528167762'),
      'Set up: Sensor of the stock: none → one of the stock',
    ],
  ])('%s', (_what, after, line) => expect(said(after)).toEqual([line]))
  test('another sensor, and none again', () => {
    const [one, other] = [
      changed('setUp.sensor', crypto.randomUUID()),
      changed('setUp.sensor', crypto.randomUUID()),
    ]
    expect(said(other, one)).toEqual(['Set up: Sensor of the stock: one of the stock → another of the stock'])
    expect(said(base, one)).toEqual(['Set up: Sensor of the stock: one of the stock → none'])
    expect(sayField(one, 'setUp.sensor', one.setUp?.sensor)).toBe('one of the stock')
  })

  test('parts and wires that come and go are one line each, by their terminals', () => {
    const parts = { ...base.wiring?.parts, 'PT-1': { kind: 'two-wire-transmitter', settings: {} } }
    const wired = withWire({ ...NOTHING_WIRED, parts }, 'PS-1:plus', 'PT-1:plus', { colour: 'RD' })
    const after = { ...base, wiring: wired }
    expect(said(after)).toEqual([
      'Wire: PT-1: not there → 2-wire transmitter, 2-wire, 12 to 42 V',
      'Wire: Wire 1: not there → PS-1 + to PT-1 +, RD',
    ])
    expect(said(base, after).map((line) => line.split(' → ')[1])).toEqual(['not there', 'not there'])
  })
  test('bookkeeping is no change, and nothing changed says nothing', () => {
    const after: LoopDocument = { ...base, unconfirmed: ['path.shunt'], asTyped: { tag: 'ft-1' } }
    expect(sayChanges(base, after)).toEqual([])
  })
  test('a station that comes says so, and what it holds by the names of its screen', () => {
    const range = { low: 0, high: 100, unit: '%' }
    const display = { kind: 'display', range, from: 'converter', decimals: 1, transfer: { kind: 'linear' } }
    const converter = { kind: 'converter', channel: 2, range, decimals: 1 }
    const after = changed('path', [...base.path, converter, display])
    expect(said(after)).toEqual(
      expect.arrayContaining([
        'Scale: Converter: not on the line → on the line',
        'Scale: Converter, decimals: not given → 1',
        'Scale: Display: not on the line → on the line',
        'Scale: Display takes its signal from: not given → the converter',
      ]),
    )
  })
  test('every field of every station has a name', () => {
    const schema = z.toJSONSchema(StageSchema, { unrepresentable: 'any' })
    interface Shape {
      readonly oneOf?: readonly Shape[]
      readonly anyOf?: readonly Shape[]
      readonly properties?: Readonly<Record<string, Shape>>
    }
    const fields = ({ oneOf, anyOf, properties }: Shape, at: string): string[] => {
      const ways = oneOf ?? anyOf
      if (ways) return ways.flatMap((way) => fields(way, at))
      if (!properties) return [at]
      return Object.entries(properties).flatMap(([key, shape]) => fields(shape, `${at}.${key}`))
    }
    const ways = (schema as Shape).oneOf ?? (schema as Shape).anyOf ?? []
    const all = ways.flatMap((way) => {
      const kind = (way.properties?.['kind'] as { const?: string } | undefined)?.const ?? ''
      return fields(way, `path.${kind}`)
    })
    expect(all).toContain('path.converter.decimals')
    expect(all.length).toBeGreaterThan(40)
    // What has none is read out of its path, and begins as its path does.
    expect(all.map(fieldName).filter((name) => !/^[A-Z]/.test(name))).toEqual([])
  })
  test('no line holds a raw path, JSON or thirteen digits', () => {
    const after = { ...changed('setUp.values.od_mm', 1 / 3), wiring: null, trips: [], remark: 'x' }
    for (const line of said(after)) expect(line).not.toMatch(/setUp|values\.|[{}[\]"]|_mm|\d\.\d{8}/)
  })
})

describe('one field for a question', () => {
  test.each([
    ['setUp.values.liner_mm', 6, 'Liner thickness', '6 mm'],
    ['path.shunt.resistance_ohm', 250, 'Shunt, Ω', '250'],
    ['path.transmitter.reverse', true, 'Transmitter, reverse action', 'yes'],
    ['service', null, 'Service', 'not given'],
  ])('%s', (path, value, title, text) => {
    expect([titleOfField(base, path), sayField(base, path, value)]).toEqual([title, text])
  })
})
