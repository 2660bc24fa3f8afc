import { INPUT_TYPES } from '../../circuit/elements/discrete.ts'
import type { OutputLabel, Switching } from '../../part/part-kind.ts'
import { address, type KnownPart } from '../../part/wiring.ts'
import { numberOf, type Builder } from './builder.ts'

/** A free contact, for a sensor whose label says nothing of its output. */
const FREE_CONTACT: OutputLabel = { switching: 'contact', most_A: 2, leak_A: 0, least_A: 0 }
export const outputOf = (sensor: KnownPart): OutputLabel => sensor.kind.output?.(sensor.s) ?? FREE_CONTACT
export const switchingOf = (sensor: KnownPart): Switching => outputOf(sensor).switching
/** Current a sensor's output may carry, A. */
export const outputLimit_A = (sensor: KnownPart): number => outputOf(sensor).most_A

/** The two ends of a sensor that switches like a contact, plus side first. */
export function contactEnds(sensor: KnownPart): readonly [string, string] {
  const has = (t: string) => sensor.terminals.some((x) => x.id === t)
  if (has('plus')) return ['plus', 'minus']
  return has('com') ? ['com', 'no'] : ['a', 'b']
}

/** Which way the card's current must flow, with a card that takes either decided by the sensor. */
export function wayOf(input: KnownPart, switching: Switching): 'sink' | 'source' {
  const mode = input.kind.input?.(input.s).mode ?? 'sink'
  if (mode === 'bidir') return switching === 'npn' ? 'source' : 'sink'
  return mode === 'source' ? 'source' : 'sink'
}

/** Whether sensor and card fit: a sinking card wants a plus switched to it, a sourcing one a 0 V. */
export const fits = (switching: Switching, way: 'sink' | 'source'): boolean =>
  switching === 'pp' || switching === 'contact' || (switching === 'pnp') === (way === 'sink')

/** Common of the card: at 0 V when current flows in, at +24 V when it flows out. */
export function landCommon(b: Builder, input: KnownPart, way: 'sink' | 'source'): void {
  const com = address(input.id, 'com')
  b.wire(com, way === 'sink' ? b.minus(input.id) : b.plus(input.id))
}

/** Leads of an electronic sensor, in the order its terminals stand. */
function landLeads(b: Builder, sensor: KnownPart, output: string): void {
  b.run(address(sensor.id, 'bn'), b.plus(sensor.id))
  b.run(address(sensor.id, 'bk'), output)
  b.run(address(sensor.id, 'bu'), b.minus(sensor.id))
}

/** A dry contact between the input and the rail that the card's direction asks for. */
export function landContact(
  b: Builder,
  ends: readonly [string, string],
  input: KnownPart,
  way: 'sink' | 'source',
  field: boolean,
): void {
  const go = (from: string, to: string) => (field ? b.run(from, to) : b.wire(from, to))
  const signal = address(input.id, 'in')
  if (way === 'sink') {
    go(ends[0], b.plus(input.id))
    go(ends[1], signal)
  } else {
    go(ends[0], signal)
    go(ends[1], b.minus(input.id))
  }
}

/** The load a sensor drives itself: its current in A and its ends. */
function loadOf(
  b: Builder,
): { readonly part: KnownPart; readonly amps: number; readonly volts: number } | null {
  const part = b.first('load')
  if (!part) return null
  const load = part.kind.switchedLoad?.(part.s)
  return load ? { part, amps: load.amps, volts: load.volts } : null
}

/** A coil works at its own voltage only. */
export function checkCoil(b: Builder, part: KnownPart, volts: number): void {
  const supply = b.supplyFeed(part.id)?.nominal_V
  if (supply !== undefined && (supply < 0.75 * volts || supply > 1.25 * volts))
    b.refuse(
      `${part.id} has a ${volts} V coil and the supply gives ${supply} V. Take one whose coil voltage is the supply’s.`,
    )
}

/** Two ends switched by the sensor itself: a lamp, a coil. The plus end first. */
function driveLoad(b: Builder, sensor: KnownPart, plusEnd: string, minusEnd: string): void {
  const switching = switchingOf(sensor)
  if (switching === 'contact') {
    const [p, n] = contactEnds(sensor)
    b.run(address(sensor.id, p), b.plus(sensor.id))
    b.run(address(sensor.id, n), plusEnd)
    b.wire(minusEnd, b.minus(sensor.id))
    return
  }
  landLeads(b, sensor, switching === 'npn' ? minusEnd : plusEnd)
  if (switching === 'npn') b.wire(plusEnd, b.plus(sensor.id))
  else b.wire(minusEnd, b.minus(sensor.id))
}

