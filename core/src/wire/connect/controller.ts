import { address, type KnownPart } from '../../part/wiring.ts'
import { connectAnalogue } from './analogue.ts'
import type { Builder } from './builder.ts'
import { checkCoil, landCommon, landContact, wayOf } from './discrete.ts'

/** A controller: its sensor, its power, its output where something reads it, and what hangs on its relays. */
export function connectController(b: Builder, c: KnownPart, tx: KnownPart | null): string {
  const at = (t: string) => address(c.id, t)
  if (!tx) return b.refuse(`${c.id} needs its sensor: a 2-wire transmitter, or a sensor on a serial line.`)
  const wants = c.s['sensor'] === 'serial' ? 'serial' : 'twoWire'
  if (tx.kind.wiredAs !== wants)
    return b.refuse(
      wants === 'serial'
        ? `${c.id} is set for a sensor on a serial line, and ${tx.id} sends a current. Set “Its sensor” of ${c.id}.`
        : `${c.id} is set for a 2-wire sensor, and ${tx.id} is none. Set “Its sensor” of ${c.id}, or take the other sensor.`,
    )
  if (wants === 'serial') {
    b.run(address(tx.id, 'V+'), at('sp'))
    b.run(address(tx.id, 'V-'), at('sn'))
    b.run(address(tx.id, 'A'), at('A'))
    b.run(address(tx.id, 'B'), at('B'))
  } else {
    b.run(address(tx.id, 'plus'), at('sp'))
    b.run(address(tx.id, 'minus'), at('in'))
  }
  const isRead = b.all('receiver').length > 0
  const says = isRead ? connectAnalogue(b, c) : power(b, c)
  const hung = relays(b, c)
  return [says, hung].filter((x) => x !== '').join(' ')
}

function power(b: Builder, c: KnownPart): string {
  if (c.terminals.some((t) => t.id === 'V+')) {
    b.wire(address(c.id, 'V+'), b.plus(c.id))
    b.wire(address(c.id, 'V-'), b.minus(c.id))
  }
  b.mains(c)
  for (const p of b.all('source')) b.mains(p)
  return `${c.id} shows what its sensor tells; its output is left free.`
}

/** Motors, valves, coils and inputs on the relays, in their order: each on the contact that the plan means. */
function relays(b: Builder, c: KnownPart): string {
  const have = c.kind.relays?.(c.s) ?? []
  // What is pulled in by a relay of the controller switches what is left.
  const loads = b.all('load')
  const coils = loads.filter(hasPole)
  const direct = loads.filter((p) => !hasPole(p))
  const behind = direct.slice(0, coils.length)
  const first = [...coils, ...direct.slice(coils.length)]
  const inputs = b.all('input')
  if (first.length + inputs.length > have.length)
    return b.refuse(
      `${c.id} has ${have.length} ${have.length === 1 ? 'relay' : 'relays'}, and ${first.length + inputs.length} things hang on them. Set “Relays” of ${c.id}, or take some out.`,
    )
  first.forEach((load, i) => {
    const r = have[i]
    const told = load.kind.switchedLoad?.(load.s)
    if (!r || !told) return
    checkCoil(b, load, told.volts)
    b.wire(b.plus(load.id), address(c.id, r.com))
    drive(b, load, address(c.id, r[b.contactOf(i)]))
  })
  coils.forEach((k, i) => {
    const load = behind[i]
    if (!load) return
    b.wire(b.plus(load.id), address(k.id, 'com'))
    drive(b, load, address(k.id, 'no'))
  })
  inputs.forEach((input, i) => {
    const at = first.length + i
    const r = have[at]
    if (!r) return
    const way = wayOf(input, 'contact')
    const [com, contact] = [address(c.id, r.com), address(c.id, r[b.contactOf(at)])]
    landContact(b, way === 'sink' ? [com, contact] : [contact, com], input, way, false)
    landCommon(b, input, way)
  })
  const hung = [...first, ...inputs].map((p, i) => `${p.id} on K${i + 1}`)
  return hung.length === 0 ? '' : `Relays: ${hung.join(', ')}.`
}

const hasPole = (p: KnownPart) => p.terminals.some((t) => t.id === 'com')

/** From a contact over the load to 0 V; over the cable where it stands in the field. */
function drive(b: Builder, load: KnownPart, contact: string): void {
  const inField = load.kind.place === 'field'
  const go = (from: string, to: string) => (inField ? b.run(from, to) : b.wire(from, to))
  go(address(load.id, 'a1'), contact)
  go(address(load.id, 'a2'), b.minus(load.id))
}
