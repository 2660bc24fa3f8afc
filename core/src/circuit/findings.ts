import { across, nodeOf, operatingPoint, solvedPart, type Operating, type Part } from './circuit.ts'
import type { Branch } from './branch.ts'
import type { Sending } from './element.ts'
import { Islands } from './islands.ts'
import { milliamps, volts } from './say.ts'

export interface CircuitFinding {
  readonly code: string
  readonly element: string
  readonly says: string
}

/** Above this a receiver is over its range, A. */
const OVER_RANGE_A = 0.0205
const NOTHING_A = 1e-5
const REVERSED_V = -0.5

/** Terminals of a device whose island lacks the 0 V reference once the device is taken out. */
export function deadTerminals(parts: readonly Part[], part: Part): string[] | null {
  const { ends } = part.kind
  if (!ends) return null
  const islands = new Islands(parts, part)
  const [a, b] = ends
  if (islands.together(nodeOf(part.e, a), nodeOf(part.e, b))) return []
  return ends.filter((t) => !islands.grounded(nodeOf(part.e, t)))
}

/** What is open next to a terminal: the nearest contact, fuse or meter that does not conduct. */
function nearestOpen(parts: readonly Part[], node: string): string {
  const touching = parts.find(
    (p) => Object.values(p.e.nodes).includes(node) && p.kind.conducts(p).length === 0,
  )
  return touching ? `; ${touching.e.id} is open there` : ''
}

const isReversed = (at: Operating, part: Part): boolean =>
  part.kind.oneWay !== undefined &&
  part.kind.bridged?.(part.p) !== true &&
  across(at, part, ...part.kind.oneWay) < REVERSED_V

/** Sources that can drive a loop; each becomes a plain voltage behind its resistance in the test. */
function asPlainSource(part: Part, b: Branch, off: boolean): Branch[] {
  if (b.law.kind === 'K' && (b.role === 'feed' || b.role === 'aux')) {
    const g = b.law.g0
    // b flows from the minus to the plus terminal: E behind rs as its Norton pair.
    return [
      { a: b.b, b: b.a, law: { kind: 'G', g } },
      ...(off ? [] : [{ a: b.a, b: b.b, law: { kind: 'I' as const, i: -b.law.v0 * g } }]),
    ]
  }
  if (off && b.law.kind === 'V') return [{ ...b, law: { kind: 'V', e: 0 } }]
  if (off && part.kind.active && b.role === 'main') return []
  return [b]
}

const MOVES_V = 1

/** Whether at least so many sources drive the loop of a device that has been taken out. */
function driven(parts: readonly Part[], device: Part, least: number): boolean {
  // Supplies that are joined directly at both ends are one.
  const groups = new Map<string, Part[]>()
  for (const part of parts) {
    const { drives, active, joined } = part.kind
    if (!drives?.(part) || (active && part === device)) continue
    const key = joined ? joined.map((t) => nodeOf(part.e, t)).join('|') : part.e.id
    groups.set(key, [...(groups.get(key) ?? []), part])
  }
  if (groups.size < least) return false
  const terminal = (off: ReadonlySet<Part>): number | null => {
    const solved = operatingPoint(parts, (part, branches) =>
      branches
        .filter((b) => part !== device || b.role === 'aux')
        .flatMap((b) => asPlainSource(part, b, off.has(part))),
    )
    return solved.kind === 'solved' ? across(solved.at, device, 'plus', 'minus') : null
  }
  const all = terminal(new Set())
  if (all === null) return false
  let moving = 0
  for (const group of groups.values()) {
    const without = terminal(new Set(group))
    if (without !== null && Math.abs(without - all) > MOVES_V) moving += 1
  }
  return moving >= least
}

