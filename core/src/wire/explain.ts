import type { Evidence, Finding, Severity } from '../finding.ts'
import { sayNumber } from '../quantity/round.ts'
import { ownerOf, type BenchState, type Energised } from '../part/energise.ts'
import {
  address,
  knownParts,
  partOf,
  sayTerminal,
  terminalAt,
  type KnownPart,
  type Wiring,
} from '../part/wiring.ts'
import { numberOf } from './connect/builder.ts'
import { fits, switchingOf, wayOf } from './connect/discrete.ts'

const RULE = 'from the solved circuit; typical models, check against the device’s data sheet'
const SEVERITY: Readonly<Record<string, Severity>> = {
  FLOATING: 'note',
  MIN_LOAD: 'warn',
  SUPPLY_LIMIT: 'warn',
  SUPPLY_RANGE: 'stop',
  INPUT_UNDEFINED: 'stop',
  METER_JACK: 'warn',
}
/** What to do, by what was found; the sentence itself says what and where. */
const REMEDY: Readonly<Record<string, string>> = {
  NO_RETURN_PATH: 'Follow the wire from that terminal towards 0 V and close the gap.',
  REVERSED: 'Swap its two leads.',
  NOT_REGULATING: 'More supply voltage, a thicker or shorter cable, or less resistance in the loop.',
  DOUBLE_POWERED: 'A loop has exactly one source: leave the card’s feed free, or take the supply out.',
  OVER_CURRENT: 'Switch off and look for a short before the input.',
  OVER_VOLTAGE: 'Switch off: two supplies stand in series, or the supply is too high for the device.',
  SUPPLY_LIMIT: 'Something takes more than the supply gives: a short, or too many loads.',
  INPUT_UNDEFINED:
    'Two cards of one type may read it differently. Change the sensor, the input type, or add a resistor.',
  FUSE_BLOWN: 'Find what overloaded it before a new one goes in.',
  RELAY_CHATTER: 'Take the relay’s own contact out of its coil circuit.',
}

const milliamps = (a: number): Evidence => ({ label: 'current', value: a * 1000, unit: 'mA' })
const volts = (label: string, v: number): Evidence => ({ label, value: v, unit: 'V' })

/** Evidence at a part: its first voltage, and the current through it. */
export function evidenceAt(part: KnownPart | undefined, e: Energised): Evidence[] {
  if (!part) return []
  const out: Evidence[] = []
  const pair = part.kind.testPoints?.(part.s)[0]
  const read = (t: string) => e.volts(address(part.id, t))
  if (pair) {
    const [a, b] = [read(pair[0]), read(pair[1])]
    if (a !== null && b !== null) out.push(volts(`${pair[2]}, ${part.id}`, a - b))
  }
  const i = e.values[`I(${part.id}.${part.kind.duty === 'receiver' ? 'in' : 'plus'})`]
  if (typeof i === 'number') out.push(milliamps(Math.abs(i)))
  return out
}

/** Terminal names in the solver's sentences turned into those printed on the parts. */
function inPrintedNames(w: Wiring, says: string): string {
  let out = says
  const solver: Readonly<Record<string, string>> = { vp: 'plus', vn: 'minus' }
  for (const part of knownParts(w))
    for (const name of [...part.terminals.map((t) => t.id), ...Object.keys(solver)]) {
      const t = part.terminals.find((x) => x.id === name) ?? part.terminals.find((x) => x.id === solver[name])
      if (t)
        out = out
          .replaceAll(`${part.id}.${name} `, `${part.id} ${t.label} `)
          .replaceAll(`${part.id}.${name}.`, `${part.id} ${t.label}.`)
    }
  return out.replace(/~\S+/g, '')
}

/** What feeds an output that only controls a current: both ways, with their terminals. */
function unfed(w: Wiring, part: KnownPart): string {
  if (part.kind.wiredAs !== 'passive') return ''
  const at = (t: string) => sayTerminal(w, address(part.id, t))
  const outside = `a supply or a card that feeds, its plus at ${at('plus')} and its minus behind the receiver`
  return part.kind.ownFeed?.(part.s) === 'none'
    ? ` Its output is passive: it needs ${outside}.`
    : ` Its output is passive. Either feed it from itself: set the jumper, join ${at('auxP')} to ${at('plus')} and lead the return to ${at('auxN')}; or from outside: ${outside}.`
}

