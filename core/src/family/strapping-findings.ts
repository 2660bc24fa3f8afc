import type { Finding } from '../finding.ts'
import { sayNumber } from '../quantity/round.ts'
import type { ValuesOf } from '../quantity/setting.ts'
import { strappingSlips } from '../tank/strapping-slips.ts'
import type { VESSEL_ENTRIES } from './vessel.ts'

/** Rows of a strapping table that no tank has. */
export function strappingFindings(
  s: Pick<ValuesOf<typeof VESSEL_ENTRIES>, 'shape' | 'strapping'>,
): Finding[] {
  if (s.shape !== 'table') return []
  return strappingSlips(s.strapping)
    .slice(0, 3)
    .map((slip) => ({
      code: 'STRAPPING_SLIP',
      severity: 'stop' as const,
      where: ['strapping'],
      says: `Row ${slip.row} of the strapping table does not fit the tank: ${sayNumber(slip.volume, 6)} m³ at ${sayNumber(slip.level, 5)} m; the rows around it make ${sayNumber(slip.likely, 5)} m³ likely. A digit?`,
    }))
}
