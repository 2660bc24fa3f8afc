import { describe, expect, test } from 'vitest'
import { AT_REST, energise, type BenchState } from '../part/energise.ts'
import { NOTHING_WIRED, withSetting, type Wiring } from '../part/wiring.ts'
import { connect } from './connect/index.ts'
import { explain } from './explain.ts'
import { leadPlace, liftMeter, meterIn, meterInSeries, meterReading, placeLead, withMeter } from './meter.ts'

const loop = (): Wiring => {
  const c = connect({
    ...NOTHING_WIRED,
    parts: {
      'PT-1': { kind: 'two-wire-transmitter', settings: { test: true } },
      'PS-1': { kind: 'supply', settings: {} },
      'AI-1': { kind: 'analogue-input', settings: {} },
    },
  })
  if (c.kind !== 'wired') throw new Error(c.says)
  return withMeter(c.wiring).wiring
}
const set = (w: Wiring, jack: string, dial: string) =>
  withSetting(withSetting(w, 'DMM', 'jack', jack), 'DMM', 'dial', dial)
const wireAt = (w: Wiring, terminal: string) =>
  Object.entries(w.wires).find(([, x]) => x.from === terminal || x.to === terminal)?.[0] ?? ''
const read = (w: Wiring, state: Partial<BenchState> = {}) =>
  meterReading(w, 'DMM', energise(w, { ...AT_REST, ...state }))
const across = (w: Wiring, red: string, black: string) =>
  placeLead(placeLead(w, 'DMM', 'red', red), 'DMM', 'black', black)

describe('what the meter shows', () => {
  const series = (w: Wiring, red: 'from' | 'to') => meterInSeries(w, 'DMM', wireAt(w, 'PT-1:minus'), red)
  const rows: readonly [
    why: string,
    build: () => Wiring,
    text: string,
    says: RegExp,
    state?: Partial<BenchState>,
  ][] = [
    [
      'in series, red where the current comes from',
      () => series(set(loop(), 'mA', 'mA'), 'from'),
      '+12.000 mA',
      /^Red at PT-1 −/,
    ],
    ['in series, leads swapped', () => series(set(loop(), 'mA', 'mA'), 'to'), '−12.000 mA', /minus sign/],
    ['across the input', () => across(loop(), 'AI-1:in', 'AI-1:com'), '+3.000 V', /red at AI-1 in\+/i],
    ['across the supply', () => across(loop(), 'PS-1:plus', 'PS-1:minus'), '+24.00 V', /PS-1/],
    [
      'at the test terminals, loop not opened',
      () => across(set(loop(), 'mA', 'mA'), 'PT-1:test', 'PT-1:minus'),
      '+12.000 mA',
      /PT-1 T/,
    ],
    [
      'the lead in V, the dial at mA',
      () => across(set(loop(), 'V', 'mA'), 'AI-1:in', 'AI-1:com'),
      '--- mA',
      /feels the jack/,
    ],
    [
      'AC on a steady loop',
      () => across(set(loop(), 'V', 'VAC'), 'AI-1:in', 'AI-1:com'),
      '0.0 V AC',
      /turn to DC/,
    ],
    [
      'a current jack across the supply',
      () => across(set(loop(), 'mA', 'mA'), 'PS-1:plus', 'PS-1:minus'),
      '0.000 mA',
      /fuse has blown/,
    ],
    ['one lead only', () => placeLead(loop(), 'DMM', 'red', 'AI-1:in'), '0.00 V', /Both leads need a place/],
    ['power off', () => series(set(loop(), 'mA', 'mA'), 'from'), '+0.000 mA', /./, { power: false }],
  ]
  test.each(rows)('%s', (_why, build, text, says, state) => {
    const shown = read(build(), state)
    expect(shown?.text).toBe(text)
    expect(shown?.says).toMatch(says)
  })
})

