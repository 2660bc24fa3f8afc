import type { Senses } from '../../family/family.ts'
import { measures } from '../../signal/current-range.ts'
import { pointsOf, currentFor_mA, type Relays } from '../../signal/relay-plan.ts'
import { sayNumber } from '../../quantity/round.ts'
import { printedUnit } from '../../quantity/units.ts'
import { energise, type BenchState, type Energised } from '../../part/energise.ts'
import type { KnownPart, Wiring } from '../../part/wiring.ts'

/** One state that a wiring has to do its work in, solved. */
export interface SolvedState {
  readonly title: string
  readonly bench: BenchState
  readonly e: Energised
  /** The current that is asked of the transmitters, mA; null where none is in the field. */
  readonly asked_mA: number | null
}
/** What one sender is asked for, mA. */
export const askedOf_mA = (s: SolvedState, sender: string): number | null =>
  s.asked_mA === null ? null : (s.bench.currents?.[sender] ?? s.asked_mA)

/** What the loop says of itself, against which its wiring is held. */
export interface Meant {
  /** What its signal means; null where nobody said: then the sensor's label decides. */
  readonly senses: Senses | null
  /** What acts on its value; null where nothing can. */
  readonly relays: Relays | null
  /** Whether its display is to be lit, by the set-up. */
  readonly lit?: boolean
}
export const NOTHING_MEANT: Meant = { senses: null, relays: null }

export interface JudgedState {
  readonly title: string
  readonly bench: BenchState
  readonly asked_mA: number | null
}

/** The range, and what a transmitter sends when it has failed. @see NAMUR NE 43 */
const CURRENTS: readonly [mA: number, title: string][] = [
  [12, '12 mA'],
  [4, '4 mA'],
  [20, '20 mA'],
  [3.6, '3.6 mA, failed low'],
  [21, '21 mA, failed high'],
]
export const MOST_SENSORS = 6

export const sensorsOf = (parts: readonly KnownPart[]): KnownPart[] =>
  parts.filter((p) => p.kind.actuate !== undefined)

/** Whether a process value is in the field: as a current, or on a line. */
const sendsValue = (p: KnownPart) => p.kind.duty === 'transmitter' || p.kind.duty === 'controller'
const sendsCurrent = (p: KnownPart) => sendsValue(p) && p.kind.wiredAs !== 'serial'

/** So far apart are the currents of several loops in one wiring, mA. */
const APART_mA = 0.3
/** Beyond a point by this share of span a relay has surely switched. */
const BEYOND = 0.01
/** Just beyond each point of each relay, where that can be reached and no other state stands there already. */
function atPoints(relays: Relays): readonly (readonly [mA: number, title: string])[] {
  const span = Math.abs(relays.at20 - relays.at4)
  const out: [number, string][] = []
  for (const plan of relays.plans)
    for (const [, at] of pointsOf(plan))
      for (const side of [-1, 1]) {
        const x = at + side * BEYOND * span
        const mA = currentFor_mA(relays, x)
        const isKnown = [...CURRENTS, ...out].some(([known]) => Math.abs(known - mA) < 0.01)
        if (measures(mA) && !isKnown) out.push([mA, `${sayNumber(x, 4)} ${printedUnit(relays.unit)}`])
      }
  return out
}

/** Every state that a wiring has to be right in: each current, each relay's points, each sensor at rest and actuated. */
export function judgedStates(parts: readonly KnownPart[], relays: Relays | null): JudgedState[] {
  const state = (title: string, asked_mA: number | null, actuated: readonly string[]): JudgedState => ({
    title,
    asked_mA,
    bench: { power: true, current_mA: asked_mA ?? 12, actuated, faults: [], relays },
  })
  const analogue = parts.some(sendsCurrent)
  const sensors = sensorsOf(parts).slice(0, MOST_SENSORS)
  const rest = analogue ? 12 : null
  const moves = relays && parts.some((p) => p.kind.relays) ? atPoints(relays) : []
  const out = analogue ? [...CURRENTS, ...moves].map(([mA, title]) => state(title, mA, [])) : []
  // Several loops: in the first state each sends its own, so that none can be taken for another.
  const senders = parts.filter((p) => p.kind.duty === 'transmitter' && p.kind.wiredAs !== 'serial')
  const [first] = out
  if (first && senders.length > 1)
    out[0] = {
      ...first,
      title: `${first.title} and more, each its own`,
      bench: {
        ...first.bench,
        currents: Object.fromEntries(senders.map((p, k) => [p.id, 12 + k * APART_mA])),
      },
    }
  if (sensors.length > 0) {
    const words = (p: KnownPart) => p.kind.actuate?.(p.s) ?? { on: 'actuated', off: 'at rest' }
    const [only] = sensors
    if (!analogue)
      out.push(state(sensors.length === 1 && only ? words(only).off : 'everything at rest', null, []))
    for (const p of sensors)
      out.push(state(sensors.length === 1 ? words(p).on : `${p.id}: ${words(p).on}`, rest, [p.id]))
  }
  return out.length > 0 ? out : [state('powered', null, [])]
}

/** Solves a state; from nothing, as it is when power comes back. */
export const solveState = (w: Wiring, s: JudgedState): SolvedState => ({ ...s, e: energise(w, s.bench) })
