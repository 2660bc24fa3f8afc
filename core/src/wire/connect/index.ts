import { AT_REST, energise } from '../../part/energise.ts'
import type { Wiring } from '../../part/wiring.ts'
import { connectAnalogue } from './analogue.ts'
import { Builder, CannotConnect } from './builder.ts'
import { connectByRelay, connectByResistor, connectDiscrete } from './discrete.ts'
import { byRelay, feedRemedies, leakRemedies, mismatched, mismatchRemedies, type Remedy } from './remedies.ts'

export type Connected =
  | { readonly kind: 'wired'; readonly wiring: Wiring; readonly says: string }
  | { readonly kind: 'cannot'; readonly says: string; readonly remedies: readonly Remedy[] }

/**
 * The correct wiring of the chosen parts, terminal by terminal, with colours; or why they cannot work
 * together, and what would mend it. Wires that were there are replaced; a meter is left out.
 */
export function connect(chosen: Wiring): Connected {
  const b = new Builder(chosen)
  const tx = b.first('transmitter')
  const sensor = b.first('sensor')
  const input = b.first('input')
  try {
    if (b.all('transmitter').length > 1)
      throw new CannotConnect('Two transmitters cannot drive one loop. Keep one of them here.')
    if (tx) {
      const says = connectAnalogue(b, tx)
      return { kind: 'wired', wiring: keepMeter(chosen, b.wiring), says }
    }
    if (!sensor) throw new CannotConnect('Choose what is in the field first: a transmitter or a sensor.')
    b.supply(sensor.id)
    const k = b.first('switching')
    if (k) {
      const says = connectByRelay(b, sensor, k, input)
      return { kind: 'wired', wiring: keepMeter(chosen, b.wiring), says }
    }
    const r = b.all('loose').find((p) => p.kind.kind === 'resistor')
    if (input && mismatched(sensor, input) && r) {
      const says = connectByResistor(b, sensor, r, input)
      return { kind: 'wired', wiring: keepMeter(chosen, b.wiring), says }
    }
    const says = connectDiscrete(b, sensor, input)
    if (sensor.kind.kind === 'proximity-two-wire' && input) {
      const trouble = twoWireTrouble(b.wiring, sensor.id)
      if (trouble) return { kind: 'cannot', says: trouble, remedies: leakRemedies(chosen, sensor, input) }
    }
    return { kind: 'wired', wiring: keepMeter(chosen, b.wiring), says }
  } catch (error) {
    if (!(error instanceof CannotConnect)) throw error
    return { kind: 'cannot', says: error.message, remedies: remediesFor(chosen) }
  }
}

function remediesFor(chosen: Wiring): readonly Remedy[] {
  const b = new Builder(chosen)
  const tx = b.first('transmitter')
  const sensor = b.first('sensor')
  const input = b.first('input')
  try {
    if (tx && !b.first('source') && b.all('receiver').length > 0)
      return feedRemedies(chosen, (x) => {
        const again = x.first('transmitter')
        if (again) connectAnalogue(x, again)
      })
    if (tx || !sensor || !b.first('source')) return []
    if (input && mismatched(sensor, input)) return mismatchRemedies(chosen, sensor, input)
    if (sensor.kind.kind === 'namur-sensor' && input) {
      const x = new Builder(chosen)
      x.add('namur-amplifier', {}, '')
      connectDiscrete(x, sensor, input)
      return [
        {
          id: 'amplifier',
          title: 'Add a NAMUR amplifier',
          says: 'It feeds the sensor with 8.2 V, tells a broken wire from no target, and gives a dry contact.',
          wiring: x.wiring,
        },
      ]
    }
    if (b.first('load') && !b.first('switching')) return [byRelay(chosen, sensor, input)]
  } catch (error) {
    // A remedy that cannot be wired is no remedy.
    if (!(error instanceof CannotConnect)) throw error
  }
  return []
}

/** What a two-wire sensor's leak or least load does to the input, or null when both are all right. */
function twoWireTrouble(w: Wiring, sensor: string): string | null {
  for (const actuated of [[], [sensor]]) {
    const { findings } = energise(w, { ...AT_REST, actuated })
    const found = findings.find((f) => f.code === 'INPUT_UNDEFINED' || f.code === 'MIN_LOAD')
    if (found)
      return found.code === 'MIN_LOAD'
        ? `${found.says}`
        : `${sensor} leaks too much for this input: ${found.says}`
  }
  return null
}

/** A meter that stood among the parts stays there, with no leads landed. */
function keepMeter(chosen: Wiring, wired: Wiring): Wiring {
  return { ...wired, parts: { ...chosen.parts, ...wired.parts } }
}
