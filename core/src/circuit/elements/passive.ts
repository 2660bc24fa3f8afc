import { conductance, diodeLaw, dropLaw } from '../branch.ts'
import { defineElement, type ElementKind, type ParamsOf, type Situation } from '../element.ts'
import { conductorOhm, type Conductor } from '../wire-resistance.ts'

const ab = [['a', 'b']] as const
const WIRE = {
  length: null,
  mm2: undefined,
  awg: undefined,
  ohmPerKm: undefined,
  iecClass: 'none',
  tempC: 20,
} as const

/** A wire by its label; the class of its strands may be none. */
function conductor(p: ParamsOf<typeof WIRE>): Conductor {
  const iecClass: unknown = p.iecClass
  return {
    length: p.length,
    mm2: p.mm2,
    awg: p.awg,
    ohmPerKm: p.ohmPerKm,
    iecClass: typeof iecClass === 'number' ? iecClass : undefined,
    tempC: p.tempC,
  }
}

const diode = (
  type: string,
  vf: number,
  iF: number,
  n: number,
  more: Pick<ElementKind, 'oneWay'> = {},
): ElementKind =>
  defineElement({
    type,
    terminals: ['a', 'k'],
    params: { vf, iF, n },
    positive: ['vf', 'iF', 'n'],
    ...more,
    branches: ({ p }) => [diodeLaw('a', 'k', p.vf, p.iF, p.n)],
    conducts: () => [['a', 'k']],
  })

const whenClosed = ({ p }: Situation<{ readonly closed: boolean }>) => (p.closed ? ab : [])

/** Above this a resistor is a leak, not a way for the loop's current. */
const NOT_A_PATH_OHM = 1e6

export const passive: readonly ElementKind[] = [
  defineElement({
    type: 'resistor',
    terminals: ['a', 'b'],
    params: { r: null },
    notNegative: ['r'],
    branches: ({ p }) => [conductance('a', 'b', p.r)],
    conducts: ({ p }) => (p.r >= NOT_A_PATH_OHM ? [] : ab),
  }),
  defineElement({
    type: 'wire',
    terminals: ['a', 'b'],
    params: WIRE,
    notNegative: ['length', 'ohmPerKm'],
    positive: ['mm2'],
    branches: ({ p }) => [conductance('a', 'b', conductorOhm(conductor(p)))],
    conducts: () => ab,
  }),
  defineElement({
    type: 'pair',
    terminals: ['a1', 'b1', 'a2', 'b2'],
    params: WIRE,
    notNegative: ['length', 'ohmPerKm'],
    positive: ['mm2'],
    branches: ({ p }) => {
      const r = conductorOhm(conductor(p))
      return [conductance('a1', 'b1', r), conductance('a2', 'b2', r)]
    },
    conducts: () => [
      ['a1', 'b1'],
      ['a2', 'b2'],
    ],
  }),
  defineElement({
    type: 'fuse',
    terminals: ['a', 'b'],
    params: { rating: null, r: 0.15, blow: 1.5 },
    positive: ['rating', 'blow'],
    fuse: ({ p }) => ({ name: 'fuse', rating_A: p.rating, blow: p.blow, says: 'The fuse has blown.' }),
    notNegative: ['r'],
    branches: ({ p, m }) => (m.blown.includes('fuse') ? [] : [conductance('a', 'b', p.r)]),
    conducts: ({ m }) => (m.blown.includes('fuse') ? [] : ab),
  }),
  defineElement({
    type: 'contact',
    terminals: ['a', 'b'],
    params: { closed: false, rClosed: 0.05 },
    notNegative: ['rClosed'],
    branches: ({ p }) => (p.closed ? [conductance('a', 'b', p.rClosed)] : []),
    conducts: whenClosed,
  }),
  defineElement({
    type: 'reed',
    terminals: ['a', 'b'],
    params: { closed: false, vDrop: 0, r: 0.1 },
    notNegative: ['vDrop', 'r'],
    branches: ({ p }) => {
      if (!p.closed) return []
      return [p.vDrop > 0 ? dropLaw('a', 'b', p.r, p.vDrop) : conductance('a', 'b', p.r)]
    },
    conducts: whenClosed,
  }),
  diode('diode', 0.7, 0.02, 1.8),
  diode('led', 1.9, 0.01, 2, { oneWay: ['a', 'k'] }),
  defineElement({
    type: 'lamp',
    terminals: ['a', 'b'],
    params: { vNom: 24, pNom: 2 },
    positive: ['vNom', 'pNom'],
    branches: ({ p }) => [conductance('a', 'b', p.vNom ** 2 / p.pNom)],
    conducts: () => ab,
  }),
  defineElement({
    type: 'barrier',
    terminals: ['a', 'b'],
    params: { r: null, vDrop: 0 },
    notNegative: ['r', 'vDrop'],
    branches: ({ p }) => [p.vDrop > 0 ? dropLaw('a', 'b', p.r, p.vDrop) : conductance('a', 'b', p.r)],
    conducts: () => ab,
  }),
]
