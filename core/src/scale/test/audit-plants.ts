import type { Generator } from '../../statistics/generator.ts'
import type { Range, Stage, StageOf } from '../../signal/stage.ts'
import type { Tolerance } from '../../verify/tolerance.ts'

/**
 * Plants for the audit, made apart from its rules: a loop as a careful person configures it, and the same with one
 * thing configured wrong. Factors between units are written here again, from their definitions.
 */
export interface Configured {
  readonly stages: readonly Stage[]
  readonly needsRoot: boolean
  readonly tolerance: Tolerance
  /** What was done wrong, in words; null on a good loop. */
  readonly mistake: string | null
}

/** value = si * times + plus, per unit; what is measured by the same letter converts. */
const SPELLED: Readonly<Record<string, readonly [kind: string, times: number, plus: number]>> = {
  'bar(g)': ['p', 1e-5, 0],
  'kPa(g)': ['p', 1e-3, 0],
  'psi(g)': ['p', 1 / 6894.757293168361, 0],
  'bar(a)': ['p', 1e-5, 1.01325],
  'kPa(a)': ['p', 1e-3, 101.325],
  degC: ['t', 1, 0],
  degF: ['t', 1.8, 32],
  K: ['t', 1, 273.15],
  m: ['l', 1, 0],
  mm: ['l', 1000, 0],
  ft: ['l', 1 / 0.3048, 0],
  'm3/h': ['q', 1, 0],
  'L/min': ['q', 1000 / 60, 0],
  'kg/h': ['w', 1, 0],
  't/h': ['w', 1e-3, 0],
}
const KINDS: Readonly<Record<string, readonly string[]>> = {
  p: ['bar(g)', 'kPa(g)', 'psi(g)'],
  t: ['degC', 'degF'],
  l: ['m', 'mm', 'ft'],
  q: ['m3/h', 'L/min'],
  w: ['kg/h', 't/h'],
}
const spelled = (unit: string) => SPELLED[unit] ?? (['', 1, 0] as const)
const other = (v: number, from: string, to: string) => {
  const [, a, b] = spelled(from)
  const [, c, d] = spelled(to)
  return Number((((v - b) / a) * c + d).toPrecision(6))
}
const asIn = (r: Range, unit: string): Range => ({
  low: other(r.low, r.unit, unit),
  high: other(r.high, r.unit, unit),
  unit,
})

const one = <T>(g: Generator, of: readonly T[]): T => of[Math.floor(g.uniform() * of.length)] as T
const CODES = [
  { n4: 0, n20: 10000, nmin: -500, nmax: 10500 },
  { n4: 819, n20: 4095, nmin: 0, nmax: 4095 },
  { n4: 6553, n20: 32767, nmin: 0, nmax: 32767 },
]

function ranges(g: Generator, kind: string): Range {
  const unit = one(g, KINDS[kind] ?? [])
  const tops: Readonly<Record<string, readonly number[]>> = {
    p: [160_000, 250_000, 600_000, 1_600_000, 4_000_000],
    t: [80, 120, 150, 250, 400],
    l: [1.2, 2.5, 4, 6.5, 9],
    q: [12, 45, 90, 320, 750],
    w: [1800, 6000, 24_000, 90_000],
  }
  const lows: Readonly<Record<string, readonly number[]>> = {
    t: [0, -20, 20],
    l: [0, 0.3],
    p: [0, 0, 40_000],
  }
  const [, a, b] = spelled(unit)
  const at = (si: number) => Number((si * a + b).toPrecision(4))
  return { low: at(one(g, lows[kind] ?? [0])), high: at(one(g, tops[kind] ?? [1])), unit }
}