describe('leads', () => {
  test('taken out of a wire it opened, the wire closes as it was', () => {
    const w = loop()
    const ends = (x: Wiring) =>
      Object.values(x.wires)
        .map((v) => [v.from, v.to].sort().join(' '))
        .sort()
    const opened = meterInSeries(w, 'DMM', wireAt(w, 'PT-1:plus'), 'from')
    expect(Object.keys(opened.wires)).toHaveLength(4)
    expect(ends(liftMeter(opened, 'DMM'))).toEqual(ends(w))
    expect(leadPlace(opened, 'DMM', 'red')).not.toBeNull()
    expect(leadPlace(liftMeter(opened, 'DMM'), 'DMM', 'red')).toBeNull()
  })
  test('moving a lead from series to a terminal closes the wire first', () => {
    const w = loop()
    const moved = placeLead(meterInSeries(w, 'DMM', wireAt(w, 'PT-1:plus'), 'from'), 'DMM', 'red', 'AI-1:in')
    expect(Number(energise(moved, AT_REST).values['pct(AI-1)'])).toBeCloseTo(50, 3)
  })
  test('a meter among the parts is found, and there is only one', () => {
    expect(meterIn(NOTHING_WIRED)).toBeNull()
    expect(withMeter(loop()).wiring.parts).toEqual(loop().parts)
  })
})

describe('explanations name the cause in words', () => {
  const tell = (w: Wiring, state: Partial<BenchState> = {}) => {
    const now = { ...AT_REST, ...state }
    return explain(w, now, energise(w, now))
  }
  const code = (w: Wiring, state: Partial<BenchState> = {}) =>
    tell(w, state)
      .filter((f) => f.severity === 'stop' || f.severity === 'warn')
      .map((f) => f.code)
  const bare = connect({
    ...loop(),
    parts: Object.fromEntries(Object.entries(loop().parts).filter(([id]) => id !== 'DMM')),
  })
  const good = bare.kind === 'wired' ? bare.wiring : NOTHING_WIRED
  test('of a right loop the circuit complains of nothing', () => {
    expect(tell(good)).toEqual([])
  })
  const rows: readonly [why: string, state: Partial<BenchState>, codes: string[], says: RegExp][] = [
    [
      'a broken core',
      { faults: [{ kind: 'open', wire: wireAt(good, 'PT-1:minus') }] },
      ['NO_RETURN_PATH'],
      /No path back from terminal PT-1 − to 0 V/,
    ],
    ['swapped leads', { faults: [{ kind: 'reversed', part: 'PT-1' }] }, ['REVERSED'], /Swap its two leads/],
    [
      'a wet junction box',
      { faults: [{ kind: 'leakage', part: 'PT-1', ohm: 4700 }] },
      ['RECEIVER_DISAGREES'],
      /more arrives than the transmitter sends/,
    ],
    [
      'a second ground',
      { faults: [{ kind: 'earth', at: 'PT-1:minus', ohm: 2, volts: 0.6 }] },
      ['RECEIVER_DISAGREES'],
      /returns another way|wrong way round/,
    ],
    [
      'a short across the input',
      { faults: [{ kind: 'short', part: 'AI-1' }] },
      ['RECEIVER_DISAGREES'],
      /past the input/,
    ],
    ['the supply is off', { power: false }, [], /every reading is zero/],
  ]
  test.each(rows)('%s', (_why, state, codes, says) => {
    expect(code(good, state)).toEqual(codes.length > 0 ? expect.arrayContaining(codes) : [])
    expect(
      tell(good, state)
        .map((f) => f.says)
        .join(' '),
    ).toMatch(says)
  })
  test('a part without a wire, and a meter left in', () => {
    const lamp = { ...good, parts: { ...good.parts, 'H-1': { kind: 'lamp', settings: {} } } }
    expect(code(lamp)).toEqual(['NOT_CONNECTED'])
    expect(tell(across(loop(), 'AI-1:in', 'AI-1:com')).map((f) => f.code)).toContain('METER_IN')
  })
  test('mains on a signal terminal is the worst there is', () => {
    const w: Wiring = {
      ...good,
      parts: { ...good.parts, 'Q-1': { kind: 'mains', settings: {} } },
      wires: { ...good.wires, '90': { from: 'Q-1:L', to: 'AI-1:in', colour: null, ferrule: '' } },
    }
    expect(tell(w).find((f) => f.code === 'MAINS_ON_SIGNAL')?.says).toMatch(/can kill/)
  })
})
