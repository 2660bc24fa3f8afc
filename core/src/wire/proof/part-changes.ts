import {
  address,
  partOf,
  sayTerminal,
  withoutPart,
  withoutWire,
  withSetting,
  withWire,
  type KnownPart,
  type Wiring,
} from '../../part/wiring.ts'
import type { Change } from './changes.ts'
import { netsOf } from './nets.ts'

/** What can stand beside a part or in its way, and what it would stand beside. */
const STRAY = ['loose', 'receiver', 'inLoop', 'load']
const BESIDE = ['receiver', 'transmitter', 'inLoop', 'input', 'load']

/** The wired terminals of a part that has two, in their order. */
function twoEnds(p: KnownPart, wired: ReadonlySet<string>): readonly [string, string] | null {
  const [a, b, ...more] = p.terminals.map((t) => address(p.id, t.id)).filter((t) => wired.has(t))
  return a !== undefined && b !== undefined && more.length === 0 ? [a, b] : null
}

/** A meter whose lead is in the wrong jack: in the way of the current, or a short circuit across something. */
function meters(w: Wiring, parts: readonly KnownPart[], wired: ReadonlySet<string>): Change[] {
  return parts.flatMap((p): Change[] => {
    const told = p.kind.meter?.(p.s)
    const ends = twoEnds(p, wired)
    if (!told || !ends) return []
    const set = (jack: string, dial: string, says: string, act: string): Change => ({
      kind: 'meter',
      says,
      act,
      part: p.id,
      terminals: ends,
      wiring: withSetting(withSetting(w, p.id, 'jack', jack), p.id, 'dial', dial),
      rank: 0,
    })
    if (told.jack === 'V')
      return [
        set(
          'mA',
          'mA',
          `${p.id} stands in the V jack and breaks the loop: a current goes through the mA jack only.`,
          `Red lead of ${p.id} to mA, dial at mA DC, with the power off`,
        ),
      ]
    const across = ends.map((end) => otherEnd(w, end)).filter((x) => x !== null)
    return [
      set(
        'V',
        'V',
        `${p.id} stands in the ${told.jack} jack across ${across.map((x) => sayTerminal(w, x)).join(' and ')}: there it is a short circuit.`,
        `Red lead of ${p.id} to V, dial at V DC, with the power off`,
      ),
    ]
  })
}
const isJoined = (w: Wiring, a: string, b: string): boolean =>
  Object.values(w.wires).some((x) => (x.from === a && x.to === b) || (x.from === b && x.to === a))
/** Where the one wire of a terminal leads; null where there is none or more. */
function otherEnd(w: Wiring, at: string): string | null {
  const [x, ...more] = Object.values(w.wires).filter((wire) => wire.from === at || wire.to === at)
  return x && more.length === 0 ? (x.from === at ? x.to : x.from) : null
}

/** A part that stands beside another one and takes a part of its current. */
function beside(w: Wiring, parts: readonly KnownPart[], wired: ReadonlySet<string>): Change[] {
  const net = netsOf(w, parts)
  return parts.flatMap((p): Change[] => {
    const ends = twoEnds(p, wired)
    if (!ends || !STRAY.includes(p.kind.duty)) return []
    const nets = ends.map(net)
    return parts.flatMap((q): Change[] => {
      if (q.id === p.id || !BESIDE.includes(q.kind.duty)) return []
      const shared = q.terminals.map((t) => address(q.id, t.id)).filter((t) => nets.includes(net(t)))
      if (new Set(shared.map(net)).size !== 2) return []
      const place = shared.map((t) => sayTerminal(w, t)).join(' and ')
      if (p.kind.duty === 'receiver' && q.kind.duty === 'receiver') {
        // Told once, from the one that stands later in the wiring: it is the newcomer.
        if (parts.indexOf(p) < parts.indexOf(q)) return []
        return inSeries(w, p, q, ends, net)
      }
      return [
        {
          kind: 'part',
          says:
            p.kind.duty === 'loose'
              ? `A second load, ${p.id} (${p.kind.label(p.s)}), stands beside ${q.id} at ${place} and takes a part of its current.`
              : `${p.id} stands beside ${q.id} at ${place} and takes a part of its current.`,
          act: `Take ${p.id} out`,
          part: p.id,
          terminals: [...ends],
          wiring: withoutPart(w, p.id),
          // Told at the part whose terminals it is really landed on.
          rank: shared.filter((t) => !ends.some((end) => isJoined(w, t, end))).length,
        },
      ]
    })
  })
}

