import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import { odSlips } from '../../media/od-slips.ts'
import { entryFix } from '../entry-fix.ts'
import { nothing, type ResultRow, type SetUpResult } from '../family.ts'
import { drawing } from './drawing.ts'
import { flowReadingFindings } from './flow-reading.ts'
import { flowPerVelocity, fullScale, fullScaleFindings, insertionOf } from './full-scale.ts'
import { meanFactor } from './insertion.ts'
import { nozzleCheck } from './nozzle-check.ts'
import type { Entries } from './settings.ts'
import { thermalSheet } from './sheet.ts'
import { marksOf, stackFindings } from './stack-findings.ts'

/** Velocity on the centre line at full scale: as the plate says, else from the full scale itself; m/s at base. */
const velocityOf = (s: Entries): number => (s.v_m_s > 0 ? s.v_m_s : (fullScale(s)?.baseVelocity_m_s ?? 0))

function diameterFindings(s: Entries, v_m_s: number): Finding[] {
  return odSlips(s.od_mm, { v_m_s, fluid: 'gas' }).map((slip) => ({
    code: slip.code,
    severity: 'warn' as const,
    where: ['od_mm'],
    says: slip.says,
    fix: entryFix(`Enter ${sayNumber(slip.od_mm, 6)} mm`, { od_mm: slip.od_mm }),
  }))
}
/** A cutoff that is never 0 and hides little. */
function cutoffFindings(s: Entries): Finding[] {
  const says =
    s.cutoff_kgh === 0
      ? 'A cutoff of 0 lets the total walk with the noise of the zero. Never 0.'
      : s.cutoff_kgh > 0.05 * s.fs_kgh
        ? `Below ${sayNumber(s.cutoff_kgh)} kg/h nothing is counted: ${sayNumber((100 * s.cutoff_kgh) / s.fs_kgh, 2)} % of full scale.`
        : null
  return says === null ? [] : [{ code: 'CUTOFF', severity: 'warn', where: ['cutoff_kgh'], says }]
}

export function compute(s: Entries): SetUpResult {
  const id = s.od_mm - 2 * s.wall_mm
  if (id <= 0)
    return nothing(
      'NO_BORE',
      'wall_mm',
      `A wall of ${s.wall_mm} mm leaves no bore in a pipe of ${s.od_mm} mm.`,
    )
  const i = insertionOf(s)
  if (i.refused) return { ...nothing('DEPTH', 'probe_mm', i.refused), drawing: drawing(s, i.mark_mm) }
  const m = meanFactor(s.n)
  const marks = marksOf(s, i)
  const full = fullScale(s)
  const velocity = velocityOf(s)
  const nozzle = nozzleCheck(s)
  const findings: Finding[] = [
    ...stackFindings(s, i),
    {
      code: 'ANGLE',
      severity: 'note',
      where: ['n'],
      says: 'The flow arrow within 2° of the pipe; at an unknown angle no reading counts.',
    },
    ...diameterFindings(s, velocity),
    ...fullScaleFindings(s),
    ...cutoffFindings(s),
    ...flowReadingFindings(s),
    ...nozzle.findings,
  ]
  const line = (
    label: string,
    value: number,
    unit: string,
    decimals: number,
    typical = false,
  ): ResultRow => ({
    label,
    value,
    unit,
    decimals,
    ...(typical ? { typical } : {}),
  })
  return {
    rows: [
      line('Bore', id, 'mm', 2),
      line('Mark on the stem', i.mark_mm, 'mm', 1),
      ...(marks
        ? [
            line('Mark “clear of the valve”', marks.clear_mm, 'mm', 1),
            line('Travel from inserted to clear', marks.travel_mm, 'mm', 1),
          ]
        : []),
      line('Force on the stem', i.force_N, 'N', 1),
      { label: 'Mean over centre-line velocity', value: m.F, decimals: 4, typical: true },
      { label: 'Left by the stem’s blockage', value: i.blockage, decimals: 4 },
      line('Flow at full scale, centre line', velocity * flowPerVelocity(s), 'm³/h', 1, true),
      ...(full
        ? [
            line('Density at base', full.base_kg_m3, 'kg/m³', 4),
            line('Density at work', full.atWork_kg_m3, 'kg/m³', 3),
            line('Full scale as base volume', full.base_m3h, 'm³/h', 1),
            line('Full scale as actual volume', full.atWork_m3h, 'm³/h', 1),
            line('Velocity at full scale, base', full.baseVelocity_m_s, 'm/s', 2, true),
            line('Velocity at full scale, actual', full.velocity_m_s, 'm/s', 3, true),
          ]
        : []),
    ],
    findings,
    sheet: thermalSheet(s, i, marks),
    drawing: drawing(s, i.mark_mm),
    charts: nozzle.charts,
    tables: nozzle.tables,
  }
}
