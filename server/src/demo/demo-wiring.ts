import { withoutPart, withWire, type Wiring } from '@calm/core/part/wiring'
import { usualColour } from '@calm/core/wire/connect/colours'
import { connect } from '@calm/core/wire/connect/index'
import type { DemoWiring } from './demo-files.ts'

/** A demo loop's wiring: as it should be, or with the mistake somebody made. Null for a loop never drawn. */
export function demoWiring(demo: DemoWiring): Wiring | null {
  const parts: Wiring['parts'] = Object.fromEntries(
    Object.entries(demo.parts).map(([id, [kind, settings]]) => [id, { kind, settings: settings ?? {} }]),
  )
  if (Object.keys(parts).length === 0) return null
  const bare: Wiring = { school: 'iec', parts, wires: {} }
  const { mistake } = demo
  const join = (w: Wiring, ends: readonly (readonly [string, string])[] = []) =>
    ends.reduce((out, [a, b]) => withWire(out, a, b, { colour: usualColour(out, a, b) }), w)
  if (mistake?.wires) return join(bare, mistake.wires)
  const correct = connect(bare)
  if (correct.kind !== 'wired') throw new Error(`${demo.tag}: ${correct.says}`)
  let w = correct.wiring
  for (const id of mistake?.remove ?? []) w = withoutPart(w, id)
  for (const [a, b] of mistake?.cut ?? []) {
    const wires = Object.entries(w.wires).filter(
      ([, x]) => !(x.from === a && x.to === b) && !(x.from === b && x.to === a),
    )
    if (wires.length === Object.keys(w.wires).length) throw new Error(`${demo.tag}: no wire ${a} to ${b}`)
    w = { ...w, wires: Object.fromEntries(wires) }
  }
  return join(w, mistake?.add)
}
