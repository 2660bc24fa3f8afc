import { AT_REST, energise } from '../../part/energise.ts'
import type { Relays } from '../../signal/relay-plan.ts'
import type { KnownPart, Wiring } from '../../part/wiring.ts'
import { tooFewVolts } from './too-few-volts.ts'
import { connectAnalogue } from './analogue.ts'
import { Builder } from './builder.ts'
import { connectController } from './controller.ts'
import { loopsIn, type Loop } from './loops.ts'
import { connectByRelay, connectByResistor, connectDiscrete, outputOf } from './discrete.ts'
import {
  byRelay,
  feedRemedies,
  leakRemedies,
  mismatched,
  mismatchRemedies,
  withReader,
  type Remedy,
} from './remedies.ts'

export type Connected =
  | {
      readonly kind: 'wired'
      readonly wiring: Wiring
      readonly says: string
      /** Wired as it must be, the loop still has too few volts: how many, and what would fit. */
      readonly short: string | null
    }
  | { readonly kind: 'cannot'; readonly says: string; readonly remedies: readonly Remedy[] }

/**
 * The correct wiring of the chosen parts, terminal by terminal, with colours; or why they cannot work
 * together, and what would mend it. Wires that were there are replaced; a meter is left out.
 * @param relays - the loop’s plan: which contact of a controller’s relay is meant; the NO where nobody planned
 */
export function connect(chosen: Wiring, relays: Relays | null = null): Connected {
  const loops = loopsIn(chosen)
  if (loops) return connectLoops(chosen, loops, relays)
  const b = new Builder(chosen, relays?.plans)
  const sensor = b.first('sensor')
  const input = b.first('input')
  const says = connectParts(b, sensor, input)
  if (b.refusal) return { kind: 'cannot', says: b.refusal.says, remedies: remediesFor(chosen) }
  if (sensor && input && leaks(sensor)) {
    const trouble = leakTrouble(b.wiring, sensor.id)
    if (trouble) return { kind: 'cannot', says: trouble, remedies: leakRemedies(chosen, sensor, input) }
  }
  return { kind: 'wired', wiring: keepMeter(chosen, b.wiring), says, short: tooFewVolts(b.wiring) }
}

/** Several loops in one wiring: each with the parts of its number, the others shared. */
function connectLoops(chosen: Wiring, loops: readonly Loop[], relays: Relays | null): Connected {
  const b = new Builder(chosen, relays?.plans)
  const says: string[] = []
  for (const loop of loops) {
    b.within(loop.parts)
    says.push(connectParts(b, b.first('sensor'), b.first('input')))
    if (b.refusal) return { kind: 'cannot', says: `${loop.field}: ${b.refusal.says}`, remedies: [] }
  }
  b.within(null)
  return {
    kind: 'wired',
    wiring: keepMeter(chosen, b.wiring),
    says: `${loops.length} loops, each with the parts of its number: ${loops.map((l) => l.field).join(', ')}.`,
    short: null,
  }
}

/** Wires by what is in the field, and says what was done. */
function connectParts(b: Builder, sensor: KnownPart | null, input: KnownPart | null): string {
  const tx = b.first('transmitter')
  const controller = b.first('controller')
  if (controller) return connectController(b, controller, tx)
  if (b.all('transmitter').length > 1)
    return b.refuse(
      'Two transmitters cannot drive one loop. Keep one of them, or give each loop’s parts its number: PT-1 with AI-1, PT-2 with AI-2.',
    )
  if (tx) return connectAnalogue(b, tx)
  if (!sensor) return b.refuse('Choose what is in the field first: a transmitter or a sensor.')
  if (!b.supply(sensor.id)) return ''
  const k = b.first('switching')
  if (k) return connectByRelay(b, sensor, k, input)
  const r = b.all('loose').find((p) => p.kind.looseUse === 'pulls')
  if (input && mismatched(sensor, input) && r) return connectByResistor(b, sensor, r, input)
  return connectDiscrete(b, sensor, input)
}

function remediesFor(chosen: Wiring): readonly Remedy[] {
  const b = new Builder(chosen)
  const tx = b.first('transmitter')
  const sensor = b.first('sensor')
  const input = b.first('input')
  if (tx && !b.first('source') && b.all('receiver').length > 0)
    return feedRemedies(chosen, (x) => {
      const again = x.first('transmitter')
      if (again) connectAnalogue(x, again)
    })
  if (tx || !sensor || !b.first('source')) return []
  if (input && mismatched(sensor, input)) return mismatchRemedies(chosen, sensor, input)
  const reader = sensor.kind.readBy
  if (reader !== undefined && input) return withReader(chosen, sensor, input, reader)
  return b.first('load') && !b.first('switching') ? byRelay(chosen, sensor, input) : []
}

/** A sensor that lives on the current of its own output. */
const leaks = (sensor: KnownPart): boolean => outputOf(sensor).least_A > 0

/** What a two-wire sensor's leak or least load does to the input, or null when both are all right. */
function leakTrouble(w: Wiring, sensor: string): string | null {
  for (const actuated of [[], [sensor]]) {
    const { findings } = energise(w, { ...AT_REST, actuated })
    const found = findings.find((f) => f.code === 'INPUT_UNDEFINED' || f.code === 'MIN_LOAD')
    if (found)
      return found.code === 'MIN_LOAD' ? found.says : `${sensor} leaks too much for this input: ${found.says}`
  }
  return null
}

/** A meter that stood among the parts stays there, with no leads landed. */
function keepMeter(chosen: Wiring, wired: Wiring): Wiring {
  return { ...wired, parts: { ...chosen.parts, ...wired.parts } }
}
