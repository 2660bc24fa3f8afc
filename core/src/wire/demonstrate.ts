import type { Memory } from '../circuit/element.ts'
import { AT_REST, energise } from '../part/energise.ts'
import { knownParts, type Wiring } from '../part/wiring.ts'
import { currentFor_mA, type Relays } from '../signal/relay-plan.ts'
import { drivenRelays, loadOn } from './proof/what-is-on.ts'

/** What the bench shows of one moment. */
export interface Moment {
  readonly t_s: number
  /** The loop's value, in its unit. */
  readonly x: number
  /** Relays of the controller that are energised, by the plan's name. */
  readonly energised: readonly string[]
  /** Motors, valves, coils and lamps that are on. */
  readonly on: readonly string[]
}
export interface Demonstration {
  readonly moments: readonly Moment[]
  /** How often each load started. */
  readonly starts: Readonly<Record<string, number>>
  /** What came of it, in a sentence. */
  readonly says: string
}

/** Values are kept where the signal measures. */
const LIMITS_mA = { low: 3.8, high: 20.5 }

/**
 * The process with its motors: the value goes where the running ones take it, the controller sees it through the
 * solved circuit, and its relays move the motors. What is wired wrongly moves wrongly.
 * @param from - where the value begins, in the loop's unit
 * @param drift - what the process does by itself, share of span a second, signed
 */
export function demonstrate(
  w: Wiring,
  relays: Relays,
  {
    from,
    drift = 0,
    seconds = 120,
    step_s = 0.5,
  }: {
    readonly from: number
    readonly drift?: number
    readonly seconds?: number
    readonly step_s?: number
  },
): Demonstration {
  const parts = knownParts(w)
  const driven = drivenRelays(parts, { senses: null, relays })
  const loads = parts.filter((p) => p.kind.switchedLoad)
  const span = relays.at20 - relays.at4
  let memory: ReadonlyMap<string, Memory> = new Map()
  let x = from
  const moments: Moment[] = []
  const starts: Record<string, number> = {}
  for (let t_s = 0; t_s <= seconds; t_s += step_s) {
    const mA = Math.min(LIMITS_mA.high, Math.max(LIMITS_mA.low, currentFor_mA(relays, x)))
    const bench = { ...AT_REST, current_mA: mA, relays }
    const e = energise(w, bench, memory)
    memory = e.memory
    const state = { title: '', bench, asked_mA: mA, e }
    const on = loads.filter((p) => loadOn(state, p) === true)
    for (const p of on) if (moments.at(-1)?.on.includes(p.id) !== true) starts[p.id] = (starts[p.id] ?? 0) + 1
    moments.push({
      t_s,
      x,
      energised: driven.filter((r) => r.energised(state)).map((r) => r.plan.name),
      on: on.map((p) => p.id),
    })
    const moved = on.reduce((sum, p) => {
      const m = p.kind.moves?.(p.s)
      return m ? sum + (m.up ? 1 : -1) * m.perSecond : sum
    }, drift)
    x += moved * step_s * Math.abs(span)
    x = Math.min(Math.max(relays.at4, relays.at20), Math.max(Math.min(relays.at4, relays.at20), x))
  }
  return { moments, starts, says: outcome(moments, starts, relays) }
}

const REST = 1e-9
function outcome(
  moments: readonly Moment[],
  starts: Readonly<Record<string, number>>,
  relays: Relays,
): string {
  const half = moments.slice(Math.floor(moments.length / 2)).map((m) => m.x)
  const [low, high] = [Math.min(...half), Math.max(...half)]
  const ends = [Math.min(relays.at4, relays.at20), Math.max(relays.at4, relays.at20)]
  if (Object.keys(starts).length === 0) return 'Nothing ran: no relay moved a load.'
  const atEnd = ends.find((end) => half.every((x) => Math.abs(x - end) < REST))
  if (atEnd !== undefined)
    return `The value ran into the end of its range and stays there: what runs does not bring it back.`
  const times = Object.entries(starts).map(([id, n]) => `${id} ${n} ×`)
  return high - low < REST
    ? `The value came to rest. Started: ${times.join(', ')}.`
    : `The value goes to and fro. Started: ${times.join(', ')}.`
}
