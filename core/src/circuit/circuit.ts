import type { Branch } from './branch.ts'
import {
  FRESH,
  type ElementKind,
  type Memory,
  type Params,
  type Situation,
  type Solved as SolvedElement,
} from './element.ts'
import { elementKind } from './elements/index.ts'
import { GROUND, paramsOf, type NetElement } from './netlist.ts'
import { settle, type Placed } from './newton.ts'

/** One element placed in its circuit, with what it remembers. */
export interface Part {
  readonly e: NetElement
  readonly kind: ElementKind
  readonly p: Params
  readonly m: Memory
  readonly has: (terminal: string) => boolean
}

export const situation = (part: Part): Situation => part

/** The node a terminal is landed on; a free terminal is a node of its own. */
export const nodeOf = (e: NetElement, terminal: string): string =>
  e.nodes[terminal] ?? `${e.id}.${terminal} (free)`

export function partsOf(elements: readonly NetElement[], memory: ReadonlyMap<string, Memory>): Part[] {
  return elements.flatMap((e) => {
    const kind = elementKind(e.type)
    if (!kind) return []
    const has = (t: string) => kind.terminals.includes(t) || e.nodes[t] !== undefined
    return [{ e, kind, p: paramsOf(e, kind), m: memory.get(e.id) ?? FRESH, has }]
  })
}

/** Voltages at nodes and currents into terminals. */
export interface Operating {
  readonly voltage: (node: string) => number
  /** Current into a terminal of an element, A. */
  readonly current: (part: Part, terminal: string) => number
  /** Sum of the currents of the branches with this role, in the branch's own direction, A. */
  readonly through: (part: Part, role: Branch['role']) => number
  readonly iterations: number
}

export type Solved =
  | { readonly kind: 'solved'; readonly at: Operating }
  | { readonly kind: 'unsettled'; readonly residual_A: number }

/** Lets a caller replace what an element becomes, for test solves. */
export type Substitute = (part: Part, branches: Branch[]) => Branch[]

/** One operating point of the parts as they are now, without switching. */
export function operatingPoint(parts: readonly Part[], substitute: Substitute = (_p, b) => b): Solved {
  const index = new Map<string, number>()
  const nodeIndex = (node: string): number => {
    if (node === GROUND) return -1
    const known = index.get(node)
    if (known !== undefined) return known
    index.set(node, index.size)
    return index.size - 1
  }
  for (const part of parts) for (const node of Object.values(part.e.nodes)) nodeIndex(node)
  const placed: Placed[] = []
  const mine = new Map<Part, { branch: Branch; at: number }[]>()
  for (const part of parts) {
    const list: { branch: Branch; at: number }[] = []
    for (const branch of substitute(part, part.kind.branches(situation(part)))) {
      list.push({ branch, at: placed.length })
      placed.push({
        a: nodeIndex(nodeOf(part.e, branch.a)),
        b: nodeIndex(nodeOf(part.e, branch.b)),
        law: branch.law,
      })
    }
    mine.set(part, list)
  }
  const settled = settle(index.size, placed)
  if (settled.kind === 'unsettled') return settled
  const { voltages, currents, iterations } = settled
  return {
    kind: 'solved',
    at: {
      iterations,
      voltage: (node) => (node === GROUND ? 0 : (voltages[index.get(node) ?? -1] ?? 0)),
      current: (part, terminal) =>
        (mine.get(part) ?? []).reduce((sum, { branch, at }) => {
          const i = currents[at] ?? 0
          return sum + (branch.a === terminal ? i : 0) - (branch.b === terminal ? i : 0)
        }, 0),
      through: (part, role) =>
        (mine.get(part) ?? []).reduce(
          (sum, { branch, at }) => sum + (branch.role === role ? (currents[at] ?? 0) : 0),
          0,
        ),
    },
  }
}

export const across = (at: Operating, part: Part, a: string, b: string): number =>
  at.voltage(nodeOf(part.e, a)) - at.voltage(nodeOf(part.e, b))

/** A part as its element sees it in the solved circuit. */
export const solvedPart = (at: Operating, part: Part): SolvedElement => ({
  p: part.p,
  m: part.m,
  has: part.has,
  id: part.e.id,
  v: (a, b) => across(at, part, a, b),
  i: (terminal) => at.current(part, terminal),
})
