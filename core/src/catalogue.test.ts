import { describe, expect, test } from 'vitest'
import { answer } from './calculation.ts'
import { calculationNamed, CATALOGUE } from './catalogue.ts'
import { WORKED_CODES } from './signal/test/worked-codes.ts'

const ask = (name: string, input: unknown) => {
  const c = calculationNamed(name)
  if (!c) throw new Error(`no ${name}`)
  return answer(c, input)
}

test('every name is dotted by topic and stands once', () => {
  const names = CATALOGUE.map((c) => c.name)
  expect(new Set(names).size).toBe(names.length)
  for (const name of names) expect(name).toMatch(/^[a-z]+\.[a-z][A-Za-z0-9]*$/)
})

test.each(CATALOGUE.map((c) => [c.name, c] as const))(
  '%s answers its own example by its own output schema',
  (_name, c) => {
    const told = answer(c, c.example)
    expect(told.kind).toBe('result')
    expect(c.output.safeParse(told.kind === 'result' ? told.result : null).error).toBeUndefined()
  },
)

const PT202 = {
  ...WORKED_CODES,
  lrv: 0,
  urv: 80,
  inUnit: 'bar',
  lo: 0,
  hi: 80,
  unit: 'bar',
}
describe('worked examples asked by name', () => {
  const rows: readonly [name: string, input: unknown, result: Record<string, unknown>][] = [
    [
      'signal.forward',
      { chain: PT202, value: 47.3 },
      {
        PCT: expect.closeTo(59.125, 9),
        MA: expect.closeTo(13.46, 9),
        CNT: 16347,
        EU: expect.closeTo(47.30035, 5),
      },
    ],
    [
      'signal.inverse',
      { chain: PT202, from: 'CNT', value: 16347 },
      { MA: expect.objectContaining({ lo: expect.closeTo(13.45978, 5) as number }) as object },
    ],
    ['signal.currentState', { mA: 21.3 }, { state: 'FAIL_HIGH' }],
    ['signal.codeFormats', { format: 'bits15-live', mA: 3.55 }, { CNT: 5816 }],
    [
      'signal.resolution',
      { n4: 819, n20: 4095, span: 90, sqrtAt: 'rx', q: 0.05 },
      { EU: expect.closeTo(0.27485, 5) },
    ],
    [
      'verify.tolerance',
      { mode: 'sum', pctSpan: 0.1, pctReading: 0.25, abs: 0.02, span: 80, x: 64 },
      { T: expect.closeTo(0.26, 12) },
    ],
    [
      'verify.classify',
      { e: 0.21, T: 0.25, U: 0.06 },
      { class: 'CONDITIONAL_PASS', TUR: expect.closeTo(4.1667, 4) },
    ],
    ['numbers.withUncertainty', { y: 50.08338, U: 0.01247 }, { value: '50.083', uncertainty: '0.012' }],
    [
      'units.convert',
      { value: 6.2, from: 'bar g', to: 'psi(a)', p_baro: 99100 },
      { value: expect.closeTo(104.29664, 5) },
    ],
  ]
  test.each(rows)('%s %j', (name, input, result) => {
    expect(ask(name, input)).toMatchObject({ kind: 'result', result })
  })
})

describe('wrong input is told at its field', () => {
  const rows: readonly [why: string, name: string, input: unknown, path: string][] = [
    ['a word', 'units.convert', { value: 'x', from: 'bar', to: 'kPa' }, 'value'],
    ['an unknown unit', 'units.convert', { value: 1, from: 'stones', to: 'kg' }, 'from'],
    ['another dimension', 'units.convert', { value: 1, from: 'bar', to: 'kg' }, 'to'],
    ['no span', 'signal.forward', { chain: { ...PT202, urv: 0 }, value: 1 }, 'chain.urv'],
    [
      'a table that turns back',
      'signal.forward',
      {
        chain: {
          ...PT202,
          transfer: 'table',
          table: [
            [0, 0],
            [0.5, 1],
            [1, 0.5],
          ],
        },
        value: 1,
      },
      'chain.table',
    ],
    ['a station the chain has not', 'signal.forward', { chain: PT202, from: 'DSP', value: 1 }, 'from'],
    ['infinity', 'verify.classify', { e: Infinity, T: 1 }, 'e'],
    ['a field too many', 'signal.currentState', { mA: 4, volts: 1 }, ''],
    ['nothing at all', 'signal.currentState', null, ''],
    ['numbers beyond doubles', 'units.convert', { value: 1e308, from: 'Mimpgal/d', to: 'impgal/d' }, ''],
  ]
  test.each(rows)('%s', (_why, name, input, path) => {
    const told = ask(name, input)
    expect(told).toMatchObject({ kind: 'refused' })
    expect(told.kind === 'refused' && told.problems.map((p) => p.where)).toContain(path)
  })
})

