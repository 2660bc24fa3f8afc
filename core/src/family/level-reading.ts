import type { Finding } from '../finding.ts'
import { sayNumber } from '../quantity/round.ts'
import { judgeFirstReading, rangeSlips, type ReadingSlip } from './first-reading.ts'

const UNITS = [
  ['cm', 100],
  ['mm', 1000],
  ['ft', 1 / 0.3048],
  ['inch', 1 / 0.0254],
] as const

/** A level that is known by the tape against what the loop reads, m above 0 %. */
export interface LevelReading {
  readonly known: number
  readonly reads: number
  /** From the reference to 0 %, and from 0 to 100 %. */
  readonly empty_m: number
  readonly span_m: number
  /** 0 % above the lowest inside point, 0 where nobody knows. */
  readonly zeroAbove_m: number
}

/**
 * A first level reading judged. Allowed: half a percent of span, and not less than 10 mm, what a tape is worth.
 * @param own - slips of the family itself, tried first
 */
export function levelReadingFindings(r: LevelReading, own: readonly ReadingSlip[]): Finding[] {
  const { known, reads, empty_m, span_m, zeroAbove_m } = r
  return judgeFirstReading({ known, reads, unit: 'm', agrees: Math.max(0.01, 0.005 * span_m) }, [
    { says: 'the distance is shown and the level is meant', reads: empty_m - known, slope: -1 },
    ...own,
    ...(zeroAbove_m > 0
      ? [
          {
            says: `one is counted from the tank’s bottom and one from 0 %, ${sayNumber(zeroAbove_m * 1000)} mm above it`,
            reads: known + zeroAbove_m,
          },
          {
            says: `the level is counted from 0 % and the tape from the bottom, ${sayNumber(zeroAbove_m * 1000)} mm below it`,
            reads: known - zeroAbove_m,
          },
        ]
      : []),
    { says: 'the receiver shows percent', reads: (100 * known) / span_m, slope: 100 / span_m },
    ...UNITS.map(([unit, per]) => ({ says: `the receiver is in ${unit}`, reads: known * per, slope: per })),
    ...rangeSlips(known, 0, span_m),
  ])
}
