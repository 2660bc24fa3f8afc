import { numberOf } from './element.ts'
import { sayNumber } from '../quantity/round.ts'
import type { Branch } from './branch.ts'
import { across, nodeOf, operatingPoint, type Operating, type Part } from './circuit.ts'
import { senses } from './elements/discrete.ts'
import { Islands } from './islands.ts'
import { bitOf, fuseOf, inputReading, supplyVoltage } from './switching.ts'

export interface CircuitFinding {
  readonly code: string
  readonly element: string
  readonly says: string
}

const volts = (v: number) => `${sayNumber(v, 4)} V`
const milliamps = (a: number) => `${sayNumber(a * 1000, 4)} mA`

/** Main terminals of the devices that a loop's current must pass or come from. */
const LOOP_DEVICES: Readonly<Record<string, readonly [string, string]>> = {
  tx2: ['plus', 'minus'],
  tx4active: ['plus', 'minus'],
  tx4passive: ['plus', 'minus'],
  tx3: ['vp', 'vn'],
  sensor2: ['plus', 'minus'],
  sensor3: ['bn', 'bu'],
  namur: ['plus', 'minus'],
}
const NOTHING_A = 1e-5
const REVERSED_V = -0.5

/** Terminals of a device whose island lacks the 0 V reference once the device is taken out. */
export function deadTerminals(parts: readonly Part[], part: Part): string[] | null {
  const ends = LOOP_DEVICES[part.kind.type]
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

const forward: Readonly<Record<string, readonly [string, string]>> = {
  tx2: ['plus', 'minus'],
  tx4passive: ['plus', 'minus'],
  sensor2: ['plus', 'minus'],
  sensor3: ['bn', 'bu'],
  indicator: ['plus', 'minus'],
  led: ['a', 'k'],
}
function isReversed(at: Operating, part: Part): boolean {
  const ends = forward[part.kind.type]
  if (!ends) return false
  const bridged =
    (part.kind.type === 'tx2' && part.p['reverse'] === 'bridge') ||
    (part.kind.type === 'sensor2' && part.p['bridge'] === true)
  return !bridged && across(at, part, ends[0], ends[1]) < REVERSED_V
}

const TRANSMITTERS = ['tx2', 'tx4active', 'tx4passive', 'tx3']
/** Current of a transmitter's loop, A, always positive when it works. */
const loopCurrent = (at: Operating, part: Part): number =>
  Math.abs(at.current(part, part.kind.type === 'tx3' ? 'out' : 'plus'))

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
  if (off && part.kind.type === 'tx4active' && b.role === 'main') return []
  return [b]
}

const SMALLEST_SOURCE_V = 5
const MOVES_V = 1

