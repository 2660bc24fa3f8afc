import {
  address,
  freeName,
  knownPart,
  knownParts,
  withWire,
  type KnownPart,
  type Wiring,
} from '../../part/wiring.ts'
import type { RelayPlan } from '../../signal/relay-plan.ts'
import { PLACES, type LoopFeed } from '../../part/part-kind.ts'
import { refused, type Refused } from '../../refused.ts'
import { usualColour } from './colours.ts'

/**
 * Puts wires in, field run by field run, each core and terminal used once. The first reason why the parts cannot be
 * wired together ends it: from then on nothing is wired, and the reason is what counts.
 */
export class Builder {
  wiring: Wiring
  refusal: Refused | null = null
  private readonly used = new Map<string, number>()
  /** Parts of the loop that is being wired now; null while there is only one. */
  private scope: ReadonlySet<string> | null = null

  private readonly plans: readonly Pick<RelayPlan, 'contact'>[]

  constructor(wiring: Wiring, plans: readonly Pick<RelayPlan, 'contact'>[] = []) {
    this.wiring = { ...wiring, wires: {} }
    this.plans = plans
  }
  /** The contact of a controller’s relay that something is meant to hang on, the first relay being 0. */
  contactOf(relay: number): 'no' | 'nc' {
    return this.plans[relay]?.contact ?? 'no'
  }

  /** Says no; the terminal that is asked for is none. */
  refuse(says: string): string {
    this.refusal ??= refused(says)
    return ''
  }

  get parts(): KnownPart[] {
    return knownParts(this.wiring).filter((p) => p.kind.duty !== 'meter' && this.scope?.has(p.id) !== false)
  }
  /** Wires one of several loops: only these parts, and what is added on the way, are looked at. */
  within(scope: ReadonlySet<string> | null): void {
    this.scope = scope
  }
  first(duty: string): KnownPart | null {
    return this.parts.find((p) => p.kind.duty === duty) ?? null
  }
  all(duty: string): KnownPart[] {
    return this.parts.filter((p) => p.kind.duty === duty)
  }
  /** The supply, or a refusal that says what it is missing for. */
  supply(forWhat: string): KnownPart | null {
    const found = this.first('source')
    if (!found) this.refuse(`${forWhat} needs a DC supply; there is none among the parts.`)
    return found
  }

  /** What the supply gives, by its label. */
  supplyFeed(forWhat: string): LoopFeed | null {
    const source = this.supply(forWhat)
    const feed = source?.kind.loopFeed?.(source.s) ?? null
    if (source && !feed) this.refuse(`${source.id} gives no DC voltage.`)
    return feed
  }

  /** Adds a part and returns its name. */
  add(kind: string, settings: Wiring['parts'][string]['settings'], number: string): string {
    const prefix = knownPart('x', { kind, settings: {} })?.kind.prefix ?? 'X'
    const id = freeName(this.wiring.parts, prefix, number)
    this.wiring = { ...this.wiring, parts: { ...this.wiring.parts, [id]: { kind, settings } } }
    if (this.scope) this.scope = new Set([...this.scope, id])
    return id
  }

  /** A setting that goes with this wiring; what is so by itself stays unsaid. */
  set(id: string, name: string, value: boolean): void {
    const part = this.wiring.parts[id]
    if (this.refusal || !part || (part.settings[name] ?? false) === value) return
    this.wiring = {
      ...this.wiring,
      parts: { ...this.wiring.parts, [id]: { ...part, settings: { ...part.settings, [name]: value } } },
    }
  }

  wire(from: string, to: string): void {
    if (this.refusal) return
    this.wiring = withWire(this.wiring, from, to, { colour: usualColour(this.wiring, from, to) })
  }

  /** Plus of the supply, behind its fuse when there is one. */
  plus(forWhat: string): string {
    const source = this.supply(forWhat)
    if (!source) return ''
    const fuse = this.first('feed')
    const plus = address(source.id, 'plus')
    if (!fuse) return plus
    this.wire(plus, address(fuse.id, 'a'))
    return address(fuse.id, 'b')
  }
  minus(forWhat: string): string {
    const source = this.supply(forWhat)
    return source ? address(source.id, 'minus') : ''
  }

  /** Parts that only pass wires through, field side first. */
  private ways(): KnownPart[] {
    const rank = (p: KnownPart) => {
      const place = p.kind.placeOf?.(p.s) ?? p.kind.place
      // Cabinet terminals stand before the barrier.
      return PLACES.indexOf(place) * 2 + (p.kind.guards ? 1 : 0)
    }
    return this.all('through').sort((a, b) => rank(a) - rank(b))
  }

  /** A way through a part not used yet; a cable or a strip gets one more when it has none left. */
  private lane(part: KnownPart): readonly [string, string] | null {
    const n = this.used.get(part.id) ?? 0
    this.used.set(part.id, n + 1)
    const have = part.kind.lanes?.(part.s)[n]
    if (have) return have
    const setting = part.kind.settings.find((s) => s.name === 'cores' || s.name === 'ways')
    const wired = this.wiring.parts[part.id]
    if (!setting || !wired || (setting.kind === 'number' && n + 1 > setting.max)) {
      this.refuse(
        `${part.id} has ${n} ${n === 1 ? 'way' : 'ways'} through, and more are needed. Take another ${part.kind.title.toLowerCase()}.`,
      )
      return null
    }
    const more = { ...wired, settings: { ...wired.settings, [setting.name]: n + 1 } }
    this.wiring = { ...this.wiring, parts: { ...this.wiring.parts, [part.id]: more } }
    const lane = knownPart(part.id, more)?.kind.lanes?.(knownPart(part.id, more)?.s ?? part.s)[n]
    if (!lane) this.refuse(`${part.id} has no way left.`)
    return lane ?? null
  }

  /** From a field terminal to one in the cabinet, through boxes, cable, strips and barrier. */
  run(field: string, cabinet: string): void {
    let at = field
    for (const part of this.ways()) {
      const [fieldSide, cabinetSide] = this.lane(part) ?? ['', '']
      this.wire(at, address(part.id, fieldSide))
      at = address(part.id, cabinetSide)
    }
    this.wire(at, cabinet)
  }

  /** Mains terminals of a part, from the mains circuit. */
  mains(part: KnownPart): void {
    if (!part.terminals.some((t) => t.role === 'L')) return
    const circuit = this.first('mains')
    if (!circuit) this.refuse(`${part.id} is fed from mains and there is no mains circuit among the parts.`)
    else for (const t of ['L', 'N', 'PE']) this.wire(address(circuit.id, t), address(part.id, t))
  }
}

/** The digits of a name: PT-202 → 202. */
export const numberOf = (id: string): string => /\d+/.exec(id)?.[0] ?? ''
