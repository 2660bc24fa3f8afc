import type { Energised } from '../part/energise.ts'
import {
  address,
  freeWire,
  knownPart,
  sayTerminal,
  terminalOf,
  withoutWire,
  withWire,
  partOf,
  type Wiring,
} from '../part/wiring.ts'
import { usualColour } from './connect/colours.ts'

/** Marks the leads of a meter that stands in a wire it opened: taken out, the wire closes again. */
export const IN_SERIES = 'in series'

/** Wires that are a lead of the meter. */
export const leadsOf = (w: Wiring, meter: string, terminal: string) =>
  Object.entries(w.wires).filter(([, x]) => [x.from, x.to].includes(address(meter, terminal)))

/** The meter's name when there is one among the parts. */
export const meterIn = (w: Wiring): string | null =>
  Object.entries(w.parts).find(([, p]) => p.kind === 'multimeter')?.[0] ?? null

/** The wiring with a meter among its parts, and its name. */
export function withMeter(w: Wiring): { wiring: Wiring; meter: string } {
  const there = meterIn(w)
  if (there !== null) return { wiring: w, meter: there }
  const meter = 'DMM'
  return { wiring: { ...w, parts: { ...w.parts, [meter]: { kind: 'multimeter', settings: {} } } }, meter }
}

/**
 * The meter put into a wire: the wire is opened and the leads close it.
 * @param red - the end of the wire that the red lead goes to; current from there reads positive.
 */
export function meterInSeries(w: Wiring, meter: string, wire: string, red: 'from' | 'to'): Wiring {
  const free = liftMeter(w, meter)
  const cut = free.wires[wire]
  if (!cut) return free
  const { wires } = withoutWire(free, wire)
  const other = red === 'from' ? 'to' : 'from'
  const one = withWire({ ...free, wires }, cut[red], address(meter, 'red'), {
    colour: 'RD',
    ferrule: IN_SERIES,
  })
  return withWire(one, address(meter, 'black'), cut[other], { colour: 'BK', ferrule: IN_SERIES })
}

/** One lead moved to a terminal; a wire the meter had opened closes first. */
export function placeLead(w: Wiring, meter: string, lead: 'red' | 'black', at: string): Wiring {
  const inSeries = leadsOf(w, meter, lead).some(([, x]) => x.ferrule === IN_SERIES)
  const free = inSeries ? liftMeter(w, meter) : w
  const gone = new Set(leadsOf(free, meter, lead).map(([id]) => id))
  const wires = Object.fromEntries(Object.entries(free.wires).filter(([id]) => !gone.has(id)))
  return withWire({ ...free, wires }, at, address(meter, lead), { colour: lead === 'red' ? 'RD' : 'BK' })
}

/** The meter taken out; a wire it opened closes again. */
export function liftMeter(w: Wiring, meter: string): Wiring {
  const red = leadsOf(w, meter, 'red')
  const black = leadsOf(w, meter, 'black')
  const gone = new Set([...red, ...black].map(([id]) => id))
  const rest: Wiring = {
    ...w,
    wires: Object.fromEntries(Object.entries(w.wires).filter(([id]) => !gone.has(id))),
  }
  const [a, b] = [red[0]?.[1], black[0]?.[1]]
  if (a?.ferrule !== IN_SERIES || b?.ferrule !== IN_SERIES) return rest
  const far = (x: { from: string; to: string }) => (partOf(x.from) === meter ? x.to : x.from)
  const [from, to] = [far(a), far(b)]
  return {
    ...rest,
    wires: {
      ...rest.wires,
      [freeWire(rest.wires)]: { from, to, colour: usualColour(rest, from, to), ferrule: '' },
    },
  }
}

export interface MeterReading {
  /** What the display shows, with sign and unit. */
  readonly text: string
  /** What it means, and what the sign says. */
  readonly says: string
  readonly blown: boolean
}

const AC = (dial: string) => dial.endsWith('AC')

/** What the meter shows as it stands now. */
export function meterReading(w: Wiring, meter: string, e: Energised): MeterReading | null {
  const wired = w.parts[meter]
  const part = wired ? knownPart(meter, wired) : null
  if (!part) return null
  const told = part.kind.meter?.(part.s)
  if (!told) return null
  const { jack, dial } = told
  const unit = dial.startsWith('V') ? 'V' : dial.startsWith('mA') ? 'mA' : 'A'
  const blown = e.values[`state(${meter})`] === 'blown'
  const red = leadsOf(w, meter, 'red')[0]
  const black = leadsOf(w, meter, 'black')[0]
  if (blown)
    return {
      text: `0.000 ${unit}`,
      says: `The ${jack} fuse has blown: this jack reads nothing until it is replaced. Leads back to V, then look for the source it was put across.`,
      blown,
    }
  if (!red || !black) return { text: `0.00 ${unit}`, says: 'Both leads need a place.', blown }
  const place = [red[1], black[1]].map((x) => sayTerminal(w, partOf(x.from) === meter ? x.to : x.from))
  const at = `red at ${place[0]}, black at ${place[1]}`
  if (dial.replace('AC', '') !== jack)
    return {
      text: `--- ${unit}`,
      says: `The lead is in the ${jack} jack and the dial stands at ${dialTitle(dial)}: it shows nothing true. The circuit feels the jack, not the dial.`,
      blown,
    }
  if (AC(dial))
    return {
      text: `0.0 ${unit} AC`,
      says: `A steady current or voltage reads nothing on AC: turn to DC (${at}).`,
      blown,
    }
  const value = e.values[`read(${meter})`]
  if (typeof value !== 'number')
    return { text: `--- ${unit}`, says: 'No reading: the circuit has no solution.', blown }
  const shown = unit === 'mA' ? value * 1000 : value
  const text = `${shown >= 0 ? '+' : '−'}${Math.abs(shown).toFixed(unit === 'mA' ? 3 : unit === 'V' ? (Math.abs(shown) < 10 ? 3 : 2) : 3)} ${unit}`
  const sign = shown < -0.0005 ? ' The minus sign means the leads are reversed.' : ''
  return { text, says: `${at[0]?.toUpperCase()}${at.slice(1)}.${sign}`, blown }
}

const DIALS: Readonly<Record<string, string>> = {
  V: 'V DC',
  mA: 'mA DC',
  '10A': 'A DC',
  VAC: 'V AC',
  mAAC: 'mA AC',
}
const dialTitle = (dial: string) => DIALS[dial] ?? dial

/** What is at the other end of a lead. */
export const leadPlace = (w: Wiring, meter: string, lead: 'red' | 'black'): string | null => {
  const [, x] = leadsOf(w, meter, lead)[0] ?? []
  return x ? (partOf(x.from) === meter && terminalOf(x.from) === lead ? x.to : x.from) : null
}
