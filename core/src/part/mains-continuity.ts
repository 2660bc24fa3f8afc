import { address, type KnownPart, type Wiring } from './wiring.ts'

/** How a part's mains terminals are fed. */
export interface MainsState {
  readonly fed: boolean
  readonly swapped: boolean
  readonly earthed: boolean
}

/** Which mains terminals reach the mains circuit's line, neutral and earth, by continuity alone. */
export function mainsAt(
  wiring: Wiring,
  parts: readonly KnownPart[],
  open: ReadonlySet<string>,
): Map<string, MainsState> {
  const neighbours = new Map<string, string[]>()
  for (const [id, { from, to }] of Object.entries(wiring.wires)) {
    if (open.has(id)) continue
    neighbours.set(from, [...(neighbours.get(from) ?? []), to])
    neighbours.set(to, [...(neighbours.get(to) ?? []), from])
  }
  const reached = (start: string): Set<string> => {
    const seen = new Set([start])
    for (const at of seen) for (const next of neighbours.get(at) ?? []) seen.add(next)
    return seen
  }
  const sources = parts.filter((p) => p.kind.duty === 'mains')
  const from = (terminal: string) => new Set(sources.flatMap((p) => [...reached(address(p.id, terminal))]))
  const [L, N, PE] = [from('L'), from('N'), from('PE')]
  const out = new Map<string, MainsState>()
  for (const p of parts) {
    if (p.kind.duty === 'mains' || !p.terminals.some((t) => t.role === 'L')) continue
    const [l, n, pe] = [address(p.id, 'L'), address(p.id, 'N'), address(p.id, 'PE')]
    const swapped = N.has(l) && L.has(n)
    out.set(p.id, { fed: (L.has(l) && N.has(n)) || swapped, swapped, earthed: PE.has(pe) })
  }
  return out
}
