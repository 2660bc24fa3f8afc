import type { KnownPart, Wiring } from '../../part/wiring.ts'
import { e12AtMost, pullSizing } from '../pull-sizing.ts'
import { Builder } from './builder.ts'
import {
  connectByBleeder,
  connectByRelay,
  connectByResistor,
  connectDiscrete,
  fits,
  inputModel,
  nameNumber,
  outputLimit_A,
  outputOf,
  switchingOf,
  wayOf,
} from './discrete.ts'

/** Another way to make the parts work together: what it costs, and the wiring drawn. */
export interface Remedy {
  readonly id: 'card' | 'relay' | 'resistor' | 'bleeder' | 'supply' | 'feedingCard' | 'amplifier'
  readonly title: string
  /** What it does and what it costs. */
  readonly says: string
  readonly wiring: Wiring
}

/** A remedy that was wired; one that cannot be wired is none. */
const remedy = (b: Builder, r: Omit<Remedy, 'wiring'>): Remedy[] =>
  b.refusal ? [] : [{ ...r, wiring: b.wiring }]

/** A card set the other way, or one that takes either. */
function otherCard(w: Wiring, sensor: KnownPart, input: KnownPart): Remedy[] {
  const mode = wayOf(input, 'contact') === 'sink' ? 'source' : 'sink'
  const part = w.parts[input.id]
  const b = new Builder({
    ...w,
    parts: { ...w.parts, [input.id]: { kind: input.kind.kind, settings: { ...part?.settings, mode } } },
  })
  const now = b.parts.find((p) => p.id === input.id)
  if (now) connectDiscrete(b, sensor, now)
  return remedy(b, {
    id: 'card',
    title: mode === 'source' ? 'Move the card’s common to +24 V' : 'Move the card’s common to 0 V',
    says: `If the card takes either direction, move its common, else fit one that does. Nothing is inverted; every input on that common changes with it.`,
  })
}

/** An interposing relay with its diode. */
export function byRelay(w: Wiring, sensor: KnownPart, input: KnownPart | null): Remedy[] {
  const b = new Builder(w)
  const id = b.add('relay', { coil_V: b.supplyFeed(sensor.id)?.nominal_V ?? 24 }, nameNumber(sensor))
  b.add('diode', {}, nameNumber(sensor))
  const k = b.parts.find((p) => p.id === id)
  const npn = switchingOf(sensor) === 'npn'
  if (k) connectByRelay(b, sensor, k, input)
  return remedy(b, {
    id: 'relay',
    title: 'Put a relay between them',
    says: `Coil voltage equal to the supply; ${npn ? 'the NPN output ties its other end to +24 V' : 'the coil’s other end goes to 0 V'}. The contact is dry: its common to ${input && wayOf(input, 'contact') === 'source' ? '0 V, as current flows out of this card' : '+24 V, as current flows into this card'}. Contact NO (14) keeps the sense, NC (12) inverts it. Costs about 10 ms and contact life; a card’s few mA want gold-clad contacts.`,
  })
}

/** A pull-up or pull-down, sized for the supply's whole range; none when no value serves. */
function byResistor(w: Wiring, sensor: KnownPart, input: KnownPart): Remedy[] {
  const model = inputModel(input)
  const b = new Builder(w)
  const feed = b.supplyFeed(sensor.id)
  if (!feed) return []
  const sized = pullSizing({
    vMin: feed.min_V,
    vMax: feed.max_V,
    rIn: model.r,
    iMax: model.iMax,
    UH: model.on.v,
    IH: model.on.i,
    vDrop: 1.5,
    rOn: 1,
    iLeak: 0.0001,
    iOutMax: outputLimit_A(sensor),
    derate: 0.8,
  })
  if (sized.r === null || sized.pR === null) return []
  const up = wayOf(input, 'contact') === 'sink'
  const power_W = [0.25, 0.5, 1, 2, 3, 5, 10].find((p) => p >= 2 * (sized.pR ?? 0)) ?? 10
  const id = b.add('resistor', { r_ohm: sized.r, power_W }, nameNumber(sensor))
  const r = b.parts.find((p) => p.id === id)
  if (r) connectByResistor(b, sensor, r, input)
  return remedy(b, {
    id: 'resistor',
    title: `${up ? 'Pull-up' : 'Pull-down'} of ${sized.r} Ω, ${power_W} W`,
    says: `Between ${Math.ceil(sized.rMin)} and ${Math.floor(sized.rMax)} Ω would do. It inverts: the conducting transistor takes the input to 0, so the program must turn the bit round. A broken output wire reads 1. Not for protective signals.`,
  })
}

