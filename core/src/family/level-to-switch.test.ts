import { describe, expect, test } from 'vitest'
import { factsOf, type FactsOf } from '../loop/facts.ts'
import { rangeFinding } from '../loop/set-up-findings.ts'
import type { Stage } from '../signal/stage.ts'
import type { SetUpResult } from './family.ts'
import { codes, compute, known, refused, row, type Values } from './test/through-form.ts'

const transmitter = (low: number, high: number, unit: string): Stage[] => [
  { kind: 'transmitter', range: { low, high, unit }, transfer: { kind: 'linear' } },
]

describe('level from above through its form', () => {
  const SUMP: Values = { empty_m: 5.2, full_m: 0.7, offset_m: 0.15, blocking_m: 0.45, face_m: 3.105 }
  test('4 LT-102: the reading, its level and its current', () => {
    const r = compute('level-from-above', SUMP)
    expect(row(r, 'Level of the reading')).toBeCloseTo(2.245, 9)
    expect(row(r, 'Current of the reading')).toBeCloseTo(11.9822, 4)
    expect(codes(r)).toEqual(['ZONES_CLEAR'])
  })
  test('both schools say the same points: level mode, own distances, own levels', () => {
    const ways: Values[] = [
      { points: 'level' },
      { points: 'ownDistance', at4_m: 5.2, at20_m: 0.7 },
      { points: 'ownLevel', level4_m: 0, level20_m: 4.5 },
    ]
    const answers = ways.map((w) => {
      const r = compute('level-from-above', { ...SUMP, ...w })
      return [row(r, '4 mA point'), row(r, '20 mA point'), row(r, 'Current of the reading')]
    })
    expect(answers[1]).toEqual(answers[0])
    expect(answers[2]).toEqual(answers[0])
    expect(answers[0]?.[0]).toBe('distance 5.2 m = level 0 m')
  })
  test('100 % at the dead zone or at the tank’s top', () => {
    expect(row(compute('level-from-above', { ...SUMP, hundred: 'deadZone' }), 'Span')).toBeCloseTo(4.9, 9)
    const top = compute('level-from-above', { ...SUMP, hundred: 'top', roof_m: 0.1 })
    expect(codes(top)).toContain('FULL_IN_BLOCKING')
  })
  const judged: readonly [why: string, values: Values, code: string][] = [
    ['full above empty', { full_m: 6 }, 'POINTS'],
    ['the dead zone inside the range', { full_m: 0.25 }, 'FULL_IN_BLOCKING'],
    ['too little margin', { full_m: 0.4 }, 'MARGIN_SMALL'],
    ['a reading in the dead zone', { face_m: 0.4 }, 'IN_BLOCKING'],
    ['hot gas counted cold', { gas_C: 45 }, 'GAS_TEMPERATURE'],
    ['a product that hardly reflects', { principle: 'radar26', eps: 1.7 }, 'WEAK_ECHO'],
    ['a ladder in the beam', { principle: 'radar6', lateral_m: 0.3 }, 'WALL_IN_BEAM'],
    ['a tank that is lower than its span', { shape: 'rectangular', height_m: 3 }, 'ABOVE_TANK'],
    ['a head that cannot be', { shape: 'vertical', head1: 'cone', outlet_m: 3 }, 'TANK'],
  ]
  test.each(judged)('%s: %s', (_why, values, code) =>
    expect(codes(compute('level-from-above', { ...SUMP, ...values }))).toContain(code),
  )
  test('the level follows the current on the line, in both modes', () => {
    const surface = (r: SetUpResult) => Number(/surface at ([\d.]+)/.exec(r.drawing?.says ?? '')?.[1])
    const values = { ...SUMP, face_m: 0 }
    expect(surface(compute('level-from-above', values, { current_mA: 12 }))).toBeCloseTo(2.95, 3)
    expect(
      surface(compute('level-from-above', { ...values, points: 'distance' }, { current_mA: 8 })),
    ).toBeCloseTo(1.825, 3)
  })
  test('the silo by its heap, and its table', () => {
    const r = compute('level-from-above', {
      principle: 'radar80',
      empty_m: 7.4,
      full_m: 1,
      shape: 'vertical',
      diameter_m: 3,
      shell_m: 5,
      head1: 'cone',
      cone_m: 2.4,
      outlet_m: 0.4,
      surface: 'filling',
      repose_deg: 32,
      sensorRadius_m: 0.3,
      face_m: 3.3,
    })
    expect(row(r, 'Volume of the reading')).toBeCloseTo(15.43411, 5)
    expect(r.tables?.[0]?.rows).toHaveLength(5)
  })
})

