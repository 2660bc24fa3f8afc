import { diodeLaw, sourceLaw, supplyLaw, transmitterLaw, type Branch } from '../branch.ts'
import { defineElement, type ElementKind } from '../element.ts'

const MAIN = [['plus', 'minus']] as const
/** Drop of the diode behind a test terminal. */
const TEST_DIODE_V = 0.7

export const transmitters: readonly ElementKind[] = [
  defineElement({
    type: 'tx2',
    terminals: ['plus', 'minus'],
    optional: ['test'],
    params: { i: null, vLift: 12, vMax: 42, reverse: 'block', w: 0.05 },
    notNegative: ['i', 'vLift'],
    positive: ['w', 'vMax'],
    choices: { reverse: ['block', 'clamp', 'bridge'] },
    ends: ['plus', 'minus'],
    oneWay: ['plus', 'minus'],
    bridged: (p) => p.reverse === 'bridge',
    sends: (p) => ({ at: 'plus', sets_A: p.i, needs_V: p.vLift, most_V: p.vMax, sources: 2 }),
    branches: ({ p, has }) => {
      const [i, lift, w] = [p.i, p.vLift, p.w]
      const out: Branch[] = has('test')
        ? [
            ...transmitterLaw('plus', 'test', i, lift - TEST_DIODE_V, w),
            diodeLaw('test', 'minus', undefined, undefined, undefined, 'main'),
          ]
        : transmitterLaw('plus', 'minus', i, lift, w)
      if (p.reverse === 'clamp') out.push(diodeLaw('minus', 'plus', undefined, undefined, undefined, 'clamp'))
      if (p.reverse === 'bridge') out.push(...transmitterLaw('minus', 'plus', i, lift, w))
      return out
    },
    conducts: ({ has }) => (has('test') ? [...MAIN, ['test', 'minus']] : MAIN),
  }),
  defineElement({
    type: 'tx4active',
    terminals: ['plus', 'minus'],
    params: { i: null, vCompliance: 15, clamp: true },
    notNegative: ['i'],
    positive: ['vCompliance'],
    ends: ['plus', 'minus'],
    active: true,
    drives: () => true,
    feeds: ['plus'],
    sends: (p) => ({ at: 'plus', sets_A: p.i, sources: 1 }),
    branches: ({ p }) => [
      ...sourceLaw('plus', 'minus', p.i, p.vCompliance),
      ...(p.clamp ? [diodeLaw('minus', 'plus', undefined, undefined, undefined, 'clamp')] : []),
    ],
    conducts: () => MAIN,
  }),
  defineElement({
    type: 'tx4passive',
    terminals: ['plus', 'minus'],
    optional: ['auxP', 'auxN'],
    params: { i: null, vLift: 8, vMax: 36, powered: true, auxV: 24, auxRs: 10, auxLimit: 0.03, w: 0.05 },
    notNegative: ['i', 'vLift'],
    positive: ['auxRs', 'auxLimit', 'vMax', 'w'],
    ends: ['plus', 'minus'],
    oneWay: ['plus', 'minus'],
    drives: ({ has }) => has('auxP'),
    feeds: ['auxP'],
    limit_A: ({ p, has }) => (has('auxP') ? p.auxLimit : null),
    sends: (p) => ({ at: 'plus', sets_A: p.i, needs_V: p.vLift, most_V: p.vMax, sources: 2 }),
    branches: ({ p, has }) => [
      ...(p.powered ? transmitterLaw('plus', 'minus', p.i, p.vLift, p.w) : []),
      ...(p.powered && has('auxP') && has('auxN')
        ? [supplyLaw('auxP', 'auxN', p.auxV, p.auxRs, p.auxLimit, 'aux')]
        : []),
    ],
    conducts: ({ has }) => (has('auxP') && has('auxN') ? [...MAIN, ['auxP', 'auxN']] : MAIN),
  }),
  defineElement({
    type: 'tx3',
    terminals: ['vp', 'out', 'vn'],
    params: { i: null, headroom: 3, iq: 0.01, vMin: 18, w: 0.05 },
    notNegative: ['i', 'headroom'],
    positive: ['iq', 'w'],
    ends: ['vp', 'vn'],
    supplied: { at: ['vp', 'vn'], least_V: (p) => p.vMin },
    sends: (p) => ({ at: 'out', sets_A: p.i, sources: null }),
    branches: ({ p, m }) => [
      {
        a: 'vp',
        b: 'vn',
        law: {
          kind: 'K',
          g0: (1.01 * p.iq) / 4,
          v0: 1,
          lo: 0,
          hi: p.iq,
          k: p.iq / 1000,
        },
      },
      ...(m.powered ? transmitterLaw('vp', 'out', p.i, p.headroom, p.w) : []),
    ],
    conducts: () => [
      ['vp', 'out'],
      ['vp', 'vn'],
    ],
  }),
  defineElement({
    type: 'isolator',
    terminals: ['fp', 'fn', 'op', 'on'],
    params: { vField: 18, rField: 50, iLimit: 0.025, vCompliance: 12 },
    positive: ['rField', 'iLimit', 'vCompliance'],
    feeds: ['fp'],
    limit_A: ({ p }) => p.iLimit,
    repeats_A: ({ i }) => Math.max(0, -i('fp')),
    branches: ({ p, m }) => [
      supplyLaw('fp', 'fn', p.vField, p.rField, p.iLimit),
      ...sourceLaw('op', 'on', m.repeated_A, p.vCompliance, 'output'),
    ],
    conducts: () => [
      ['fp', 'fn'],
      ['op', 'on'],
    ],
  }),
]
