import type { Finding } from '../../finding.ts'
import { ATMOSPHERE_KPA } from '../../media/fluid.ts'
import { judgeFirstReading, rangeSlips, type ReadingSlip } from '../first-reading.ts'
import { backwards, flowUnitSlips, otherVolume, pulseSlips } from '../flow-reading.ts'
import type { Entries } from './settings.ts'
import { isGas, type Site } from './site.ts'

/** Actual volume of a standard cubic metre (15 °C, 101.325 kPa) at the pipe; null for a liquid. */
export const perStandard = (s: Entries, site: Site): number | null =>
  isGas(s)
    ? ((ATMOSPHERE_KPA / (s.gauge_kPa + ATMOSPHERE_KPA)) * (s.t_C + 273.15) * (site.fluid.Z ?? 1)) / 288.15
    : null

/** A traverse more or less makes the time difference so many times as large, and the flow that is read with it. */
const traverseSlips = (s: Entries, site: Site): ReadingSlip[] =>
  ([1, 2, 3, 4] as const)
    .filter((n) => n !== site.traverses)
    .map((n) => ({
      says: `the sensors stand for ${n} ${n === 1 ? 'traverse' : 'traverses'} and the device is told ${site.traverses}`,
      reads: (s.known * n) / site.traverses,
      slope: n / site.traverses,
    }))

/** A flow that is known against what the meter shows. Allowed: five percent, what a first comparison is worth. */
export function flowReadingFindings(s: Entries, site: Site): Finding[] {
  if (s.compared === 'no') return []
  const { known, reads } = s
  const standard = perStandard(s, site)
  return judgeFirstReading({ known, reads, unit: 'm³/h', agrees: Math.max(0.05 * Math.abs(known), 1e-9) }, [
    backwards(known, 'the two cables, or the sensors A and B, are exchanged: the flow is counted backwards'),
    ...(standard === null
      ? []
      : [
          otherVolume(known, 1 / standard, 'the receiver shows standard volume and actual volume is there'),
          otherVolume(known, standard, 'standard volume was taken as actual'),
        ]),
    ...traverseSlips(s, site),
    ...flowUnitSlips(known, 'm3/h'),
    ...pulseSlips(known),
    ...rangeSlips(known, 0, s.flow_m3h),
  ])
}
