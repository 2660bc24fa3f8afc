import { address, type KnownPart, type Wiring } from '../../part/wiring.ts'

/**
 * Terminals that are one by wires and by what only leads through: cables, strips and bars.
 * @param without - a part whose own ways do not count
 * @returns the name of the net that a terminal belongs to
 */
export function netsOf(w: Wiring, parts: readonly KnownPart[], without?: string): (at: string) => string {
  const over = new Map<string, string>()
  const root = (at: string): string => {
    let here = at
    for (let next = over.get(here); next !== undefined; next = over.get(here)) here = next
    return here
  }
  const join = (a: string, b: string) => {
    const [x, y] = [root(a), root(b)]
    if (x !== y) over.set(x, y)
  }
  for (const wire of Object.values(w.wires)) join(wire.from, wire.to)
  for (const p of parts)
    if (['through', 'bar'].includes(p.kind.duty) && p.kind.guards !== true && p.id !== without)
      for (const [a, b] of p.kind.lanes?.(p.s) ?? []) join(address(p.id, a), address(p.id, b))
  return root
}
