import type { Chart, Table } from '../chart.ts'
import { roundText } from '../quantity/round.ts'
import { all, any, unless, when } from '../quantity/condition.ts'
import { choice, number, table, type ValuesOf } from '../quantity/setting.ts'
import type { Head } from '../tank/head.ts'
import { equivalentLevel_m, shapeProblem, tankOf, type Tank, type TankShape } from '../tank/shape.ts'
import { strappedLevel, strappedVolume, strappingProblem } from '../tank/strapping.ts'
import { group, type Vessel } from './family.ts'
import type { Shape } from './scale-drawing.ts'

const shape = (...kinds: string[]) => when('shape', ...kinds)
const round = shape('sphere', 'vertical', 'horizontal')
const HEADS = {
  flat: 'flat',
  elliptical: 'elliptical 2:1',
  hemispherical: 'hemispherical',
  tori10: 'torispherical 1.0 D, 0.1 D',
  tori08: 'torispherical 0.8 D, 0.154 D',
  cone: 'cone',
} as const
const withHeads = shape('vertical', 'horizontal')
const withCone = all(withHeads, any(when('head1', 'cone'), when('head2', 'cone')))
const entered = unless('shape', 'none')
const heaped = all(shape('vertical'), unless('surface', 'flat'))

/** The tank under or around a level device; the same entries for every family that needs one. */
export const VESSEL_ENTRIES = [
  choice('shape', 'Shape', 'none', {
    none: 'not entered',
    vertical: 'upright cylinder or silo',
    horizontal: 'lying cylinder',
    rectangular: 'rectangular',
    sphere: 'sphere',
    table: 'strapping table',
  }),
  number('diameter_m', 'Inside diameter', 'm', 2, 0.05, 100, round),
  number('shell_m', 'Straight shell (tangent to tangent)', 'm', 2.5, 0, 200, withHeads),
  number('length_m', 'Inside length', 'm', 3, 0.05, 200, shape('rectangular')),
  number('width_m', 'Inside width', 'm', 2, 0.05, 200, shape('rectangular')),
  number('height_m', 'Inside height', 'm', 3, 0.05, 100, shape('rectangular')),
  choice('head1', 'Bottom, or left end', 'flat', HEADS, withHeads),
  choice('head2', 'Top, or right end', 'flat', HEADS, withHeads),
  number('cone_m', 'Depth of the cone', 'm', 1, 0.01, 50, withCone),
  number('outlet_m', 'Outlet of the cone', 'm', 0.3, 0, 20, withCone),
  table('strapping', 'Strapping table', ['level, m', 'volume, m³'], problemOfRows, shape('table')),
  number('zeroAbove_m', '0 % point above bottom (the lowest inside point)', 'm', 0, 0, 50, entered),
  number('bulk_kg_m3', 'Density or bulk density', 'kg/m3', 1000, 1, 20_000, entered),
  choice(
    'surface',
    'Surface',
    'flat',
    { flat: 'flat: a liquid', filling: 'heap while filling', emptying: 'funnel while emptying' },
    shape('vertical'),
  ),
  number('repose_deg', 'Angle of repose', 'deg', 34, 0, 60, heaped),
  number('sensorRadius_m', 'Sensor off the axis (of the tank)', 'm', 0.5, 0, 50, heaped),
  number('tableRows', 'Rows of its table (in the transmitter)', '', 11, 3, 64, entered),
] as const
export const VESSEL_GROUP = group('Tank', VESSEL_ENTRIES)
type VesselEntries = ValuesOf<typeof VESSEL_ENTRIES>

function problemOfRows(rows: readonly (readonly [number, number])[]): string | null {
  return rows.length === 0 ? null : strappingProblem(rows)
}

function headOf(s: VesselEntries, kind: keyof typeof HEADS): Head {
  const D = s.diameter_m
  switch (kind) {
    case 'elliptical':
      return { kind: 'elliptical', depth_m: D / 4 }
    case 'hemispherical':
      return { kind: 'hemispherical' }
    case 'tori10':
      return { kind: 'torispherical', f: 1, k: 0.1 }
    case 'tori08':
      return { kind: 'torispherical', f: 0.8, k: 0.154 }
    case 'cone':
      return { kind: 'cone', depth_m: s.cone_m, outletRadius_m: s.outlet_m / 2 }
    default:
      return { kind: 'flat' }
  }
}
function shapeOf(s: VesselEntries): TankShape | null {
  switch (s.shape) {
    case 'vertical':
      return {
        kind: 'vertical',
        diameter_m: s.diameter_m,
        shell_m: s.shell_m,
        bottom: headOf(s, s.head1),
        top: headOf(s, s.head2),
      }
    case 'horizontal':
      return {
        kind: 'horizontal',
        diameter_m: s.diameter_m,
        shell_m: s.shell_m,
        left: headOf(s, s.head1),
        right: headOf(s, s.head2),
      }
    case 'rectangular':
      return {
        kind: 'rectangular',
        length_m: s.length_m,
        width_m: s.width_m,
        height_m: s.height_m,
      }
    case 'sphere':
      return { kind: 'sphere', diameter_m: s.diameter_m }
    default:
      return null
  }
}
function strapped(rows: readonly (readonly [number, number])[]): Tank {
  const [first, last] = [rows[0] ?? [0, 0], rows.at(-1) ?? [1, 1]]
  return {
    height_m: last[0],
    full_m3: last[1],
    volume_m3: (h) => strappedVolume(rows, Math.max(first[0], Math.min(last[0], h))) ?? 0,
    level_m: (v) => strappedLevel(rows, v),
    halfWidth_m: () => last[0] * 0.4,
  }
}

