import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { answer } from '../calculation.ts'
import { calculationNamed } from '../catalogue.ts'
import { hartVerdict } from './loop-budget.ts'
import { e12AtMost } from './pull-sizing.ts'
import { tripSequence, tripSheet, TRIP_FORMS, type TripForm } from '../signal/trip.ts'

const ask = (name: string, input: unknown): Record<string, unknown> => {
  const c = calculationNamed(name)
  if (!c) throw new Error(`no ${name}`)
  const told = answer(c, input)
  if (told.kind === 'refused') throw new Error(told.problems.map((p) => `${p.where}: ${p.says}`).join('; '))
  return told.result as Record<string, unknown>
}
/** The value at a written place: rows[1].rMax, on[3]. */
const at = (result: unknown, place: string): unknown =>
  place
    .split(/[.[\]]+/)
    .filter(Boolean)
    .reduce<unknown>((x, key) => (x as Record<string, unknown>)[key], result)

const rows: readonly [
  why: string,
  name: string,
  input: object,
  gives: Record<string, number | string | boolean | null>,
][] = [
  [
    'loop budget of PT-202 at its worst supply',
    'electrical.loopBudget',
    {
      supplyMin: 20.4,
      supplyMax: 28.8,
      vLift: 10.5,
      vDrops: 1.5,
      rFixed: 280,
      rHart: 250,
      cable: { length: 500, mm2: 1.0, iecClass: 5, tempC: 50 },
    },
    {
      rCable: 21.7991,
      rTotal: 301.799,
      'rows[0].vTerm': 17.6928,
      'rows[1].vTerm': 12.864,
      'rows[2].vTerm': 12.4113,
      'rows[3].vTerm': 12.1095,
      'rows[0].rMax': 2100,
      'rows[1].rMax': 420,
      'rows[2].rMax': 390.698,
      'rows[3].rMax': 373.333,
      'rows[1].lMax': 3211.15,
      'rows[3].lMax': 2140.77,
      marginDesign: 1.60952,
      verdict: 'PASS',
      iSaturation: 0.0278331,
      vTermMax: 26.2135,
      hart: 'OK',
    },
  ],
  [
    'longest cable for a digital signal',
    'electrical.hartCable',
    { rLoop: 290, pFperM: 160, pFdevices: 7000 },
    { length: 1294.61 },
  ],
  ['a current in the grey', 'electrical.ne43', { i: 0.00372 }, { state: 'GREY_LOW', percent: -1.75 }],
  ['a current on the edge', 'electrical.ne43', { i: 0.0205 }, { state: 'MEASURE', percent: 103.125 }],
  [
    'a shunt 0.1 % high',
    'electrical.shuntError',
    { i: 0.02, r: 250, rNominal: 250, tolPct: 0.1 },
    { v: 5.005, iShown: 0.02002, percent: 100.125, errPctSpan: 0.125 },
  ],
  [
    'a shunt of twice the value',
    'electrical.shuntError',
    { i: 0.0108, r: 500, rNominal: 250, tolPct: 0 },
    { v: 5.4, iShown: 0.0216, percent: 110 },
  ],
  [
    'a cable by its AWG',
    'electrical.wireOhm',
    { awg: 18, length: 300, tempC: 45 },
    { ohmPerKm: 23.0059, r: 6.90177, rLoop: 13.8035 },
  ],
  [
    'a pull-up on a type 3 card',
    'electrical.pullSizing',
    { vMin: 20.4, vMax: 28.8, iecType: 3, vDrop: 1.5, iLeak: 0.0001, iOutMax: 0.1 },
    {
      rMax: 3032.26,
      rMin: 340.25,
      r: 2700,
      iOn: 0.0101074,
      pR: 0.275829,
      vInReleased: 12.03,
      iInReleased: 0.003,
    },
  ],
  [
    'a pull-up on a type 1 card',
    'electrical.pullSizing',
    { vMin: 20.4, vMax: 28.8, iecType: 1, vDrop: 1.5, iLeak: 0.0001, iOutMax: 0.1 },
    {
      rMax: 1640.59,
      rMin: 340.25,
      r: 1200,
      iOn: 0.0227311,
      pR: 0.620041,
      vInReleased: 16.1553,
      iInReleased: 0.00343729,
    },
  ],
  [
    'no resistor can serve a weak output',
    'electrical.pullSizing',
    { vMin: 20.4, vMax: 28.8, iecType: 2, vDrop: 1.5, iLeak: 0.0001, iOutMax: 0.02 },
    { r: null, iOn: null },
  ],
  [
    'a sensor with a small stainless target',
    'electrical.sensing',
    { sn: 8, d: 18, kMat: 0.75, kSize: 0.92 },
    { sa: 4.4712, srMin: 4.968, srMax: 6.072, suMin: 4.4712, suMax: 6.6792, targetSide: 24, hystMax: 1.2144 },
  ],
  [
    'pallets on a conveyor',
    'electrical.passing',
    { speed: 1.6, targetLen: 0.024, gapLen: 0.048, fSensor: 400, tFilter: 0.003, tScan: 0.01 },
    { fNeeded: 22.2222, tOn: 0.015, tOff: 0.03, vMaxSensor: 19.2, vMaxInput: 1.84615, ok: true },
  ],
]
test.each(rows)('%s', (_why, name, input, gives) => {
  const result = ask(name, input)
  for (const [place, value] of Object.entries(gives)) {
    const measured = at(result, place)
    const same =
      typeof value === 'number'
        ? Math.abs(Number(measured) - value) / Math.abs(value) < 5e-6
        : measured === value
    expect([place, same ? value : measured]).toEqual([place, value])
  }
})

