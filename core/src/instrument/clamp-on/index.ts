import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import type { Settings } from '../../quantity/setting.ts'
import { nothing, type Family, type ResultRow, type SetUpResult } from '../family.ts'
import { faceLoss, twoPaths } from './advice.ts'
import { measuredSoundSpeed_m_s, transitTimes } from './beam.ts'
import { clampOnDrawing } from './drawing.ts'
import { CLAMP_ON_GROUPS, isGas } from './fields.ts'
import { isTransitional, pathFromMean } from './profile.ts'
import { fluidAt, siteOf, type Site } from './site.ts'
import { clampOnWhatIf, runOf } from './what-if.ts'
import { judgeSoundSpeed, temperaturesFor } from './sound-speed-verdict.ts'

const finding = (
  code: string,
  severity: Finding['severity'],
  where: string,
  says: string,
  rule?: string,
): Finding => ({
  code,
  severity,
  where: [where],
  says,
  ...(rule ? { rule } : {}),
})

/** Gas in steel below this is lost in the wall's own noise; plastic takes 1 bar. */
const LEAST_GAS_KPA = 700

function placeFindings(s: Settings, site: Site): Finding[] {
  const out: Finding[] = []
  const gas = isGas(s)
  const run = runOf(s)
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
  if (gas && s.num('gauge_kPa') + 101.325 < LEAST_GAS_KPA && /steel|iron/.test(s.word('material'))) {
    const loss = faceLoss(7850 * 3230, site.fluid.density_kg_m3, site.fluid.soundSpeed_m_s)
    out.push(
      finding(
        'GAS_TOO_THIN',
        'stop',
        'gauge_kPa',
        `The two faces between steel and this gas cost ${sayNumber(-loss.dB, 3)} dB: the wall’s own noise hides the signal. About 7 bar absolute is the least for steel, 1 bar for plastic.`,
        'typical',
      ),
    )
  }
  if (site.advice === null)
    out.push(
      finding(
        'TOO_SMALL_FOR_GAS',
        'stop',
        'nps',
        'A bore of 50 mm or less is too small for gas from outside.',
      ),
    )
  else if (s.word('traverses') !== 'advised' && site.traverses !== site.advice.traverses)
    out.push(finding('OTHER_TRAVERSES', 'note', 'traverses', `Advised: ${site.advice.says}`))
  const footprint = site.advice?.footprint_mm ?? null
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
    const mean = walls.reduce((a, b) => a + b, 0) / walls.length
    const spread = ((Math.max(...walls) - Math.min(...walls)) / mean) * 100
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
  const [a, b] = [s.word('serialA').trim().toUpperCase(), s.word('serialB').trim().toUpperCase()]
  if (a !== '' && b !== '') {
    const stem = (x: string) => x.replace(/[-_ ]?(A|B|UP|DN)$/, '')
    if (stem(a) !== stem(b))
      out.push(
        finding(
          'PAIR_MIXED',
          'stop',
          'serialB',
          `${a} and ${b} are not a pair: matched sensors carry the same number and A or B.`,
        ),
      )
    else if (a === b)
      out.push(
        finding(
          'PAIR_SAME',
          'stop',
          'serialB',
          `Both sensors carry ${a}: one of the pair is A, the other B.`,
        ),
      )
  }
  for (const says of site.fluid.warnings) out.push(finding('FLUID_NOTE', 'note', 'fluid', says))
  return out
}