/** What helps when sensor and card do not fit, best first. */
export function mismatchRemedies(w: Wiring, sensor: KnownPart, input: KnownPart): Remedy[] {
  return [...otherCard(w, sensor, input), ...byRelay(w, sensor, input), ...byResistor(w, sensor, input)]
}

export const mismatched = (sensor: KnownPart, input: KnownPart): boolean =>
  sensor.kind.readBy === undefined && !fits(switchingOf(sensor), wayOf(input, switchingOf(sensor)))

/** A resistor beside the input for a two-wire sensor's leak; E12, at most what the leak allows. */
export function leakRemedies(w: Wiring, sensor: KnownPart, input: KnownPart): Remedy[] {
  const model = inputModel(input)
  const leak = outputOf(sensor).leak_A
  const out: Remedy[] = []
  if (input.kind.input?.(input.s).type !== 3) {
    const part = w.parts[input.id]
    const b = new Builder({
      ...w,
      parts: {
        ...w.parts,
        [input.id]: { kind: input.kind.kind, settings: { ...part?.settings, type: '3' } },
      },
    })
    const now = b.parts.find((p) => p.id === input.id)
    if (now) connectDiscrete(b, sensor, now)
    out.push(
      ...remedy(b, {
        id: 'card',
        title: 'A type 3 input',
        says: 'It is made for two-wire sensors: up to 1.5 mA is still a 0.',
      }),
    )
  }
  const over = leak - model.off.v / model.r
  const forLeak = over > 0 ? (0.9 * model.off.v) / over : Infinity
  const least = outputOf(sensor).least_A
  const forLoad = least > 0 ? 15 / least : Infinity
  const limit = Math.min(forLeak, forLoad)
  if (Number.isFinite(limit)) {
    const b = new Builder(w)
    const r_ohm = e12AtMost(limit)
    const id = b.add('resistor', { r_ohm, power_W: r_ohm < 1500 ? 1 : 0.5 }, nameNumber(sensor))
    const r = b.parts.find((p) => p.id === id)
    if (r) connectByBleeder(b, sensor, r, input)
    out.push(
      ...remedy(b, {
        id: 'bleeder',
        title: `${r_ohm} Ω beside the input`,
        says: 'It takes the sensor’s leak past the input, and gives the sensor the least current it needs. It gets warm; fit it at the card.',
      }),
    )
  }
  return out
}

/** What reads a sensor by its current. */
export function withReader(w: Wiring, sensor: KnownPart, input: KnownPart, reader: string): Remedy[] {
  const b = new Builder(w)
  b.add(reader, {}, '')
  connectDiscrete(b, sensor, input)
  return remedy(b, {
    id: 'amplifier',
    title: 'Add a NAMUR amplifier',
    says: 'It feeds the sensor with 8.2 V, tells a broken wire from no target, and gives a dry contact.',
  })
}

/** A loop that nothing feeds: a supply beside it, or a card that feeds. */
export function feedRemedies(w: Wiring, connect: (b: Builder) => void): Remedy[] {
  const withSupply = new Builder(w)
  withSupply.add('supply', {}, '1')
  connect(withSupply)
  const out = remedy(withSupply, {
    id: 'supply',
    title: 'Add a 24 V supply in series',
    says: 'Any loop without a source needs exactly one.',
  })
  const card = withSupply.parts.find((p) => p.kind.settings.some((s) => s.name === 'feeds'))
  if (card) {
    const part = w.parts[card.id]
    const b = new Builder({
      ...w,
      parts: {
        ...w.parts,
        [card.id]: { kind: card.kind.kind, settings: { ...part?.settings, feeds: true } },
      },
    })
    connect(b)
    out.push(
      ...remedy(b, {
        id: 'feedingCard',
        title: `Take a card that feeds the loop as ${card.id}`,
        says: 'The card’s 24+ drives the current; no supply of its own is needed.',
      }),
    )
  }
  return out
}
