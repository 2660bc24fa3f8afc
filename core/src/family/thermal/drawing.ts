import type { ScaleDrawing } from '../scale-drawing.ts'
import type { Entries } from './settings.ts'

/** Pipe, fitting and probe to one scale, mm. */
export function drawing(s: Entries, mark_mm: number): ScaleDrawing {
  const [od, wall, stack] = [s.od_mm, s.wall_mm, s.stack_mm]
  const id = od - 2 * wall
  const length = od * 1.6
  const cx = length / 2
  const stem = s.stem_mm
  const tip = stack + wall + id / 2 + s.tip_mm
  return {
    says: `Probe ${mark_mm.toFixed(1)} mm from the fitting face, sensing point on the centre line of a pipe of ${od} mm`,
    left: -od * 0.15,
    top: -od * 0.25,
    width: length + od * 0.9,
    height: stack + od + od * 0.5,
    shapes: [
      { kind: 'rect', ink: 'fluid', x: 0, y: stack + wall, w: length, h: id },
      { kind: 'rect', ink: 'wall', x: 0, y: stack, w: length, h: wall },
      { kind: 'rect', ink: 'wall', x: 0, y: stack + od - wall, w: length, h: wall },
      { kind: 'rect', ink: 'liner', x: cx - stem * 1.6, y: 0, w: stem * 3.2, h: stack },
      { kind: 'rect', ink: 'stem', x: cx - stem / 2, y: -od * 0.15, w: stem, h: tip + od * 0.15 },
      {
        kind: 'line',
        ink: 'axis',
        points: [
          [0, stack + od / 2],
          [length, stack + od / 2],
        ],
      },
      {
        kind: 'line',
        ink: 'flow',
        points: [
          [length * 0.06, stack + od * 0.72],
          [length * 0.26, stack + od * 0.72],
        ],
      },
      {
        kind: 'dimension',
        from: [length + od * 0.12, 0],
        to: [length + od * 0.12, tip],
        text: `mark ${mark_mm.toFixed(1)} mm`,
      },
      { kind: 'dimension', from: [-od * 0.06, 0], to: [-od * 0.06, stack], text: `${stack} mm` },
      { kind: 'label', at: [cx + stem * 2, od * 0.06], text: 'fitting face', anchor: 'start' },
    ],
  }
}
