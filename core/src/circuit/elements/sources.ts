import { supplyLaw } from '../branch.ts'
import { defineElement, type ElementKind } from '../element.ts'

const pn = [['p', 'n']] as const

export const sources: readonly ElementKind[] = [
  defineElement({
    type: 'vsource',
    terminals: ['p', 'n'],
    params: { v: null },
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
    branches: ({ p }) => [supplyLaw('p', 'n', p.v, p.rs, p.iLimit)],
    conducts: () => pn,
  }),
]
