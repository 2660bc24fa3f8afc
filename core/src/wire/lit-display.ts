import { partKind } from '../part/index.ts'
import type { Wiring } from '../part/wiring.ts'

/**
 * The wiring with the displays of its transmitters lit: a light that the loop feeds takes its volts whether the drawing
 * knows of it or only the set-up.
 */
export const withLight = (w: Wiring): Wiring => ({
  ...w,
  parts: Object.fromEntries(
    Object.entries(w.parts).map(([id, part]) =>
      partKind(part.kind)?.settings.some((s) => s.name === 'lit')
        ? [id, { ...part, settings: { ...part.settings, lit: true } }]
        : [id, part],
    ),
  ),
})
