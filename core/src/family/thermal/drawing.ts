import type { ScaleDrawing, Shape } from '../scale-drawing.ts'
import { stackOf_mm, type Entries } from './settings.ts'
import { marksOf } from './stack-findings.ts'
import { insertionOf } from './full-scale.ts'

/** One probe in its fittings, its tip so deep below the face; mm. */
function probeAt(s: Entries, cx: number, depth_mm: number, above: number): Shape[] {
  const shapes: Shape[] = []
  const stem = s.stem_mm
  const body = (y: number, h: number, w: number, ink: 'liner' | 'plate') =>
    h > 0 && shapes.push({ kind: 'rect', ink, x: cx - w / 2, y, w, h })
  if (s.stackBy === 'pieces') {
    let y = 0
    body(y, s.fitting_mm, stem * 2.6, 'liner')
    y += s.fitting_mm
    body(y, s.above_mm, stem * 1.9, 'liner')
    y += s.above_mm
    body(y, s.valve_mm, Math.max(stem, s.valveBore_mm) * 2.6, 'liner')
    const closed = depth_mm < y
    if (closed) body(y + s.valve_mm * 0.42, s.valve_mm * 0.16, Math.max(stem, s.valveBore_mm) * 2.6, 'plate')
    y += s.valve_mm
    body(y, s.below_mm, stem * 1.9, 'liner')
    y += s.below_mm
    body(y, s.stub_mm, stem * 2.4, 'liner')
  } else body(0, s.stack_mm, stem * 3.2, 'liner')
  shapes.push({ kind: 'rect', ink: 'stem', x: cx - stem / 2, y: -above, w: stem, h: depth_mm + above })
  return shapes
}

/** Pipe, fittings and probe to one scale, mm; where the pieces are known, the probe at each of its marks. */
export function drawing(s: Entries, mark_mm: number): ScaleDrawing {
  const stack = stackOf_mm(s)
  const [od, wall] = [s.od_mm, s.wall_mm]
  const id = od - 2 * wall
  const marks = marksOf(s, insertionOf(s))
  const above = od * 0.15
  const step = Math.max(od * 0.8, s.stem_mm * 9)
  const columns = marks
    ? [
        { title: 'inserted', depth: mark_mm },
        { title: 'clear', depth: Math.max(0, marks.clear_mm) },
        { title: 'out', depth: 0 },
      ]
    : [{ title: 'inserted', depth: mark_mm }]
  const length = marks ? step * 3 : od * 1.6
  const first = marks ? step / 2 : length / 2
  const shapes: Shape[] = [
    { kind: 'rect', ink: 'fluid', x: 0, y: stack + wall, w: length, h: id },
    { kind: 'rect', ink: 'wall', x: 0, y: stack, w: length, h: wall },
    { kind: 'rect', ink: 'wall', x: 0, y: stack + od - wall, w: length, h: wall },
  ]
  columns.forEach((c, i) => {
    const cx = first + i * step
    shapes.push(...probeAt(s, cx, c.depth, above))
    shapes.push({
      kind: 'label',
      at: [cx, stack + od + od * 0.14],
      text: c.depth === 0 ? c.title : `${c.title} ${c.depth.toFixed(0)} mm`,
      anchor: 'middle',
    })
  })
  shapes.push(
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
        [length * 0.04, stack + od * 0.78],
        [length * 0.2, stack + od * 0.78],
      ],
    },
    {
      kind: 'dimension',
      from: [length + od * 0.12, 0],
      to: [length + od * 0.12, mark_mm],
      text: `mark ${mark_mm.toFixed(1)} mm`,
    },
    { kind: 'dimension', from: [-od * 0.06, 0], to: [-od * 0.06, stack], text: `${stack} mm` },
    { kind: 'label', at: [first + s.stem_mm * 2, od * 0.06], text: 'face', anchor: 'start' },
  )
  return {
    says: `Probe ${mark_mm.toFixed(1)} mm from the fitting face, sensing point on the centre line of a pipe of ${od} mm${marks ? `; clear of the valve at ${marks.clear_mm.toFixed(0)} mm` : ''}`,
    left: -od * 0.3,
    top: -od * 0.25,
    width: length + od * 1.05,
    height: stack + od + od * 0.5,
    shapes,
  }
}
