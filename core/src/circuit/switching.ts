import { across, operatingPoint, partsOf, type Operating, type Part } from './circuit.ts'
import { FRESH, type Memory, numberOf } from './element.ts'
import { inputType } from './elements/discrete.ts'
import type { NetElement } from './netlist.ts'

const MOST_ROUNDS = 60
/** A repeater has settled when its current moves by less than this. */
const REPEATED_A = 1e-9

export type BitState = 0 | 1 | 'undefined'

/** A digital input's voltage and current in its own direction. */
export function inputReading(at: Operating, part: Part): { v: number; i: number } {
  const v = across(at, part, 'in', 'com')
  const i = at.current(part, 'in')
  switch (part.p['mode']) {
    case 'source':
      return { v: -v, i: -i }
    case 'bidir':
      return { v: Math.abs(v), i: Math.abs(i) }
    default:
      return { v, i }
  }
}

/**
 * State of a digital input.
 * @see IEC 61131-2, standard operating ranges of 24 V digital inputs
 */
export function bitOf(at: Operating, part: Part): BitState {
  const { v, i } = inputReading(at, part)
  const { on, off } = inputType(part.p)
  // A current held at the model's own ceiling must not miss its limit by a rounding.
  const eps = 1e-9
  if (v >= on.v - eps && i >= on.i - eps) return 1
  return v <= off.v + eps || (v < on.v && i <= off.i + eps) ? 0 : 'undefined'
}

/** The fuse in the way of the current now, if there is one: its name, rating and the factor it blows at. */
export function fuseOf(part: Part): { name: string; rating_A: number; blow: number } | null {
  if (part.kind.type === 'fuse')
    return { name: 'fuse', rating_A: numberOf(part.p, 'rating'), blow: numberOf(part.p, 'blow') }
  const jack = part.p['jack']
  if (part.kind.type !== 'dmm' || typeof jack !== 'string' || jack === 'V') return null
  return {
    name: jack,
    rating_A: numberOf(part.p, jack === 'mA' ? 'fusemA' : 'fuse10A'),
    blow: numberOf(part.p, 'blow'),
  }
}

const supplyOf = { sensor3: ['bn', 'bu'], tx3: ['vp', 'vn'] } as const
const isSupplied = (type: string): type is keyof typeof supplyOf => type in supplyOf

/** Voltage at the supply terminals of a three-wire device, V. */
export const supplyVoltage = (at: Operating, part: Part): number | null => {
  if (!isSupplied(part.kind.type)) return null
  const [plus, minus] = supplyOf[part.kind.type]
  return across(at, part, plus, minus)
}

export type Steady =
  | {
      readonly kind: 'steady'
      readonly parts: readonly Part[]
      readonly at: Operating
      readonly memory: ReadonlyMap<string, Memory>
      readonly chatter: boolean
    }
  | { readonly kind: 'unsettled'; readonly residual_A: number }

/**
 * Solves and lets fuses blow, devices power up, relays move and repeaters follow, one rule at a time, until
 * nothing changes. What each part remembers comes back for the next solution.
 */
export function steadyState(elements: readonly NetElement[], before: ReadonlyMap<string, Memory>): Steady {
  const memory = new Map(before)
  const latchedOff = new Set<string>()
  const patterns = new Set<string>()
  let chatter = false
  const set = (id: string, change: Partial<Memory>) =>
    memory.set(id, { ...(memory.get(id) ?? FRESH), ...change })
  for (const e of elements) if (e.type === 'isolator') set(e.id, { repeated_A: 0 })

  for (let round = 0; ; round++) {
    const parts = partsOf(elements, memory)
    const solved = operatingPoint(parts)
    if (solved.kind === 'unsettled') return solved
    const { at } = solved
    const moved = round < MOST_ROUNDS && !chatter && (blowOne() || powerUp() || moveRelays() || follow())
    if (moved) continue
    for (const part of parts) {
      if (part.kind.type !== 'di') continue
      const bit = bitOf(at, part)
      if (bit !== 'undefined') set(part.e.id, { bit })
    }
    return { kind: 'steady', parts, at, memory, chatter }

    /** Only the fuse that is overloaded most opens; the others may be saved by it. */
    function blowOne(): boolean {
      let worst: { id: string; name: string; ratio: number } | null = null
      for (const part of parts) {
        const fuse = fuseOf(part)
        if (!fuse || part.m.blown.includes(fuse.name)) continue
        const i = Math.abs(at.current(part, part.kind.terminals[0] ?? ''))
        const ratio = i / fuse.rating_A
        if (i > fuse.blow * fuse.rating_A && (!worst || ratio > worst.ratio))
          worst = { id: part.e.id, name: fuse.name, ratio }
      }
      if (!worst) return false
      set(worst.id, { blown: [...(memory.get(worst.id)?.blown ?? []), worst.name] })
      return true
    }
    function powerUp(): boolean {
      let any = false
      for (const part of parts) {
        const v = supplyVoltage(at, part)
        if (v === null) continue
        const enough = v >= numberOf(part.p, 'vMin')
        if (enough && !part.m.powered && !latchedOff.has(part.e.id)) {
          set(part.e.id, { powered: true })
          any = true
        } else if (!enough && part.m.powered) {
          // Latched for this solve, so that a brown-out cannot swing for ever.
          set(part.e.id, { powered: false })
          latchedOff.add(part.e.id)
          any = true
        }
      }
      return any
    }
    function moveRelays(): boolean {
      const relays = parts.filter((part) => part.kind.type === 'relay')
      let any = false
      for (const part of relays) {
        const v = Math.abs(across(at, part, 'a1', 'a2')) / numberOf(part.p, 'vNom')
        const on = part.m.on ? v >= numberOf(part.p, 'dropOut') : v >= numberOf(part.p, 'pullIn')
        if (on === part.m.on) continue
        set(part.e.id, { on })
        any = true
      }
      if (!any) return false
      const pattern = relays.map((part) => (memory.get(part.e.id)?.on ? 1 : 0)).join('')
      if (patterns.has(pattern)) chatter = true
      patterns.add(pattern)
      return true
    }
    function follow(): boolean {
      let any = false
      for (const part of parts) {
        if (part.kind.type !== 'isolator') continue
        const field_A = Math.max(0, -at.current(part, 'fp'))
        if (Math.abs(field_A - part.m.repeated_A) < REPEATED_A) continue
        set(part.e.id, { repeated_A: field_A })
        any = true
      }
      return any
    }
  }
}
