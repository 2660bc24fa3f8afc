import { diodeLaw, sourceLaw, supplyLaw, transmitterLaw, type Branch } from '../branch.ts'
import type { ElementKind } from '../element.ts'

const MAIN = [['plus', 'minus']] as const
/** Drop of the diode behind a test terminal. */
const TEST_DIODE_V = 0.7

export const transmitters: readonly ElementKind[] = [
  {
    type: 'tx2',
    terminals: ['plus', 'minus'],
    optional: ['test'],
    params: { i: null, vLift: 12, vMax: 42, reverse: 'block', w: 0.05 },
    notNegative: ['i', 'vLift'],
    positive: ['w', 'vMax'],
    choices: { reverse: ['block', 'clamp', 'bridge'] },
    branches: ({ p, has }) => {
      const [i, lift, w] = [p.num('i'), p.num('vLift'), p.num('w')]
      const out: Branch[] = has('test')
        ? [
            ...transmitterLaw('plus', 'test', i, lift - TEST_DIODE_V, w),
            diodeLaw('test', 'minus', undefined, undefined, undefined, 'main'),
          ]
        : transmitterLaw('plus', 'minus', i, lift, w)
      if (p.word('reverse') === 'clamp')
        out.push(diodeLaw('minus', 'plus', undefined, undefined, undefined, 'clamp'))
      if (p.word('reverse') === 'bridge') out.push(...transmitterLaw('minus', 'plus', i, lift, w))
      return out
    },
    conducts: ({ has }) => (has('test') ? [...MAIN, ['test', 'minus']] : MAIN),
  },
  {
    type: 'tx4active',
    terminals: ['plus', 'minus'],
    params: { i: null, vCompliance: 15, clamp: true },
    notNegative: ['i'],
    positive: ['vCompliance'],
    branches: ({ p }) => [
      ...sourceLaw('plus', 'minus', p.num('i'), p.num('vCompliance')),
      ...(p.flag('clamp') ? [diodeLaw('minus', 'plus', undefined, undefined, undefined, 'clamp')] : []),
    ],
    conducts: () => MAIN,
  },
  {
    type: 'tx4passive',
    terminals: ['plus', 'minus'],
    optional: ['auxP', 'auxN'],
    params: { i: null, vLift: 8, vMax: 36, powered: true, auxV: 24, auxRs: 10, auxLimit: 0.03, w: 0.05 },
    notNegative: ['i', 'vLift'],
    positive: ['auxRs', 'auxLimit', 'vMax', 'w'],
    branches: ({ p, has }) => [
      ...(p.flag('powered') ? transmitterLaw('plus', 'minus', p.num('i'), p.num('vLift'), p.num('w')) : []),
      ...(p.flag('powered') && has('auxP') && has('auxN')
        ? [supplyLaw('auxP', 'auxN', p.num('auxV'), p.num('auxRs'), p.num('auxLimit'), 'aux')]
        : []),
    ],
    conducts: ({ has }) => (has('auxP') && has('auxN') ? [...MAIN, ['auxP', 'auxN']] : MAIN),
  },
  {
    type: 'tx3',
    terminals: ['vp', 'out', 'vn'],
    params: { i: null, headroom: 3, iq: 0.01, vMin: 18, w: 0.05 },
    notNegative: ['i', 'headroom'],
    positive: ['iq', 'w'],
    branches: ({ p, m }) => [
      {
        a: 'vp',
        b: 'vn',
        law: {
          kind: 'K',
          g0: (1.01 * p.num('iq')) / 4,
          v0: 1,
          lo: 0,
          hi: p.num('iq'),
          k: p.num('iq') / 1000,
        },
      },
      ...(m.powered ? transmitterLaw('vp', 'out', p.num('i'), p.num('headroom'), p.num('w')) : []),
    ],
    conducts: () => [
      ['vp', 'out'],
      ['vp', 'vn'],
    ],
  },
  {
    type: 'isolator',
    terminals: ['fp', 'fn', 'op', 'on'],
    params: { vField: 18, rField: 50, iLimit: 0.025, vCompliance: 12 },
    positive: ['rField', 'iLimit', 'vCompliance'],
    branches: ({ p, m }) => [
      supplyLaw('fp', 'fn', p.num('vField'), p.num('rField'), p.num('iLimit')),
      ...sourceLaw('op', 'on', m.repeated_A, p.num('vCompliance'), 'output'),
    ],
    conducts: () => [
      ['fp', 'fn'],
      ['op', 'on'],
    ],
  },
]