/** What the solved circuit complains of in one state. Whether a wiring is right is proved elsewhere, never by silence. */
export function explain(w: Wiring, state: BenchState, e: Energised): Finding[] {
  const parts = knownParts(w)
  const byId = new Map(parts.map((p) => [p.id, p]))
  const out: Finding[] = []
  const codes = new Set<string>()
  for (const f of e.findings) {
    const owner = ownerOf(f.element)
    const part = byId.get(owner)
    // What has been switched off has no current; that is no fault.
    if (!state.power && ['NO_LOOP_CURRENT', 'SUPPLY_RANGE', 'INPUT_UNDEFINED'].includes(f.code)) continue
    // One cause, one row: an open loop has no current, and a dead one cannot regulate.
    if (
      f.code === 'NO_LOOP_CURRENT' &&
      e.findings.some((g) => g.element === f.element && g.code === 'NO_RETURN_PATH')
    )
      continue
    if (codes.has(`${f.code} ${owner}`)) continue
    codes.add(`${f.code} ${owner}`)
    const remedy = REMEDY[f.code]
    out.push({
      code: f.code,
      severity: SEVERITY[f.code] ?? 'stop',
      where: [owner],
      says: `${inPrintedNames(w, f.says)}${remedy ? ` ${remedy}` : ''}${part && f.code === 'NO_LOOP_CURRENT' ? unfed(w, part) : ''}`,
      evidence: evidenceAt(part, e),
      rule: RULE,
    })
  }
  out.push(
    ...mainsFindings(w, e),
    ...serialFindings(w, parts, e),
    ...mismatchFindings(parts, e),
    ...coilFindings(parts, state, e),
    ...receiverFindings(parts, state, e),
    ...looseEnds(w, parts),
    ...crowded(w),
  )
  if (state.faults.length > 0)
    out.push({
      code: 'FAULT_IN',
      severity: 'note',
      where: [],
      says: `${state.faults.length} ${state.faults.length === 1 ? 'fault is' : 'faults are'} put in on this bench; nothing of it is saved.`,
    })
  if (!state.power)
    out.push({
      code: 'POWER_OFF',
      severity: 'note',
      where: [],
      says: 'The power is off: every reading is zero, and leads can be moved.',
    })
  return out
}

function mainsFindings(w: Wiring, e: Energised): Finding[] {
  const out: Finding[] = []
  for (const [id, { fed, swapped, earthed }] of e.mains) {
    if (!fed)
      out.push({
        code: 'MAINS_MISSING',
        severity: 'stop',
        where: [id],
        says: `${id} gets no mains: land L and N from the mains circuit.`,
      })
    if (swapped)
      out.push({
        code: 'MAINS_SWAPPED',
        severity: 'stop',
        where: [id],
        says: `Line and neutral are swapped at ${id}: its fuse and switch would stand in the neutral.`,
      })
    if (fed && !earthed)
      out.push({
        code: 'EARTH_MISSING',
        severity: 'stop',
        where: [id],
        says: `${id} has no protective earth. It comes first and goes last.`,
      })
  }
  for (const [id, wire] of Object.entries(w.wires)) {
    const roles = [wire.from, wire.to].map((at) => terminalAt(w, at)?.role ?? '')
    const isMains = roles.map((r) => ['L', 'N'].includes(r))
    const isEarth = roles.map((r) => r === 'PE')
    if (isEarth[0] !== isEarth[1]) {
      const [earth, other] = isEarth[0] ? [wire.from, wire.to] : [wire.to, wire.from]
      const role = isEarth[0] ? roles[1] : roles[0]
      // A supply's minus is earthed in many cabinets; everything else of a loop in one place at the most.
      if (role === 'L' || role === 'N')
        out.push({
          code: 'MAINS_ON_EARTH',
          severity: 'stop',
          where: [id],
          says: `Wire ${id} joins ${role === 'L' ? 'line' : 'neutral'} at ${sayTerminal(w, other)} with protective earth at ${sayTerminal(w, earth)}. Take it out: ${role === 'L' ? 'the breaker trips, or what is earthed becomes live' : 'the earth carries current, and a residual-current device trips'}.`,
        })
      else if (role !== 'dc-')
        out.push({
          code: 'EARTHED_SIGNAL',
          severity: 'warn',
          where: [id],
          says: `Wire ${id} earths the signal at ${sayTerminal(w, other)}. A loop is earthed in one place at the most, usually at the receiver; with a second one the current returns over earth as well.`,
        })
    }
    if (isMains[0] !== isMains[1] && !roles.includes('PE'))
      out.push({
        code: 'MAINS_ON_SIGNAL',
        severity: 'stop',
        where: [id],
        says: `Wire ${id} joins mains at ${sayTerminal(w, isMains[0] ? wire.from : wire.to)} with ${sayTerminal(w, isMains[0] ? wire.to : wire.from)}: it would destroy the device and can kill. Take it out.`,
      })
  }
  return out
}

