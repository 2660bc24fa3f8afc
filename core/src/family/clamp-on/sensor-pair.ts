import { isRefused } from '../../refused.ts'
import { sayNumber } from '../../quantity/round.ts'
import { valuesOf } from '../../quantity/setting.ts'
import type { Finding } from '../../finding.ts'
import { PAIR_SETTINGS } from '../../sensor/kinds/clamp-on-pair.ts'
import { judgeBaseline } from '../../sensor/pair-baseline.ts'
import { pairProblem } from '../../sensor/pair-serials.ts'
import { railPosition, type Rail } from '../../sensor/rail.ts'
import type { SensorFit, SensorUse } from '../family.ts'
import { thickestWall_mm } from './advice.ts'
import { finding } from './finding.ts'
import type { Entries } from './settings.ts'
import { isGas, siteOf, type Site } from './site.ts'

/** Advised frequencies stand a factor of two apart: nearer than this is the same step. */
const NEAR = 1.6

export const railOf = (s: Pick<Entries, 'rail' | 'railFirst_mm' | 'railStep_mm' | 'railLast'>): Rail =>
  s.rail === 'mm'
    ? { kind: 'mm' }
    : { kind: 'index', first_mm: s.railFirst_mm, step_mm: s.railStep_mm, last: s.railLast }

/** The spacing between the inner faces, as the rail of this pair is read. */
export const positionOf = (s: Entries, site: Site) =>
  railPosition(railOf(s), site.beam.spacing_mm - 2 * s.face_mm)

/** What speaks against a frequency here; null where it is as advised, or nobody told one. */
function frequencyProblem(frequency_MHz: number, site: Site): string | null {
  if (frequency_MHz === 0 || !site.advice) return null
  const advised = site.advice.frequency_MHz
  const thickest = thickestWall_mm(frequency_MHz)
  if (site.wall_mm > thickest)
    return `the wall of ${sayNumber(site.wall_mm, 3)} mm is more than about ten wavelengths at ${sayNumber(frequency_MHz)} MHz, ${sayNumber(thickest, 2)} mm`
  if (frequency_MHz > advised * NEAR)
    return `${sayNumber(frequency_MHz)} MHz is high for a bore of ${site.id_mm.toFixed(0)} mm; ${sayNumber(advised)} MHz is usual`
  return frequency_MHz < advised / NEAR
    ? `${sayNumber(frequency_MHz)} MHz is low for a bore of ${site.id_mm.toFixed(0)} mm and makes a small time difference; ${sayNumber(advised)} MHz is usual`
    : null
}

const classProblem = (t_C: number, coldest_C: number, hottest_C: number): string | null =>
  t_C >= coldest_C && t_C <= hottest_C
    ? null
    : `the pair is made for walls from ${sayNumber(coldest_C)} to ${sayNumber(hottest_C)} °C and the pipe has ${sayNumber(t_C)} °C`

/** Whether a pair of the stock suits this pipe and fluid. */
function fits(s: Entries, sensor: Readonly<Record<string, unknown>>): SensorFit {
  const p = valuesOf(PAIR_SETTINGS, sensor as Parameters<typeof valuesOf>[1])
  const site = siteOf({ ...s, ...entriesOf(p) })
  const medium = isGas(s) ? 'gas' : 'liquid'
  const hot = classProblem(s.t_C, p.coldest_C, p.hottest_C)
  if (isRefused(site)) return { impossible: [site.says], but: [] }
  const rail = railPosition(railOf(p), site.beam.spacing_mm - 2 * p.face_mm).problem
  const touching =
    site.traverses % 2 === 0 && site.beam.spacing_mm < p.length_mm
      ? `on one side they would stand ${site.beam.spacing_mm.toFixed(0)} mm apart and are ${sayNumber(p.length_mm)} mm long`
      : null
  const frequency = frequencyProblem(p.frequency_MHz, site)
  const worn = judgeBaseline(p)
  return {
    impossible: [
      ...(p.medium === medium ? [] : [`made for ${p.medium}, and here flows a ${medium}`]),
      ...(hot ? [hot] : []),
      ...(rail ? [rail] : []),
      ...(touching ? [touching] : []),
    ],
    but: [...(frequency ? [frequency] : []), ...(worn && worn.severity !== 'good' ? [worn.says] : [])],
  }
}

type Pair = ReturnType<typeof valuesOf<typeof PAIR_SETTINGS>>
/** What the plate of a pair tells of the set-up. */
const entriesOf = (p: Pair): Partial<Entries> => ({
  serialA: p.serialA,
  serialB: p.serialB,
  calibration: p.calibration,
  frequency_MHz: p.frequency_MHz,
  wedge_m_s: p.wedge_m_s,
  wedge_deg: p.wedge_deg,
  wedge_mm: p.wedge_mm,
  face_mm: p.face_mm,
  length_mm: p.length_mm,
  coldest_C: p.coldest_C,
  hottest_C: p.hottest_C,
  rail: p.rail,
  ...(p.rail === 'index'
    ? { railFirst_mm: p.railFirst_mm, railStep_mm: p.railStep_mm, railLast: p.railLast }
    : {}),
})

export const clampOnSensor: SensorUse<Entries> = {
  kind: 'clamp-on-pair',
  entries: (sensor) => entriesOf(valuesOf(PAIR_SETTINGS, sensor)),
  fits,
}

/** What the entered pair does here: matched, of the right frequency and class, and on its rail. */
export function pairFindings(s: Entries, site: Site): Finding[] {
  const mixed = pairProblem(s.serialA, s.serialB)
  const frequency = frequencyProblem(s.frequency_MHz, site)
  const hot = classProblem(s.t_C, s.coldest_C, s.hottest_C)
  const position = positionOf(s, site)
  const sentence = (says: string) => `${says.charAt(0).toUpperCase()}${says.slice(1)}.`
  return [
    ...(mixed ? [finding(mixed.code, 'stop', 'serialB', mixed.says)] : []),
    ...(frequency
      ? [finding('OTHER_FREQUENCY', 'warn', 'frequency_MHz', sentence(frequency), 'typical')]
      : []),
    ...(hot ? [finding('CLASS_TEMPERATURE', 'stop', 'hottest_C', sentence(hot))] : []),
    ...(position.problem ? [finding('OFF_THE_RAIL', 'stop', 'rail', position.problem)] : []),
  ]
}
