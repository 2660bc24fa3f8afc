import { across, partsOf, solvedPart, type Operating, type Part } from './circuit.ts'
import type { Memory } from './element.ts'
import { circuitFindings, floatingNodes, deadTerminals, type CircuitFinding } from './findings.ts'
import { sourceConflict } from './islands.ts'
import type { NetElement } from './netlist.ts'
import { steadyState } from './switching.ts'

/** Every readable value by its written name: V(A), I(R1.a), bit(DI1), read(DMM) ... */
export type Readings = Readonly<Record<string, number | string | null>>

export interface Solution {
  readonly values: Readings
  readonly findings: readonly CircuitFinding[]
  /** Nodes whose voltage to 0 V means nothing: only differences between them do. */
  readonly floating: ReadonlySet<string>
}

function readable(parts: readonly Part[], part: Part, at: Operating): Record<string, number | string | null> {
  const { id } = part.e
  const out: Record<string, number | string | null> = {}
  const terminals = [...part.kind.terminals, ...(part.kind.optional ?? []).filter((t) => part.has(t))]
  for (const t of terminals) out[`I(${id}.${t})`] = at.current(part, t)
  const [a, b] = part.kind.terminals
  if (terminals.length === 2 && a !== undefined && b !== undefined)
    out[`P(${id})`] = across(at, part, a, b) * at.current(part, a)
  const { kind, m } = part
  const solved = solvedPart(at, part)
  const say = (name: string, value: number | string | null) => (out[`${name}(${id})`] = value)
  if (kind.pulled) say('state', m.on ? 'on' : 'off')
  if (kind.supplied) say('state', m.powered ? 'powered' : 'unpowered')
  if (kind.fuse) {
    const fuse = kind.fuse(part)
    say('state', fuse && m.blown.includes(fuse.name) ? 'blown' : 'ok')
  }
  const shown = kind.shows_A?.(solved)
  if (shown !== undefined) {
    say('shown', shown)
    say('pct', ((shown - 0.004) / 0.016) * 100)
  }
  for (const [name, value] of Object.entries(kind.reads?.(solved) ?? {})) say(name, value)
  const dead = deadTerminals(parts, part)
  if (dead !== null) out[`dead(${id})`] = dead.length > 0 ? dead.join(',') : 'none'
  return out
}

/**
 * Solves a circuit in its steady state.
 * @param memory - what the parts remember from the solution before; empty at first.
 * @returns readings and findings, and the memory for the next solution. A contradictory circuit has no
 *   readings but a finding that names the reason.
 */
export function solveCircuit(
  elements: readonly NetElement[],
  memory: ReadonlyMap<string, Memory>,
): { solution: Solution; memory: ReadonlyMap<string, Memory> } {
  const none = (finding: CircuitFinding) => ({
    solution: { values: {}, findings: [finding], floating: new Set<string>() },
    memory,
  })
  const conflict = sourceConflict(partsOf(elements, memory))
  if (conflict)
    return none({
      code: 'SOURCE_CONFLICT',
      element: conflict.element,
      says: `Two voltage sources are joined at ${conflict.node}. Remove one, or give it a resistance.`,
    })
  const steady = steadyState(elements, memory)
  if (steady.kind === 'unsettled')
    return none({ code: 'UNSETTLED', element: '', says: 'The solver did not settle; no reading is shown.' })
  const { parts, at } = steady
  const values: Record<string, number | string | null> = {}
  const nodes = new Set(parts.flatMap((p) => Object.values(p.e.nodes)))
  for (const node of nodes) values[`V(${node})`] = at.voltage(node)
  for (const part of parts) Object.assign(values, readable(parts, part, at))
  return {
    solution: {
      values,
      findings: circuitFindings(parts, at, steady.chatter),
      floating: floatingNodes(parts),
    },
    memory: steady.memory,
  }
}
