import { eliminate } from '@calm/core/circuit/newton'
import type { NetElement } from '@calm/core/circuit/netlist'
import { operatingPoint, partsOf } from '@calm/core/circuit/circuit'
import { median, type Figure } from './report.ts'

const el = (
  id: string,
  type: string,
  nodes: Record<string, string>,
  params: NetElement['params'] = {},
): NetElement => ({ id, type, nodes, params })

/** Supply, fuse, two cores, transmitter, input: the plain loop. */
const LOOP: readonly NetElement[] = [
  el('PS', 'supply', { p: 'P', n: '0' }),
  el('F', 'fuse', { a: 'P', b: 'Q' }, { rating: 0.1, r: 2 }),
  el('W1', 'wire', { a: 'Q', b: 'A' }, { length: 200, mm2: 1, iecClass: 5 }),
  el('W2', 'wire', { a: 'B', b: 'C' }, { length: 200, mm2: 1, iecClass: 5 }),
  el('LT', 'tx2', { plus: 'A', minus: 'B' }, { i: 0.012 }),
  el('AI', 'ai', { in: 'C', com: '0' }),
]
/** The same with every terminal strip and splice a node of its own: thirty nodes. */
const LONG: readonly NetElement[] = [
  ...LOOP.filter((e) => e.id !== 'W1'),
  ...Array.from({ length: 25 }, (_, i) =>
    el(
      `T${i}`,
      'wire',
      { a: i === 0 ? 'Q' : `N${i}`, b: i === 24 ? 'A' : `N${i + 1}` },
      { length: 8, mm2: 1 },
    ),
  ),
]

function perSecond(calls: number, run: (i: number) => void): number {
  const rates = Array.from({ length: 7 }, () => {
    const begun = performance.now()
    for (let i = 0; i < calls; i++) run(i)
    return (1000 * calls) / (performance.now() - begun)
  })
  return median(rates)
}

export function circuitFigures(): Figure[] {
  const plain = partsOf(LOOP, new Map())
  const long = partsOf(LONG, new Map())
  const solve = perSecond(4000, () => void operatingPoint(plain))
  const solveLong = perSecond(300, () => void operatingPoint(long))
  const n = 5
  const matrix = Float64Array.from({ length: n * n }, (_, k) => (k % (n + 1) === 0 ? 10 : Math.sin(k)))
  const lu = perSecond(40_000, () => void eliminate(matrix.slice(), new Float64Array(n).fill(1), n))
  return [
    {
      title: 'plain two-wire loop, solutions a second',
      measured: solve.toFixed(0),
      against: `${lu.toFixed(0)} bare eliminations of the same size`,
      ratio: solve / 20_000,
      wanted: 'at least 1 (20 000 a second)',
    },
    {
      title: 'loop of thirty nodes, one solution',
      measured: `${(1000 / solveLong).toFixed(3)} ms`,
      against: '1 ms allowed',
      ratio: 1000 / solveLong,
      wanted: 'below 1',
    },
  ]
}
