import { conductance, dropLaw, supplyLaw } from '../branch.ts'
import { defineElement, type ElementKind, type Solved } from '../element.ts'
import { milliamps } from '../say.ts'

const IN = [['in', 'com']] as const
const RECEIVER = { r: 250, rNominal: 250, iMax: 0.03 }
type Receiver = Solved<{ readonly r: number; readonly rNominal: number; readonly iMax: number }>

const shows_A = ({ p, v }: Receiver) => v('in', 'com') / p.rNominal
const overloaded = ({ id, p }: Receiver, through_A: number) =>
  Math.abs(through_A) > p.iMax * (1 + 1e-6)
    ? [{ code: 'OVER_CURRENT', says: `Input ${id} is overloaded: ${milliamps(through_A)}.` }]
    : []

/** Resistance of the meter in its jack, ohm. */
const jackOhm = { V: 'rV', mA: 'rmA', '10A': 'r10A' } as const

export const receivers: readonly ElementKind[] = [
  defineElement({
    type: 'receiver',
    terminals: ['in', 'com'],
    params: RECEIVER,
    notNegative: ['r'],
    positive: ['rNominal', 'iMax'],
    shows_A,
    tells: (s) => overloaded(s, s.i('in')),
    branches: ({ p }) => [conductance('in', 'com', p.r)],
    conducts: () => IN,
  }),
  defineElement({
    type: 'ai',
    terminals: ['in', 'com'],
    optional: ['sup'],
    params: { ...RECEIVER, v: 24, rs: 20, iLimit: 0.03 },
    notNegative: ['r'],
    positive: ['rNominal', 'iMax', 'rs', 'iLimit'],
    drives: ({ has }) => has('sup'),
    feeds: ['sup'],
    limit_A: ({ p, has }) => (has('sup') ? p.iLimit : null),
    shows_A,
    // By its own resistor: what the card feeds goes past it.
    tells: (s) => overloaded(s, s.v('in', 'com') / Math.max(1e-6, s.p.r)),
    branches: ({ p, has }) => [
      conductance('in', 'com', p.r),
      ...(has('sup') ? [supplyLaw('sup', 'com', p.v, p.rs, p.iLimit)] : []),
    ],
    conducts: ({ has }) => (has('sup') ? [...IN, ['sup', 'com']] : IN),
  }),
  defineElement({
    type: 'indicator',
    terminals: ['plus', 'minus'],
    params: { vDrop: 1.5, r: 5, backlight: false, vBacklight: 1 },
    notNegative: ['vDrop', 'r', 'vBacklight'],
    oneWay: ['plus', 'minus'],
    branches: ({ p }) => [dropLaw('plus', 'minus', p.r, p.vDrop + (p.backlight ? p.vBacklight : 0))],
    conducts: () => [['plus', 'minus']],
  }),
  defineElement({
    type: 'dmm',
    terminals: ['red', 'black'],
    params: { jack: 'V', dial: 'V', rV: 10e6, rmA: 5, r10A: 0.03, fusemA: 0.4, fuse10A: 10, blow: 1.5 },
    positive: ['rV', 'rmA', 'r10A', 'fusemA', 'fuse10A', 'blow'],
    choices: { jack: ['V', 'mA', '10A'], dial: ['V', 'mA', '10A'] },
    fuse: ({ p }) => {
      const rating_A = p.jack === 'mA' ? p.fusemA : p.jack === '10A' ? p.fuse10A : null
      return rating_A === null
        ? null
        : { name: p.jack, rating_A, blow: p.blow, says: `The ${p.jack} fuse of the meter has blown.` }
    },
    reads: ({ p, v, i }) => ({
      read: p.jack !== p.dial ? null : p.jack === 'V' ? v('red', 'black') : i('red'),
    }),
    tells: ({ id, p }) =>
      p.jack === p.dial
        ? []
        : [
            {
              code: 'METER_JACK',
              says: `Meter ${id}: the lead is in the ${p.jack} jack and the dial stands at ${p.dial}.`,
            },
          ],
    branches: ({ p, m }) => {
      const jack = p.jack === 'mA' || p.jack === '10A' ? p.jack : 'V'
      return m.blown.includes(jack) ? [] : [conductance('red', 'black', p[jackOhm[jack]])]
    },
    conducts: ({ p, m }) => (p.jack === 'V' || m.blown.includes(p.jack) ? [] : [['red', 'black']]),
  }),
]
