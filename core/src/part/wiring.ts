import { z } from 'zod'
import { kindRank, partKind } from './index.ts'
import type { LabelData, PartKind, Terminal } from './part-kind.ts'
import { settingProblem, valuesOf } from '../quantity/setting.ts'

export const PART_ID = /^[A-Za-z][A-Za-z0-9_-]{0,23}$/
const WIRE_ID = /^[A-Za-z0-9][A-Za-z0-9_-]{0,15}$/
/** The parts and wires of one loop; more would not be one loop. */
export const MOST_PARTS = 40
export const MOST_WIRES = 120

/** Colours of wires by their letters. @see IEC 60757 */
export const WIRE_COLOURS = [
  'BK',
  'BN',
  'RD',
  'OG',
  'YE',
  'GN',
  'BU',
  'VT',
  'GY',
  'WH',
  'PK',
  'TQ',
  'GNYE',
  'WHBU',
] as const
export type WireColour = (typeof WIRE_COLOURS)[number]

const Part = z.strictObject({
  kind: z.string().max(40),
  settings: z.record(z.string().max(40), z.union([z.number(), z.string().max(40), z.boolean()])),
})
const Address = z.string().max(50)
const Wire = z.strictObject({
  from: Address,
  to: Address,
  /** Letters of the colour; null where nobody has said. */
  colour: z.enum(WIRE_COLOURS).nullable(),
  ferrule: z.string().trim().max(20, 'At most 20 characters.'),
})

/** Parts with their label data, and wires from terminal to terminal. An address is “part:terminal”. */
export const Wiring = z
  .strictObject({
    /** Colours for mains and control wiring: both schools are shown, the local code decides. */
    school: z.enum(['iec', 'na']),
    parts: z.record(z.string(), Part),
    wires: z.record(z.string(), Wire),
  })
  .superRefine((w, ctx) => {
    const say = (path: string[], message: string) => ctx.addIssue({ code: 'custom', path, message })
    if (Object.keys(w.parts).length > MOST_PARTS) say(['parts'], `At most ${MOST_PARTS} parts in one loop.`)
    if (Object.keys(w.wires).length > MOST_WIRES) say(['wires'], `At most ${MOST_WIRES} wires in one loop.`)
    for (const [id, part] of Object.entries(w.parts)) {
      if (!PART_ID.test(id))
        say(['parts', id], 'A part’s name is up to 24 letters, digits, - and _, a letter first.')
      const kind = partKind(part.kind)
      if (!kind) {
        say(['parts', id, 'kind'], `There is no part “${part.kind}”.`)
        continue
      }
      for (const [name, value] of Object.entries(part.settings)) {
        const setting = kind.settings.find((s) => s.name === name)
        const says = setting ? settingProblem(setting, value) : `A ${kind.title} has no ${name}.`
        if (says) say(['parts', id, 'settings', name], says)
      }
    }
    for (const [id, wire] of Object.entries(w.wires)) {
      if (!WIRE_ID.test(id)) say(['wires', id], 'A wire’s name is up to 16 letters and digits.')
      for (const end of ['from', 'to'] as const)
        if (!terminalAt(w, wire[end])) say(['wires', id, end], `There is no terminal ${wire[end]}.`)
      if (wire.from === wire.to) say(['wires', id, 'to'], 'Both ends of this wire are the same terminal.')
    }
  })
export type Wiring = z.output<typeof Wiring>
export type Wire = Wiring['wires'][string]
export type WiredPart = Wiring['parts'][string]

export const NOTHING_WIRED: Wiring = { school: 'iec', parts: {}, wires: {} }

export const address = (part: string, terminal: string): string => `${part}:${terminal}`
export const partOf = (at: string): string => at.slice(0, at.indexOf(':'))
export const terminalOf = (at: string): string => at.slice(at.indexOf(':') + 1)

/** A part with its kind and its settings over the defaults. */
export interface KnownPart {
  readonly id: string
  readonly kind: PartKind
  readonly s: LabelData
  readonly terminals: readonly Terminal[]
}

