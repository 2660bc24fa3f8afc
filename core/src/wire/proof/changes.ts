import {
  address,
  knownParts,
  sayTerminal,
  terminalAt,
  withoutWire,
  withSetting,
  withWire,
  type KnownPart,
  type Wiring,
} from '../../part/wiring.ts'
import { connect } from '../connect/index.ts'
import type { Relays } from '../../signal/relay-plan.ts'
import { netsOf } from './nets.ts'
import { partChanges, sayTooMany } from './part-changes.ts'

/** One thing that somebody can have done wrong, as what would put it right. */
export interface Change {
  readonly kind: 'meter' | 'takeOut' | 'part' | 'exchange' | 'move' | 'add' | 'set'
  /** What is wrong now, in a sentence. */
  readonly says: string
  /** What is to be done, short enough for a button. */
  readonly act: string
  readonly wire?: string
  readonly part?: string
  readonly terminals: readonly string[]
  readonly wiring: Wiring
  /** How likely it is among its kind; lower is tried first. */
  readonly rank: number
}

const relanded = (w: Wiring, at: (terminal: string) => string): Wiring => ({
  ...w,
  wires: Object.fromEntries(
    Object.entries(w.wires).map(([id, x]) => [id, { ...x, from: at(x.from), to: at(x.to) }]),
  ),
})
const isMains = (w: Wiring, at: string) => ['L', 'N', 'PE'].includes(terminalAt(w, at)?.role ?? '')
/** Mains and signal are never proposed to be joined. */
const mayJoin = (w: Wiring, a: string, b: string): boolean => {
  const [x, y] = [terminalAt(w, a)?.role, terminalAt(w, b)?.role]
  return isMains(w, a) || isMains(w, b) ? x === y : true
}
const terminalsOf = (p: KnownPart) => p.terminals.map((t) => address(p.id, t.id))

function takeOuts(w: Wiring, parts: readonly KnownPart[]): Change[] {
  return Object.entries(w.wires).map(([wire, x]) => ({
    kind: 'takeOut',
    says: sayTooMany(w, parts, wire),
    act: `Take wire ${wire} out`,
    wire,
    terminals: [x.from, x.to],
    wiring: withoutWire(w, wire),
    rank: 0,
  }))
}

/** Two terminals of one part exchanged, with everything that lands there. */
function exchanges(w: Wiring, parts: readonly KnownPart[]): Change[] {
  const landing = new Map<string, [wire: string, other: string][]>()
  for (const [id, x] of Object.entries(w.wires)) {
    landing.set(x.from, [...(landing.get(x.from) ?? []), [id, x.to]])
    landing.set(x.to, [...(landing.get(x.to) ?? []), [id, x.from]])
  }
  return parts.flatMap((p) => {
    const all = terminalsOf(p).filter((t) => landing.has(t))
    return all.flatMap((a, i) =>
      all.slice(i + 1).map((b): Change => {
        const [here, there] = [landing.get(a) ?? [], landing.get(b) ?? []]
        const place = `at ${sayTerminal(w, a)} and ${sayTerminal(w, b)}`
        // One wire each: the same two are exchanged at their other ends as well.
        const pair = here.length === 1 && there.length === 1 ? [here[0], there[0]] : []
        const [one, two] = [...pair].sort((x, y) => Number(x?.[0]) - Number(y?.[0]))
        return {
          kind: 'exchange',
          says:
            one && two
              ? `Wires ${one[0]} and ${two[0]} are exchanged, ${place}.`
              : `The wires ${place} are exchanged.`,
          act: `Exchange the wires ${place}`,
          part: p.id,
          terminals: [a, b, ...pair.flatMap((x) => (x ? [x[1]] : []))],
          wiring: relanded(w, (t) => (t === a ? b : t === b ? a : t)),
          rank: 0,
        }
      }),
    )
  })
}

/** One end of one wire on another terminal of the same part. */
function moves(w: Wiring, parts: readonly KnownPart[]): Change[] {
  const wired = new Set(Object.values(w.wires).flatMap((x) => [x.from, x.to]))
  return Object.entries(w.wires).flatMap(([wire, x]) =>
    (['from', 'to'] as const).flatMap((end) => {
      const other = end === 'from' ? x.to : x.from
      const part = parts.find((p) => x[end].startsWith(`${p.id}:`))
      return (part ? terminalsOf(part) : [])
        .filter((t) => t !== x[end] && t !== other && mayJoin(w, t, other))
        .map((t): Change => ({
          kind: 'move',
          says: `Wire ${wire} stands at ${sayTerminal(w, x[end])} and belongs to ${sayTerminal(w, t)}.`,
          act: `Move wire ${wire} to ${sayTerminal(w, t)}`,
          wire,
          ...(part ? { part: part.id } : {}),
          terminals: [x[end], t],
          wiring: { ...w, wires: { ...w.wires, [wire]: { ...x, [end]: t } } },
          rank: wired.has(t) ? 1 : 0,
        }))
    }),
  )
}