/** Wires the sensor to a relay's coil and the relay's contact to the input. */
export function connectByRelay(b: Builder, sensor: KnownPart, k: KnownPart, input: KnownPart | null): string {
  const coil = k.kind.switchedLoad?.(k.s)
  if (!coil) return b.refuse(`${k.id} has no coil.`)
  checkCoil(b, k, coil.volts)
  if (coil.amps > outputLimit_A(sensor))
    return b.refuse(
      `The coil of ${k.id} takes more than the output of ${sensor.id} carries. Take a relay with a smaller coil.`,
    )
  driveLoad(b, sensor, address(k.id, 'a1'), address(k.id, 'a2'))
  const [d] = b.all('loose').filter((p) => p.kind.looseUse === 'suppresses')
  if (d) {
    b.wire(address(d.id, 'k'), address(k.id, 'a1'))
    b.wire(address(d.id, 'a'), address(k.id, 'a2'))
  }
  if (input) {
    const way = wayOf(input, 'contact')
    // The common goes to the rail, the NO contact to the input.
    const [com, no] = [address(k.id, 'com'), address(k.id, 'no')]
    landContact(b, way === 'sink' ? [com, no] : [no, com], input, way, false)
    landCommon(b, input, way)
  }
  const load = loadOf(b)
  if (!input && load) {
    b.wire(b.plus(load.part.id), address(k.id, 'com'))
    b.wire(address(k.id, 'no'), address(load.part.id, 'a1'))
    b.wire(address(load.part.id, 'a2'), b.minus(load.part.id))
  }
  return `${sensor.id} drives the coil of ${k.id}; its NO contact keeps the sense, its NC contact would invert it.`
}

/** A pull resistor for an output of the other kind. It inverts. */
export function connectByResistor(b: Builder, sensor: KnownPart, r: KnownPart, input: KnownPart): string {
  const way = wayOf(input, 'contact')
  landLeads(b, sensor, address(input.id, 'in'))
  b.wire(way === 'sink' ? b.plus(r.id) : b.minus(r.id), address(r.id, 'b'))
  b.wire(address(r.id, 'a'), address(input.id, 'in'))
  landCommon(b, input, way)
  b.set(input.id, 'inverts', true)
  return `${r.id} ${way === 'sink' ? 'pulls the input up' : 'pulls the input down'} and ${sensor.id} takes it away: the bit is inverted.`
}

/** A resistor beside the input: it carries a sensor's leak away, or gives it its least current. */
export function connectByBleeder(b: Builder, sensor: KnownPart, r: KnownPart, input: KnownPart): string {
  connectDiscrete(b, sensor, input)
  b.wire(address(r.id, 'a'), address(input.id, 'in'))
  b.wire(address(r.id, 'b'), address(input.id, 'com'))
  return `${r.id} stands beside the input and carries what the input must not see.`
}

/** Sensor, supply and card, wired directly. */
export function connectDiscrete(b: Builder, sensor: KnownPart, input: KnownPart | null): string {
  for (const p of b.all('source')) b.mains(p)
  if (sensor.kind.readBy !== undefined) {
    const amp = b.first('repeater')
    if (!amp || amp.kind.kind !== sensor.kind.readBy)
      return b.refuse(
        `${sensor.id} is read by its current at 8.2 V; no ordinary input does that. Add a NAMUR amplifier.`,
      )
    b.run(address(sensor.id, 'plus'), address(amp.id, 'plus'))
    b.run(address(sensor.id, 'minus'), address(amp.id, 'minus'))
    if (input) {
      const way = wayOf(input, 'contact')
      landContact(b, [address(amp.id, 'a'), address(amp.id, 'b')], input, way, false)
      landCommon(b, input, way)
    }
    return `${amp.id} feeds ${sensor.id} and closes its own contact.`
  }
  const load = loadOf(b)
  if (!input) {
    if (!load) return b.refuse('Nothing among the parts takes the signal: add an input, a relay or a lamp.')
    checkCoil(b, load.part, load.volts)
    if (load.amps > outputLimit_A(sensor))
      return b.refuse(
        `${load.part.id} takes ${Math.round(load.amps * 1000)} mA and the output of ${sensor.id} carries ${Math.round(outputLimit_A(sensor) * 1000)} mA. Put a relay between them.`,
      )
    driveLoad(b, sensor, address(load.part.id, 'a1'), address(load.part.id, 'a2'))
    return `${sensor.id} drives ${load.part.id} directly.`
  }
  const switching = switchingOf(sensor)
  const way = wayOf(input, switching)
  if (!fits(switching, way))
    return b.refuse(
      way === 'sink'
        ? `${sensor.id} switches to 0 V and the common of ${input.id} is at 0 V as well: nothing supplies +24 V, the bit would always be 0.`
        : `${sensor.id} switches to +24 V and the common of ${input.id} is at +24 V as well: no current can flow, the bit would always be 0.`,
    )
  if (switching === 'contact') {
    const [p, n] = contactEnds(sensor)
    landContact(b, [address(sensor.id, p), address(sensor.id, n)], input, way, true)
  } else {
    landLeads(b, sensor, address(input.id, 'in'))
  }
  landCommon(b, input, way)
  const inverted = switching === 'pp' && way === 'source'
  b.set(input.id, 'inverts', inverted)
  return inverted
    ? `${sensor.id} works on this card, but a push-pull output reads inverted where current flows out of the card.`
    : `Current flows ${way === 'sink' ? `into ${input.id}, its common is at 0 V` : `out of ${input.id}, its common is at +24 V`}.`
}

/** Resistance of a card's input, Ω. */
export const inputModel = (input: KnownPart) => INPUT_TYPES[input.kind.input?.(input.s).type ?? 3]

export const nameNumber = (sensor: KnownPart) => numberOf(sensor.id)
