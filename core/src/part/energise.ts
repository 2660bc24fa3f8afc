import { FRESH, type Memory } from '../circuit/element.ts'
import type { CircuitFinding } from '../circuit/findings.ts'
import { GROUND, type NetElement } from '../circuit/netlist.ts'
import { solveCircuit, type Readings } from '../circuit/solve.ts'
import type { Relays } from '../signal/relay-plan.ts'
import type { Fault } from './fault.ts'
import { mainsAt, type MainsState } from './mains-continuity.ts'
import type { LivePart, PlacedPart } from './part-kind.ts'
import { address, knownParts, partOf, terminalOf, type KnownPart, type Wiring } from './wiring.ts'

/** What is being done with the circuit now; nothing of it is saved with the loop. */
export interface BenchState {
  readonly power: boolean
  /** Current the transmitters are asked for, mA. */
  readonly current_mA: number
  /** Of single transmitters, where they are not asked for the same. */
  readonly currents?: Readonly<Record<string, number>> | undefined
  /** Parts whose target, float or contact is actuated. */
  readonly actuated: readonly string[]
  readonly faults: readonly Fault[]
  /** The loop's relays, for a controller that moves them; nothing moves without. */
  readonly relays?: Relays | null | undefined
}

export const AT_REST: BenchState = { power: true, current_mA: 12, actuated: [], faults: [] }

/** A wire in the cabinet, 1 m of 1 mm²: every wire has a resistance, so every wire has a current. */
export const WIRE_OHM = 0.0195

export interface Energised {
  readonly values: Readings
  readonly findings: readonly CircuitFinding[]
  /** What relays, fuses and inputs remember; goes into the next solution. */
  readonly memory: ReadonlyMap<string, Memory>
  /** Volts from a terminal to 0 V; null when there is no solution. */
  readonly volts: (at: string) => number | null
  /** The same where it means something: null of what is isolated from 0 V. */
  readonly toGround: (at: string) => number | null
  /** Current along a wire from its first end to its second, A. */
  readonly wire_A: (wire: string) => number | null
  readonly live: ReadonlyMap<string, LivePart>
  readonly mains: ReadonlyMap<string, MainsState>
  /** Which terminal is the 0 V reference, if any. */
  readonly reference: string | null
  readonly elements: readonly NetElement[]
}

/** Element that stands for a wire. */
export const wireElement = (wire: string): string => `~${wire}`
/** The part an element belongs to. */
export const ownerOf = (element: string): string => element.split('~')[0] ?? element

/** The terminal that counts as 0 V: a supply's minus, else the common of the first thing that reads. */
function referenceOf(parts: readonly KnownPart[]): string | null {
  const first = (duty: string, terminal: string) => {
    const part = parts.find((p) => p.kind.duty === duty && p.terminals.some((t) => t.id === terminal))
    return part ? address(part.id, terminal) : null
  }
  return (
    first('source', 'minus') ??
    first('receiver', 'com') ??
    first('input', 'com') ??
    first('receiver', 'V-') ??
    first('repeater', 'minus') ??
    first('link', 'G')
  )
}

/** Ends of a part that a short, a leak or swapped leads mean: where its voltage is read first. */
export function mainPair(part: KnownPart): readonly [string, string] | null {
  const pair = part.kind.testPoints?.(part.s)[0]
  return pair ? [pair[0], pair[1]] : null
}

const isMains = (role: string | undefined) => role === 'L' || role === 'N' || role === 'PE'

/** What a part hands on has settled when it moves by less than this. */
const SAME_mA = 1e-4
/** A relay that has no past comes up as its plan says. */
function startedUp(
  elements: readonly NetElement[],
  before: ReadonlyMap<string, Memory>,
): ReadonlyMap<string, Memory> {
  const on = elements.filter((e) => e.params['startUp'] === true && !before.has(e.id))
  return on.length === 0
    ? before
    : new Map([...before, ...on.map((e) => [e.id, { ...FRESH, on: true }] as const)])
}

/** Rounds of parts that react to the solution: a brown-out, then an amplifier's contact, then the rest. */
const MOST_REACTIONS = 5

/**
 * Solves the wiring as it stands, with its faults.
 * @param before - memory of the solution before; empty after switching off and replacing fuses.
 */
