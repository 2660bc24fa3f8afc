import { conductance, outputSwitch, symmetricLaw, type Branch } from '../branch.ts'
import { defineElement, type BitState, type ElementKind, type Situation, type Solved } from '../element.ts'
import { ONE_FROM_V, ZERO_UP_TO_V } from '../../signal/discrete-levels.ts'
import { milliamps, volts } from '../say.ts'

/** Models of digital inputs by IEC 61131-2 type; check the card's data sheet. */
export const INPUT_TYPES = {
  1: { r: 4700, iMax: 0.015, on: { v: ONE_FROM_V[1], i: 0.002 }, off: { v: ZERO_UP_TO_V, i: 0.0005 } },
  2: { r: 1800, iMax: 0.03, on: { v: ONE_FROM_V[2], i: 0.006 }, off: { v: ZERO_UP_TO_V, i: 0.002 } },
  3: { r: 3300, iMax: 0.003, on: { v: ONE_FROM_V[3], i: 0.002 }, off: { v: ZERO_UP_TO_V, i: 0.0015 } },
} as const

/** The model of a discrete input's type; type 1 where it is none of them. */
export const inputType = (p: { readonly iecType?: unknown }) =>
  INPUT_TYPES[p.iecType === 2 || p.iecType === 3 ? p.iecType : 1]

/** Whether the sensing function calls for a conducting output. */
export const senses = (p: { readonly target?: unknown; readonly fn?: unknown }): boolean =>
  (p.target === true) !== (p.fn === 'nc')

/** State of a NAMUR switching amplifier by the current it delivers. @see IEC 60947-5-6 */
function amplifierState(i_A: number): string {
  if (i_A < 1e-4) return 'wire_break'
  if (i_A <= 1.2e-3) return 'low'
  if (i_A > 6.5e-3) return 'short_circuit'
  return i_A >= 2.1e-3 ? 'high' : 'undefined'
}

type Input = Solved<{ readonly mode: string; readonly iecType: number }>
/** A digital input's voltage and current in its own direction. */
function inputReading({ p, v, i }: Input): { v: number; i: number } {
  const [volt, ampere] = [v('in', 'com'), i('in')]
  if (p.mode === 'bidir') return { v: Math.abs(volt), i: Math.abs(ampere) }
  return p.mode === 'source' ? { v: -volt, i: -ampere } : { v: volt, i: ampere }
}
/**
 * State of a digital input.
 * @see IEC 61131-2, standard operating ranges of 24 V digital inputs
 */
function bitOf(s: Input): BitState {
  const { v, i } = inputReading(s)
  const { on, off } = inputType(s.p)
  // A current held at the model's own ceiling must not miss its limit by a rounding.
  const eps = 1e-9
  if (v >= on.v - eps && i >= on.i - eps) return 1
  return v <= off.v + eps || (v < on.v && i <= off.i + eps) ? 0 : 'undefined'
}

const tooHeavy = (id: string, load_A: number) => ({
  code: 'OUTPUT_OVERLOAD',
  says: `The load at ${id} is too heavy: ${milliamps(load_A)}. Use an interposing relay.`,
})

/** What an electronic output is told by its label. */
interface Output {
  readonly out: string
  readonly rOn: number
  readonly vDrop: number
  readonly iSc: number
  readonly iLeak: number
}
function threeWireOutput(s: Situation<Output>, terminal: 'bk' | 'wh', active: boolean): Branch[] {
  const { p, m } = s
  const out = p.out
  const high = out !== 'npn'
  const low = out !== 'pnp'
  const highOn = high && m.powered && active
  const lowOn = low && m.powered && (out === 'pp' ? !active : active)
  const side = (a: string, b: string, on: boolean): Branch[] =>
    on ? [outputSwitch(a, b, p.rOn, p.vDrop, p.iSc)] : symmetricLaw(a, b, p.iLeak, p.iLeak)
  return [...(high ? side('bn', terminal, highOn) : []), ...(low ? side(terminal, 'bu', lowOn) : [])]
}

const contactSets = [
  ['com', 'no', 'nc'],
  ['com2', 'no2', 'nc2'],
] as const