describe('trip relays', () => {
  const sequences: readonly [why: string, input: object, on: string][] = [
    [
      'pump control on distance, off on a lost echo',
      { onAt: 0.6, offAt: 0.85, x: [0.7, 0.61, 0.6, 0.72, 0.84, 0.85, 0.8, null, 0.7] },
      '001110000',
    ],
    [
      'holding on a lost echo',
      {
        onAt: 0.85,
        offAt: 0.6,
        startUp: true,
        onInvalid: 'hold',
        x: [0.7, 0.6, 0.7, 0.85, 0.61, null, 0.59],
      },
      '1001110',
    ],
    ['outside a band', { from: 1.2, to: 2, onInside: false, x: [1.19, 1.2, 1.6, 2.0, 2.01] }, '10001'],
    ['an edge that binary misses', { onAt: 1.1 + 0.3, offAt: 1.1, x: [1.4] }, '1'],
    ['inside a band', { from: 1, to: 2, x: [0.99, 1, 2, 2.01] }, '0110'],
  ]
  test.each(sequences)('%s', (_why, input, on) => {
    expect((ask('electrical.tripRelay', input)['on'] as boolean[]).map(Number).join('')).toBe(on)
  })
  test('inside the hold band nothing ever moves', () => {
    fc.assert(
      fc.property(
        fc.boolean(),
        fc.boolean(),
        fc.array(fc.double({ min: 1.01, max: 1.99, noNaN: true })),
        (falling, startUp, x) => {
          const [onAt, offAt] = falling ? [1, 2] : [2, 1]
          const trip = { kind: 'points', onAt, offAt, same: 'falling' } as const
          expect(tripSequence(trip, x, startUp, 'off')).toEqual(x.map(() => startUp))
        },
      ),
    )
  })
  test('falling and rising never agree away from their one point', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -10, max: 10, noNaN: true }).filter((v) => Math.abs(v - 2) > 1e-6),
        (x) => {
          const at = (same: 'falling' | 'rising') =>
            tripSequence({ kind: 'points', onAt: 2, offAt: 2, same }, [x], false, 'off')[0]
          expect(at('falling')).toBe(!at('rising'))
        },
      ),
    )
  })
  test('both ways to tell a trip at once, or half of one, are refused at their field', () => {
    const c = calculationNamed('electrical.tripRelay')
    const paths = (input: object) => {
      const told = c && answer(c, input)
      return told?.kind === 'refused' ? told.problems.map((p) => p.where) : []
    }
    expect(paths({ onAt: 1, offAt: 2, from: 1, to: 2, x: [] })).toEqual(['from'])
    expect(paths({ onAt: 1, x: [] })).toEqual(['onAt'])
    expect(paths({ from: 2, to: 1, x: [] })).toEqual(['to'])
  })
  const forms: readonly [TripForm, string][] = [
    ['points', 'On at 4 ft · Off at 9 ft'],
    ['above', 'Set point 4 ft · Deadband above 5 ft · On falling'],
    ['below', 'Set point 9 ft · Deadband below 5 ft · On falling'],
    ['centred', 'Set point 6.5 ft · Deadband, whole width 5 ft · On falling'],
    ['width', 'Start 4 ft · Width 5 ft · On falling'],
  ]
  test.each(forms)('on at 4 ft coming nearer, off at 9 ft, asked for as %s', (form, says) => {
    const sheet = tripSheet({ kind: 'points', onAt: 4, offAt: 9, same: 'falling' }, form, 'ft')
    expect(sheet.map((l) => `${l.says} ${l.value}`).join(' · ')).toBe(says)
  })
  test('every form tells a band whole', () => {
    for (const form of Object.keys(TRIP_FORMS) as TripForm[])
      expect(tripSheet({ kind: 'band', from: 1, to: 3, onInside: false }, form, 'm')).toHaveLength(3)
  })
})

