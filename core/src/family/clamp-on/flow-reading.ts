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

/**
 * A device that was told another diameter than the pipe has. Its velocity comes out inversely to the way it thinks the
 * sound took, its area by the square: the flow moves with the bore that it was told.
 */
function diameterSlips(s: Entries, site: Site): ReadingSlip[] {
  const { od_mm, wall_mm, id_mm } = site
  const told: readonly (readonly [says: string, bore_mm: number])[] = [
    ['the device was told the circumference as the diameter', Math.PI * od_mm - 2 * wall_mm],
    ['the device was told no wall', od_mm],
    ['the device was told the bore as the outside diameter', id_mm - 2 * wall_mm],
    ['the device was told the radius as the diameter', od_mm / 2 - 2 * wall_mm],
    ['the device asks in cm and was told mm', 10 * od_mm - 20 * wall_mm],
    ['the device asks in mm and was told cm', od_mm / 10 - wall_mm / 5],
  ]
  return told.flatMap(([says, bore_mm]) => {
    const ratio = bore_mm / id_mm
    return ratio > 0.02 ? [{ says, reads: s.known * ratio, slope: ratio }] : []
  })
}

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
    ...diameterSlips(s, site),
    ...flowUnitSlips(known, 'm3/h'),
    ...pulseSlips(known),
    ...rangeSlips(known, 0, s.flow_m3h),
  ])
}
