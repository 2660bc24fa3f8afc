import type { Tool } from '../../device/tools/tool.ts'
import { BUFFERS, bufferPH } from './buffers.ts'

/** Bottles: only the pH that is on one of them. */
export const BUFFER_BOTTLES: Tool = {
  id: 'buffers',
  title: 'Buffer bottles',
  refuses: (v) =>
    BUFFERS.some((b) => Math.abs((bufferPH(b, 25) ?? NaN) - v) < 0.05)
      ? null
      : `There is no such bottle: ${BUFFERS.map((b) => (bufferPH(b, 25) ?? 0).toFixed(2)).join(', ')}.`,
  gives: (v, _r, draw) => v + 0.004 * draw,
  leak: { share: 0, tau_s: 1 },
  stroke_s: 5,
  shows: (v) => Math.round(v * 100) / 100,
}
