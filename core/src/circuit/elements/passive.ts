import { conductance, diodeLaw, dropLaw } from '../branch.ts'
import type { ElementKind, Params, Situation } from '../element.ts'
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

function conductor(p: Params): Conductor {
  const iecClass = p.maybe('iecClass')
  return {
    length: p.num('length'),
    mm2: p.maybe('mm2'),
    awg: p.maybe('awg'),
    ohmPerKm: p.maybe('ohmPerKm'),
    iecClass,
    tempC: p.num('tempC'),
  }
}

const diode = (type: string, vf: number, iF: number, n: number): ElementKind => ({
  type,
  terminals: ['a', 'k'],
  params: { vf, iF, n },
  positive: ['vf', 'iF', 'n'],
  branches: ({ p }) => [diodeLaw('a', 'k', p.num('vf'), p.num('iF'), p.num('n'))],
  conducts: () => [['a', 'k']],
})

const whenClosed = ({ p }: Situation) => (p.flag('closed') ? ab : [])

/** Above this a resistor is a leak, not a way for the loop's current. */
const NOT_A_PATH_OHM = 1e6

export const passive: readonly ElementKind[] = [
  {
    type: 'resistor',
    terminals: ['a', 'b'],
    params: { r: null },
    notNegative: ['r'],
    branches: ({ p }) => [conductance('a', 'b', p.num('r'))],
    conducts: ({ p }) => (p.num('r') >= NOT_A_PATH_OHM ? [] : ab),
  },
  {
    type: 'wire',
    terminals: ['a', 'b'],
    params: WIRE,
    notNegative: ['length', 'ohmPerKm'],
    positive: ['mm2'],
    branches: ({ p }) => [conductance('a', 'b', conductorOhm(conductor(p)))],
    conducts: () => ab,
  },
  {
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
  },
  {
    type: 'fuse',
    terminals: ['a', 'b'],
    params: { rating: null, r: 0.15, blow: 1.5 },
    positive: ['rating', 'blow'],
    notNegative: ['r'],
    branches: ({ p, m }) => (m.blown.includes('fuse') ? [] : [conductance('a', 'b', p.num('r'))]),
    conducts: ({ m }) => (m.blown.includes('fuse') ? [] : ab),
  },
  {
    type: 'contact',
    terminals: ['a', 'b'],
    params: { closed: false, rClosed: 0.05 },
    notNegative: ['rClosed'],
    branches: ({ p }) => (p.flag('closed') ? [conductance('a', 'b', p.num('rClosed'))] : []),
    conducts: whenClosed,
  },
  {
    type: 'reed',
    terminals: ['a', 'b'],
    params: { closed: false, vDrop: 0, r: 0.1 },
    notNegative: ['vDrop', 'r'],
    branches: ({ p }) => {
      if (!p.flag('closed')) return []
      return [
        p.num('vDrop') > 0
          ? dropLaw('a', 'b', p.num('r'), p.num('vDrop'))
          : conductance('a', 'b', p.num('r')),
      ]
    },
    conducts: whenClosed,
  },
  diode('diode', 0.7, 0.02, 1.8),
  diode('led', 1.9, 0.01, 2),
  {
    type: 'lamp',
    terminals: ['a', 'b'],
    params: { vNom: 24, pNom: 2 },
    positive: ['vNom', 'pNom'],
    branches: ({ p }) => [conductance('a', 'b', p.num('vNom') ** 2 / p.num('pNom'))],
    conducts: () => ab,
  },
  {
    type: 'barrier',
    terminals: ['a', 'b'],
    params: { r: null, vDrop: 0 },
    notNegative: ['r', 'vDrop'],
    branches: ({ p }) => [
      p.num('vDrop') > 0 ? dropLaw('a', 'b', p.num('r'), p.num('vDrop')) : conductance('a', 'b', p.num('r')),
    ],
    conducts: () => ab,
  },
]