export function energise(
  wiring: Wiring,
  state: BenchState,
  before: ReadonlyMap<string, Memory> = new Map(),
): Energised {
  const parts = knownParts(wiring)
  const reference = referenceOf(parts)
  const open = new Set(state.faults.flatMap((f) => (f.kind === 'open' ? [f.wire] : [])))
  const mains = mainsAt(wiring, parts, open)
  const swapped = new Set(state.faults.flatMap((f) => (f.kind === 'reversed' ? [f.part] : [])))
  const unsupplied = new Set(state.faults.flatMap((f) => (f.kind === 'noSupply' ? [f.part] : [])))
  const wired = new Set(Object.values(wiring.wires).flatMap((w) => [w.from, w.to]))
  const roles = new Map(parts.flatMap((p) => p.terminals.map((t) => [address(p.id, t.id), t.role])))
  const nodeAt = (at: string): string => (at === reference ? GROUND : at)

  const live = new Map<string, LivePart>(
    parts.map((p) => {
      const fed = mains.get(p.id)
      return [
        p.id,
        {
          current_mA: state.currents?.[p.id] ?? state.current_mA,
          actuated: state.actuated.includes(p.id),
          powered: fed === undefined || fed.fed,
          closed: false,
        },
      ]
    }),
  )
  /** What the one serial sensor sends, as long as it has power. */
  const stations = parts.filter((p) => p.kind.line === 'station')
  const sentOverLine = (): number | null => {
    const [only, another] = stations
    return state.power && only && !another && live.get(only.id)?.powered === true ? state.current_mA : null
  }
  const placed = (p: KnownPart): PlacedPart => ({
    id: p.id,
    s: p.s,
    live: live.get(p.id) ?? { current_mA: 0, actuated: false, powered: true, closed: false },
    power: state.power && !unsupplied.has(p.id),
    relays: state.relays ?? null,
    sent_mA: sentOverLine(),
    node: (t) => nodeAt(address(p.id, t)),
    wired: (t) => wired.has(address(p.id, t)),
  })
  /** Where a wire really lands: on the other lead of a part whose leads are swapped. */
  const landed = (at: string): string => {
    const part = swapped.has(partOf(at)) ? parts.find((p) => p.id === partOf(at)) : undefined
    const pair = part && mainPair(part)
    const t = terminalOf(at)
    return nodeAt(
      pair?.[0] === t
        ? address(part?.id ?? '', pair[1])
        : pair?.[1] === t
          ? address(part?.id ?? '', pair[0])
          : at,
    )
  }
  const wireElements = Object.entries(wiring.wires).flatMap(([id, w]): NetElement[] => {
    if (open.has(id) || isMains(roles.get(w.from)) || isMains(roles.get(w.to))) return []
    const element = (r: number, a: string, b: string): NetElement => ({
      id: wireElement(id),
      type: 'resistor',
      nodes: { a, b },
      params: { r },
    })
    const loose = state.faults.find((f) => f.kind === 'loose' && f.wire === id)
    const double = state.faults.find((f) => f.kind === 'doubleSupply' && f.wire === id)
    const [a, b] = [landed(w.from), landed(w.to)]
    if (double?.kind === 'doubleSupply' && state.power) {
      const between = `${wireElement(id)} second supply`
      return [
        element(WIRE_OHM, a, between),
        // A card's own feed is this soft; below zero it drives against the wire's direction.
        {
          id: `${wireElement(id)}+`,
          type: 'supply',
          nodes: double.volts >= 0 ? { p: b, n: between } : { p: between, n: b },
          params: { v: Math.abs(double.volts), rs: 20 },
        },
      ]
    }
    return [element(loose?.kind === 'loose' ? loose.ohm : WIRE_OHM, a, b)]
  })
  const faultElements = state.faults.flatMap((f, i): NetElement[] => {
    if (f.kind === 'earth') {
      const earth = `earth ${i}`
      return [
        { id: `fault${i}~r`, type: 'resistor', nodes: { a: nodeAt(f.at), b: earth }, params: { r: f.ohm } },
        { id: `fault${i}~v`, type: 'vsource', nodes: { p: earth, n: GROUND }, params: { v: f.volts } },
      ]
    }
    if (f.kind !== 'short' && f.kind !== 'leakage') return []
    const part = parts.find((p) => p.id === f.part)
    const pair = part && mainPair(part)
    if (!pair) return []
    const r = f.kind === 'short' ? 0.001 : f.ohm
    const [a, b] = [nodeAt(address(f.part, pair[0])), nodeAt(address(f.part, pair[1]))]
    return [{ id: `fault${i}~r`, type: 'resistor', nodes: { a, b }, params: { r } }]
  })

  for (let round = 0; ; round++) {
    const elements = [...parts.flatMap((p) => p.kind.elements(placed(p))), ...wireElements, ...faultElements]
    const { solution, memory } = solveCircuit(elements, startedUp(elements, before))
    const { values } = solution
    const read = (name: string): number | null => {
      const v = values[name]
      return typeof v === 'number' ? v : null
    }
    const volts = (at: string): number | null => {
      const node = nodeAt(at)
      return node === GROUND
        ? Object.keys(values).length > 0 || elements.length === 0
          ? 0
          : null
        : read(`V(${node})`)
    }
    let moved = false
    if (round < MOST_REACTIONS)
      for (const p of parts) {
        if (!p.kind.react) continue
        const now = placed(p)
        const change = p.kind.react({
          ...now,
          volts: (a, b) => (volts(address(p.id, a)) ?? 0) - (volts(address(p.id, b)) ?? 0),
          value: (name) => values[name] ?? null,
        })
        const next = { ...now.live, ...change }
        // Once dead a device stays dead for this solution, so that a brown-out cannot swing.
        if (!now.live.powered) next.powered = false
        if (
          next.powered === now.live.powered &&
          next.closed === now.live.closed &&
          Math.abs(next.current_mA - now.live.current_mA) < SAME_mA
        )
          continue
        live.set(p.id, next)
        moved = true
      }
    if (moved) continue
    return {
      values,
      findings: solution.findings,
      memory,
      volts,
      toGround: (at) => (solution.floating.has(nodeAt(at)) ? null : volts(at)),
      wire_A: (id) => read(`I(${wireElement(id)}.a)`),
      live,
      mains,
      reference,
      elements,
    }
  }
}