describe('guided wave through its form', () => {
  const PROBE: Values = { probe_m: 2.4, topDead_m: 0.12, bottomDead_m: 0.08, distance_m: 1.47 }
  test('7 LT-301 by the usual points', () => {
    const r = compute('guided-wave', PROBE)
    expect(row(r, 'Span')).toBeCloseTo(2.2, 9)
    expect(row(r, 'Current of the reading')).toBeCloseTo(10.1818, 4)
    expect(codes(r)).toEqual(['ZONES_CLEAR'])
  })
  const judged: readonly [why: string, values: Values, code: string][] = [
    ['100 % in the upper dead zone', { points: 'distance', at20_m: 0.05 }, 'FULL_IN_TOP_DEAD_ZONE'],
    ['0 % in the lower one', { points: 'distance', at4_m: 2.38 }, 'ZERO_IN_BOTTOM_DEAD_ZONE'],
    ['reversed points', { points: 'distance', at4_m: 0.2, at20_m: 2 }, 'POINTS_REVERSED_OR_EQUAL'],
    ['dead zones that eat the probe', { topDead_m: 1.5, bottomDead_m: 1 }, 'POINTS_REVERSED_OR_EQUAL'],
    ['a poor reflector on a rod', { eps: 1.5 }, 'EPS_LOW'],
    ['a probe longer than the tank', { shape: 'rectangular', points: 'level', zero_m: 2.2 }, 'PROBE_TOUCHES'],
    [
      'a tank deeper than the probe',
      { shape: 'rectangular', points: 'level', zero_m: 3, level20_m: 2.8 },
      'TANK_TALLER',
    ],
    ['an end that fits no level', { apparentEnd_m: 30 }, 'PROBE_END'],
  ]
  test.each(judged)('%s', (_why, values, code) =>
    expect(codes(compute('guided-wave', { ...PROBE, ...values }))).toContain(code),
  )
  test('8 the level by the probe’s end', () => {
    const r = compute('guided-wave', { ...PROBE, eps: 2.1, apparentEnd_m: 3.052 })
    expect(row(r, 'Level above the probe’s end, by its echo')).toBeCloseTo(1.45167, 5)
  })
  test('a strapping table is used, and a falling one is told with its row', () => {
    const strapping = [
      [0, 0],
      [1, 2],
      [2.4, 6],
    ] as const
    const r = compute('guided-wave', { ...PROBE, shape: 'table', strapping })
    expect(row(r, 'Volume at 100 %')).toBeCloseTo(2 + (4 * 1.2) / 1.4, 9)
    const [told] = refused('guided-wave', {
      strapping: [
        [0, 0],
        [1, 3],
        [2, 1],
      ],
    })
    expect(told?.[1]).toMatch(/Row 3: the volume 1 falls/)
  })
  test('a table of ten thousand rows computes at once', () => {
    const strapping = Array.from({ length: 10_000 }, (_, i) => [i / 4000, (i / 4000) ** 1.1] as const)
    const r = compute('guided-wave', { ...PROBE, shape: 'table', strapping })
    expect(row(r, 'Volume at 100 %')).toBeCloseTo(2.2 ** 1.1, 3)
  })
  test('the vessel’s curve for the transmitter’s table rises', () => {
    const v = known('guided-wave').vessel?.({ ...PROBE, shape: 'vertical', head1: 'tori10' }) ?? null
    expect(v?.rows).toBe(11)
    expect(v?.volume_m3(0.5)).toBeGreaterThan(v?.volume_m3(0.25) ?? 0)
  })
})

