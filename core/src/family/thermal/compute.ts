import type { Finding } from '../../finding.ts'
import { sayNumber } from '../../quantity/round.ts'
import { odSlips } from '../../media/od-slips.ts'
import { entryFix } from '../entry-fix.ts'
import { nothing, type SetUpResult } from '../family.ts'
import { drawing } from './drawing.ts'
import { insertion, meanFactor } from './insertion.ts'
import { nozzleCheck } from './nozzle-check.ts'
import type { Entries } from './settings.ts'

export function compute(s: Entries): SetUpResult {
  const id = s.od_mm - 2 * s.wall_mm
  if (id <= 0)
    return nothing(
      'NO_BORE',
      'wall_mm',
      `A wall of ${s.wall_mm} mm leaves no bore in a pipe of ${s.od_mm} mm.`,
    )
  const gauge = s.gauge_kPa
  const i = insertion({
    stack_mm: s.stack_mm,
    wall_mm: s.wall_mm,
    id_mm: id,
    tip_mm: s.tip_mm,
    stem_mm: s.stem_mm,
    probe_mm: s.probe_mm,
    gauge_kPa: gauge,
  })
  if (i.refused) return { ...nothing('DEPTH', 'probe_mm', i.refused), drawing: drawing(s, i.mark_mm) }
  const m = meanFactor(s.n)
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
    ...odSlips(s.od_mm, { v_m_s: s.v_m_s, fluid: 'gas' }).map((slip) => ({
      code: slip.code,
      severity: 'warn' as const,
      where: ['od_mm'],
      says: slip.says,
      fix: entryFix(`Enter ${sayNumber(slip.od_mm, 6)} mm`, { od_mm: slip.od_mm }),
    })),
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
        value: s.v_m_s * m.F * i.blockage * (Math.PI / 4) * (id / 1000) ** 2 * 3600,
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
      { says: 'Gas', value: s.gas },
      { says: 'Flow at 20 mA', value: `${sayNumber(s.fs_kgh)} kg/h` },
    ],
    drawing: drawing(s, i.mark_mm),
    charts: nozzle.charts,
    tables: nozzle.tables,
  }
}