/** A loop as it should be: every end of the line told the same thing, in whatever unit that end likes. */
export function goodLoop(g: Generator): Configured {
  const isDp = g.uniform() < 0.25
  const kind = isDp ? 'q' : one(g, ['p', 't', 'l', 'q', 'w'])
  const documented = ranges(g, kind)
  const falls = !isDp && g.uniform() < 0.1
  const shown = falls ? { ...documented, low: documented.high, high: documented.low } : documented
  const units = KINDS[kind] ?? []
  const inPercent = g.uniform() < 0.12
  const controller: Range = inPercent
    ? { low: falls ? 100 : 0, high: falls ? 0 : 100, unit: '%' }
    : asIn(shown, one(g, units))
  const rooted = isDp ? one(g, ['transmitter', 'controller'] as const) : null
  const cutoff = one(g, [undefined, 0.02, 0.05])
  const transfer = (who: string) =>
    rooted === who
      ? ({ kind: 'sqrt', ...(cutoff === undefined ? {} : { cutoff }) } as const)
      : ({ kind: 'linear' } as const)
  const isolated = g.uniform() < 0.3
  const signal = g.uniform() < 0.1 ? '0-20' : '4-20'
  const arrives = isolated ? one(g, ['4-20', '0-20'] as const) : signal
  const zero = (s: string) => (s === '0-20' ? 0 : 4)
  const volts = one(g, [undefined, 5, 10])
  const input: Range = isDp ? { low: 0, high: one(g, [100, 250, 400]), unit: 'mbar' } : shown
  const stages: Stage[] = [
    { kind: 'process' },
    {
      kind: 'sensor',
      limits: {
        low: Math.min(input.low, input.high) - Math.abs(input.high - input.low) * g.uniform(),
        high: Math.max(input.low, input.high) + Math.abs(input.high - input.low) * g.uniform(),
      },
    },
    {
      kind: 'transmitter',
      range: input,
      transfer: transfer('transmitter'),
      ...(isDp ? { shows: documented } : {}),
    },
    { kind: 'output', signal, satLow_mA: signal === '0-20' ? 0 : 3.8, satHigh_mA: 20.5, failTo: 'low' },
    ...(isolated
      ? [
          {
            kind: 'isolator',
            inLow_mA: zero(signal),
            inHigh_mA: 20,
            outLow_mA: zero(arrives),
            outHigh_mA: 20,
          } as const,
        ]
      : []),
    { kind: 'shunt', resistance_ohm: (volts ?? 5) * 50 },
    {
      kind: 'input',
      signal: arrives,
      ...one(g, CODES),
      ...(volts === undefined ? {} : { volts20: volts }),
    },
    { kind: 'controller', range: controller, transfer: transfer('controller') },
    ...(g.uniform() < 0.4
      ? [
          {
            kind: 'display',
            range: inPercent ? controller : asIn(controller, one(g, units)),
            from: 'controller',
            decimals: 2,
            transfer: { kind: 'linear' },
          } as const,
        ]
      : []),
  ]
  return {
    stages,
    needsRoot: isDp,
    tolerance: { mode: 'max', pctSpan: one(g, [0.2, 0.25, 0.5, 1]), pctReading: 0, abs: 0 },
    mistake: null,
  }
}

const change = <K extends Stage['kind']>(
  c: Configured,
  kind: K,
  how: (s: StageOf<K>) => Partial<StageOf<K>>,
  mistake: string,
): Configured => ({
  ...c,
  mistake,
  stages: c.stages.map((s) => (s.kind === kind ? { ...s, ...how(s as StageOf<K>) } : s)),
})
const rangeOf = (c: Configured, kind: 'controller' | 'display' | 'transmitter') =>
  c.stages.flatMap((s) => (s.kind === kind && 'range' in s ? [s.range] : []))[0]

