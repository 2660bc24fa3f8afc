import { supplyLaw } from '../branch.ts'
import { defineElement, type ElementKind } from '../element.ts'

/** Less than this drives no loop, V. */
const SMALLEST_SOURCE_V = 5
const pn = [['p', 'n']] as const

export const sources: readonly ElementKind[] = [
  defineElement({
    type: 'vsource',
    terminals: ['p', 'n'],
    params: { v: null },
    stiff: ['p', 'n'],
    feeds: ['p'],
    drives: ({ p }) => p.v >= SMALLEST_SOURCE_V,
    branches: ({ p }) => [{ a: 'p', b: 'n', law: { kind: 'V', e: p.v } }],
    conducts: () => pn,
  }),
  defineElement({
    type: 'isource',
    terminals: ['a', 'b'],
    params: { i: null },
    branches: ({ p }) => [{ a: 'a', b: 'b', law: { kind: 'I', i: p.i } }],
    conducts: () => [['a', 'b']],
  }),
  defineElement({
    type: 'supply',
    terminals: ['p', 'n'],
    params: { v: 24, rs: 0.05, iLimit: 2.5 },
    positive: ['rs', 'iLimit'],
    feeds: ['p'],
    drives: () => true,
    joined: ['p', 'n'],
    limit_A: ({ p }) => p.iLimit,
    branches: ({ p }) => [supplyLaw('p', 'n', p.v, p.rs, p.iLimit)],
    conducts: () => pn,
  }),
]
