import { describe, expect, test } from 'vitest'
import type { SensorDescription } from '../sensor/sensor.ts'
import type { Typed } from '../quantity/setting.ts'
import { entriesOfSensor, rankSensors, sensorDifferences, untoldOfSensor } from './sensor-choice.ts'
import { compute, codes, known, row } from './test/through-form.ts'

const sensor = (kind: string, values: Typed, state: SensorDescription['state'] = 'shelf') => ({
  name: String(values['serialA'] ?? values['serial']),
  description: {
    kind,
    values: values as SensorDescription['values'],
    state,
    certificate: '',
    certifiedOn: null,
    dueOn: null,
    remark: '',
  } satisfies SensorDescription,
})
const pair = (name: string, values: Typed, state?: SensorDescription['state']) =>
  sensor('clamp-on-pair', { serialA: `${name}A`, serialB: `${name}B`, ...values }, state)

const SMALL = { by: 'od', od_mm: 73, wall_mm: 3.05, material: 'stainless_316', flow_m3h: 36, t_C: 24 }
const GAS = {
  nps: '6',
  fluid: 'natural_gas',
  t_C: 21,
  gauge_kPa: 738.7,
  flow_m3h: 110,
  filmLayers: 5,
  film_mm: 2.5,
}
const STOCK = [
  pair('1', { frequency_MHz: 1 }),
  pair('2', { frequency_MHz: 2, wedge_m_s: 2500, wedge_deg: 40, wedge_mm: 10, length_mm: 35 }),
  pair('4', { frequency_MHz: 4, length_mm: 20 }),
  pair('G', { frequency_MHz: 0.2, medium: 'gas', length_mm: 90, hottest_C: 80 }),
  pair('X', { frequency_MHz: 2 }, 'scrapped'),
  sensor('ph-sensor', { serial: 'E' }),
]
const ranked = (typed: Typed) =>
  rankSensors(known('clamp-on'), typed, STOCK).map((r) => [
    r.sensor.name,
    r.impossible.length > 0 ? 'no' : r.but.length > 0 ? 'but' : 'yes',
  ])

describe('a pair from the stock', () => {
  test.each<[string, Typed, [string, string][]]>([
    [
      'a small pipe',
      SMALL,
      [
        ['2A', 'yes'],
        ['1A', 'but'],
        ['4A', 'but'],
        ['GA', 'no'],
      ],
    ],
    [
      'a large one',
      { nps: '12', schedule: 'STD' },
      [
        ['1A', 'yes'],
        ['2A', 'but'],
        ['4A', 'but'],
        ['GA', 'no'],
      ],
    ],
    [
      'gas',
      GAS,
      [
        ['GA', 'yes'],
        ['1A', 'no'],
        ['2A', 'no'],
        ['4A', 'no'],
      ],
    ],
    [
      'hot gas',
      { ...GAS, t_C: 90 },
      [
        ['GA', 'no'],
        ['1A', 'no'],
        ['2A', 'no'],
        ['4A', 'no'],
      ],
    ],
  ])('%s: the one that suits comes first', (_what, typed, order) => {
    const got = ranked(typed)
    expect(got.map(([, v]) => v)).toEqual(order.map(([, v]) => v))
    expect(new Set(got.map((g) => g.join()))).toEqual(new Set(order.map((o) => o.join())))
    expect(got[0]).toEqual(order[0])
  })
  test('its plate becomes the entries, and what parts from it afterwards is told', () => {
    const [, two] = STOCK
    const family = known('clamp-on')
    const entries = entriesOfSensor(family, two?.description ?? { kind: '', values: {} })
    const typed = { ...SMALL, ...entries }
    expect(sensorDifferences(family, typed, two?.description ?? { kind: '', values: {} })).toEqual([])
    expect(
      sensorDifferences(family, { ...typed, wedge_deg: 38 }, two?.description ?? { kind: '', values: {} }),
    ).toEqual([{ name: 'wedge_deg', title: 'Wedge angle', here: '38 deg', plate: '40 deg' }])
  })
  test('what nobody typed off the plate stays an assumption on the loop', () => {
    const [, two] = STOCK
    const untold = untoldOfSensor(known('clamp-on'), two?.description ?? { kind: '', values: {} })
    expect(untold).toEqual(expect.arrayContaining(['hottest_C', 'rail', 'face_mm']))
    for (const told of ['serialA', 'frequency_MHz', 'wedge_m_s', 'wedge_deg', 'length_mm'])
      expect(untold).not.toContain(told)
  })
  test('a family without a sensor of its own takes none', () => {
    expect(rankSensors(known('pressure'), {}, STOCK)).toEqual([])
    expect(entriesOfSensor(known('pressure'), STOCK[0]?.description ?? { kind: '', values: {} })).toEqual({})
  })
})

describe('a pair where it is', () => {
  const base = { ...SMALL, frequency_MHz: 2, serialA: '2A', serialB: '2B' }
  test.each<[string, Typed, string]>([
    ['A and B exchanged', { serialA: '2B', serialB: '2A' }, 'PAIR_EXCHANGED'],
    ['of two pairs', { serialB: '3B' }, 'PAIR_MIXED'],
    ['hotter than its class', { hottest_C: 20 }, 'CLASS_TEMPERATURE'],
    ['colder than its class', { coldest_C: 30 }, 'CLASS_TEMPERATURE'],
    ['too high a frequency', { frequency_MHz: 4 }, 'OTHER_FREQUENCY'],
    ['too low a frequency', { frequency_MHz: 0.5 }, 'OTHER_FREQUENCY'],
    ['a rail that is too short', { rail: 'index', railLast: 5 }, 'OFF_THE_RAIL'],
  ])('%s: told', (_what, change, code) => {
    expect(codes(compute('clamp-on', base))).not.toContain(code)
    expect(codes(compute('clamp-on', { ...base, ...change }))).toContain(code)
  })
  test('a rail in index numbers is read in index numbers', () => {
    const r = compute('clamp-on', { ...base, rail: 'index', railFirst_mm: 10, railStep_mm: 2.5 })
    expect(row(r, 'Downstream sensor at')).toMatch(/^index \d+$/)
    expect(r.sheet.find((l) => l.says.startsWith('Sensor spacing'))?.value).toBe(
      row(r, 'Downstream sensor at'),
    )
  })
  test('on a small gas pipe long sensors ask for four traverses', () => {
    const gas = { ...GAS, frequency_MHz: 0.2 }
    expect(row(compute('clamp-on', { ...gas, length_mm: 40 }), 'Traverses')).toBe(2)
    const long = compute('clamp-on', { ...gas, length_mm: 80 })
    expect(row(long, 'Traverses')).toBe(4)
    expect(long.findings.map((f) => f.code)).toContain('FOUR_TRAVERSES')
    expect(codes(long)).not.toContain('SENSORS_TOUCH')
    const longer = compute('clamp-on', { ...gas, length_mm: 140 })
    expect(row(longer, 'Traverses')).toBe(1)
    expect(longer.findings.map((f) => f.code)).toContain('DIRECT_FOR_LENGTH')
  })
})
