import { numberOf } from './element.ts'
import { across, partsOf, type Operating, type Part } from './circuit.ts'
import type { Memory } from './element.ts'
import { circuitFindings, deadTerminals, type CircuitFinding } from './findings.ts'
import { sourceConflict } from './islands.ts'
import type { NetElement } from './netlist.ts'
import { bitOf, fuseOf, inputReading, steadyState } from './switching.ts'

/** Every readable value by its written name: V(A), I(R1.a), bit(DI1), read(DMM) ... */
export type Readings = Readonly<Record<string, number | string | null>>

export interface Solution {
  readonly values: Readings
  readonly findings: readonly CircuitFinding[]
}

/** State of a NAMUR switching amplifier by the current it delivers. @see IEC 60947-5-6 */
function amplifierState(i_A: number): string {
  if (i_A < 1e-4) return 'wire_break'
  if (i_A <= 1.2e-3) return 'low'
  if (i_A > 6.5e-3) return 'short_circuit'
  return i_A >= 2.1e-3 ? 'high' : 'undefined'
}

function readable(parts: readonly Part[], part: Part, at: Operating): Record<string, number | string | null> {
  const { id } = part.e
  const out: Record<string, number | string | null> = {}
  const terminals = [...part.kind.terminals, ...(part.kind.optional ?? []).filter((t) => part.has(t))]
  for (const t of terminals) out[`I(${id}.${t})`] = at.current(part, t)
  const [a, b] = part.kind.terminals
  if (terminals.length === 2 && a !== undefined && b !== undefined)
    out[`P(${id})`] = across(at, part, a, b) * at.current(part, a)
  switch (part.kind.type) {
    case 'relay':
      out[`state(${id})`] = part.m.on ? 'on' : 'off'
      break
    case 'sensor3':
    case 'tx3':
      out[`state(${id})`] = part.m.powered ? 'powered' : 'unpowered'
      break
    case 'fuse':
      out[`state(${id})`] = part.m.blown.includes('fuse') ? 'blown' : 'ok'
      break
    case 'dmm': {
      const fuse = fuseOf(part)
      out[`state(${id})`] = fuse && part.m.blown.includes(fuse.name) ? 'blown' : 'ok'
      const { p } = part
      out[`read(${id})`] =
        p['jack'] !== p['dial']
          ? null
          : p['jack'] === 'V'
            ? across(at, part, 'red', 'black')
            : at.current(part, 'red')
      break
    }
    case 'di': {
      const { v, i } = inputReading(at, part)
      Object.assign(out, { [`bit(${id})`]: bitOf(at, part), [`vin(${id})`]: v, [`iin(${id})`]: i })
      break
    }
    case 'receiver':
    case 'ai': {
      const shown = across(at, part, 'in', 'com') / numberOf(part.p, 'rNominal')
      Object.assign(out, { [`shown(${id})`]: shown, [`pct(${id})`]: ((shown - 0.004) / 0.016) * 100 })
      break
    }
    case 'namurAmp':
      out[`amp(${id})`] = amplifierState(-at.current(part, 'plus'))
      break
  }
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
  const none = (finding: CircuitFinding) => ({ solution: { values: {}, findings: [finding] }, memory })
  const conflict = sourceConflict(partsOf(elements, memory))
  if (conflict)
    return none({
      code: 'SOURCE_CONFLICT',
      element: conflict.element,
      says: `Two voltage sources fight at ${conflict.node}. Take one away, or give it a resistance.`,
    })
  const steady = steadyState(elements, memory)
  if (steady.kind === 'unsettled')
    return none({ code: 'UNSETTLED', element: '', says: 'The solver did not settle; no reading is shown.' })
  const { parts, at } = steady
  const values: Record<string, number | string | null> = {}
  const nodes = new Set(parts.flatMap((p) => Object.values(p.e.nodes)))
  for (const node of nodes) values[`V(${node})`] = at.voltage(node)
  for (const part of parts) Object.assign(values, readable(parts, part, at))
  return { solution: { values, findings: circuitFindings(parts, at, steady.chatter) }, memory: steady.memory }
}
