import { knownParts, partOf, sayTerminal, type Wiring } from '../part/wiring.ts'

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

export interface CheckStep {
  readonly says: string
  /** Must be ticked before the next: somebody can be hurt or something destroyed. */
  readonly hold: boolean
}

/** From a dead circuit to a running one, in the order that hurts nobody. */
export function powerUpChecklist(w: Wiring): CheckStep[] {
  const parts = knownParts(w)
  const out: CheckStep[] = []
  const step = (says: string, hold = false) => out.push({ says, hold })
  step('Operators know; the function is in manual or bypassed under the site’s procedure.', true)
  for (const p of parts) {
    const caution = p.kind.caution?.(p.s)
    if (caution && p.kind.duty !== 'meter') step(`${p.id}: ${caution}`, true)
  }
  step('Isolate the source, lock it, prove the terminals dead before landing wires.', true)
  const supply = parts.find((p) => p.kind.duty === 'source' && p.kind.loopFeed?.(p.s))
  const gives = supply?.kind.loopFeed?.(supply.s)?.nominal_V ?? 0
  for (const p of parts) {
    const told = p.kind.duty === 'source' ? null : p.kind.supplyLabel?.(p.s)
    if (!told) continue
    const range = told.max_V === null ? `from ${told.min_V} V` : `${told.min_V} to ${told.max_V} V`
    step(
      supply
        ? `Label of ${p.id} says ${range}; ${supply.id} gives ${gives} V.`
        : `Label of ${p.id} says ${range}: compare with what the card feeds.`,
    )
  }
  for (const p of parts) {
    const coil = p.kind.switchedLoad?.(p.s)
    if (coil?.coil)
      step(`Coil of ${p.id} says ${coil.volts} V${supply ? `; ${supply.id} gives ${gives} V` : ''}.`)
  }
  step(
    'Every wire pulled by hand, every colour and number against the termination list, polarity at each device.',
  )
  step('Meter leads back in the V jack; no meter left in the loop.')
  if (supply) step(`Power on with the loop open: ${supply.id} reads ${gives} V, plus where plus belongs.`)
  step('Close the loop and look:')
  for (const p of parts) {
    const sign = p.kind.firstSign?.(p.s)
    if (sign) step(`${p.id}: ${sign}.`)
  }
  step('Readings against the test-point list; then back to automatic, bypass off, operators told.', true)
  return out
}
