import type { Table } from '../chart.ts'
import type { Relays } from '../signal/relay-plan.ts'
import { address, knownParts, partOf, sayTerminal, type KnownPart, type Wiring } from '../part/wiring.ts'
import { judgedStates, solveState } from './proof/states.ts'

/** From here on a coil or a lamp has a voltage. */
const ON_V = 5

export interface Termination {
  readonly wire: string
  readonly from: string
  readonly to: string
  readonly colour: string
  readonly ferrule: string
  /** Leads of a meter are taken out before handing over. */
  readonly temporary: boolean
}

/** Every wire, from terminal to terminal; without a ferrule of its own the far end's name is printed on it. */
export function terminations(w: Wiring): Termination[] {
  const meters = new Set(
    knownParts(w)
      .filter((p) => p.kind.duty === 'meter')
      .map((p) => p.id),
  )
  return Object.entries(w.wires).map(([wire, x]) => ({
    wire,
    from: sayTerminal(w, x.from),
    to: sayTerminal(w, x.to),
    colour: x.colour ?? '',
    ferrule: meters.has(partOf(x.from)) || meters.has(partOf(x.to)) ? '' : x.ferrule,
    temporary: meters.has(partOf(x.from)) || meters.has(partOf(x.to)),
  }))
}

export interface KitLine {
  readonly what: string
  readonly detail: string
  readonly kind: 'part' | 'tool'
}

/** Parts with their label data, then tools and material, each once. */
export function kitList(w: Wiring): KitLine[] {
  const parts = knownParts(w)
  const material = [
    'screwdriver for the terminals',
    'stripper and crimper for ferrules',
    'multimeter with its certificate in date',
    ...parts.flatMap((p) => p.kind.kit ?? []),
  ]
  const seen = new Set<string>()
  return [
    ...parts
      .filter((p) => p.kind.duty !== 'meter')
      .map((p): KitLine => ({ what: p.id, detail: `${p.kind.title}, ${p.kind.label(p.s)}`, kind: 'part' })),
    ...material.flatMap((what): KitLine[] => {
      if (seen.has(what) || (what.startsWith('multimeter with leads') && seen.has(material[2] ?? '')))
        return []
      seen.add(what)
      return [{ what, detail: '', kind: 'tool' }]
    }),
  ]
}

/** When in the work a step stands. */
export const WORK_TIMES = {
  landing: 'Before landing wires',
  power: 'Before power',
  on: 'At power',
  after: 'After',
} as const
export type WorkTime = keyof typeof WORK_TIMES

export interface CheckStep {
  readonly when: WorkTime
  readonly says: string
  /** Must be ticked before the next: somebody can be hurt or something destroyed. */
  readonly hold: boolean
}

/** Whether a sensor has a supply of its own, and so a lamp that tells of it on the bench already. */
const isElectronic = (p: KnownPart) =>
  p.kind.duty === 'sensor' && ['bn', 'bu'].every((t) => p.terminals.some((x) => x.id === t))

/** From a dead circuit to a running one, in the order that hurts nobody, in the words of what is wired. */
export function powerUpChecklist(w: Wiring): CheckStep[] {
  const parts = knownParts(w)
  const out: CheckStep[] = []
  const step = (when: WorkTime, says: string, hold = false) => out.push({ when, says, hold })
  const isLoop = parts.some((p) => p.kind.duty === 'transmitter' && p.kind.wiredAs !== 'serial')
  step('landing', 'Operators know; the function is in manual or bypassed under the site’s procedure.', true)
  for (const p of parts) {
    const caution = p.kind.caution?.(p.s)
    if (caution && p.kind.duty !== 'meter') step('landing', `${p.id}: ${caution}`, true)
  }
  step('landing', 'Isolate the source, lock it, prove the terminals dead before landing wires.', true)
  for (const p of parts.filter(isElectronic))
    step('landing', `On the bench, before ${p.id} is fitted: supply on, target in front, its lamp follows.`)
  const supply = parts.find((p) => p.kind.duty === 'source' && p.kind.loopFeed?.(p.s))
  const gives = supply?.kind.loopFeed?.(supply.s)?.nominal_V ?? 0
  for (const p of parts) {
    const told = p.kind.duty === 'source' ? null : p.kind.supplyLabel?.(p.s)
    if (!told) continue
    const range = told.max_V === null ? `from ${told.min_V} V` : `${told.min_V} to ${told.max_V} V`
    step(
      'power',
      supply
        ? `Label of ${p.id} says ${range}; ${supply.id} gives ${gives} V.`
        : `Label of ${p.id} says ${range}: compare with what the card feeds.`,
    )
  }
  for (const p of parts) {
    const coil = p.kind.switchedLoad?.(p.s)
    if (coil?.coil)
      step('power', `Coil of ${p.id} says ${coil.volts} V${supply ? `; ${supply.id} gives ${gives} V` : ''}.`)
  }
  step(
    'power',
    'Every wire pulled by hand, every colour and number against the termination list, polarity at each device.',
  )
  step('power', `Meter leads back in the V jack; no meter left in the ${isLoop ? 'loop' : 'circuit'}.`)
  if (supply)
    step(
      'on',
      isLoop
        ? `Power on with the loop open: ${supply.id} reads ${gives} V, plus where plus belongs.`
        : `Power on: ${supply.id} reads ${gives} V, plus where plus belongs.`,
    )
  step('on', isLoop ? 'Close the loop and look:' : 'Move the target, or work the contact, and look:')
  for (const p of parts) {
    const sign = p.kind.firstSign?.(p.s)
    if (sign) step('on', `${p.id}: ${sign}.`)
  }
  step(
    'after',
    `Readings against the test-point list${isLoop ? '' : ' and the table of states'}; then back to automatic, bypass off, operators told.`,
    true,
  )
  return out
}

/** What everything that switches does in each state of its sensors: in the solved circuit, not by its name. */
export function truthTable(w: Wiring, relays: Relays | null = null): Table | null {
  const parts = knownParts(w)
  const sensors = parts.filter((p) => p.kind.actuate !== undefined)
  const relayed = relays ? parts.filter((p) => p.kind.relays).length : 0
  const inputs = parts.filter((p) => p.kind.duty === 'input')
  const loads = parts.filter((p) => p.kind.switchedLoad !== undefined)
  if (sensors.length + relayed === 0 || inputs.length + loads.length === 0) return null
  const states = judgedStates(parts, relays).filter(
    (s) => relays !== null || s.asked_mA === null || s.asked_mA === 12,
  )
  return {
    title: 'What follows what',
    columns: ['State', ...inputs.map((p) => p.id), ...loads.map((p) => p.id)],
    rows: states.map((state) => {
      const { e } = solveState(w, state)
      return [
        state.title,
        ...inputs.map((p) => String(e.values[`bit(${p.id})`] ?? 'none')),
        ...loads.map((p) => {
          const [a, b] = [e.volts(address(p.id, 'a1')), e.volts(address(p.id, 'a2'))]
          return a === null || b === null ? 'none' : Math.abs(a - b) > ON_V ? 'on' : 'off'
        }),
      ]
    }),
  }
}
