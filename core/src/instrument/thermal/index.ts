import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import { choice, number, type Settings } from '../../quantity/setting.ts'
import { nothing, type Family, type ScaleDrawing, type SetUpResult, type UncertainInput } from '../family.ts'
import { insertion, meanFactor } from './insertion.ts'
import { NOZZLE_GROUP, nozzleCheck } from './nozzle-check.ts'

function drawing(s: Settings, mark_mm: number): ScaleDrawing {
  const [od, wall, stack] = [s.num('od_mm'), s.num('wall_mm'), s.num('stack_mm')]
  const id = od - 2 * wall
  const length = od * 1.6
  const cx = length / 2
  const stem = s.num('stem_mm')
  const tip = stack + wall + id / 2 + s.num('tip_mm')
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

/** Pipe, depth, profile and velocity, as well as they are usually known. */
function uncertain(s: Settings): UncertainInput[] {
  return [
    {
      name: 'od_mm',
      title: 'Outside diameter',
      unit: 'mm',
      value: s.num('od_mm'),
      usual: s.num('od_mm') * 0.005,
    },
    {
      name: 'wall_mm',
      title: 'Wall and liner',
      unit: 'mm',
      value: s.num('wall_mm'),
      usual: s.num('wall_mm') * 0.05,
    },
    { name: 'depth', title: 'Depth of the tip', unit: 'mm', value: 0, usual: 3 },
    { name: 'n', title: 'Profile exponent', unit: '', value: s.num('n'), usual: 1 },
    { name: 'run', title: 'Profile after the straight run', unit: '%', value: 0, usual: 3 },
    { name: 'v_m_s', title: 'Velocity at the point', unit: '%', value: 0, usual: 1 },
  ]
}
/** Flow of a point velocity: its place in the profile, the profile’s mean, the stem’s blockage, the area. */
function flowModel(s: Settings): ((x: ArrayLike<number>) => number) | null {
  const { stem, tip } = { stem: s.num('stem_mm'), tip: s.num('tip_mm') }
  const flow = (x: ArrayLike<number>) => {
    const [od = 0, wall = 0, depth = 0, n = 7, run = 0, v = 0] = x as number[]
    const id = od - 2 * wall
    if (!(id > 0) || n <= 1) return NaN
    // The tip was set for the entered bore; its place in the true one follows.
    const set = s.num('wall_mm') + (s.num('od_mm') - 2 * s.num('wall_mm')) / 2 + depth
    const y = Math.min(set - wall, id - (set - wall))
    if (!(y > 0)) return NaN
    const local = ((2 * y) / id) ** (1 / n)
    const area = (Math.PI * id * id) / 4
    const blockage = 1 - (stem * (id / 2 + tip)) / area
    return ((1 + v / 100) / local) * meanFactor(n).F * blockage * area * (1 + run / 100)
  }
  const entered = flow(uncertain(s).map((i) => i.value))
  if (!Number.isFinite(entered) || entered <= 0) return null
  return (x) => {
    const q = flow(x)
    return Number.isFinite(q) ? (q / entered - 1) * 100 : -100
  }
}

function compute(s: Settings): SetUpResult {
  const id = s.num('od_mm') - 2 * s.num('wall_mm')
  if (id <= 0)
    return nothing(
      'NO_BORE',
      'wall_mm',
      `A wall of ${s.num('wall_mm')} mm leaves no bore in a pipe of ${s.num('od_mm')} mm.`,
    )
  const gauge = s.num('gauge_kPa')
  const i = insertion({
    stack_mm: s.num('stack_mm'),
    wall_mm: s.num('wall_mm'),
    id_mm: id,
    tip_mm: s.num('tip_mm'),
    stem_mm: s.num('stem_mm'),
    probe_mm: s.num('probe_mm'),
    gauge_kPa: gauge,
  })
  if (i.refused) return { ...nothing('DEPTH', 'probe_mm', i.refused), drawing: drawing(s, i.mark_mm) }
  const m = meanFactor(s.num('n'))
  const nozzle = nozzleCheck(s)
  const findings: Finding[] = [
    {
      code: i.needsRetractor ? 'RETRACTOR' : 'FORCE',
      severity: i.needsRetractor ? 'warn' : 'note',
      where: ['gauge_kPa'],
      says: `The probe can shoot out: ${sayNumber(gauge / 100, 3)} bar pushes with ${sayNumber(i.force_N, 3)} N${i.needsRetractor ? '. Use a retractor or a restraint cable; stand out of its line.' : '; hold it until the ferrule bites.'}`,
      rule: 'retractor above about 3.4 bar gauge',
    },
    {
      code: 'ANGLE',
      severity: 'note',
      where: ['n'],
      says: 'The flow arrow within 2° of the pipe; at an unknown angle no reading counts.',
    },
    ...nozzle.findings,
  ]
  return {
    rows: [
      { label: 'Bore', value: id, unit: 'mm', decimals: 2 },
      { label: 'Mark on the stem', value: i.mark_mm, unit: 'mm', decimals: 1 },
      { label: 'Force on the stem', value: i.force_N, unit: 'N', decimals: 1 },
      { label: 'Mean over centre-line velocity', value: m.F, decimals: 4, typical: true },
      { label: 'Left by the stem’s blockage', value: i.blockage, decimals: 4 },
      {
        label: 'Flow at full scale, centre line',
        value: s.num('v_m_s') * m.F * i.blockage * (Math.PI / 4) * (id / 1000) ** 2 * 3600,
        unit: 'm³/h',
        decimals: 1,
        typical: true,
      },
    ],
    findings,
    sheet: [
      { says: 'Pipe bore', value: `${id.toFixed(2)} mm` },
      { says: 'Insertion mark at the fitting face', value: `${i.mark_mm.toFixed(1)} mm` },
      { says: 'Profile factor', value: m.F.toFixed(4) },
      { says: 'Gas', value: s.word('gas') },
      { says: 'Flow at 20 mA', value: `${sayNumber(s.num('fs_kgh'))} kg/h` },
    ],
    drawing: drawing(s, i.mark_mm),
    charts: nozzle.charts,
    tables: nozzle.tables,
  }
}

/** Thermal mass meters on a stem, and their check with nitrogen in place. */
export const thermal: Family = {
  id: 'thermal',
  title: 'Thermal insertion',
  fits: (words) => /thermal/.test(words),
  groups: [
    {
      title: 'Pipe and probe',
      settings: [
        number('od_mm', 'Pipe outside diameter', 'mm', 273, 20, 3000),
        number('wall_mm', 'Wall and liner', 'mm', 9.27, 0.5, 200),
        number('stack_mm', 'Fitting face to pipe wall', 'mm', 312, 10, 2000),
        number('tip_mm', 'Tip beyond the sensing point', 'mm', 12, 0, 100),
        number('stem_mm', 'Stem diameter', 'mm', 19.05, 3, 60),
        number('probe_mm', 'Probe length', 'mm', 600, 50, 3000),
        number('gauge_kPa', 'Gauge pressure', 'kPa', 720, 0, 10_000),
        choice('gas', 'Gas', 'air', {
          air: 'air',
          nitrogen: 'nitrogen',
          natural_gas: 'natural gas',
          carbon_dioxide: 'carbon dioxide',
        }),
        number('n', 'Profile exponent', '', 7, 4, 12),
        number('v_m_s', 'Centre-line velocity at full scale', 'm/s', 14.2, 0.1, 100),
        number('fs_kgh', 'Full scale', 'kg/h', 2400, 0.1, 1e6),
      ],
    },
    NOZZLE_GROUP,
  ],
  compute,
  ranges: (s) => [{ low: 0, high: s.num('fs_kgh'), unit: 'kg/h' }],
  whatIf: { title: 'Flow at full scale', inputs: uncertain, model: flowModel },
  kit: [
    'nitrogen with regulator and hose',
    'sonic nozzle with its certificate',
    'oxygen meter',
    'depth gauge',
    'retractor or restraint cable',
  ],
  cautions: [
    'Before: valve bore wider than the probe, rating and restraint checked.',
    'Opening the valve: the packing can leak hot or toxic gas towards the face.',
    'Pushing in: the stem jumps back when the ferrule is loose.',
    'Retracting: close the valve only when the “clear” mark shows.',
    'Cylinders chained, regulator rated, relief after it; never vent into a pit or cabin.',
  ],
}
