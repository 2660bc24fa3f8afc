import { nodeOf, situation, type Part } from './circuit.ts'
import { GROUND } from './netlist.ts'

/** Nodes joined by anything that can carry the loop's current. */
export class Islands {
  private readonly parent = new Map<string, string>()

  /** @param without - an element taken out; a passive output keeps its own auxiliary supply. */
  constructor(parts: readonly Part[], without: Part | null = null) {
    for (const part of parts)
      for (const [a, b] of part.kind.conducts(situation(part))) {
        if (part === without && !(a === 'auxP' && b === 'auxN')) continue
        this.join(nodeOf(part.e, a), nodeOf(part.e, b))
      }
  }

  private root(node: string): string {
    const up = this.parent.get(node)
    if (up === undefined || up === node) return node
    const r = this.root(up)
    this.parent.set(node, r)
    return r
  }

  private join(a: string, b: string): void {
    this.parent.set(this.root(a), this.root(b))
  }

  together(a: string, b: string): boolean {
    return this.root(a) === this.root(b)
  }

  grounded(node: string): boolean {
    return this.together(node, GROUND)
  }
}

/** Two ideal sources in a loop of nothing else: their node, or null when there is no such loop. */
export function sourceConflict(parts: readonly Part[]): { element: string; node: string } | null {
  const parent = new Map<string, string>()
  const root = (n: string): string => {
    const up = parent.get(n)
    return up === undefined ? n : root(up)
  }
  for (const part of parts) {
    const { stiff } = part.kind
    if (!stiff) continue
    const [a, b] = [root(nodeOf(part.e, stiff[0])), root(nodeOf(part.e, stiff[1]))]
    if (a === b) return { element: part.e.id, node: nodeOf(part.e, stiff[0]) }
    parent.set(a, b)
  }
  return null
}