function serialFindings(w: Wiring, parts: readonly KnownPart[], e: Energised): Finding[] {
  const out: Finding[] = []
  const station = parts.find((p) => p.kind.line === 'station')
  const master = parts.find((p) => p.kind.line === 'master')
  if (!station || !master) return out
  const rest = (p: KnownPart) => (e.volts(address(p.id, 'A')) ?? 0) - (e.volts(address(p.id, 'B')) ?? 0)
  if (rest(master) > 0.05 && rest(station) < -0.05)
    out.push({
      code: 'LINE_SWAPPED',
      severity: 'stop',
      where: [station.id],
      says: `A and B are swapped at ${station.id}: it never answers, nothing is damaged. Swap the two cores. Makers name them differently; the sign at rest decides.`,
      evidence: [
        volts('A to B at rest, here', rest(station)),
        volts('A to B at rest, at the port', rest(master)),
      ],
    })
  else if (
    Math.abs(rest(station)) < 0.05 &&
    e.volts(address(master.id, 'A')) !== null &&
    Object.keys(w.wires).length > 0
  )
    out.push({
      code: 'LINE_DEAD',
      severity: 'stop',
      where: [station.id],
      says: `No rest voltage between A and B at ${station.id}: a core is open or the port is not powered.`,
      evidence: [volts('A to B at rest', rest(station))],
    })
  return out
}

/** A sensor and a card that both switch to the same rail: silent, and the most common mistake. */
function mismatchFindings(parts: readonly KnownPart[], e: Energised): Finding[] {
  const sensor = parts.find((p) => p.kind.duty === 'sensor')
  const input = parts.find((p) => p.kind.duty === 'input')
  if (!sensor || !input || parts.some((p) => p.kind.duty === 'switching')) return []
  if (parts.some((p) => p.kind.looseUse === 'pulls')) return []
  const switching = switchingOf(sensor)
  const way = wayOf(input, switching)
  if (fits(switching, way)) return []
  return [
    {
      code: 'SENSOR_CARD_MISMATCH',
      severity: 'stop',
      where: [sensor.id, input.id],
      says:
        way === 'sink'
          ? `No current: the input ${input.id} and the sensor ${sensor.id} both switch to 0 V, so nothing supplies +24 V. The sensor’s lamp works, the bit stays 0. Move the card’s common, put a relay between, or a pull-up resistor.`
          : `No current: the input ${input.id} and the sensor ${sensor.id} both stand at +24 V, so nothing leads to 0 V. The sensor’s lamp works, the bit stays 0. Move the card’s common, put a relay between, or a pull-down resistor.`,
      evidence: [
        volts('at the input', Number(e.values[`vin(${input.id})`] ?? 0)),
        { label: 'into the input', value: Number(e.values[`iin(${input.id})`] ?? 0) * 1000, unit: 'mA' },
      ],
      rule: 'PNP works where current flows into the card, NPN where it flows out of it',
    },
  ]
}

/** A coil that has voltage but not its own. */
function coilFindings(parts: readonly KnownPart[], state: BenchState, e: Energised): Finding[] {
  if (!state.power) return []
  return parts.flatMap((p): Finding[] => {
    const load = p.kind.switchedLoad?.(p.s)
    if (!load?.coil) return []
    const v = Math.abs((e.volts(address(p.id, 'a1')) ?? 0) - (e.volts(address(p.id, 'a2')) ?? 0))
    const nominal = load.volts
    if (v < 2 || (v >= 0.75 * nominal && v <= 1.25 * nominal)) return []
    return [
      {
        code: 'COIL_VOLTAGE',
        severity: 'stop',
        where: [p.id],
        says:
          v > nominal
            ? `${p.id} gets ${sayNumber(v, 3)} V on a ${nominal} V coil: it burns. The coil voltage must be the supply’s.`
            : `${p.id} gets ${sayNumber(v, 3)} V on a ${nominal} V coil: it hums or does not move.`,
        evidence: [volts('across the coil', v)],
      },
    ]
  })
}

