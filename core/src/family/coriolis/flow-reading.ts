import type { Finding } from '../../finding.ts'
import { judgeFirstReading, rangeSlips, type ReadingSlip } from '../first-reading.ts'
import { backwards, flowUnitSlips } from '../flow-reading.ts'
import type { Entries } from './settings.ts'

/** The decimal point of the flow factor moved by so many places. */
const decimalSlips = (known: number): ReadingSlip[] =>
  [1, -1, 2, -2].map((n) => ({
    says: `the decimal point of the flow factor has moved by ${Math.abs(n)} ${Math.abs(n) === 1 ? 'place' : 'places'}`,
    reads: known * 10 ** n,
    slope: 10 ** n,
  }))

/** A mass flow that is known against what the meter shows. Allowed: two percent, what a first comparison is worth. */
export function flowReadingFindings(s: Entries): Finding[] {
  if (s.compared === 'no') return []
  const { known, reads } = s
  return judgeFirstReading(
    { known, reads, unit: 'kg/h', agrees: Math.max(0.02 * Math.abs(known), s.zs_kgh) },
    [
      backwards(known, 'the flow direction is set the other way, or the sensor is mounted against its arrow'),
      { says: 'the flow direction is set the other way, and reverse flow is not counted', reads: 0 },
      ...flowUnitSlips(known, 'kg/h'),
      ...decimalSlips(known),
      ...rangeSlips(known, 0, s.flow_kgh),
    ],
  )
}