type Slip = (c: Configured, g: Generator) => Configured | null
const SLIPS: readonly Slip[] = [
  (c, g) => {
    const by = one(g, [0.5, 0.8, 1.25, 1.6, 2, 10])
    return change(
      c,
      'controller',
      (s) => ({ range: { ...s.range, high: s.range.low + (s.range.high - s.range.low) * by } }),
      `controller span times ${by}`,
    )
  },
  (c) => {
    const r = rangeOf(c, 'controller')
    return r && r.unit !== '%' && !(r.low === 0 && r.high === 100)
      ? change(
          c,
          'controller',
          () => ({ range: { low: 0, high: 100, unit: r.unit } }),
          'controller left at 0 to 100',
        )
      : null
  },
  (c, g) => {
    const r = rangeOf(c, 'controller')
    const family = r && KINDS[spelled(r.unit)[0]]?.filter((u) => u !== r.unit)
    return r && family && family.length > 0
      ? change(
          c,
          'controller',
          () => ({ range: { ...r, unit: one(g, family) } }),
          'the numbers kept, the unit changed',
        )
      : null
  },
  (c) =>
    change(
      c,
      'controller',
      (s) => ({ range: { ...s.range, low: s.range.high, high: s.range.low } }),
      'controller reversed',
    ),
  (c) => {
    const r = rangeOf(c, 'controller')
    const absolute = r && { 'bar(g)': 'bar(a)', 'kPa(g)': 'kPa(a)' }[r.unit]
    return absolute
      ? change(c, 'controller', () => ({ range: { ...r, unit: absolute } }), 'absolute for gauge')
      : null
  },
  (c, g) =>
    change(
      c,
      'controller',
      () => ({ range: { low: 0, high: one(g, [1, 10, 50, 1000]), unit: '%' } }),
      'percent of something',
    ),
  (c) => {
    const r = rangeOf(c, 'controller')
    return r && r.unit !== '%' && spelled(r.unit)[0] !== 't'
      ? change(c, 'controller', () => ({ range: { ...r, unit: 'degC' } }), 'another quantity')
      : null
  },
  (c) =>
    c.needsRoot
      ? change(
          change(c, 'transmitter', () => ({ transfer: { kind: 'sqrt' } }), ''),
          'controller',
          () => ({ transfer: { kind: 'sqrt' } }),
          'root twice',
        )
      : null,
  (c) =>
    c.needsRoot
      ? change(
          change(c, 'transmitter', () => ({ transfer: { kind: 'linear' } }), ''),
          'controller',
          () => ({ transfer: { kind: 'linear' } }),
          'root never',
        )
      : null,
  (c) =>
    c.needsRoot ? null : change(c, 'controller', () => ({ transfer: { kind: 'sqrt' } }), 'a root too many'),
  (c) =>
    change(c, 'input', (s) => ({ signal: s.signal === '4-20' ? '0-20' : '4-20' }), 'live zero of the card'),
  (c, g) =>
    change(
      change(c, 'input', () => ({ volts20: 5 }), ''),
      'shunt',
      () => ({ resistance_ohm: one(g, [100, 125, 240, 500]) }),
      'shunt',
    ),
  (c, g) => {
    const codes = c.stages.flatMap((s) => (s.kind === 'input' ? [s] : []))[0]
    const told = one(
      g,
      CODES.filter((k) => k.n20 !== codes?.n20),
    )
    return change(c, 'controller', () => ({ m4: told.n4, m20: told.n20 }), 'codes of another card')
  },
  (c) =>
    c.stages.some((s) => s.kind === 'isolator')
      ? change(c, 'isolator', (s) => ({ inLow_mA: s.inLow_mA === 4 ? 0 : 4 }), 'isolator input')
      : null,
  (c) =>
    c.stages.some((s) => s.kind === 'isolator')
      ? change(c, 'isolator', (s) => ({ outLow_mA: s.outLow_mA === 4 ? 0 : 4 }), 'isolator output')
      : null,
  (c, g) =>
    rangeOf(c, 'display')
      ? change(
          c,
          'display',
          (s) => ({
            range: {
              ...s.range,
              high: s.range.low + (s.range.high - s.range.low) * one(g, [0.5, 0.9, 1.1, 10]),
            },
          }),
          'display span',
        )
      : null,
  (c) =>
    rangeOf(c, 'display')
      ? change(
          c,
          'display',
          (s) => ({ range: { ...s.range, low: s.range.high, high: s.range.low } }),
          'display reversed',
        )
      : null,
  (c) => {
    const r = rangeOf(c, 'transmitter')
    return r
      ? change(
          c,
          'sensor',
          () => ({
            limits: {
              low: Math.min(r.low, r.high),
              high: Math.min(r.low, r.high) + Math.abs(r.high - r.low) * 0.6,
            },
          }),
          'range beyond the sensor',
        )
      : null
  },
]

/** A good loop with one thing configured wrong, by more than its tolerance. */
export function badLoop(g: Generator): Configured {
  for (;;) {
    const made = one(g, SLIPS)(goodLoop(g), g)
    if (made) return made
  }
}
