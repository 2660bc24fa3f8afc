import { across, operatingPoint, partsOf, solvedPart, type Operating, type Part } from './circuit.ts'
import { FRESH, type Memory } from './element.ts'
import { elementKind } from './elements/index.ts'
import type { NetElement } from './netlist.ts'

const MOST_ROUNDS = 60
/** A repeater has settled when its current moves by less than this. */
const REPEATED_A = 1e-9

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
  // Set by what follows: an input that has been through the same states already chatters.
  const seen = { chatter: false }
  const set = (id: string, change: Partial<Memory>) =>
    memory.set(id, { ...(memory.get(id) ?? FRESH), ...change })
  for (const e of elements) if (elementKind(e.type)?.repeats_A) set(e.id, { repeated_A: 0 })

  for (let round = 0; ; round++) {
    const parts = partsOf(elements, memory)
    const solved = operatingPoint(parts)
    if (solved.kind === 'unsettled') return solved
    const { at } = solved
    const moved = round < MOST_ROUNDS && !seen.chatter && (blowOne() || powerUp() || moveRelays() || follow())
    if (moved) continue
    for (const part of parts) {
      const bit = part.kind.bit?.(solvedPart(at, part)) ?? 'undefined'
      if (bit !== 'undefined') set(part.e.id, { bit })
    }
    return { kind: 'steady', parts, at, memory, chatter: seen.chatter }

    /** Only the fuse that is overloaded most opens; the others may be saved by it. */
    function blowOne(): boolean {
      let worst: { id: string; name: string; ratio: number } | null = null
      for (const part of parts) {
        const fuse = part.kind.fuse?.(part) ?? null
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
        const { supplied } = part.kind
        if (!supplied) continue
        const enough = across(at, part, ...supplied.at) >= supplied.least_V(part.p)
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
      const relays = parts.filter((part) => part.kind.pulled)
      let any = false
      for (const part of relays) {
        const on = part.kind.pulled?.(solvedPart(at, part)) ?? false
        if (on === part.m.on) continue
        set(part.e.id, { on })
        any = true
      }
      if (!any) return false
      const pattern = relays.map((part) => (memory.get(part.e.id)?.on ? 1 : 0)).join('')
      if (patterns.has(pattern)) seen.chatter = true
      patterns.add(pattern)
      return true
    }
    function follow(): boolean {
      let any = false
      for (const part of parts) {
        const field_A = part.kind.repeats_A?.(solvedPart(at, part))
        if (field_A === undefined) continue
        if (Math.abs(field_A - part.m.repeated_A) < REPEATED_A) continue
        set(part.e.id, { repeated_A: field_A })
        any = true
      }
      return any
    }
  }
}
