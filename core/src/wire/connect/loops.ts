import { knownParts, type KnownPart, type Wiring } from '../../part/wiring.ts'
import { numberOf } from './builder.ts'

/** One of several loops in a wiring: what is in its field, and the parts that it is wired with. */
export interface Loop {
  readonly field: string
  readonly parts: ReadonlySet<string>
}
const IN_FIELD = ['transmitter', 'sensor']
/** What feeds everything, whatever its number. */
const COMMON = ['source', 'mains']

/**
 * The loops of a wiring that has several: parts with one number belong together; supplies, and parts whose number is
 * nobody's, serve all. Null where it is one loop, or where numbers do not tell them apart.
 */
export function loopsIn(w: Wiring): Loop[] | null {
  const parts = knownParts(w).filter((p) => p.kind.duty !== 'meter')
  const field = parts.filter((p) => IN_FIELD.includes(p.kind.duty))
  const numbers = field.map((p) => numberOf(p.id))
  if (field.length < 2 || numbers.includes('') || new Set(numbers).size !== numbers.length) return null
  const isOf = (p: KnownPart, n: string) => numberOf(p.id) === n
  const isShared = (p: KnownPart) => COMMON.includes(p.kind.duty) || !numbers.some((n) => isOf(p, n))
  const loops = field.map((f) => ({
    field: f.id,
    parts: new Set(parts.filter((p) => isOf(p, numberOf(f.id)) || isShared(p)).map((p) => p.id)),
  }))
  // A receiver that serves all is the receiver of one loop: then these are no loops of their own.
  const takes = (p: KnownPart) =>
    ['receiver', 'input', 'switching', 'load', 'controller'].includes(p.kind.duty)
  return loops.every((l) => parts.some((p) => takes(p) && isOf(p, numberOf(l.field)))) &&
    !parts.some((p) => takes(p) && isShared(p))
    ? loops
    : null
}