/** The tank as entered, why there is none, or null where nobody entered one. */
export function tankOfEntries(s: VesselEntries): Tank | string | null {
  if (s.shape === 'none') return null
  if (s.shape === 'table') {
    const rows = s.strapping
    return rows.length === 0
      ? 'Import or type the strapping table.'
      : (strappingProblem(rows) ?? strapped(rows))
  }
  const shaped = shapeOf(s)
  return shaped ? (shapeProblem(shaped) ?? tankOf(shaped)) : null
}

/** Volume at a level above the 0 % point; a heap of solids is carried to its flat level first. */
export function volumeAt_m3(s: VesselEntries, tank: Tank, level_m: number): number {
  const seen = level_m + s.zeroAbove_m
  const way = s.surface
  const flat =
    s.shape === 'vertical' && way !== 'flat'
      ? equivalentLevel_m(
          seen,
          s.sensorRadius_m,
          s.diameter_m / 2,
          s.repose_deg,
          way === 'filling' ? 'filling' : 'emptying',
        )
      : seen
  return tank.volume_m3(flat)
}

const QUARTERS = [0, 25, 50, 75, 100]
const STEPS = 60
/** Volume and mass over the measured span, as a curve and at the quarter points. */
export function vesselPages(
  s: VesselEntries,
  tank: Tank,
  span_m: number,
): { charts: Chart[]; tables: Table[] } {
  const rho = s.bulk_kg_m3
  const at = (percent: number) => volumeAt_m3(s, tank, (span_m * percent) / 100)
  return {
    charts: [
      {
        title: 'Volume over level',
        says: 'The volume from the 0 % point to the 100 % point of the level.',
        x: { label: 'level', unit: '%' },
        y: { label: 'volume', unit: 'm3' },
        series: [
          {
            name: 'volume',
            kind: 'line',
            points: Array.from({ length: STEPS + 1 }, (_, i) => {
              const p = (100 * i) / STEPS
              return [p, at(p)] as const
            }),
          },
        ],
      },
    ],
    tables: [
      {
        title: 'Level, volume, mass',
        columns: ['level, %', 'level, m', 'volume, m³', 'mass, t'],
        rows: QUARTERS.map((p) => [
          String(p),
          roundText((span_m * p) / 100, 3),
          roundText(at(p), 4),
          roundText((at(p) * rho) / 1000, 3),
        ]),
      },
    ],
  }
}

export function vesselOf(s: VesselEntries, span_m: number): Vessel | null {
  const tank = tankOfEntries(s)
  if (tank === null || typeof tank === 'string' || !(span_m > 0)) return null
  return {
    span_m,
    rows: Math.round(s.tableRows),
    volume_m3: (fraction) => volumeAt_m3(s, tank, span_m * fraction),
  }
}

const OUTLINE = 48
/** The tank's outline and what is in it, drawn in mm; y runs downwards from the top. */
export function vesselShapes(tank: Tank, level_m: number | null, left_mm: number, top_mm: number): Shape[] {
  const H = tank.height_m
  const widest = Math.max(
    ...Array.from({ length: OUTLINE + 1 }, (_, i) => tank.halfWidth_m((H * i) / OUTLINE)),
  )
  const cx = left_mm + widest * 1000
  const outline = (to: number): [number, number][] => {
    const heights = Array.from({ length: OUTLINE + 1 }, (_, i) => (to * i) / OUTLINE)
    const side = (sign: 1 | -1) =>
      heights.map((h): [number, number] => [cx + sign * tank.halfWidth_m(h) * 1000, top_mm + (H - h) * 1000])
    return [...side(-1), ...side(1).reverse()]
  }
  const closed = outline(H)
  const [firstPoint] = closed
  const shapes: Shape[] = []
  if (level_m !== null && level_m > 0)
    shapes.push({ kind: 'area', ink: 'liquid', points: outline(Math.min(H, level_m)) })
  shapes.push({ kind: 'line', ink: 'plate', points: firstPoint ? [...closed, firstPoint] : closed })
  return shapes
}
export const widestHalf_m = (tank: Tank): number =>
  Math.max(...Array.from({ length: OUTLINE + 1 }, (_, i) => tank.halfWidth_m((tank.height_m * i) / OUTLINE)))
