import type { Tank } from '../tank/shape.ts'
import type { ScaleDrawing, Shape } from './scale-drawing.ts'
import { vesselShapes, widestHalf_m } from './vessel.ts'

/** What a picture of a level device shows; distances downwards from the reference plane, m. */
export interface LevelPicture {
  readonly says: string
  readonly tank: Tank | null
  /** Distance to the lowest inside point of the tank. */
  readonly bottom_m: number
  /** Distance to the surface; null where nothing is known. */
  readonly surface_m: number | null
  /** Regions without a valid measurement. */
  readonly dead: readonly (readonly [from_m: number, to_m: number, says: string])[]
  readonly marks: readonly (readonly [at_m: number, says: string])[]
  /** Length of a probe, or half the beam's angle. */
  readonly probe_m?: number
  readonly halfBeam_deg?: number
}

/** Tank, zones, marks and level to one scale, mm. */
export function levelDrawing(p: LevelPicture): ScaleDrawing {
  const deepest = Math.max(p.bottom_m, p.probe_m ?? 0, ...p.marks.map(([at]) => at))
  const roof = p.tank ? Math.min(0, p.bottom_m - p.tank.height_m) : 0
  const H = (deepest - roof) * 1000
  const half = p.tank ? widestHalf_m(p.tank) * 1000 : H * 0.35
  const axis = half
  const shapes: Shape[] = []
  if (p.tank) {
    shapes.push(
      ...vesselShapes(
        p.tank,
        p.surface_m === null ? null : p.bottom_m - p.surface_m,
        0,
        (p.bottom_m - p.tank.height_m) * 1000,
      ),
    )
  } else {
    if (p.surface_m !== null && p.surface_m < p.bottom_m)
      shapes.push({
        kind: 'rect',
        ink: 'liquid',
        x: 0,
        y: Math.max(0, p.surface_m) * 1000,
        w: 2 * half,
        h: (p.bottom_m - Math.max(0, p.surface_m)) * 1000,
      })
    shapes.push({
      kind: 'line',
      ink: 'plate',
      points: [
        [0, 0],
        [0, p.bottom_m * 1000],
        [2 * half, p.bottom_m * 1000],
        [2 * half, 0],
      ],
    })
  }
  const zone = Math.max(half * 0.16, H * 0.02)
  for (const [from, to] of p.dead)
    shapes.push({
      kind: 'rect',
      ink: 'dead',
      x: axis - zone,
      y: from * 1000,
      w: 2 * zone,
      h: (to - from) * 1000,
    })
  if (p.probe_m !== undefined)
    shapes.push({
      kind: 'line',
      ink: 'sensor',
      points: [
        [axis, 0],
        [axis, p.probe_m * 1000],
      ],
    })
  if (p.halfBeam_deg !== undefined) {
    const depth = (p.surface_m ?? p.bottom_m) * 1000
    const wide = depth * Math.tan((p.halfBeam_deg * Math.PI) / 180)
    shapes.push({
      kind: 'line',
      ink: 'beam',
      points: [
        [axis - wide, depth],
        [axis, 0],
        [axis + wide, depth],
      ],
    })
  }
  const head = Math.max(H * 0.03, half * 0.06)
  shapes.push({ kind: 'rect', ink: 'sensor', x: axis - head, y: -head * 1.2, w: 2 * head, h: head * 1.2 })
  const right = 2 * half
  p.marks.forEach(([at, says], i) => {
    shapes.push({
      kind: 'line',
      ink: 'mark',
      points: [
        [0, at * 1000],
        [right * 1.06 + H * 0.02, at * 1000],
      ],
    })
    shapes.push({
      kind: 'label',
      at: [right * 1.08 + H * 0.04, at * 1000 + (i % 2 === 0 ? -H * 0.008 : H * 0.03)],
      text: says,
      anchor: 'start',
    })
  })
  for (const [from, to, says] of p.dead)
    shapes.push({
      kind: 'label',
      at: [axis + zone * 1.3, ((from + to) / 2) * 1000 + H * 0.012],
      text: says,
      anchor: 'start',
    })
  const top = Math.min(roof * 1000, -head * 1.2) - H * 0.06
  return {
    says: p.says,
    left: -H * 0.06,
    top,
    width: right * 1.1 + H * 1.15,
    height: deepest * 1000 - top + H * 0.08,
    shapes,
  }
}
