import { NAMED_GASES } from '../../media/fluid.ts'
import { GAS_COMPONENTS, type GasKey } from '../../media/gas-table.ts'
import type { Composition } from '../../media/gas.ts'
import { TYPICAL_LIQUIDS } from '../../media/typical-liquids.ts'
import { MATERIALS } from '../../media/materials-table.ts'
import { PIPE_SIZES } from '../../media/pipe-sizes-table.ts'
import { positiveListProblem } from '../../quantity/number-list.ts'
import { parseNumber } from '../../quantity/parse-number.ts'
import { choice, flag, number, text, type Settings } from '../../quantity/setting.ts'
import type { SettingGroup } from '../family.ts'
import { DISTURBANCES } from './advice.ts'

const by = (way: string) => (s: Settings) => s.word('by') === way
export const isGas = (s: Settings): boolean => s.word('fluid') === 'mix' || s.word('fluid') in NAMED_GASES
const materials = Object.fromEntries(MATERIALS.map((m) => [m.key, m.title]))
const schedules = [...new Set(PIPE_SIZES.flatMap((p) => p.schedules.map(([name]) => name)))]

/** A gas as typed: component and share, separated by semicolons or lines. Shares are parts of their sum. */
export function mixtureOf(list: string): Composition | string {
  const out: Partial<Record<GasKey, number>> = {}
  for (const item of list
    .split(/[;\n]+/)
    .map((x) => x.trim())
    .filter((x) => x !== '')) {
    const m = /^([a-zA-Z_ -]+?)\s*[:=]?\s*([\d.,]+)\s*%?$/.exec(item)
    const name = (m?.[1] ?? '').toLowerCase().replace(/[ -]+/g, '_')
    const known = GAS_COMPONENTS.find((c) => c.key === name)
    if (!m || !known)
      return `“${item}” is not a component and its share. There are ${GAS_COMPONENTS.map((c) => c.key.replace(/_/g, ' ')).join(', ')}.`
    const share = parseNumber(m[2] ?? '')
    if (share.kind !== 'number') return `“${m[2]}” is not a share of ${name}.`
    out[known.key] = (out[known.key] ?? 0) + share.value / 100
  }
  return out
}

