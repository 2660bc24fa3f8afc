import { conductance, dropLaw, supplyLaw } from '../branch.ts'
import { defineElement, type ElementKind } from '../element.ts'

const IN = [['in', 'com']] as const
const RECEIVER = { r: 250, rNominal: 250, iMax: 0.03 }

/** Resistance of the meter in its jack, ohm. */
const jackOhm = { V: 'rV', mA: 'rmA', '10A': 'r10A' } as const

export const receivers: readonly ElementKind[] = [
  defineElement({
    type: 'receiver',
    terminals: ['in', 'com'],
    params: RECEIVER,
    notNegative: ['r'],
    positive: ['rNominal', 'iMax'],
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
    branches: ({ p }) => [dropLaw('plus', 'minus', p.r, p.vDrop + (p.backlight ? p.vBacklight : 0))],
    conducts: () => [['plus', 'minus']],
  }),
  defineElement({
    type: 'dmm',
    terminals: ['red', 'black'],
    params: { jack: 'V', dial: 'V', rV: 10e6, rmA: 5, r10A: 0.03, fusemA: 0.4, fuse10A: 10, blow: 1.5 },
    positive: ['rV', 'rmA', 'r10A', 'fusemA', 'fuse10A', 'blow'],
    choices: { jack: ['V', 'mA', '10A'], dial: ['V', 'mA', '10A'] },
    branches: ({ p, m }) => {
      const jack = p.jack === 'mA' || p.jack === '10A' ? p.jack : 'V'
      return m.blown.includes(jack) ? [] : [conductance('red', 'black', p[jackOhm[jack]])]
    },
    conducts: ({ p, m }) => (p.jack === 'V' || m.blown.includes(p.jack) ? [] : [['red', 'black']]),
  }),
]