describe('what the core knows, HTTP answers', () => {
  const resultOf = (name: string, input: unknown) => {
    const told = ask(name, input)
    if (told.kind !== 'result') throw new Error(JSON.stringify(told))
    return told.result
  }
  test.each<[string, object, object]>([
    [
      'flow.boreError',
      { od: 610, wall: 9.53, liner: 8, odTrue: 611, wallTrue: 9.13 },
      { exact: 0.62713, linear: 0.62615 },
    ],
    ['flow.twoPaths', { v1: 7.62, v2: 8.11 }, { v: 7.865, asymmetry: -6.2301, verdict: 'WARN' }],
    [
      'flow.straightRun',
      { disturbances: ['bend'], upstream: 9, downstream: 5 },
      { wanted: 10, enough: false, error: 2.943 },
    ],
    ['flow.straightRun', { disturbances: [], upstream: 12 }, { wanted: 10, enough: true, error: 0 }],
    ['flow.traverses', { id: 42.76, wall: 2.77 }, { traverses: 4, frequency: 4 }],
    ['flow.traverses', { id: 300, wall: 9.5, fluid: 'gas' }, { traverses: 1, frequency: 0.2 }],
    [
      'flow.errorCurve',
      { base: 0.1, zeroStability: 1.4, flows: [13600, 900, 300] },
      { knee: 1400, cutoff: 2.8, hidden: 67.2 },
    ],
    ['flow.saturation', { component: 'water', t: 26.85 }, { p: 3.53659 }],
    ['flow.saturation', { component: 'nitrogen', t: 20 }, { p: null }],
    ['flow.oxygen', { room: 42, release: 55, minutes: 15 }, { oxygen: 15.065, minutesToLeave: 3.1768 }],
    ['flow.oxygen', { room: 42, release: 55, minutes: 15, freshAir: 600 }, { steady: 19.145 }],
    [
      'flow.insertion',
      { stack: 312, wall: 9.27, id: 254.46, tip: 12, stem: 19.05, gauge: 720, v: 14.2 },
      { mark: 460.5, flow: 2012.34, meanDepth: 30.825 },
    ],
    [
      'flow.nozzle',
      { throat: 3.2, p0: 705, t0: 22, after: 500 },
      { choked: false, massFlow: null, kgPerHour: null },
    ],
    [
      'flow.nozzle',
      { throat: 3.2, p0: 705, t0: 22, after: 500, chokedTo: 0.85 },
      { choked: true, massFlow: 13.0311 },
    ],
    [
      'flow.orificeDp',
      { D: 102.26, d: 61, taps: 'flange', density: 995.4875, viscosity: 0.000780535, flow: 42.0122 },
      { dp: 18.7, beta: 0.596519, C: 0.608847 },
    ],
    ['verify.rollover', { digits: 6, K: 1.44, Q: 13600 }, { units: 694444.44, days: 2.12759 }],
    [
      'ph.impedance',
      { glass: 220, reference: 60, t: 33 },
      { glass25: 440, glass: 'good', reference: 'clogged' },
    ],
    ['ph.impedance', { glass: 4, t: 25 }, { glass: 'broken', reference: null }],
  ])('%s %o', (name, input, expected) => {
    const told = resultOf(name, input) as Record<string, unknown>
    for (const [key, value] of Object.entries(expected)) {
      const [is, wanted] = [told[key], value as unknown]
      const isNear =
        typeof is === 'number' &&
        typeof wanted === 'number' &&
        Math.abs(is - wanted) <= 2e-5 * Math.abs(wanted) + 1e-9
      expect(isNear ? wanted : is, key).toEqual(wanted)
    }
  })
  test('one sound speed of water has two temperatures, beyond the top none', () => {
    const at = (c: number) =>
      (resultOf('flow.temperatureOfSound', { fluid: 'water', p: 600, c }) as { temperatures: number[] })
        .temperatures
    const [cold = 0, hot = 0] = at(1540)
    expect(at(1540)).toHaveLength(2)
    expect(cold).toBeGreaterThan(45)
    expect(hot).toBeGreaterThan(95)
    expect(at(1700)).toEqual([])
  })
  test.each<[string, object, string, RegExp]>([
    ['flow.saturation', { component: 'propane', t: -300 }, 't', /known from -125.2 °C/],
    ['flow.saturation', { component: 'water', t: -5 }, 't', /known from 0 °C/],
    ['flow.temperatureOfSound', { fluid: 'brine', salt: 40, p: 300, c: 1500 }, 'salt', /26.3 % salt/],
    ['flow.otherPipe', { make: 'plastic', size: '111', sdr: 11 }, 'size', /There is no size 111/],
    [
      'flow.orificeDp',
      { D: 100, d: 20, taps: 'corner', density: 1000, viscosity: 0.001, flow: 1e9 },
      'flow',
      /No differential/,
    ],
  ])('%s %o is refused at %s', (name, input, where, says) => {
    const told = ask(name, input)
    expect(told.kind === 'refused' && told.problems[0]).toMatchObject({ where })
    expect(told.kind === 'refused' && told.problems[0]?.says).toMatch(says)
  })
  test('a level above the tank is said, and the volume is that of the full one', () => {
    const tank = { shape: 'rectangular', L: 2, W: 3, H: 4 }
    const told = resultOf('tank.volume', { tank, h: 9 }) as { percent: number; warnings: string[] }
    expect(told.percent).toBe(100)
    expect(told.warnings[0]).toMatch(/9 m is above the tank, 4 m high inside/)
    expect((resultOf('tank.volume', { tank, h: 1 }) as { warnings: string[] }).warnings).toEqual([])
  })
  test('a characterization that cannot be right is told in the order of the rule', () => {
    const told = resultOf('flow.plausible', {
      F: 31.842,
      lightPeriod: 82435.17,
      heavyPeriod: 9766.284,
      lightDensity: 0.0012,
      heavyDensity: 998.2,
      bore: 0.025,
    }) as { findings: { code: string }[] }
    expect(told.findings.map((f) => f.code)).toEqual([
      'PERIODS_SWAPPED',
      'DENSITY_UNITS',
      'PERIOD_RATIO',
      'SIZE_UNIT',
      'FACTOR_SCALE',
    ])
  })
})