export function knownPart(id: string, part: WiredPart): KnownPart | null {
  const kind = partKind(part.kind)
  if (!kind) return null
  const s = valuesOf(kind.settings, part.settings)
  return { id, kind, s, terminals: kind.terminals(s) }
}

/** Parts along the signal path, then by name: a stored wiring comes back with its keys in any order. */
export const knownParts = (w: Pick<Wiring, 'parts'>): KnownPart[] =>
  Object.entries(w.parts)
    .flatMap(([id, part]) => knownPart(id, part) ?? [])
    .sort((a, b) => kindRank(a.kind) - kindRank(b.kind) || (a.id < b.id ? -1 : 1))

export function terminalAt(w: Pick<Wiring, 'parts'>, at: string): Terminal | null {
  const id = partOf(at)
  const part = Object.hasOwn(w.parts, id) ? w.parts[id] : undefined
  return (part && knownPart(id, part)?.terminals.find((t) => t.id === terminalOf(at))) ?? null
}

/** A terminal as a technician says it: “PT-202 +”, and of a core with two ends “W-202 1 field”. */
export function sayTerminal(w: Pick<Wiring, 'parts'>, at: string): string {
  const id = partOf(at)
  const part = Object.hasOwn(w.parts, id) ? w.parts[id] : undefined
  const terminals = (part && knownPart(id, part)?.terminals) ?? []
  const t = terminals.find((x) => x.id === terminalOf(at))
  if (!t) return `${id} ${terminalOf(at)}`
  const twoEnds = terminals.some((x) => x !== t && x.label === t.label)
  return `${id} ${t.label}${twoEnds ? (t.side === 'left' ? ' field' : ' cabinet') : ''}`
}

/** A name not taken: the prefix with the loop's number if it is free, else counted up. */
export function freeName(taken: Readonly<Record<string, unknown>>, prefix: string, number: string): string {
  const first = number === '' ? `${prefix}-1` : `${prefix}-${number}`
  if (!(first in taken)) return first
  for (let i = 2; ; i++) {
    const name = number === '' ? `${prefix}-${i}` : `${prefix}-${number}-${i}`
    if (!(name in taken)) return name
  }
}

/** The next free wire number. */
export function freeWire(wires: Readonly<Record<string, unknown>>): string {
  let n = 1
  while (String(n) in wires) n++
  return String(n)
}

const ADDED = { colour: null, ferrule: '' } as const

/** The wiring with one wire more. A wire that is there already, either way round, is not doubled. */
export function withWire(w: Wiring, from: string, to: string, more: Partial<Wire> = {}): Wiring {
  const there = Object.values(w.wires).some(
    (x) => (x.from === from && x.to === to) || (x.from === to && x.to === from),
  )
  if (there || from === to) return w
  return { ...w, wires: { ...w.wires, [freeWire(w.wires)]: { from, to, ...ADDED, ...more } } }
}

export function withoutWire(w: Wiring, id: string): Wiring {
  const wires = Object.fromEntries(Object.entries(w.wires).filter(([wire]) => wire !== id))
  return { ...w, wires }
}

/** The wiring without a part and the wires that ended on it. */
export function withoutPart(w: Wiring, id: string): Wiring {
  const parts = Object.fromEntries(Object.entries(w.parts).filter(([part]) => part !== id))
  const wires = Object.fromEntries(
    Object.entries(w.wires).filter(([, x]) => partOf(x.from) !== id && partOf(x.to) !== id),
  )
  return { ...w, parts, wires }
}

/** The wiring with one setting changed; wires on terminals that go away with it go too. */
export function withSetting(w: Wiring, id: string, name: string, value: number | string | boolean): Wiring {
  const part = w.parts[id]
  if (!part) return w
  const parts = { ...w.parts, [id]: { ...part, settings: { ...part.settings, [name]: value } } }
  const wires = Object.fromEntries(
    Object.entries(w.wires).filter(([, x]) => terminalAt({ parts }, x.from) && terminalAt({ parts }, x.to)),
  )
  return { ...w, parts, wires }
}
