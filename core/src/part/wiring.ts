import { z } from 'zod'
import { kindRank, partKind } from './index.ts'
import { PLACES, type LabelData, type PartKind, type Terminal } from './part-kind.ts'
import { refused, type Refused } from '../refused.ts'
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

/** What stands on the plate of a part of the plant's own: its name, and its terminals as they are printed there. */
export const NameplateSchema = z.strictObject({
  title: z.string().trim().min(1, 'Give the part a name.').max(60, 'At most 60 characters.'),
  printed: z.record(
    z.string().max(12),
    z.string().trim().min(1, 'Type what is printed.').max(10, 'At most 10 characters.'),
  ),
})
const Part = z.strictObject({
  kind: z.string().max(40),
  settings: z.record(z.string().max(40), z.union([z.number(), z.string().max(40), z.boolean()])),
  nameplate: NameplateSchema.optional(),
  /** Where it stands, when that is not where its kind usually does. */
  place: z.enum(PLACES).optional(),
})
const Address = z.string().max(50)
const Wire = z.strictObject({
  from: Address,
  to: Address,
  /** Letters of the colour; null where nobody has said. */
  colour: z.enum(WIRE_COLOURS).nullable(),
  ferrule: z.string().trim().max(20, 'At most 20 characters.'),
})

/** Schools of colours for mains and control wiring: both are shown, the local code decides. */
export const SCHOOLS = ['iec', 'na'] as const
export type School = (typeof SCHOOLS)[number]
export const SCHOOL_NAMES: Readonly<Record<School, string>> = { iec: 'IEC', na: 'North America' }

/** Parts with their label data, and wires from terminal to terminal. An address is “part:terminal”. */
export const Wiring = z
  .strictObject({
    school: z.enum(SCHOOLS),
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
      for (const { path, message } of partProblem(part)) say(['parts', id, ...path], message)
    }
    for (const [id, wire] of Object.entries(w.wires)) {
      if (!WIRE_ID.test(id)) say(['wires', id], 'A wire’s name is up to 16 letters and digits.')
      for (const end of ['from', 'to'] as const)
        if (!terminalAt(w, wire[end])) say(['wires', id, end], `There is no terminal ${wire[end]}.`)
      if (wire.from === wire.to) say(['wires', id, 'to'], 'Both ends of this wire are the same terminal.')
    }
  })

/** What is wrong with a part: its kind, its label data, its nameplate. */
export function partProblem(
  part: z.output<typeof Part>,
): { readonly path: readonly string[]; readonly message: string }[] {
  const kind = partKind(part.kind)
  if (!kind) return [{ path: ['kind'], message: `There is no part “${part.kind}”.` }]
  const out = Object.entries(part.settings).flatMap(([name, value]) => {
    const setting = kind.settings.find((s) => s.name === name)
    const message = setting ? settingProblem(setting, value) : `A ${kind.title} has no ${name}.`
    return message ? [{ path: ['settings', name], message }] : []
  })
  if (out.length > 0 || !part.nameplate) return out
  const terminals = kind.terminals(valuesOf(kind.settings, part.settings)).map((t) => t.id)
  return Object.keys(part.nameplate.printed)
    .filter((t) => !terminals.includes(t))
    .map((t) => ({ path: ['printed', t], message: `A ${kind.title} has no terminal ${t}.` }))
}
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
  const { nameplate, place } = part
  const terminals = kind.terminals(s)
  return {
    id,
    kind:
      nameplate || place
        ? {
            ...kind,
            ...(nameplate ? { title: nameplate.title } : {}),
            ...(place ? { placeOf: () => place } : {}),
          }
        : kind,
    s,
    terminals: nameplate
      ? terminals.map((t) => ({ ...t, label: nameplate.printed[t.id] ?? t.label }))
      : terminals,
  }
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

/** The wiring with a part under another name, its wires with it; or why not. */
export function withName(w: Wiring, id: string, name: string): Wiring | Refused {
  if (name === id) return w
  if (!PART_ID.test(name))
    return refused('A part’s name is up to 24 letters, digits, - and _, a letter first.')
  if (Object.hasOwn(w.parts, name)) return refused(`There is a ${name} already.`)
  const at = (end: string) => (partOf(end) === id ? address(name, terminalOf(end)) : end)
  return {
    ...w,
    parts: Object.fromEntries(Object.entries(w.parts).map(([p, part]) => [p === id ? name : p, part])),
    wires: Object.fromEntries(
      Object.entries(w.wires).map(([wire, x]) => [wire, { ...x, from: at(x.from), to: at(x.to) }]),
    ),
  }
}
/** The wiring with a part once more, nothing landed on it. @returns the wiring and the new name */
export function withCopy(w: Wiring, id: string): { readonly wiring: Wiring; readonly name: string } | null {
  const part = w.parts[id]
  if (!part) return null
  const [, prefix = id, number = ''] = /^(.*?)-?(\d*)$/.exec(id) ?? []
  const name = freeName(w.parts, prefix, number)
  return { wiring: { ...w, parts: { ...w.parts, [name]: part } }, name }
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
