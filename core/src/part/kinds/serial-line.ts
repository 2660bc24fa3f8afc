import { element, type PlacedPart } from '../part-kind.ts'
import type { NetElement } from '../../circuit/netlist.ts'

/** Least voltage that tells A from B on a line at rest. @see TIA-485 */
export const REST_V = 0.2

/**
 * The end of a two-wire serial line that holds it at rest: 5 V through 680 Ω on each core and 120 Ω across.
 * Which core is called A differs between makers; here A is the positive one at rest.
 */
export const LINE_BIAS = (p: PlacedPart, powered: boolean, common: string): NetElement[] => {
  const inner = `${p.id}:5V inside`
  return [
    {
      id: `${p.id}~5V`,
      type: 'supply',
      nodes: { p: inner, n: p.node(common) },
      params: { v: powered ? 5 : 0, iLimit: 0.1 },
    },
    { id: `${p.id}~up`, type: 'resistor', nodes: { a: inner, b: p.node('A') }, params: { r: 680 } },
    element(p, 'resistor', { a: 'B', b: common }, { r: 680 }, '~down'),
    element(p, 'resistor', { a: 'A', b: 'B' }, { r: 120 }, '~end'),
  ]
}
/** A station on the line: its receiver hardly loads it, its end resistor does. */
export const LINE_STATION = (p: PlacedPart, ends: boolean): NetElement[] => [
  element(p, 'resistor', { a: 'A', b: 'B' }, { r: ends ? 120 : 12_000 }, '~end'),
]