export const CLAMP_ON_GROUPS: readonly SettingGroup[] = [
  {
    title: 'Pipe',
    settings: [
      choice('by', 'Pipe is known by', 'table', {
        table: 'size and schedule',
        od: 'outside diameter and wall',
        tape: 'tape round it and wall',
      }),
      choice(
        'nps',
        'Size (NPS)',
        '12',
        Object.fromEntries(PIPE_SIZES.map((p) => [p.nps, `${p.nps} (DN ${p.dn})`])),
        by('table'),
      ),
      choice('schedule', 'Schedule', 'STD', Object.fromEntries(schedules.map((x) => [x, x])), by('table')),
      number('od_mm', 'Outside diameter', 'mm', 323.8, 10, 3000, by('od')),
      number('circumference_mm', 'Circumference', 'mm', 1018, 30, 10_000, by('tape')),
      number('tape_mm', 'Tape thickness (0 for a diameter tape)', 'mm', 0.3, 0, 3, by('tape')),
      number('paint_mm', 'Paint', 'mm', 0.2, 0, 5, by('tape')),
      number('wall_mm', 'Wall', 'mm', 9.53, 0.3, 200, (s) => s.word('by') !== 'table'),
      text(
        'readings',
        'Wall readings round the pipe, mm (win over the wall)',
        '',
        positiveListProblem,
        (s) => s.word('by') !== 'table',
      ),
      choice('material', 'Pipe material', 'carbon_steel', materials),
      choice('liner', 'Liner', 'none', { none: 'none', ...materials }),
      number('liner_mm', 'Liner thickness', 'mm', 6, 0.1, 150, (s) => s.word('liner') !== 'none'),
      flag('film', 'Damping film under the sensors', false, isGas),
      number('film_mm', 'Film thickness', 'mm', 1, 0.1, 10, (s) => isGas(s) && s.flag('film')),
    ],
  },
  {
    title: 'Fluid',
    settings: [
      choice('fluid', 'Fluid', 'water', {
        water: 'water',
        seawater: 'seawater or reject',
        brine: 'salt brine (typical)',
        own: 'own liquid',
        mix: 'own gas mixture',
        ammonia: 'ammonia, liquid (typical)',
        ...Object.fromEntries(Object.entries(TYPICAL_LIQUIDS).map(([k, l]) => [k, `${l.title} (typical)`])),
        ...Object.fromEntries(Object.entries(NAMED_GASES).map(([k, g]) => [k, `${g.title} (gas)`])),
      }),
      number('salinity', 'Practical salinity', '', 35, 0, 110, (s) => s.word('fluid') === 'seawater'),
      number('salt_pct', 'Salt by mass', '%', 10, 0, 26.3, (s) => s.word('fluid') === 'brine'),
      text(
        'mixture',
        'Components and mole %, as methane 91.45; nitrogen 1.40',
        '',
        (list) => {
          const m = mixtureOf(list)
          return typeof m === 'string' ? m : null
        },
        (s) => s.word('fluid') === 'mix',
      ),
      number('own_density', 'Density', 'kg/m3', 1000, 1, 5000, (s) => s.word('fluid') === 'own'),
      number('own_speed', 'Sound speed', 'm/s', 1480, 100, 4000, (s) => s.word('fluid') === 'own'),
      number('own_viscosity', 'Viscosity, mPa·s', '', 1, 0.005, 100_000, (s) => s.word('fluid') === 'own'),
      choice('speedBy', 'Sound speed is', 'measured', {
        measured: 'measured by the meter',
        typed: 'typed by hand',
      }),
      number('t_C', 'Temperature', 'degC', 15, -40, 200),
      number('gauge_kPa', 'Gauge pressure', 'kPa', 300, -100, 100_000),
      number('flow_m3h', 'Flow at full scale, actual', 'm3/h', 500, 0.001, 1e6),
    ],
  },
  {
    title: 'Place',
    settings: [
      choice(
        'disturbance',
        'Nearest upstream',
        'bend',
        Object.fromEntries(Object.entries(DISTURBANCES).map(([k, d]) => [k, d.title])),
      ),
      choice(
        'second',
        'and behind it',
        'none',
        Object.fromEntries(Object.entries(DISTURBANCES).map(([k, d]) => [k, d.title])),
      ),
      number('upstream_D', 'Straight run upstream, diameters', '', 12, 0, 500),
      number('downstream_D', 'Straight run downstream, diameters', '', 5, 0, 500),
      choice('paths', 'Paths', '1', { '1': 'one', '2': 'two, 90° apart' }),
      choice('roughness', 'Inside surface', 'used', {
        smooth: 'drawn or plastic',
        new: 'new steel',
        used: 'used steel',
        mortar: 'mortar',
      }),
    ],
  },
  {
    title: 'Sensors',
    settings: [
      choice('traverses', 'Traverses', 'advised', {
        advised: 'as advised',
        '1': '1, direct',
        '2': '2, reflect',
        '3': '3',
        '4': '4',
      }),
      number('wedge_m_s', 'Wedge sound speed', 'm/s', 2470, 500, 4000),
      number('wedge_deg', 'Wedge angle', 'deg', 38, 5, 80),
      number('wedge_mm', 'Wedge height', 'mm', 15, 0, 100),
      number('face_mm', 'Exit point behind the inner face', 'mm', 0, -100, 100),
      text('serialA', 'Serial of the upstream sensor', ''),
      text('serialB', 'Serial of the downstream sensor', ''),
      flag('attenuating', 'Bubbles, solids, thick oil or a scaled wall', false),
    ],
  },
  {
    title: 'After start-up',
    settings: [
      number('tMean_us', 'Mean transit time read, µs (0: not yet)', '', 0, 0, 100_000),
      number('snr_dB', 'Signal to noise, dB (0: not yet)', '', 0, 0, 120),
      number('zero_m_s', 'Velocity with the flow stopped', 'm/s', 0, -10, 10),
      number('v1_m_s', 'Path 1 reads', 'm/s', 0, -50, 50, (s) => s.word('paths') === '2'),
      number('v2_m_s', 'Path 2 reads', 'm/s', 0, -50, 50, (s) => s.word('paths') === '2'),
    ],
  },
]

/** Roughness of the inside, mm; typical. */
export const ROUGHNESS_MM: Readonly<Record<string, number>> = {
  smooth: 0.0015,
  new: 0.05,
  used: 0.2,
  mortar: 0.5,
}
