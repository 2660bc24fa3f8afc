import { energise, type BenchState, type Energised } from '../part/energise.ts'
import { PART_FAULTS, sayFault, SOURCE_FAULT, WIRE_FAULTS, type Fault } from '../part/fault.ts'
import { knownParts, sayTerminal, withSetting, type Wiring } from '../part/wiring.ts'
import { roundText } from '../quantity/round.ts'
import { convert } from '../quantity/units.ts'
import { equipmentU, suits, type EquipmentFunction } from '../verify/equipment-spec.ts'

/** What a meter showed at a test point: V across, or mA in series. */
export interface PointReading {
  /** Of the test point, as `testPoints` names it. */
  readonly id: string
  readonly value: number
}
export interface JudgedReading extends PointReading {
  readonly expected: number
  readonly allowed: number
  readonly unit: 'V' | 'mA'
  readonly fits: boolean
}
export interface ReadingsJudgement {
  readonly judged: readonly JudgedReading[]
  /** Single faults that explain every reading together, in words; empty where the circuit is as drawn. */
  readonly causes: readonly string[]
  readonly says: string
}

/** A hand-held meter with its leads, and what a circuit’s labels leave open: typical. */
const ALLOWED = { V: { fixed: 0.1, share: 0.02 }, mA: { fixed: 0.05, share: 0.01 } }
const MOST_CAUSES = 4

const WIRE_POINT = /^wire (.+)$/
const unitOf = (id: string): 'V' | 'mA' => (WIRE_POINT.test(id) ? 'mA' : 'V')
function expectedAt(e: Energised, id: string): number | null {
  const wire = WIRE_POINT.exec(id)?.[1]
  if (wire !== undefined) {
    const i = e.wire_A(wire)
    return i === null ? null : Math.abs(i) * 1000
  }
  const [red = '', black = ''] = id.split('|')
  const [a, b] = [e.volts(red), e.volts(black)]
  return a === null || b === null ? null : a - b
}
/** What a meter itself may be off by, half width, at a value. */
export type MeterOff = (unit: 'V' | 'mA', value: number) => number
const NOT_TOLD: MeterOff = () => 0
/** By its certificate, expanded (k = 2): the best function for each value; 0 where it has none for it. */
export const meterOff =
  (functions: readonly EquipmentFunction[]): MeterOff =>
  (unit, value) => {
    const s = suits(functions, '', value, value, unit)
    if (s.kind !== 'suits') return 0
    const here = convert(value, unit, s.function.unit)
    const one = convert(1, s.function.unit, unit)
    return here.kind === 'value' && one.kind === 'value'
      ? 2 * equipmentU(s.function, here.value) * one.value
      : 0
  }
const allowedFor = (unit: 'V' | 'mA', expected: number, off: MeterOff) =>
  ALLOWED[unit].fixed + ALLOWED[unit].share * Math.abs(expected) + off(unit, expected)

function judged(e: Energised, readings: readonly PointReading[], off: MeterOff): JudgedReading[] {
  return readings.map((r) => {
    const unit = unitOf(r.id)
    const expected = expectedAt(e, r.id) ?? 0
    const allowed = allowedFor(unit, expected, off)
    return { ...r, unit, expected, allowed, fits: Math.abs(r.value - expected) <= allowed }
  })
}

/** The supply as it was read, where that is within its label: 25 V on a 24 V supply is no fault of the loop. */
function asSupplied(w: Wiring, readings: readonly PointReading[]): Wiring {
  let out = w
  for (const p of knownParts(w)) {
    if (p.kind.duty !== 'source') continue
    const feed = p.kind.loopFeed?.(p.s)
    const read = readings.find((r) => r.id === `${p.id}:plus|${p.id}:minus`)
    if (feed && read && read.value >= feed.min_V && read.value <= feed.max_V)
      out = withSetting(out, p.id, 'voltage_V', read.value)
  }
  return out
}

/** Every single fault that a circuit of these parts can have. */
function faultsOf(w: Wiring): Fault[] {
  return [
    ...Object.keys(w.wires).flatMap((id) => WIRE_FAULTS.map((f) => f.make(id))),
    ...knownParts(w).flatMap((p) => [
      ...(p.kind.duty === 'source' ? [SOURCE_FAULT.make(p.id)] : []),
      ...(p.kind.testPoints ? PART_FAULTS.map((f) => f.make(p.id)) : []),
    ]),
  ]
}
/** A fault with its place: which wire, from where to where. */
function sayPlaced(w: Wiring, f: Fault): string {
  const wire = 'wire' in f ? w.wires[f.wire] : undefined
  return wire ? `${sayFault(f)} (${sayTerminal(w, wire.from)} to ${sayTerminal(w, wire.to)})` : sayFault(f)
}

/**
 * What was read, in any order, held against the solved circuit with what the meter may be off by; and which single
 * fault explains all of it together.
 * @param state - what the loop was doing while it was read
 * @param meter - what the meter may be off by, beside what labels and leads leave open
 */
export function judgeReadings(
  w: Wiring,
  state: Omit<BenchState, 'faults'>,
  readings: readonly PointReading[],
  meter: MeterOff = NOT_TOLD,
): ReadingsJudgement {
  const supplied = asSupplied(w, readings)
  const solve = (faults: readonly Fault[]) => energise(supplied, { ...state, faults })
  const here = judged(solve([]), readings, meter)
  if (readings.length === 0) return { judged: here, causes: [], says: 'Nothing is read yet.' }
  const off = here.filter((r) => !r.fits)
  if (off.length === 0)
    return {
      judged: here,
      causes: [],
      says: here.length === 1 ? 'It is as it should be.' : `All ${here.length} are as they should be.`,
    }
  const causes = faultsOf(w)
    .map((f) => ({ f, all: judged(solve([f]), readings, meter) }))
    .filter(({ all }) => all.every((r) => r.fits))
    .map(({ f, all }) => ({
      says: sayPlaced(w, f),
      miss: all.reduce((sum, r) => sum + ((r.value - r.expected) / r.allowed) ** 2, 0),
    }))
    .sort((a, b) => a.miss - b.miss)
  const [worst] = [...off].sort((a, b) => Math.abs(b.value - b.expected) - Math.abs(a.value - a.expected))
  const first = worst
    ? `${roundText(worst.value, 2)} ${worst.unit} for ${roundText(worst.expected, 2)}. `
    : ''
  const many = causes.slice(0, MOST_CAUSES).map((c) => c.says)
  const says =
    many.length === 0
      ? `${first}No single fault known here explains all of it: check what was read, or read one more point.`
      : many.length === 1
        ? `${first}One thing explains all of it: ${many[0]}.`
        : `${first}${causes.length} things explain it; one more reading tells them apart.`
  return { judged: here, causes: many, says }
}
