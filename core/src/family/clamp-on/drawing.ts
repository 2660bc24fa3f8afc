import type { ScaleDrawing, Shape } from '../scale-drawing.ts'
import type { Site } from './site.ts'

const radians = (deg: number) => (deg * Math.PI) / 180

/** Side of a sensor as it is drawn, mm. */
const size = (od: number) => Math.max(od * 0.09, 6)

/** The beam along the pipe and the cross-section beside it, one scale, lengths in mm. */
export function clampOnDrawing(
  site: Site,
  twoPaths: boolean,
  run: { readonly upstream_D: number; readonly downstream_D: number },
  /** Damping film round the pipe, mm; 0 where there is none. */
  film_mm: number,
): ScaleDrawing {
  const { od_mm: od, wall_mm: wall, liner_mm: liner, id_mm: id, beam, traverses } = site
  const margin = od * 0.35
  // In quarters of a diameter: the pipe stands still while a number is typed, and only the beam moves.
  const step = od / 4
  const length = Math.ceil((Math.max(beam.spacing_mm, od * 0.6) + 2 * margin) / step) * step
  const first = (length - beam.spacing_mm) / 2
  const shapes: Shape[] = []
  const band = (ink: 'wall' | 'liner', y: number, h: number) =>
    shapes.push({ kind: 'rect', ink, x: 0, y, w: length, h })
  shapes.push({ kind: 'rect', ink: 'fluid', x: 0, y: wall + liner, w: length, h: id })
  for (const [y, sign] of [
    [0, 1],
    [od, -1],
  ] as const) {
    band('wall', sign > 0 ? y : y - wall, wall)
    if (liner > 0) band('liner', sign > 0 ? y + wall : y - wall - liner, liner)
  }
  if (film_mm > 0) {
    for (const y of [-film_mm, od])
      shapes.push({ kind: 'rect', ink: 'liner', x: 0, y, w: length, h: film_mm })
    shapes.push({
      kind: 'label',
      at: [length * 0.02, od + size(od) * 0.9],
      text: `film ${film_mm} mm`,
      anchor: 'start',
    })
  }
  // Down through the layers, across the bore as often as it is crossed, and out again.
  const points: [number, number][] = [[first, 0]]
  let [x, y] = [first, 0]
  for (const layer of beam.layers) {
    if (layer.name === 'film') continue
    x += layer.thickness_mm * Math.tan(radians(layer.angle_deg))
    y += layer.thickness_mm
    points.push([x, y])
  }
  const across = id * Math.tan(radians(beam.fluidAngle_deg))
  let down = true
  for (let n = 0; n < traverses; n++) {
    x += across
    y = down ? od - wall - liner : wall + liner
    points.push([x, y])
    down = !down
  }
  const out = [...beam.layers].filter((l) => l.name !== 'film').reverse()
  for (const layer of out) {
    x += layer.thickness_mm * Math.tan(radians(layer.angle_deg))
    y += down ? -layer.thickness_mm : layer.thickness_mm
    points.push([x, y])
  }
  shapes.push({ kind: 'line', ink: 'beam', points })
  const block = size(od)
  const last = points.at(-1) ?? [first, 0]
  const top = last[1] < od / 2
  shapes.push({ kind: 'rect', ink: 'sensor', x: first - block, y: -block * 1.1, w: block * 1.6, h: block })
  shapes.push({
    kind: 'rect',
    ink: 'sensor',
    x: last[0] - block * 0.6,
    y: top ? -block * 1.1 : od + block * 0.1,
    w: block * 1.6,
    h: block,
  })
  shapes.push({
    kind: 'dimension',
    from: [first, -block * 2.9],
    to: [last[0], -block * 2.9],
    text: `spacing ${beam.spacing_mm.toFixed(1)} mm`,
  })
  shapes.push({
    kind: 'line',
    ink: 'flow',
    points: [
      [length * 0.06, od / 2],
      [length * 0.2, od / 2],
    ],
  })
  shapes.push({ kind: 'label', at: [length * 0.06, od / 2 - od * 0.04], text: 'flow', anchor: 'start' })
  shapes.push({
    kind: 'dimension',
    from: [length + margin * 0.25, wall + liner],
    to: [length + margin * 0.25, od - wall - liner],
    text: `bore ${id.toFixed(1)} mm`,
  })
  // The rail's ruler, and the straight run in metres: too long to draw to this scale.
  const near = Math.abs(last[0] - first) < block * 6
  for (const [at, text, anchor] of [
    [first, '0 mm', near ? 'end' : 'middle'],
    [last[0], `${beam.spacing_mm.toFixed(1)} mm`, near ? 'start' : 'middle'],
  ] as const)
    shapes.push({ kind: 'label', at: [at, -block * 1.4], text, anchor })
  const metres = (D: number) => ((D * id) / 1000).toFixed(2)
  shapes.push({
    kind: 'label',
    at: [0, od + block * 2],
    text: `straight: ${run.upstream_D} D = ${metres(run.upstream_D)} m up, ${run.downstream_D} D = ${metres(run.downstream_D)} m down`,
    anchor: 'start',
  })
  // Cross-section: sensors on the horizontal middle, never on top or below.
  const cx = length + od * 0.78 + od / 2
  shapes.push({ kind: 'ring', ink: 'fluid', x: cx, y: od / 2, r: id / 2, inner: 0 })
  if (liner > 0)
    shapes.push({ kind: 'ring', ink: 'liner', x: cx, y: od / 2, r: od / 2 - wall, inner: id / 2 })
  if (film_mm > 0)
    shapes.push({ kind: 'ring', ink: 'liner', x: cx, y: od / 2, r: od / 2 + film_mm, inner: od / 2 })
  shapes.push({ kind: 'ring', ink: 'wall', x: cx, y: od / 2, r: od / 2, inner: od / 2 - wall })
  const at = (clock: number): [number, number] => {
    const a = radians(clock * 30 - 90)
    return [cx + (od / 2) * Math.cos(a), od / 2 + (od / 2) * Math.sin(a)]
  }
  const reflect = traverses % 2 === 0
  const paths = twoPaths ? [1.5, 10.5] : [3]
  paths.forEach((clock, i) => {
    const [a, b] = [at(clock), at(clock + 6)]
    shapes.push({ kind: 'line', ink: i === 0 ? 'beam' : 'beam2', points: [a, b] })
    for (const [px, py] of reflect ? [a] : [a, b])
      shapes.push({ kind: 'rect', ink: 'sensor', x: px - block / 2, y: py - block / 2, w: block, h: block })
  })
  shapes.push({
    kind: 'label',
    at: [cx, od + block * 2],
    text: twoPaths ? 'two paths, 90° apart' : reflect ? 'both at 3 o’clock' : '3 and 9 o’clock',
    anchor: 'middle',
  })
  const width = cx + od / 2 + block * 2
  return {
    says: `Beam through a pipe of ${od.toFixed(1)} mm with ${wall.toFixed(2)} mm wall${liner > 0 ? ` and ${liner} mm liner` : ''}, ${traverses} ${traverses === 1 ? 'traverse' : 'traverses'}, spacing ${beam.spacing_mm.toFixed(1)} mm`,
    left: -block,
    top: -block * 4.4,
    width: width + block,
    height: od + block * 7.8,
    shapes,
  }
}