/** A wire that is missing: between two terminals of which one at least is free, or which these parts usually have. */
function additions(w: Wiring, parts: readonly KnownPart[], reference: ReadonlySet<string> | null): Change[] {
  const wired = new Set(Object.values(w.wires).flatMap((x) => [x.from, x.to]))
  const net = netsOf(w, parts)
  const all = parts.filter((p) => p.kind.duty !== 'meter').flatMap(terminalsOf)
  return all.flatMap((a, i) =>
    all.slice(i + 1).flatMap((b): Change[] => {
      const free = [a, b].filter((t) => !wired.has(t)).length
      if ((free === 0 && reference?.has(joinOf(a, b)) !== true) || net(a) === net(b) || !mayJoin(w, a, b))
        return []
      // A core whose other end is landed waits for its wire.
      const waits = [a, b].filter(
        (t) => !wired.has(t) && all.some((o) => o !== t && net(o) === net(t)),
      ).length
      return [
        {
          kind: 'add',
          says: `Between ${sayTerminal(w, a)} and ${sayTerminal(w, b)} a wire is missing or open.`,
          act: `Join ${sayTerminal(w, a)} and ${sayTerminal(w, b)}`,
          terminals: [a, b],
          wiring: withWire(w, a, b),
          rank: 4 - 2 * waits - free,
        },
      ]
    }),
  )
}

/** Settings that are made at the part, by hand; what is printed on its label cannot have been set wrongly. */
const BY_HAND = ['jumper', 'feeds', 'used', 'mode', 'closes', 'inverts', 'ends']
function settings(w: Wiring, parts: readonly KnownPart[]): Change[] {
  return parts.flatMap((p) => {
    const set = (name: string, value: number | string | boolean, title: string, says: string): Change => ({
      kind: 'set',
      says: `${p.id}: ${title} ${says}.`,
      act: `Set it at ${p.id}`,
      part: p.id,
      terminals: [],
      wiring: withSetting(w, p.id, name, value),
      rank: 0,
    })
    const out = p.kind.settings.flatMap((s): Change[] => {
      if (!BY_HAND.includes(s.name)) return []
      const now = p.s[s.name]
      if (s.kind === 'flag')
        return [
          set(
            s.name,
            now !== true,
            `“${s.title}”`,
            now === true ? 'is set and must not be' : 'is not set and must be',
          ),
        ]
      if (s.kind === 'choice')
        return s.options
          .filter((o) => o.value !== now)
          .map((o) => set(s.name, o.value, `“${s.title}”`, `must be “${o.title}”`))
      if (s.name === 'used')
        return [set(s.name, now === 1 ? 2 : 1, 'the channel', `in use must be ${now === 1 ? 2 : 1}`)]
      return []
    })
    const [fitted, scaled] = [p.s['shunt_ohm'], p.s['scaled_ohm']]
    if (typeof fitted === 'number' && typeof scaled === 'number' && fitted !== scaled)
      out.push(
        set('shunt_ohm', scaled, 'the resistor', `fitted is ${fitted} Ω and it is scaled for ${scaled} Ω`),
      )
    return out
  })
}

const joinOf = (a: string, b: string) => (a < b ? `${a} ${b}` : `${b} ${a}`)
const joinsOf = (w: Wiring): ReadonlySet<string> =>
  new Set(Object.values(w.wires).map((x) => joinOf(x.from, x.to)))
/** How many joins one has and the other has not. */
function difference(a: ReadonlySet<string>, b: ReadonlySet<string>): number {
  let shared = 0
  for (const join of a) if (b.has(join)) shared++
  return a.size + b.size - 2 * shared
}
/** The wiring that these parts usually get; null where there is none. */
function usual(w: Wiring, relays: Relays | null): ReadonlySet<string> | null {
  const c = connect(w, relays)
  return c.kind === 'wired' ? joinsOf(c.wiring) : null
}

/** Whether it is wired as these parts usually are. */
export function isUsual(w: Wiring, relays: Relays | null): boolean {
  const reference = usual(w, relays)
  return reference !== null && difference(joinsOf(w), reference) === 0
}

/**
 * Every single thing that could be put right, the most telling first: what leads to the wiring that these parts
 * usually get, then what asks for the least. Two cores that are exchanged look the same at either end of a cable;
 * only what is usual tells which end was landed wrongly.
 */
export function singleChanges(w: Wiring, relays: Relays | null = null): Change[] {
  const parts = knownParts(w)
  const now = joinsOf(w)
  const reference = usual(w, relays)
  const far = (c: Change): number => {
    // A meter only visits: what its leads do is looked at before the plant's own wires.
    if (c.kind === 'meter') return -1
    const other = c.kind === 'set' || c.kind === 'part' ? usual(c.wiring, relays) : reference
    return other ? difference(c.kind === 'set' ? now : joinsOf(c.wiring), other) : now.size
  }
  return [
    ...takeOuts(w, parts),
    ...partChanges(w, parts),
    ...exchanges(w, parts),
    ...moves(w, parts),
    ...additions(w, parts, reference),
    ...settings(w, parts),
  ]
    .map((c, i) => ({ c, far: far(c), i }))
    .sort(
      (a, b) =>
        a.far - b.far ||
        KINDS.indexOf(a.c.kind) - KINDS.indexOf(b.c.kind) ||
        a.c.rank - b.c.rank ||
        a.i - b.i,
    )
    .map((x) => x.c)
}
const KINDS: readonly Change['kind'][] = ['meter', 'takeOut', 'part', 'exchange', 'move', 'add', 'set']
