import { sayNumber } from '../../quantity/round.ts'
import type { ScaleDrawing } from '../scale-drawing.ts'
import type { Entries } from './settings.ts'

/** Plate, taps and pipe to one scale, mm. */
export function drawing(s: Entries): ScaleDrawing {
  const [D, d] = [s.D_mm, s.d_mm]
  const length = D * 3.2
  const wall = D * 0.06
  const cx = length / 2
  const tap = s.taps === 'flange' ? 25.4 : s.taps === 'corner' ? 2 : D
  const back = s.taps === 'D-D/2' ? D / 2 : tap
  return {
    says: `Orifice of ${d} mm in a pipe of ${D} mm, ${s.taps} taps`,
    left: -D * 0.35,
    top: -D * 0.45,
    width: length + D * 0.9,
    height: D * 1.9,
    shapes: [
      { kind: 'rect', ink: 'fluid', x: 0, y: 0, w: length, h: D },
      { kind: 'rect', ink: 'wall', x: 0, y: -wall, w: length, h: wall },
      { kind: 'rect', ink: 'wall', x: 0, y: D, w: length, h: wall },
      { kind: 'rect', ink: 'plate', x: cx, y: 0, w: D * 0.035, h: (D - d) / 2 },
      { kind: 'rect', ink: 'plate', x: cx, y: D - (D - d) / 2, w: D * 0.035, h: (D - d) / 2 },
      {
        kind: 'line',
        ink: 'sensor',
        points: [
          [cx - tap, 0],
          [cx - tap, -D * 0.22],
        ],
      },
      {
        kind: 'line',
        ink: 'sensor',
        points: [
          [cx + back, 0],
          [cx + back, -D * 0.22],
        ],
      },
      {
        kind: 'line',
        ink: 'axis',
        points: [
          [0, D / 2],
          [length, D / 2],
        ],
      },
      {
        kind: 'line',
        ink: 'flow',
        points: [
          [length * 0.05, D * 0.72],
          [length * 0.22, D * 0.72],
        ],
      },
      { kind: 'dimension', from: [length + D * 0.15, 0], to: [length + D * 0.15, D], text: `${D} mm` },
      {
        kind: 'dimension',
        from: [cx + D * 0.25, (D - d) / 2],
        to: [cx + D * 0.25, (D + d) / 2],
        text: `${d} mm`,
      },
      {
        kind: 'dimension',
        from: [cx - tap, -D * 0.28],
        to: [cx, -D * 0.28],
        text: `${sayNumber(tap, 4)} mm`,
      },
    ],
  }
}