/** What was read after start-up against what was expected. */
function startUpFindings(s: Settings, site: Site): { rows: ResultRow[]; findings: Finding[] } {
  const rows: ResultRow[] = []
  const findings: Finding[] = []
  const tMean_us = s.num('tMean_us')
  if (tMean_us > 0) {
    const measured = measuredSoundSpeed_m_s(site.beam, site.traverses, site.id_mm, tMean_us)
    if (measured === null)
      findings.push(
        finding(
          'NO_SPEED',
          'stop',
          'tMean_us',
          `No sound speed gives ${sayNumber(tMean_us, 6)} µs here: about ${sayNumber(site.beam.tFixed_us + site.beam.tFluid_us, 5)} µs is expected.`,
        ),
      )
    else {
      const j = judgeSoundSpeed({
        beam: site.beam,
        id_mm: site.id_mm,
        theory_m_s: site.fluid.soundSpeed_m_s,
        measured_m_s: measured,
        tMeasured_us: tMean_us,
        temperatures_C: temperaturesFor(
          (t) => {
            const f = fluidAt(s, t)
            return f.kind === 'state' ? f.soundSpeed_m_s : null
          },
          measured,
          Math.max(-40, s.num('t_C') - 60),
          s.num('t_C') + 60,
        ),
      })
      rows.push({ label: 'Sound speed measured', value: measured, unit: 'm/s', decimals: 1 })
      rows.push({ label: 'against theory', value: j.deviation_pct, unit: '%', decimals: 2 })
      const nearest = [...j.temperatures_C].sort(
        (p, q) => Math.abs(p - s.num('t_C')) - Math.abs(q - s.num('t_C')),
      )[0]
      const why = [
        nearest === undefined || s.word('fluid') === 'own'
          ? null
          : `the fluid at ${sayNumber(nearest, 3)} °C`,
        `a bore of ${sayNumber(j.id_mm, 5)} mm (wall or liner wrong by ${sayNumber((site.id_mm - j.id_mm) / 2, 2)} mm)`,
        `sensors ${sayNumber(Math.abs(j.spacingError_mm), 2)} mm too ${j.spacingError_mm > 0 ? 'far apart' : 'close'}`,
      ].filter((x) => x !== null)
      findings.push({
        code: `SOUND_SPEED_${j.verdict}`,
        severity: j.verdict === 'OK' ? 'good' : j.verdict === 'CHECK' ? 'warn' : 'stop',
        where: ['tMean_us'],
        says:
          j.verdict === 'OK'
            ? `The sound speed is believable: ${sayNumber(j.deviation_pct, 2)} % off.`
            : `The sound speed is ${sayNumber(Math.abs(j.deviation_pct), 3)} % too ${j.deviation_pct > 0 ? 'high' : 'low'}. One cause alone would be: ${why.join('; ')}.`,
        rule: 'within 0.5 % believable, to 2 % look, above that a fault',
      })
    }
  }
  const snr = s.num('snr_dB')
  if (snr > 0)
    findings.push(
      finding(
        'SIGNAL',
        snr >= 20 ? 'good' : snr >= 12 ? 'warn' : 'stop',
        'snr_dB',
        `Signal to noise of ${sayNumber(snr)} dB is ${snr >= 20 ? 'good' : snr >= 12 ? 'fair: couplant, position, film' : 'poor: couplant, scale, gas in the liquid, or the wrong place'}.`,
        'typical; the supplier’s limits win',
      ),
    )
  const zero = Math.abs(s.num('zero_m_s'))
  const enough = isGas(s) ? 0.05 : 0.01
  if (zero > 0.1)
    findings.push(
      finding(
        'ZERO_IN_FLOW',
        'stop',
        'zero_m_s',
        `${sayNumber(zero, 3)} m/s is no zero: the line is not stopped or not full. Do not set a zero here.`,
      ),
    )
  else if (zero > enough)
    findings.push(
      finding(
        'ZERO_WORTH_IT',
        'warn',
        'zero_m_s',
        `${sayNumber(zero, 3)} m/s with the flow stopped is above ${enough} m/s: setting the zero is worth doing, with both valves shut and five minutes of settling.`,
      ),
    )
  else if (zero > 0)
    findings.push(finding('ZERO_FINE', 'good', 'zero_m_s', 'The zero is fine as it is; leave it alone.'))
  if (s.word('paths') === '2' && s.num('v1_m_s') !== 0 && s.num('v2_m_s') !== 0) {
    const p = twoPaths(s.num('v1_m_s'), s.num('v2_m_s'))
    rows.push({ label: 'Mean of both paths', value: p.mean_m_s, unit: 'm/s', decimals: 3 })
    findings.push(
      finding(
        'ASYMMETRY',
        p.verdict === 'OK' ? 'good' : p.verdict === 'WARN' ? 'warn' : 'stop',
        'v1_m_s',
        `The paths part by ${sayNumber(Math.abs(p.asymmetry_pct), 3)} %${p.verdict === 'OK' ? '' : p.verdict === 'WARN' ? ': the profile is disturbed' : ': treat the flow as uncertain'}.`,
      ),
    )
  }
  return { rows, findings }
}