/** A receiver that sees another current than the transmitter holds: something takes it another way. */
function receiverFindings(parts: readonly KnownPart[], state: BenchState, e: Energised): Finding[] {
  const senders = parts.filter(
    (p) => p.kind.duty === 'transmitter' && typeof e.values[`I(${p.id}.plus)`] === 'number',
  )
  if (senders.length === 0 || !state.power) return []
  /** What the transmitter of a receiver sends, A: of its number, where there are several. */
  const sentTo = (part: KnownPart): { readonly by: string; readonly amps: number } | null => {
    const [tx, another] =
      senders.length === 1 ? senders : senders.filter((p) => numberOf(p.id) === numberOf(part.id))
    if (!tx || another) return null
    const sent = Math.abs(Number(e.values[`I(${tx.id}.${tx.kind.sendsAt ?? 'plus'})`]))
    return sent < 1e-4 ? null : { by: tx.id, amps: sent }
  }
  const out: Finding[] = []
  for (const [name, value] of Object.entries(e.values)) {
    const element = /^shown\((.+)\)$/.exec(name)?.[1]
    if (element === undefined || typeof value !== 'number') continue
    const part = parts.find((p) => p.id === ownerOf(element))
    if (!part) continue
    const inUse = part.kind.receives?.(part.s)?.channel ?? null
    const channel = inUse !== null && element.includes('~') ? element.split('~')[1] : null
    const sent = sentTo(part)
    if (!sent) continue
    if (channel !== null && channel !== inUse && Math.abs(value) < 1e-6) continue
    if (value < -1e-4) {
      out.push({
        code: 'CHANNEL_REVERSED',
        severity: 'stop',
        where: [part.id],
        says: `${part.id}${channel ? ` channel ${channel}` : ''} is connected the wrong way round: the current flows through it backwards and it reads below its range. Swap its two wires.`,
        evidence: [{ label: 'it reads', value: value * 1000, unit: 'mA' }],
      })
      continue
    }
    const used = channel === null || channel === inUse
    if (channel !== null && !used) {
      out.push({
        code: 'WRONG_CHANNEL',
        severity: 'stop',
        where: [part.id],
        says: `The current goes through channel ${channel} of ${part.id}, and channel ${inUse} is the one in use.`,
        evidence: [{ label: 'channel reads', value: value * 1000, unit: 'mA' }],
      })
      continue
    }
    if (Math.abs(value - sent.amps) < 2e-5) continue
    out.push({
      code: 'RECEIVER_DISAGREES',
      severity: 'stop',
      where: [part.id, sent.by],
      says: `${sent.by} holds ${sayNumber(sent.amps * 1000, 4)} mA and ${part.id} reads ${sayNumber(value * 1000, 4)} mA: ${
        value > sent.amps
          ? 'more arrives than the transmitter sends, as a leak across the pair or a wrong shunt makes it.'
          : 'part of it returns another way, past the input.'
      }`,
      evidence: [
        { label: 'sent', value: sent.amps * 1000, unit: 'mA' },
        { label: 'read', value: value * 1000, unit: 'mA' },
      ],
    })
  }
  return out
}

/** What a usual terminal takes: two conductors, with a twin ferrule. */
const MOST_CONDUCTORS = 2
/** One note for all: what a rail's own terminals take is theirs to say. */
function crowded(w: Wiring): Finding[] {
  const landed = new Map<string, number>()
  for (const x of Object.values(w.wires))
    for (const at of [x.from, x.to]) landed.set(at, (landed.get(at) ?? 0) + 1)
  const over = [...landed].filter(([, n]) => n > MOST_CONDUCTORS)
  return over.length === 0
    ? []
    : [
        {
          code: 'CROWDED_TERMINAL',
          severity: 'note',
          where: over.map(([at]) => partOf(at)),
          says: `More than two wires land at ${over.map(([at, n]) => `${sayTerminal(w, at)} (${n})`).join(', ')}. Most terminals take two: lead the others over a terminal strip.`,
        },
      ]
}

/** Terminals of the field device and the receivers that must be landed and are not. */
function looseEnds(w: Wiring, parts: readonly KnownPart[]): Finding[] {
  const wired = new Set(Object.values(w.wires).flatMap((x) => [x.from, x.to]))
  if (Object.keys(w.wires).length === 0) return []
  return parts.flatMap((p): Finding[] => {
    const free = p.terminals.filter((t) => !wired.has(address(p.id, t.id)))
    const meter = p.kind.duty === 'meter'
    if (meter) {
      return free.length === p.terminals.length
        ? []
        : [
            {
              code: 'METER_IN',
              severity: 'note',
              where: [p.id],
              says: `${p.id} stands in the circuit. Take it out before the loop is handed over.`,
            },
          ]
    }
    if (free.length !== p.terminals.length) return []
    return [
      {
        code: 'NOT_CONNECTED',
        severity: 'warn',
        where: [p.id],
        says: `${p.id} is not connected to anything.`,
      },
    ]
  })
}