describe('pressure through its form', () => {
  const WET: Values = {
    duty: 'wet',
    density: 1180,
    densityNow: 1180,
    lineFill: 1000,
    fill: 1000,
    url_kPa: 60,
  }
  test('14 the wet leg, 14 the dry leg', () => {
    const r = compute('pressure', WET)
    expect(row(r, '4 mA at')).toBeCloseTo(-27.45862, 5)
    expect(row(r, '20 mA at')).toBeCloseTo(2.62818, 5)
    expect(row(r, 'Zero shift')).toMatch(/elevated/)
    const dry = compute('pressure', { ...WET, duty: 'dry', lineFill: 1180 })
    expect(row(dry, '4 mA at')).toBeCloseTo(8.10029, 5)
    expect(row(dry, 'Zero shift')).toMatch(/suppressed/)
  })
  test('16 a transmitter below its tap reads the head as well', () => {
    const r = compute('pressure', {
      lrv_kPa: 0,
      urv_kPa: 572.83419,
      below_m: 3.2,
      lineDensity: 1025,
      url_kPa: 1000,
    })
    expect(row(r, '20 mA at')).toBeCloseTo(605, 4)
  })
  const judged: readonly [why: string, values: Values, code: string][] = [
    ['no span', { lrv_kPa: 5, urv_kPa: 5 }, 'RANGE'],
    ['below nothing', { duty: 'absolute', lrv_kPa: -20 }, 'RANGE'],
    ['below a vacuum', { lrv_kPa: -150 }, 'RANGE'],
    ['a cell too small', { urv_kPa: 500 }, 'RANGE_OUTSIDE_SENSOR'],
    ['a cell far too large', { urv_kPa: 8, url_kPa: 160 }, 'TURNDOWN'],
    ['static pressure', { duty: 'differential', urv_kPa: 8, url_kPa: 160, line_kPa: 1200 }, 'STATIC'],
    ['two water columns', { columnTx: 'conv', columnCal: '20C' }, 'WATER_COLUMN_MIXED'],
    ['heavier brine', { ...WET, densityNow: 1205 }, 'DENSITY'],
    ['a heavier liquid on top', { duty: 'interface', density: 860, upperDensity: 1180 }, 'RANGE'],
    ['equalising in service', { manifold: 'three-valve', sequence: 'open E' }, 'THROUGH_FLOW'],
    ['a valve that is not there', { manifold: 'five-valve', sequence: 'open VH' }, 'MANIFOLD_MOVE'],
    [
      'the right order',
      { manifold: 'three-valve', sequence: 'close L; open E; close H; open VH; open VL' },
      'MANIFOLD_FINE',
    ],
  ]
  test.each(judged)('%s: %s', (_why, values, code) =>
    expect(codes(compute('pressure', values))).toContain(code),
  )
  test('mixed water columns are a pure span error of 0.18 %', () => {
    const r = compute('pressure', { columnTx: '20C', columnCal: 'conv' })
    expect(r.findings.find((f) => f.code === 'WATER_COLUMN_MIXED')?.says).toMatch(/0\.1796 %/)
  })
})

describe('temperature through its form', () => {
  test('18, 19 readings become temperatures', () => {
    expect(row(compute('temperature', { read_ohm: 124.6 }), 'Resistance read is')).toBeCloseTo(63.53952, 5)
    const k = compute('temperature', { sensor: 'K', high_C: 900, cold_C: 35, read_mV: 33 })
    expect(row(k, 'Voltage read is')).toBeCloseTo(827.695, 3)
  })
  const judged: readonly [why: string, values: Values, code: string][] = [
    ['below what the sensor is defined for', { low_C: -250 }, 'SENSOR_RANGE'],
    ['below absolute zero is not even an entry', { low_C: -270, sensor: 'B' }, 'SENSOR_RANGE'],
    ['two long leads', { wires: '2', lead1_ohm: 2, lead2_ohm: 2 }, 'LEADS'],
    ['a class beyond its range', { rtdClass: 'AA', high_C: 300 }, 'CLASS_OUTSIDE'],
    ['an open circuit', { read_ohm: 5000 }, 'RESISTANCE_OUT_OF_RANGE'],
    ['reversed leads', { sensor: 'K', read_mV: -15 }, 'VOLTAGE_OUT_OF_RANGE'],
    ['a short well', { mounting: 'well', immersion_mm: 40 }, 'IMMERSION'],
    ['clamped on a gas line', { mounting: 'pipe', inside: 'gas', high_C: 82 }, 'CLAMP_ON_GAS'],
  ]
  test.each(judged)('%s: %s', (_why, values, code) =>
    expect(codes(compute('temperature', values))).toContain(code),
  )
  test('the entry itself refuses less than absolute zero', () => {
    expect(refused('temperature', { low_C: -300 })[0]?.[1]).toMatch(/possible is -273.15 to 2000/)
  })
})