function compute(s: Settings): SetUpResult {
  const site = siteOf(s)
  if ('code' in site) return nothing(site.code, site.where, site.says)
  const { beam, fluid } = site
  const nu = fluid.viscosity_Pa_s / fluid.density_kg_m3
  const v = s.num('flow_m3h') / 3600 / site.area_m2
  const path = pathFromMean(v, site.id_mm / 1000, nu, site.roughness_mm / 1000)
  const t = transitTimes(beam, fluid.soundSpeed_m_s, path.vPath_m_s)
  const frame = beam.spacing_mm - 2 * s.num('face_mm')
  const start = startUpFindings(s, site)
  const findings = [...placeFindings(s, site), ...start.findings]
  if (isTransitional(path.Re))
    findings.push(
      finding(
        'TRANSITIONAL',
        'warn',
        'flow_m3h',
        `At full flow the Reynolds number is ${sayNumber(path.Re, 3)}, between laminar and turbulent: ±10 %.`,
      ),
    )
  if (v > (isGas(s) ? 40 : 10))
    findings.push(
      finding(
        'VERY_FAST',
        'warn',
        'flow_m3h',
        `Full flow would be ${sayNumber(v, 3)} m/s: a slip in flow, unit or diameter?`,
      ),
    )
  return {
    rows: [
      { label: 'Outside diameter', value: site.od_mm, unit: 'mm', decimals: 2 },
      { label: 'Bore', value: site.id_mm, unit: 'mm', decimals: 2 },
      {
        label: 'Density',
        value: fluid.density_kg_m3,
        unit: 'kg/m³',
        decimals: fluid.density_kg_m3 < 100 ? 3 : 1,
        typical: fluid.typical,
      },
      {
        label: 'Sound speed expected',
        value: fluid.soundSpeed_m_s,
        unit: 'm/s',
        decimals: 1,
        typical: fluid.typical,
      },
      { label: 'Kinematic viscosity', value: nu * 1e6, unit: 'mm²/s', decimals: 3, typical: fluid.typical },
      { label: 'Traverses', value: site.traverses },
      { label: 'Spacing between exit points', value: beam.spacing_mm, unit: 'mm', decimals: 1 },
      { label: 'Spacing of the frame', value: frame, unit: 'mm', decimals: 1 },
      { label: 'Beam angle in the fluid', value: beam.fluidAngle_deg, unit: '°', decimals: 2 },
      { label: 'Transit time expected', value: beam.tFixed_us + beam.tFluid_us, unit: 'µs', decimals: 2 },
      { label: 'Velocity at full flow', value: v, unit: 'm/s', decimals: 3 },
      { label: 'Time difference at full flow', value: t.dt_ns, unit: 'ns', decimals: 1 },
      { label: 'Reynolds number at full flow', value: path.Re, decimals: 0 },
      { label: 'Profile factor', value: path.k_h, decimals: 4 },
      ...start.rows,
    ],
    findings,
    sheet: [
      { says: 'Pipe outside diameter', value: `${site.od_mm.toFixed(2)} mm` },
      { says: 'Pipe wall', value: `${site.wall_mm.toFixed(2)} mm` },
      { says: 'Pipe material', value: s.word('material').replace(/_/g, ' ') },
      {
        says: 'Liner',
        value: site.liner_mm > 0 ? `${s.word('liner').replace(/_/g, ' ')}, ${site.liner_mm} mm` : 'none',
      },
      { says: 'Fluid', value: `${s.word('fluid').replace(/_/g, ' ')}, ${sayNumber(s.num('t_C'))} °C` },
      { says: 'Sound speed of the fluid', value: `${fluid.soundSpeed_m_s.toFixed(1)} m/s` },
      { says: 'Kinematic viscosity', value: `${(nu * 1e6).toFixed(3)} mm²/s` },
      { says: 'Traverses', value: String(site.traverses) },
      { says: 'Sensor spacing to set on the rail', value: `${frame.toFixed(1)} mm` },
      { says: 'Flow at 20 mA', value: `${sayNumber(s.num('flow_m3h'), 6)} m³/h actual` },
    ],
    drawing: clampOnDrawing(site, s.word('paths') === '2', {
      upstream_D: s.num('upstream_D'),
      downstream_D: s.num('downstream_D'),
    }),
  }
}

/** Transit-time meters clamped on from outside, liquid and gas, one path or two. */
export const clampOn: Family = {
  id: 'clamp-on',
  title: 'Clamp-on transit time',
  fits: (words) => /clamp-on|ultrasonic flow|transit/.test(words),
  groups: CLAMP_ON_GROUPS,
  compute,
  ranges: (s) => [{ low: 0, high: s.num('flow_m3h'), unit: 'm3/h' }],
  whatIf: clampOnWhatIf,
  kit: [
    'couplant for the wall’s temperature',
    'straps or magnets for the rail',
    'tape and thickness gauge',
    'abrasive and solvent for the paint',
    'paper strip to carry the line round (direct mode)',
    'film layers (gas)',
  ],
  cautions: [
    'Hot or cold pipes burn: measure the wall first; above 60 °C gloves.',
    'Work at height from a proper platform, tools tethered.',
    'Do not grind a coating that may hold lead, or lagging that may hold asbestos: stop and ask.',
  ],
}
