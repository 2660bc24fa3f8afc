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

const sendsCurrent = (p: KnownPart) => p.kind.duty === 'transmitter' && p.kind.wiredAs !== 'serial'

/** Every state that a wiring has to be right in: each current, each sensor at rest and actuated. */
export function judgedStates(parts: readonly KnownPart[]): JudgedState[] {
  const state = (title: string, asked_mA: number | null, actuated: readonly string[]): JudgedState => ({
    title,
    asked_mA,
    bench: { power: true, current_mA: asked_mA ?? 12, actuated, faults: [] },
  })
  const analogue = parts.some(sendsCurrent)
  const sensors = sensorsOf(parts).slice(0, MOST_SENSORS)
  const rest = analogue ? 12 : null
  const out = analogue ? CURRENTS.map(([mA, title]) => state(title, mA, [])) : []
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