const POLES = [
  { a: 'com', b: 'no', whileOn: true },
  { a: 'com2', b: 'no2', whileOn: true },
  { a: 'nca', b: 'ncb', whileOn: false },
] as const
/** Poles of a contactor that are closed now: its makers pulled in, its breaker at rest. */
const polesOf = (on: boolean, has: (t: string) => boolean): (readonly [string, string])[] =>
  POLES.filter((x) => x.whileOn === on && has(x.a)).map((x) => [x.a, x.b])

export const discrete: readonly ElementKind[] = [
  defineElement({
    type: 'relay',
    terminals: ['a1', 'a2'],
    optional: ['com', 'no', 'nc', 'com2', 'no2', 'nc2'],
    params: { rCoil: null, vNom: 24, pullIn: 0.75, dropOut: 0.1, rContact: 0.05 },
    positive: ['rCoil', 'vNom', 'pullIn'],
    pulled: ({ p, m, v }) => Math.abs(v('a1', 'a2')) / p.vNom >= (m.on ? p.dropOut : p.pullIn),
    notNegative: ['rContact', 'dropOut'],
    branches: ({ p, m, has }) => [
      conductance('a1', 'a2', p.rCoil),
      ...contactSets.flatMap(([com, no, nc]) => {
        const to = m.on ? no : nc
        return has(com) && has(to) ? [conductance(com, to, p.rContact)] : []
      }),
    ],
    conducts: ({ m, has }) => [
      ['a1', 'a2'] as const,
      ...contactSets.flatMap(([com, no, nc]): [string, string][] => {
        const to = m.on ? no : nc
        return has(com) && has(to) ? [[com, to]] : []
      }),
    ],
  }),
  defineElement({
    type: 'contactor',
    terminals: ['a1', 'a2'],
    optional: ['com', 'no', 'com2', 'no2', 'nca', 'ncb'],
    params: { rCoil: null, vNom: 24, pullIn: 0.75, dropOut: 0.1, rContact: 0.05 },
    positive: ['rCoil', 'vNom', 'pullIn'],
    notNegative: ['rContact', 'dropOut'],
    pulled: ({ p, m, v }) => Math.abs(v('a1', 'a2')) / p.vNom >= (m.on ? p.dropOut : p.pullIn),
    branches: ({ p, m, has }) => [
      conductance('a1', 'a2', p.rCoil),
      ...polesOf(m.on, has).map(([a, b]) => conductance(a, b, p.rContact)),
    ],
    conducts: ({ m, has }) => [['a1', 'a2'], ...polesOf(m.on, has)],
  }),
  defineElement({
    type: 'driven-contact',
    terminals: ['com', 'no', 'nc'],
    // Moved by a measured value, not by a coil: where it would be from either past.
    params: { off: false, on: false, startUp: false, rContact: 0.05 },
    notNegative: ['rContact'],
    pulled: ({ p, m }) => (m.on ? p.on : p.off),
    branches: ({ p, m }) => [conductance('com', m.on ? 'no' : 'nc', p.rContact)],
    conducts: ({ m }) => [['com', m.on ? 'no' : 'nc']],
  }),
  defineElement({
    type: 'sensor3',
    terminals: ['bn', 'bu', 'bk'],
    optional: ['wh'],
    params: {
      out: 'pnp',
      fn: 'no',
      target: false,
      vDrop: 1.5,
      rOn: 1,
      iMax: 0.2,
      iSc: 0.3,
      iLeak: 1e-5,
      iq: 0.01,
      vMin: 10,
      vMax: 30,
    },
    positive: ['iSc', 'iq'],
    notNegative: ['vDrop', 'rOn', 'iLeak'],
    choices: { out: ['pnp', 'npn', 'pp'], fn: ['no', 'nc'] },
    ends: ['bn', 'bu'],
    oneWay: ['bn', 'bu'],
    supplied: { at: ['bn', 'bu'], least_V: (p) => p.vMin, most_V: (p) => p.vMax },
    tells: ({ id, p, i, has }) =>
      Math.max(Math.abs(i('bk')), has('wh') ? Math.abs(i('wh')) : 0) > p.iMax
        ? [tooHeavy(id, Math.abs(i('bk')))]
        : [],
    branches: (s) => {
      const { p, has } = s
      const iq = p.iq
      return [
        { a: 'bn', b: 'bu', law: { kind: 'K', g0: (1.01 * iq) / 4, v0: 1, lo: 0, hi: iq, k: iq / 1000 } },
        ...threeWireOutput(s, 'bk', senses(p)),
        ...(has('wh') ? threeWireOutput(s, 'wh', !senses(p)) : []),
      ]
    },
    conducts: ({ has }) => [
      ['bn', 'bu'],
      ['bn', 'bk'],
      ['bk', 'bu'],
      ...(has('wh') ? ([['bn', 'wh']] as const) : []),
    ],
  }),
  defineElement({
    type: 'sensor2',
    terminals: ['plus', 'minus'],
    params: {
      fn: 'no',
      target: false,
      vDrop: 4,
      rOn: 10,
      iMin: 0.003,
      iMax: 0.1,
      iSc: 0.15,
      iLeak: 0.0008,
      bridge: false,
    },
    positive: ['iSc'],
    notNegative: ['vDrop', 'rOn', 'iLeak', 'iMin'],
    choices: { fn: ['no', 'nc'] },
    ends: ['plus', 'minus'],
    oneWay: ['plus', 'minus'],
    bridged: (p) => p.bridge,
    tells: ({ id, p, i }) => {
      const load = Math.abs(i('plus'))
      if (load > p.iMax) return [tooHeavy(id, load)]
      return senses(p) && load < p.iMin
        ? [
            {
              code: 'MIN_LOAD',
              says: `The load at ${id} is too light: ${milliamps(load)} of at least ${milliamps(p.iMin)}. Add a resistor in parallel with the input.`,
            },
          ]
        : []
    },
    branches: ({ p }) => {
      if (!senses(p)) return symmetricLaw('plus', 'minus', p.iLeak / 2, p.iLeak)
      const on = (a: string, b: string) => outputSwitch(a, b, p.rOn, p.vDrop, p.iSc)
      return p.bridge ? [on('plus', 'minus'), on('minus', 'plus')] : [on('plus', 'minus')]
    },
    conducts: () => [['plus', 'minus']],
  }),
  defineElement({
    type: 'namur',
    terminals: ['plus', 'minus'],
    params: { target: false, rFree: 1200, rTarget: 12000 },
    positive: ['rFree', 'rTarget'],
    ends: ['plus', 'minus'],
    branches: ({ p }) => [conductance('plus', 'minus', p.target ? p.rTarget : p.rFree)],
    conducts: () => [['plus', 'minus']],
  }),
  defineElement({
    type: 'namurAmp',
    terminals: ['plus', 'minus'],
    params: { v: 8.2, r: 1000 },
    positive: ['r'],
    feeds: ['plus'],
    reads: ({ i }) => ({ amp: amplifierState(-i('plus')) }),
    branches: ({ p }) => [
      conductance('plus', 'minus', p.r),
      { a: 'minus', b: 'plus', law: { kind: 'I', i: p.v / p.r } },
    ],
    conducts: () => [['plus', 'minus']],
  }),
  defineElement({
    type: 'di',
    terminals: ['in', 'com'],
    params: { mode: 'sink', iecType: 1, r: undefined, iMax: undefined },
    positive: ['r', 'iMax'],
    choices: { mode: ['sink', 'source', 'bidir'], iecType: [1, 2, 3] },
    bit: bitOf,
    reads: (s) => {
      const { v, i } = inputReading(s)
      return { bit: bitOf(s), vin: v, iin: i }
    },
    tells: (s) => {
      if (bitOf(s) !== 'undefined') return []
      const { v, i } = inputReading(s)
      return [
        {
          code: 'INPUT_UNDEFINED',
          says: `Input ${s.id} sees neither a valid 0 nor a valid 1: ${volts(v)}, ${milliamps(i)}.`,
        },
      ]
    },
    branches: ({ p }) => {
      const type = inputType(p)
      return symmetricLaw('in', 'com', 1 / (p.r ?? type.r), p.iMax ?? type.iMax)
    },
    conducts: () => [['in', 'com']],
  }),
]