/** Whether at least so many sources drive the loop of a device that has been taken out. */
function driven(parts: readonly Part[], device: Part, least: number): boolean {
  const isSource = (part: Part) =>
    part.kind.type === 'supply' ||
    (part.kind.type === 'vsource' && numberOf(part.p, 'v') >= SMALLEST_SOURCE_V) ||
    (part.kind.type === 'ai' && part.has('sup')) ||
    (part.kind.type === 'tx4passive' && part.has('auxP')) ||
    (part.kind.type === 'tx4active' && part !== device)
  // Supplies that are joined directly at both ends are one.
  const groups = new Map<string, Part[]>()
  for (const part of parts.filter(isSource)) {
    const key = part.kind.type === 'supply' ? `${nodeOf(part.e, 'p')}|${nodeOf(part.e, 'n')}` : part.e.id
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

function transmitterFindings(parts: readonly Part[], at: Operating, part: Part): CircuitFinding[] {
  const found = (code: string, says: string): CircuitFinding => ({ code, element: part.e.id, says })
  const out: CircuitFinding[] = []
  const set = numberOf(part.p, 'i')
  const i = loopCurrent(at, part)
  const ends = LOOP_DEVICES[part.kind.type] ?? ['plus', 'minus']
  const v = across(at, part, ends[0], ends[1])
  if (set > NOTHING_A && i < NOTHING_A && !isReversed(at, part)) {
    const overRange = parts.some(
      (r) =>
        (r.kind.type === 'receiver' || r.kind.type === 'ai') &&
        across(at, r, 'in', 'com') / numberOf(r.p, 'rNominal') > 0.0205,
    )
    out.push(
      found(
        'NO_LOOP_CURRENT',
        Math.abs(v) < 1 && overRange
          ? `The terminals of ${part.e.id} are shorted: ${volts(v)} across it while the receiver is over range.`
          : `No current at ${part.e.id}: no loop power, or the loop is open.`,
      ),
    )
  } else if (i >= NOTHING_A && i < 0.995 * set) {
    const need =
      part.kind.type === 'tx2' || part.kind.type === 'tx4passive'
        ? `; it needs ${volts(numberOf(part.p, 'vLift'))}`
        : ''
    out.push(
      found(
        'NOT_REGULATING',
        `Only ${volts(Math.abs(v))} at ${part.e.id}${need}: it passes ${milliamps(i)} instead of ${milliamps(set)}.`,
      ),
    )
  }
  if (part.kind.type !== 'tx3' && driven(parts, part, part.kind.type === 'tx4active' ? 1 : 2))
    out.push(found('DOUBLE_POWERED', `Two sources drive the loop of ${part.e.id}. Take one of them away.`))
  if ((part.kind.type === 'tx2' || part.kind.type === 'tx4passive') && v > numberOf(part.p, 'vMax'))
    out.push(
      found(
        'OVER_VOLTAGE',
        `${volts(v)} at ${part.e.id} is above its maximum of ${volts(numberOf(part.p, 'vMax'))}.`,
      ),
    )
  return out
}

function deviceFindings(at: Operating, part: Part): CircuitFinding[] {
  const found = (code: string, says: string): CircuitFinding => ({ code, element: part.e.id, says })
  const out: CircuitFinding[] = []
  const { p } = part
  const type = part.kind.type
  if (isReversed(at, part)) out.push(found('REVERSED', `Polarity reversed at ${part.e.id}.`))
  if (
    (type === 'receiver' || type === 'ai') &&
    Math.abs(at.current(part, 'in')) > numberOf(p, 'iMax') * (1 + 1e-6) &&
    type === 'receiver'
  )
    out.push(found('OVER_CURRENT', `Input ${part.e.id} is overloaded: ${milliamps(at.current(part, 'in'))}.`))
  if (
    type === 'ai' &&
    Math.abs(across(at, part, 'in', 'com') / Math.max(1e-6, numberOf(p, 'r'))) >
      numberOf(p, 'iMax') * (1 + 1e-6)
  )
    out.push(
      found(
        'OVER_CURRENT',
        `Input ${part.e.id} is overloaded: ${milliamps(across(at, part, 'in', 'com') / numberOf(p, 'r'))}.`,
      ),
    )
  const limit =
    type === 'supply' || type === 'isolator' || (type === 'ai' && part.has('sup'))
      ? numberOf(p, 'iLimit')
      : type === 'tx4passive' && part.has('auxP')
        ? numberOf(p, 'auxLimit')
        : null
  const delivered = at.through(part, 'feed') + at.through(part, 'aux')
  if (limit !== null && delivered > 0.98 * limit)
    out.push(found('SUPPLY_LIMIT', `Supply ${part.e.id} is in its current limit of ${milliamps(limit)}.`))
  const supply = supplyVoltage(at, part)
  if (supply !== null && !part.m.powered)
    out.push(
      found(
        'SUPPLY_RANGE',
        `Supply at ${part.e.id} is ${volts(supply)}; it needs ${volts(numberOf(p, 'vMin'))}.`,
      ),
    )
  else if (supply !== null && type === 'sensor3' && supply > numberOf(p, 'vMax'))
    out.push(
      found(
        'SUPPLY_RANGE',
        `Supply at ${part.e.id} is ${volts(supply)}; at most ${volts(numberOf(p, 'vMax'))}.`,
      ),
    )
  const fuse = fuseOf(part)
  if (fuse && part.m.blown.includes(fuse.name))
    out.push(
      found(
        'FUSE_BLOWN',
        type === 'dmm'
          ? `The ${fuse.name} fuse of meter ${part.e.id} has blown.`
          : `Fuse ${part.e.id} has blown.`,
      ),
    )
  if (type === 'dmm' && p['jack'] !== p['dial'])
    out.push(
      found(
        'METER_JACK',
        `Meter ${part.e.id}: the lead is in the ${p['jack']} jack and the dial stands at ${p['dial']}.`,
      ),
    )
  if (type === 'di' && bitOf(at, part) === 'undefined') {
    const { v, i } = inputReading(at, part)
    out.push(
      found(
        'INPUT_UNDEFINED',
        `Input ${part.e.id} sees neither a valid 0 nor a valid 1: ${volts(v)}, ${milliamps(i)}.`,
      ),
    )
  }
  if (
    type === 'sensor3' &&
    Math.max(Math.abs(at.current(part, 'bk')), part.has('wh') ? Math.abs(at.current(part, 'wh')) : 0) >
      numberOf(p, 'iMax')
  )
    out.push(
      found(
        'OUTPUT_OVERLOAD',
        `The load at ${part.e.id} is too heavy: ${milliamps(Math.abs(at.current(part, 'bk')))}. Use an interposing relay.`,
      ),
    )
  if (type === 'sensor2') {
    const i = Math.abs(at.current(part, 'plus'))
    if (i > numberOf(p, 'iMax'))
      out.push(
        found(
          'OUTPUT_OVERLOAD',
          `The load at ${part.e.id} is too heavy: ${milliamps(i)}. Use an interposing relay.`,
        ),
      )
    else if (senses(p) && i < numberOf(p, 'iMin'))
      out.push(
        found(
          'MIN_LOAD',
          `The load at ${part.e.id} is too light: ${milliamps(i)} of at least ${milliamps(numberOf(p, 'iMin'))}. Add a resistor in parallel with the input.`,
        ),
      )
  }
  return out
}

const SOURCE_NODES: Readonly<Record<string, readonly string[]>> = {
  supply: ['p'],
  vsource: ['p'],
  ai: ['sup'],
  tx4passive: ['auxP'],
  namurAmp: ['plus'],
  tx4active: ['plus'],
  isolator: ['fp'],
}

/** What is wrong in a solved circuit, each with the element and a sentence. */
export function circuitFindings(parts: readonly Part[], at: Operating, chatter: boolean): CircuitFinding[] {
  const out: CircuitFinding[] = []
  const islands = new Islands(parts)
  for (const part of parts) {
    for (const t of SOURCE_NODES[part.kind.type] ?? [])
      if (part.has(t) && !islands.grounded(nodeOf(part.e, t)))
        out.push({
          code: 'FLOATING',
          element: part.e.id,
          says: `The loop of ${part.e.id} is isolated from 0 V: voltages to 0 V mean nothing there, only differences do.`,
        })
    const dead = deadTerminals(parts, part)
    if (dead !== null && dead.length > 0)
      out.push({
        code: 'NO_RETURN_PATH',
        element: part.e.id,
        says: dead
          .map(
            (t) =>
              `No path back from terminal ${part.e.id}.${t} to 0 V${nearestOpen(parts, nodeOf(part.e, t))}.`,
          )
          .join(' '),
      })
    if (TRANSMITTERS.includes(part.kind.type)) out.push(...transmitterFindings(parts, at, part))
    out.push(...deviceFindings(at, part))
    if (chatter && part.kind.type === 'relay')
      out.push({
        code: 'RELAY_CHATTER',
        element: part.e.id,
        says: `Relay ${part.e.id} chatters: its own contact takes its coil away.`,
      })
  }
  return out
}
