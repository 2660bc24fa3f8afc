import { address, knownParts, type Wiring } from '../part/wiring.ts'

/** What a wire is joined to without anything between: the plus or the minus of a supply, or protective earth. */
export type Potential = '+' | '−' | 'PE'

/** Only what supplies makes a potential; the plus of a consumer is a wish. */
const SUPPLIES = ['source', 'receiver', 'input']
const BY_ROLE: Readonly<Record<string, Potential>> = { 'dc+': '+', 'dc-': '−', PE: 'PE' }

/**
 * The potential of every wire that is joined to a supply or to earth by wires alone, so that a drawing tells plus from
 * minus by a mark and not by a colour only. A wire joined to two of them, a short, has none: the judge tells of it.
 * @returns potential by wire number
 */
export function potentials(w: Wiring): ReadonlyMap<string, Potential> {
  const own = new Map(
    knownParts(w).flatMap((p) =>
      p.terminals.flatMap((t): [string, Potential][] => {
        const made = t.role === 'PE' || SUPPLIES.includes(p.kind.duty) ? BY_ROLE[t.role] : undefined
        return made ? [[address(p.id, t.id), made]] : []
      }),
    ),
  )
  const joined = new Map<string, Set<Potential>>()
  const wires = Object.entries(w.wires)
  const seen = new Set<string>()
  for (const [, start] of wires) {
    if (seen.has(start.from)) continue
    const reached = [start.from]
    const found = new Set<Potential>()
    for (let at = reached.pop(); at !== undefined; at = reached.pop()) {
      if (seen.has(at)) continue
      seen.add(at)
      joined.set(at, found)
      const made = own.get(at)
      if (made) found.add(made)
      for (const [, wire] of wires) {
        if (wire.from === at) reached.push(wire.to)
        if (wire.to === at) reached.push(wire.from)
      }
    }
  }
  return new Map(
    wires.flatMap(([id, wire]): [string, Potential][] => {
      const found = [...(joined.get(wire.from) ?? [])]
      return found.length === 1 && found[0] ? [[id, found[0]]] : []
    }),
  )
}
