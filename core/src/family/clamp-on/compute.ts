import { isRefused } from '../../refused.ts'
import { sayNumber } from '../../quantity/round.ts'
import type { Finding } from '../../finding.ts'
import { flowSlip } from '../../media/flow-slips.ts'
import { odSlips } from '../../media/od-slips.ts'
import { channelFindings, channelsOf } from '../channel-plan.ts'
import { entryFix } from '../entry-fix.ts'
import { nothing, type SetUpResult } from '../family.ts'
import { transitTimes } from './beam.ts'
import { clampOnDrawing } from './drawing.ts'
import { finding } from './finding.ts'
import { flowReadingFindings, perStandard } from './flow-reading.ts'
import { filmFindings } from './film.ts'
import { placeFindings } from './place-findings.ts'
import { isTransitional, pathFromMean } from './profile.ts'
import type { Entries } from './settings.ts'
import { positionOf } from './sensor-pair.ts'
import { clampOnSheet } from './sheet.ts'
import { readingFindings, siteFindings } from './told-findings.ts'
import { isGas, siteOf } from './site.ts'
import { startUpFindings } from './start-up-findings.ts'

/** A diameter that was typed as something else; in a pipe of a table none can be. */
function diameterFindings(s: Entries, v_m_s: number): Finding[] {
  if (s.by !== 'od') return []
  return odSlips(s.od_mm, { v_m_s, fluid: isGas(s) ? 'gas' : 'liquid' }).map((slip) => ({
    code: slip.code,
    severity: 'warn' as const,
    where: ['od_mm'],
    says: slip.says,
    fix: entryFix(`Enter ${sayNumber(slip.od_mm, 6)} mm`, { od_mm: slip.od_mm }),
  }))
}

export function compute(s: Entries): SetUpResult {
  const site = siteOf(s)
  if (isRefused(site)) return nothing(site.code, site.where, site.says)
  const { beam, fluid } = site
  const nu = fluid.viscosity_Pa_s / fluid.density_kg_m3
  const v = s.flow_m3h / 3600 / site.area_m2
  const path = pathFromMean(v, site.id_mm / 1000, nu, site.roughness_mm / 1000)
  const t = transitTimes(beam, fluid.soundSpeed_m_s, path.vPath_m_s)
  const frame = beam.spacing_mm - 2 * s.face_mm
  const position = positionOf(s, site)
  const channels = channelsOf(s)
  const start = startUpFindings(s, site)
  const findings = [
    ...diameterFindings(s, v),
    ...siteFindings(s),
    ...placeFindings(s, site),
    ...filmFindings(s, site),
    ...channelFindings(channels, s.flow_m3h),
    ...readingFindings(s, site.area_m2),
    ...start.findings,
    ...flowReadingFindings(s, site),
  ]
  if (isTransitional(path.Re))
    findings.push(
      finding(
        'TRANSITIONAL',
        'warn',
        'flow_m3h',
        `At full flow the Reynolds number is ${sayNumber(path.Re, 3)}, between laminar and turbulent: ±10 %.`,
      ),
    )
  const slip = flowSlip(v, s.flow_m3h, isGas(s) ? 'gas' : 'liquid', perStandard(s, site))
  if (slip)
    findings.push({
      ...finding(v > 1 ? 'VERY_FAST' : 'VERY_SLOW', 'warn', 'flow_m3h', slip.says),
      ...(slip.likely[0]
        ? {
            fix: entryFix(
              `It is in ${slip.likely[0].unit}: enter ${sayNumber(slip.likely[0].flow_m3h, 5)} m³/h`,
              {
                flow_m3h: slip.likely[0].flow_m3h,
              },
            ),
          }
        : {}),
    })
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
      ...(s.rail === 'index' ? [{ label: 'Downstream sensor at', value: position.says }] : []),
      { label: 'Beam angle in the fluid', value: beam.fluidAngle_deg, unit: '°', decimals: 2 },
      { label: 'Transit time expected', value: beam.tFixed_us + beam.tFluid_us, unit: 'µs', decimals: 2 },
      { label: 'Velocity at full flow', value: v, unit: 'm/s', decimals: 3 },
      { label: 'Time difference at full flow', value: t.dt_ns, unit: 'ns', decimals: 1 },
      { label: 'Reynolds number at full flow', value: path.Re, decimals: 0 },
      { label: 'Profile factor', value: path.k_h, decimals: 4 },
      ...start.rows,
    ],
    findings,
    sheet: clampOnSheet(s, site),
    drawing: clampOnDrawing(
      site,
      s.paths === '2',
      {
        upstream_D: s.upstream_D,
        downstream_D: s.downstream_D,
      },
      isGas(s) && s.filmLayers > 0 ? s.film_mm : 0,
    ),
  }
}
