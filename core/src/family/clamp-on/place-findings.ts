import { mean } from '../../numeric/mean.ts'
import type { Finding } from '../../finding.ts'
import { materialOf } from '../../media/materials-table.ts'
import { sayNumber } from '../../quantity/round.ts'
import { faceLoss, usualLength_mm } from './advice.ts'
import { finding } from './finding.ts'
import type { Entries } from './settings.ts'
import { pairFindings } from './sensor-pair.ts'
import { isGas, type Site } from './site.ts'
import { runOf } from './what-if.ts'

/** Gas in steel below this is lost in the wall's own noise; plastic takes 1 bar. */
const LEAST_GAS_KPA = 700

/** Acoustic impedance of a wall in which gas is lost, for shear waves: steel, iron and copper, no plastic. */
const HARD_WALL_RAYL = 15e6

/** What the place does: straight run, gas in steel, sensors, walls, serial numbers. */
export function placeFindings(s: Entries, site: Site): Finding[] {
  const out: Finding[] = []
  const gas = isGas(s)
  const run = runOf(s)
  const wall = materialOf(s.material)
  const wallImpedance = wall ? wall.density_kg_m3 * (wall.cShear_m_s ?? wall.cLong_m_s) : 0
  if (run.upstream_D < run.wanted_D || run.downstream_D < 5)
    out.push(
      finding(
        'SHORT_RUN',
        'warn',
        'upstream_D',
        `After ${run.nearest} ${run.wanted_D} D are wanted and ${sayNumber(run.upstream_D)} D are there${run.downstream_D < 5 ? `, and ${sayNumber(run.downstream_D)} of 5 D behind` : ''}: expect ±${sayNumber(run.error_pct, 2)} % more uncertainty. Two paths at 90° halve it.`,
        'error model A·exp(−x/B); typical, an uncertainty and never a correction',
      ),
    )
  else
    out.push(
      finding(
        'RUN_ENOUGH',
        'good',
        'upstream_D',
        `The straight run is enough: ${sayNumber(run.upstream_D)} D of ${run.wanted_D} D.`,
      ),
    )
  if (gas && s.gauge_kPa + 101.325 < LEAST_GAS_KPA && wallImpedance >= HARD_WALL_RAYL) {
    const loss = faceLoss(wallImpedance, site.fluid.density_kg_m3, site.fluid.soundSpeed_m_s)
    out.push(
      finding(
        'GAS_TOO_THIN',
        'stop',
        'gauge_kPa',
        `The two faces between this wall and this gas cost ${sayNumber(-loss.dB, 3)} dB: the wall’s own noise hides the signal. About 7 bar absolute is the least for a metal wall, 1 bar for plastic.`,
        'typical',
      ),
    )
  }
  const footprint =
    s.length_mm > 0 ? s.length_mm : (usualLength_mm(s.frequency_MHz) ?? site.advice?.footprint_mm ?? null)
  if (site.advice === null)
    out.push(
      finding(
        'TOO_SMALL_FOR_GAS',
        'stop',
        'nps',
        'A bore of 50 mm or less is too small for gas from outside.',
      ),
    )
  else if (s.traverses === 'advised' && site.traverses !== site.advice.traverses)
    out.push(
      finding(
        site.traverses === 1 ? 'DIRECT_FOR_LENGTH' : 'FOUR_TRAVERSES',
        'note',
        'traverses',
        `${site.traverses === 1 ? 'Direct, one on each side: with two or four traverses' : 'Four traverses: with two'} the sensors, ${sayNumber(footprint ?? 0)} mm long, would touch on this pipe.`,
      ),
    )
  else if (s.traverses !== 'advised' && site.traverses !== site.advice.traverses)
    out.push(finding('OTHER_TRAVERSES', 'note', 'traverses', `Advised: ${site.advice.says}`))
  const spacing = site.beam.spacing_mm
  if (site.traverses % 2 === 0 && footprint === null)
    out.push(
      finding(
        'SENSOR_LENGTH',
        'note',
        'traverses',
        `On one side the sensors stand ${spacing.toFixed(1)} mm apart: compare with their own length, else take the direct way or more traverses.`,
      ),
    )
  else if (site.traverses % 2 === 0 && footprint !== null && spacing < footprint)
    out.push(
      finding(
        'SENSORS_TOUCH',
        'stop',
        'traverses',
        `The sensors would stand ${spacing.toFixed(1)} mm apart and are ${footprint} mm long: take more traverses.`,
      ),
    )
  const walls = site.walls_mm
  if (walls.length > 0) {
    const spread = ((Math.max(...walls) - Math.min(...walls)) / mean(walls)) * 100
    if (walls.length < 4)
      out.push(
        finding(
          'FEW_WALLS',
          'note',
          'readings',
          'Four readings round the pipe at each sensor tell corrosion from luck.',
        ),
      )
    if (spread > 10)
      out.push(
        finding(
          'WALL_SPREAD',
          'warn',
          'readings',
          `Wall readings spread by ${sayNumber(spread, 3)} %: corrosion, a seam weld, or a second echo that reads double.`,
        ),
      )
  }
  out.push(...pairFindings(s, site))
  for (const says of site.fluid.warnings) out.push(finding('FLUID_NOTE', 'note', 'fluid', says))
  return out
}
