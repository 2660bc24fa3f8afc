import { sayNumber } from '../../quantity/round.ts'
import { ownerOf } from '../../part/energise.ts'
import { address, type KnownPart } from '../../part/wiring.ts'
import { REST_V } from '../../part/kinds/serial-line.ts'
import type { Proving, Rule } from './rule.ts'
import { numberOf } from '../connect/builder.ts'
import { askedOf_mA, type SolvedState } from './states.ts'

/** What counts as the same current, A. */
const SAME_A = 2e-5
/** What counts as no current, A. */
const NONE_A = 1e-4

const value = (s: SolvedState, name: string): number | null => {
  const v = s.e.values[name]
  return typeof v === 'number' ? v : null
}
const sayAmps = (i: number | null) => (i === null ? 'nothing' : `${sayNumber(i * 1000, 4)} mA`)
const close = (i: number | null, asked_mA: number) => i !== null && Math.abs(i - asked_mA / 1000) <= SAME_A

/** A current that leaves the transmitter, or is let through by it, in the direction that it has to. */
function sender(p: KnownPart): { readonly name: string; readonly sign: 1 | -1 } {
  const at = p.kind.sendsAt ?? 'plus'
  return {
    name: `I(${p.id}.${at})`,
    sign: p.kind.wiredAs === 'twoWire' || p.kind.wiredAs === 'passive' ? 1 : -1,
  }
}

/** A loop of 4 to 20 mA: what is sent, what every receiver reads, what stands in the way. */
export function loopRules({ w, parts, nets }: Proving): Rule[] {
  const wires = Object.entries(w.wires)
  const into = (s: SolvedState, at: string): number =>
    wires.reduce(
      (sum, [id, x]) => sum + (x.to === at ? 1 : x.from === at ? -1 : 0) * (s.e.wire_A(id) ?? 0),
      0,
    )
  const isUsed = (p: KnownPart) =>
    p.kind.duty !== 'controller' || ['plus', 'minus'].some((t) => isLanded(address(p.id, t)))
  const isLanded = (at: string) => wires.some(([, x]) => x.from === at || x.to === at)
  const controllers = parts.filter((p) => p.kind.duty === 'controller')
  const fieldSenders = parts.filter((p) => p.kind.duty === 'transmitter' && p.kind.wiredAs !== 'serial')
  // A controller hands on what it takes in.
  const senders = [...fieldSenders, ...controllers.filter(isUsed)]
  if (senders.length === 0 && controllers.length === 0) return []
  /** What is to flow at a part, mA: of the sender of its number, where there are several, else of any. */
  const meantAt = (s: SolvedState, p: KnownPart): number[] => {
    if (s.asked_mA === null) return []
    const mine = fieldSenders.filter((q) => numberOf(q.id) !== '' && numberOf(q.id) === numberOf(p.id))
    const from = mine.length === 1 ? mine : fieldSenders
    return from.length === 0 ? [s.asked_mA] : from.flatMap((q) => askedOf_mA(s, q.id) ?? [])
  }
  const right = (s: SolvedState, p: KnownPart, i: number | null) => meantAt(s, p).some((mA) => close(i, mA))
  const out: Rule[] = senders.map((p) => {
    const { name, sign } = sender(p)
    const read = (s: SolvedState) => {
      const i = value(s, name)
      return i === null ? null : sign * i
    }
    return {
      part: p.id,
      code: 'SENDS',
      weight: 'stop',
      at: [address(p.id, p.kind.sendsAt ?? 'plus'), address(p.id, 'minus')],
      says: `${p.id} sends the current that it is asked for`,
      holds: (s) => right(s, p, read(s)),
      instead: (s) => sayAmps(read(s)),
    }
  })
  for (const p of parts) {
    const reads = p.kind.receives?.(p.s)
    if (reads) {
      const mine = (s: SolvedState): [string, number][] =>
        Object.entries(s.e.values).flatMap(([name, v]) => {
          const element = /^shown\((.+)\)$/.exec(name)?.[1]
          return element !== undefined && ownerOf(element) === p.id && typeof v === 'number'
            ? [[element, v] as [string, number]]
            : []
        })
      const isMine = (element: string) =>
        reads.channel === null || !element.includes('~') || element.endsWith(`~${reads.channel}`)
      out.push({
        part: p.id,
        code: 'READS',
        weight: 'stop',
        at: [address(p.id, reads.into), address(p.id, reads.out)],
        says: `${p.id}${reads.channel === null ? '' : ` channel ${reads.channel}`} reads the current that is sent`,
        holds: (s) =>
          mine(s).some(([el]) => isMine(el)) &&
          mine(s).every(([el, v]) => (isMine(el) ? right(s, p, v) : Math.abs(v) < NONE_A)),
        instead: (s) => sayAmps(mine(s).find(([el]) => isMine(el))?.[1] ?? null),
      })
    }
    if (p.kind.duty === 'inLoop')
      out.push({
        part: p.id,
        code: 'SHOWS',
        weight: 'stop',
        at: [address(p.id, 'plus'), address(p.id, 'minus')],
        says: `${p.id} carries the loop’s current, in at +`,
        holds: (s) => right(s, p, value(s, `I(${p.id}.plus)`)),
        instead: (s) => sayAmps(value(s, `I(${p.id}.plus)`)),
      })
    if (p.kind.duty === 'repeater' && p.terminals.some((t) => t.id === 'op')) {
      out.push({
        part: p.id,
        code: 'REPEATS',
        weight: 'stop',
        at: ['fp', 'fn', 'op', 'on'].map((t) => address(p.id, t)),
        says: `${p.id} takes the field’s current in and hands the same on`,
        holds: (s) =>
          right(s, p, value(s, `I(${p.id}.fn)`)) && right(s, p, -(value(s, `I(${p.id}.op)`) ?? 0)),
      })
    }
    if (p.kind.duty === 'repeater') out.push(isolates(p, nets()))
    if ((p.kind.ownFeed?.(p.s) ?? 'none') !== 'none') {
      const own = ['auxP', 'auxN'].map((t) => address(p.id, t))
      const net = nets()
      const isUsed = own.some((t) => wires.some(([, x]) => x.from === t || x.to === t))
      const isElsewhere = own.some((t) => ['V+', 'V-'].some((v) => net(t) === net(address(p.id, v))))
      out.push({
        part: p.id,
        code: 'OWN_FEED',
        weight: 'stop',
        at: own,
        says: `the 24 V of ${p.id} feeds its own output, or is left free`,
        holdsAcross: () =>
          !isUsed || (!isElsewhere && net(address(p.id, 'auxP')) === net(address(p.id, 'plus'))),
      })
    }
    if (p.kind.guards === true)
      out.push({
        part: p.id,
        code: 'GUARDS',
        weight: 'stop',
        at: p.terminals.map((t) => address(p.id, t.id)),
        says: `the loop’s current goes through both legs of ${p.id}, and nothing goes past it`,
        holds: (s) => {
          if (s.asked_mA === null) return null
          const net = nets(p.id)
          const apart = (p.kind.lanes?.(p.s) ?? []).every(
            ([a, b]) => net(address(p.id, a)) !== net(address(p.id, b)),
          )
          // What the wires bring to a terminal goes through the leg behind it.
          return apart && p.terminals.every((t) => right(s, p, Math.abs(into(s, address(p.id, t.id)))))
        },
      })
    if (p.kind.duty === 'feed')
      out.push({
        part: p.id,
        code: 'FUSED',
        weight: 'stop',
        at: p.terminals.map((t) => address(p.id, t.id)),
        says: `everything that the loop takes goes through ${p.id}`,
        holds: (s) =>
          s.asked_mA === null
            ? null
            : Math.abs(value(s, `I(${p.id}.a)`) ?? 0) >= Math.min(...meantAt(s, p)) / 1000 - SAME_A &&
              nets(p.id)(address(p.id, 'a')) !== nets(p.id)(address(p.id, 'b')),
      })
  }
  return out
}

