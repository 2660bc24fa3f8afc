import { address, knownParts, withoutWire, withWire, type Wiring } from '../../../part/wiring.ts'
import type { Change } from '../changes.ts'
import { netsOf } from '../nets.ts'

/** One thing done wrong on a correct wiring, and who is to be named for it. */
export interface Mistake {
  readonly title: string
  readonly wiring: Wiring
  readonly isNamed: (c: Change) => boolean
}

const relanded = (w: Wiring, at: (t: string) => string): Wiring => ({
  ...w,
  wires: Object.fromEntries(
    Object.entries(w.wires).map(([id, x]) => [id, { ...x, from: at(x.from), to: at(x.to) }]),
  ),
})
const touches =
  (...named: string[]) =>
  (c: Change) =>
    named.some((n) => c.wire === n || c.terminals.includes(n))

/** Every wire open, every end on another terminal of its part, every two terminals exchanged or joined. */
export function mistakesOn(w: Wiring): Mistake[] {
  const parts = knownParts(w)
  const out: Mistake[] = []
  for (const [id, x] of Object.entries(w.wires)) {
    const open = withoutWire(w, id)
    const net = netsOf(open, knownParts(open))
    out.push({
      title: `wire ${id} open`,
      wiring: open,
      isNamed: (c) =>
        c.kind === 'add' && [x.from, x.to].every((end) => c.terminals.some((t) => net(t) === net(end))),
    })
    for (const end of ['from', 'to'] as const) {
      const part = parts.find((p) => x[end].startsWith(`${p.id}:`))
      const other = end === 'from' ? x.to : x.from
      for (const t of part?.terminals.map((y) => address(part.id, y.id)) ?? [])
        if (t !== x[end] && t !== other)
          out.push({
            title: `wire ${id} at ${t} for ${x[end]}`,
            wiring: { ...w, wires: { ...w.wires, [id]: { ...x, [end]: t } } },
            isNamed: touches(id, x[end], t),
          })
    }
  }
  for (const p of parts) {
    const all = p.terminals.map((t) => address(p.id, t.id))
    for (const [i, a] of all.entries())
      for (const b of all.slice(i + 1)) {
        out.push({
          title: `${a} and ${b} exchanged`,
          wiring: relanded(w, (t) => (t === a ? b : t === b ? a : t)),
          isNamed: (c) => touches(a, b)(c) || c.part === p.id,
        })
        out.push({ title: `${a} joined to ${b}`, wiring: withWire(w, a, b), isNamed: touches(a, b) })
      }
  }
  return out
}