test.each([
  [2756.6, 2700],
  [1000, 1000],
  [999, 820],
  [1.19, 1],
  [8.2e6, 8.2e6],
])('E12 at most %d is %d', (r, e) => {
  expect(e12AtMost(r)).toBe(e)
})

describe('wrong input is told', () => {
  const wrong: readonly [why: string, name: string, input: object, path: string][] = [
    ['a cable without thickness', 'electrical.wireOhm', { length: 10 }, 'mm2'],
    [
      'an input without data',
      'electrical.pullSizing',
      { vMin: 20, vMax: 28, vDrop: 1, iLeak: 0, iOutMax: 0.1 },
      'iecType',
    ],
    ['a negative length', 'electrical.wireOhm', { length: -1, awg: 18 }, 'length'],
    [
      'two elements of one name',
      'circuit.solve',
      {
        elements: [
          { id: 'R', type: 'resistor', nodes: { a: 'A', b: '0' }, params: { r: 1 } },
          { id: 'R', type: 'resistor', nodes: {}, params: { r: 1 } },
        ],
      },
      'elements.1.id',
    ],
    [
      'a negative resistance',
      'circuit.solve',
      { elements: [{ id: 'R', type: 'resistor', nodes: { a: 'A', b: '0' }, params: { r: -5 } }] },
      'elements.0.params.r',
    ],
    [
      'a change to nobody',
      'circuit.solve',
      {
        elements: [{ id: 'R', type: 'resistor', nodes: { a: 'A', b: '0' }, params: { r: 5 } }],
        then: [{ set: [['Q', 'r', 1]] }],
      },
      'then.0.set.0',
    ],
  ]
  test.each(wrong)('%s', (_why, name, input, path) => {
    const c = calculationNamed(name)
    const told = c && answer(c, input)
    expect(told?.kind === 'refused' && told.problems.map((p) => p.where)).toContain(path)
  })
})

test('a circuit asked by name keeps its memory from one solution to the next', () => {
  const result = ask('circuit.solve', {
    elements: [
      { id: 'PS', type: 'supply', nodes: { p: 'P', n: '0' } },
      { id: 'F', type: 'fuse', nodes: { a: 'P', b: 'Q' }, params: { rating: 0.1 } },
      { id: 'R', type: 'resistor', nodes: { a: 'Q', b: '0' }, params: { r: 10 } },
    ],
    then: [{ set: [['R', 'r', 1000]] }],
  }) as { solutions: { values: Record<string, unknown>; findings: { code: string }[] }[] }
  expect(result.solutions.map((s) => s.values['state(F)'])).toEqual(['blown', 'blown'])
  expect(result.solutions[1]?.findings.map((f) => f.code)).toContain('FUSE_BLOWN')
})

test.each([
  [229.9, 'FAIL'],
  [230, 'MARGINAL'],
  [249.9, 'MARGINAL'],
  [250, 'OK'],
  [600, 'OK'],
  [600.1, 'CHECK'],
  [1100, 'CHECK'],
  [1100.1, 'FAIL'],
])('a digital signal over %s Ω: %s', (ohm, told) => expect(hartVerdict(ohm)).toBe(told))