function transmitterFindings(
  parts: readonly Part[],
  at: Operating,
  part: Part,
  { at: terminal, sets_A, needs_V, most_V, sources }: Sending,
): CircuitFinding[] {
  const found = (code: string, says: string): CircuitFinding => ({ code, element: part.e.id, says })
  const out: CircuitFinding[] = []
  const i = Math.abs(at.current(part, terminal))
  const v = across(at, part, ...(part.kind.ends ?? ['plus', 'minus']))
  if (sets_A > NOTHING_A && i < NOTHING_A && !isReversed(at, part)) {
    const overRange = parts.some((r) => (r.kind.shows_A?.(solvedPart(at, r)) ?? 0) > OVER_RANGE_A)
    out.push(
      found(
        'NO_LOOP_CURRENT',
        Math.abs(v) < 1 && overRange
          ? `The terminals of ${part.e.id} are shorted: ${volts(v)} across it while the receiver is over range.`
          : `No current at ${part.e.id}: no loop power, or the loop is open.`,
      ),
    )
  } else if (i >= NOTHING_A && i < 0.995 * sets_A)
    out.push(
      found(
        'NOT_REGULATING',
        `Only ${volts(Math.abs(v))} at ${part.e.id}${needs_V === undefined ? '' : `; it needs ${volts(needs_V)}`}: it passes ${milliamps(i)} instead of ${milliamps(sets_A)}.`,
      ),
    )
  if (sources !== null && driven(parts, part, sources))
    out.push(found('DOUBLE_POWERED', `Two sources drive the loop of ${part.e.id}. Remove one of them.`))
  if (most_V !== undefined && v > most_V)
    out.push(found('OVER_VOLTAGE', `${volts(v)} at ${part.e.id} is above its maximum of ${volts(most_V)}.`))
  return out
}

function deviceFindings(at: Operating, part: Part): CircuitFinding[] {
  const found = (code: string, says: string): CircuitFinding => ({ code, element: part.e.id, says })
  const out: CircuitFinding[] = []
  const { kind, p, m } = part
  const { id } = part.e
  if (isReversed(at, part)) out.push(found('REVERSED', `Polarity reversed at ${id}.`))
  const limit = kind.limit_A?.(part) ?? null
  const delivered = at.through(part, 'feed') + at.through(part, 'aux')
  if (limit !== null && delivered > 0.98 * limit)
    out.push(found('SUPPLY_LIMIT', `Supply ${id} is in its current limit of ${milliamps(limit)}.`))
  if (kind.supplied) {
    const supply = across(at, part, ...kind.supplied.at)
    const [least, most] = [kind.supplied.least_V(p), kind.supplied.most_V?.(p) ?? Infinity]
    if (!m.powered)
      out.push(found('SUPPLY_RANGE', `Supply at ${id} is ${volts(supply)}; it needs ${volts(least)}.`))
    else if (supply > most)
      out.push(found('SUPPLY_RANGE', `Supply at ${id} is ${volts(supply)}; at most ${volts(most)}.`))
  }
  const fuse = kind.fuse?.(part)
  if (fuse && m.blown.includes(fuse.name)) out.push(found('FUSE_BLOWN', `${id}: ${fuse.says}`))
  for (const told of kind.tells?.(solvedPart(at, part)) ?? []) out.push({ element: id, ...told })
  return out
}

/** Nodes of islands that have a source and no way to 0 V: only differences between them mean anything. */
export function floatingNodes(parts: readonly Part[]): ReadonlySet<string> {
  const islands = new Islands(parts)
  const fed = parts.flatMap((part) =>
    (part.kind.feeds ?? []).flatMap((t) => {
      const node = nodeOf(part.e, t)
      return part.has(t) && !islands.grounded(node) ? [node] : []
    }),
  )
  return new Set(
    parts
      .flatMap((p) => Object.values(p.e.nodes))
      .filter((node) => fed.some((f) => islands.together(f, node))),
  )
}

/** What is wrong in a solved circuit, each with the element and a sentence. */
export function circuitFindings(parts: readonly Part[], at: Operating, chatter: boolean): CircuitFinding[] {
  const out: CircuitFinding[] = []
  const islands = new Islands(parts)
  for (const part of parts) {
    const { kind } = part
    const { id: element } = part.e
    for (const t of kind.feeds ?? [])
      if (part.has(t) && !islands.grounded(nodeOf(part.e, t)))
        out.push({
          code: 'FLOATING',
          element,
          says: `The loop of ${element} is isolated from 0 V: voltages to 0 V mean nothing there, only differences do.`,
        })
    const dead = deadTerminals(parts, part)
    if (dead !== null && dead.length > 0)
      out.push({
        code: 'NO_RETURN_PATH',
        element,
        says: dead
          .map(
            (t) =>
              `No path back from terminal ${element}.${t} to 0 V${nearestOpen(parts, nodeOf(part.e, t))}.`,
          )
          .join(' '),
      })
    if (kind.sends) out.push(...transmitterFindings(parts, at, part, kind.sends(part.p)))
    out.push(...deviceFindings(at, part))
    if (chatter && kind.pulled)
      out.push({
        code: 'RELAY_CHATTER',
        element,
        says: `Relay ${element} chatters: its own contact interrupts its coil.`,
      })
  }
  return out
}