describe('pH through its form', () => {
  const TWO: Values = { buffer1: '4.005', mV1: 173.4, t1_C: 21.4, buffer2: '6.865', mV2: 9.6, t2_C: 21.4 }
  test('22 two buffers', () => {
    const r = compute('ph', TWO)
    expect(row(r, 'Offset')).toBeCloseTo(2.5652, 4)
    expect(row(r, 'Slope')).toBeCloseTo(97.4788, 4)
    expect(codes(r)).toContain('ELECTRODE_GOOD')
    expect(r.charts?.[0]?.series.map((s) => s.name)).toEqual(['this electrode', 'ideal', 'buffers'])
  })
  const judged: readonly [why: string, values: Values, code: string][] = [
    ['the wrong bottle', { ...TWO, buffer2: '9.180' }, 'BUFFER_WRONG'],
    ['the same bottle twice', { ...TWO, buffer2: '4.005', mV2: 173 }, 'SAME_BUFFER'],
    ['a buffer too hot', { ...TWO, t1_C: 60 }, 'BUFFER_TEMPERATURE_OUT_OF_RANGE'],
    ['a tired electrode', { ...TWO, mV1: 160 }, 'ELECTRODE_NEARING_END'],
    ['a dead one', { ...TWO, mV1: 60 }, 'ELECTRODE_REJECTED'],
    ['broken glass', { glass_Mohm: 4 }, 'GLASS'],
    ['a clogged reference', { reference_kohm: 80 }, 'REFERENCE'],
    ['a life without its days', { slopes: '98 97' }, 'LIFE_COUNT'],
  ]
  test.each(judged)('%s: %s', (_why, values, code) => expect(codes(compute('ph', values))).toContain(code))
  test('25 the end of an electrode', () => {
    const r = compute('ph', { days: '0 60 120', slopes: '98.2 96.5 94.4' })
    expect(r.findings.find((f) => f.code === 'LIFE')?.says).toMatch(/0.95 % in 30 days.*day 418.9/)
  })
})

describe('switches through their form', () => {
  const judged: readonly [why: string, values: Values, code: string][] = [
    ['1 means the other', { meaning1: 'notSensed' }, 'MEANING_REVERSED'],
    ['an alarm that needs current', { alarmOn: 'sensed' }, 'FAIL_UNSAFE'],
    ['an alarm without current', { alarmOn: 'sensed', contact: 'nc', meaning1: 'notSensed' }, 'FAIL_SAFE'],
    ['a target too far', { gap_mm: 30 }, 'OUT_OF_REACH'],
    ['limits on one side', { counter: true, least_s: 12 }, 'CYCLE_LIMITS'],
    [
      'a filter as long as the stroke',
      { counter: true, ideal_s: 0.04, least_s: 0.01, most_s: 0.1 },
      'FILTER_LONG',
    ],
    ['a trip that chatters', { kind: 'trip', onAt_m: 0.6, offAt_m: 0.6 }, 'CHATTERS'],
  ]
  test.each(judged)('%s: %s', (_why, values, code) =>
    expect(codes(compute('switch', values))).toContain(code),
  )
})

describe('set-up against the signal path', () => {
  const told = (family: string, values: Values, path: Stage[], unconfirmed: string[] = []) => {
    const document: FactsOf = { family, setUp: { values }, path, tolerance: null, unconfirmed }
    return rangeFinding(factsOf(document))
  }
  test('level or distance, both agree with a path that says the same', () => {
    const values = { empty_m: 1.45, full_m: 0.25, points: 'level' }
    expect(told('level-from-above', values, transmitter(1.45, 0.25, 'm'))).toBeNull()
    expect(told('level-from-above', values, transmitter(0, 1.2, 'm'))).toBeNull()
  })
  test('a distance told the other way round is named, with the fix', () => {
    const f = told(
      'level-from-above',
      { empty_m: 1.45, full_m: 0.25, points: 'distance' },
      transmitter(1.45, 0.25, 'm'),
    )
    expect(f?.code).toBe('SET_UP_REVERSED')
    expect(f?.fix?.set).toHaveLength(2)
  })
  test('other numbers are told, another quantity is not compared', () => {
    expect(told('temperature', { low_C: 0, high_C: 45 }, transmitter(5, 45, 'degC'))?.code).toBe(
      'SET_UP_RANGE_DIFFERS',
    )
    expect(told('temperature', { low_C: 5, high_C: 45 }, transmitter(41, 113, 'degF'))).toBeNull()
    expect(told('clamp-on', {}, transmitter(0, 900, 'Sm3/h'))).toBeNull()
  })
  test('a range that nobody typed is never offered to the path; the path is offered to the set-up', () => {
    const f = told('temperature', { sensor: 'pt100' }, transmitter(5, 45, 'degC'))
    expect(f?.code).toBe('SET_UP_RANGE_ASSUMED')
    expect(f?.fix?.set).toEqual([
      { path: 'setUp.values.low_C', value: 5 },
      { path: 'setUp.values.high_C', value: 45 },
    ])
    const guessed = told('temperature', { low_C: 0, high_C: 45 }, transmitter(5, 45, 'degC'), [
      'setUp.values.high_C',
    ])
    expect(guessed?.code).toBe('SET_UP_RANGE_ASSUMED')
  })
  test('nothing live is nothing drawn as level', () => {
    expect(compute('guided-wave', {}).drawing?.says).not.toMatch(/surface/)
  })
})