/** Two receivers side by side: the newcomer goes into the way that leads away from the other one. */
function inSeries(
  w: Wiring,
  p: KnownPart,
  q: KnownPart,
  ends: readonly [string, string],
  net: (at: string) => string,
): Change[] {
  const own = (wire: { from: string; to: string }) => partOf(wire.from) === p.id || partOf(wire.to) === p.id
  const [plus, minus] = ends
  const leaves = q.terminals.map((t) => address(q.id, t.id)).find((t) => net(t) === net(minus))
  if (leaves === undefined) return []
  const wires = Object.fromEntries(
    Object.entries(w.wires)
      .filter(([, x]) => !own(x))
      .map(([id, x]) => [
        id,
        { ...x, from: x.from === leaves ? minus : x.from, to: x.to === leaves ? minus : x.to },
      ]),
  )
  return [
    {
      kind: 'part',
      says: `${q.id} and ${p.id} stand side by side: each reads a part of the current only. One behind the other, both read all of it.`,
      act: `Put ${p.id} behind ${q.id}`,
      part: p.id,
      terminals: [...ends],
      wiring: withWire({ ...w, wires }, leaves, plus),
      rank: 0,
    },
  ]
}

/** A load that stands in the way and leaves too little, or nothing. */
function inTheWay(w: Wiring, parts: readonly KnownPart[], wired: ReadonlySet<string>): Change[] {
  return parts.flatMap((p): Change[] => {
    const ends = twoEnds(p, wired)
    if (!ends || !['loose', 'load'].includes(p.kind.duty)) return []
    const [a, b] = [otherEnd(w, ends[0]), otherEnd(w, ends[1])]
    if (a === null || b === null || partOf(a) === p.id) return []
    return [
      {
        kind: 'part',
        says: `A second load, ${p.id} (${p.kind.label(p.s)}), stands in the loop between ${sayTerminal(w, a)} and ${sayTerminal(w, b)}.`,
        act: `Take ${p.id} out and join the two`,
        part: p.id,
        terminals: [...ends],
        wiring: withWire(withoutPart(w, p.id), a, b),
        rank: 1,
      },
    ]
  })
}

/** What is wrong with where a whole part stands: a meter, a second load beside or in the way. */
export function partChanges(w: Wiring, parts: readonly KnownPart[]): Change[] {
  const wired = new Set(Object.values(w.wires).flatMap((x) => [x.from, x.to]))
  return [...meters(w, parts, wired), ...beside(w, parts, wired), ...inTheWay(w, parts, wired)]
}

/** How a wire that is one too many is told: what it leads past, or to earth. */
export function sayTooMany(w: Wiring, parts: readonly KnownPart[], id: string): string {
  const wire = w.wires[id]
  if (!wire) return ''
  const ends = [wire.from, wire.to]
  const place = `from ${sayTerminal(w, wire.from)} to ${sayTerminal(w, wire.to)}`
  const isEarth = ends.map((t) =>
    parts.some((p) => p.terminals.some((x) => address(p.id, x.id) === t && x.role === 'PE')),
  )
  if (isEarth[0] !== isEarth[1])
    return `Wire ${id} ${place} is one too many: the current returns over earth as well.`
  const net = netsOf(withoutWire(w, id), parts)
  const past = parts.find((p) => {
    const all = p.terminals.map((t) => address(p.id, t.id))
    return ends.every((e) => all.some((t) => net(t) === net(e))) && net(wire.from) !== net(wire.to)
  })
  return past
    ? `Wire ${id} ${place} is one too many: it leads past ${past.id}.`
    : `Wire ${id} ${place} is one too many.`
}