/** What stands between two circuits keeps them apart. */
function isolates(p: KnownPart, net: (at: string) => string): Rule {
  const side = (s: 'left' | 'right') =>
    p.terminals.filter((t) => t.side === s).map((t) => net(address(p.id, t.id)))
  return {
    part: p.id,
    code: 'ISOLATES',
    weight: 'stop',
    at: p.terminals.map((t) => address(p.id, t.id)),
    says: `nothing joins the two sides of ${p.id}`,
    holdsAcross: () => side('left').every((n) => !side('right').includes(n)),
  }
}

/** A serial line: at rest, and with its sign, at both ends. */
export function lineRules({ parts, nets }: Proving): Rule[] {
  const hasLine = (p: KnownPart) => p.terminals.some((t) => t.role === 'A')
  const station = parts.filter((p) => p.kind.line === 'station')
  const master = parts.filter((p) => p.kind.line === 'master' && hasLine(p))
  if (master.length === 0) return []
  const net = nets()
  const others = parts.flatMap((p) =>
    p.terminals.filter((t) => !['A', 'B', 'through'].includes(t.role)).map((t) => net(address(p.id, t.id))),
  )
  const alone = [...station, ...master].map((p): Rule => ({
    part: p.id,
    code: 'LINE_ALONE',
    weight: 'stop',
    at: [address(p.id, 'A'), address(p.id, 'B')],
    says: `A and B of ${p.id} are joined to the line only`,
    holdsAcross: () => ['A', 'B'].every((t) => !others.includes(net(address(p.id, t)))),
  }))
  const rests = [...station, ...master].map((p): Rule => {
    const rest = (s: SolvedState) =>
      (s.e.volts(address(p.id, 'A')) ?? NaN) - (s.e.volts(address(p.id, 'B')) ?? NaN)
    return {
      part: p.id,
      code: 'LINE_RESTS',
      weight: 'stop',
      at: [address(p.id, 'A'), address(p.id, 'B')],
      says: `the line rests at ${p.id} with A above B`,
      holds: (s) => rest(s) >= REST_V,
      instead: (s) => `${sayNumber(rest(s), 3)} V from A to B`,
    }
  })
  return [...rests, ...alone]
}
