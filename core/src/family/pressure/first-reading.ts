import type { Finding } from '../../finding.ts'
import { ATMOSPHERE_KPA } from '../../media/fluid.ts'
import { unitOf } from '../../quantity/units.ts'
import { judgeFirstReading, rangeSlips, type ReadingSlip } from '../first-reading.ts'
import { GRAVITY_M_S2 } from './hydrostatic.ts'
import { isTapped } from './range.ts'
import type { Entries } from './settings.ts'

/** Units that are taken for each other, with how one reads as another: kPa of each. */
const UNITS = ['psi', 'bar', 'mbar', 'MPa', 'kgf/cm2', 'mmHg', 'mmH2O@4C', 'inH2O@60F'] as const
const KPA: Readonly<Record<(typeof UNITS)[number], number>> = Object.fromEntries(
  UNITS.map((u) => [u, unitOf(u).factor / 1000]),
) as Record<(typeof UNITS)[number], number>
const TITLES: Readonly<Record<string, string>> = {
  'kgf/cm2': 'kgf/cm²',
  'mmH2O@4C': 'mmH₂O',
  'inH2O@60F': 'inH₂O',
}
/** The number of one unit taken for the other, and the other way round. */
const unitSlips = (known: number): ReadingSlip[] =>
  UNITS.flatMap((u) => [
    {
      says: `the receiver is in ${TITLES[u] ?? u} and is read as kPa`,
      reads: known / KPA[u],
      slope: 1 / KPA[u],
    },
    {
      says: `the range was typed in ${TITLES[u] ?? u} as if it were kPa`,
      reads: known * KPA[u],
      slope: KPA[u],
    },
  ])

/** A known pressure against what the loop reads: allowed is one percent of span, typical for a first look. */
export function firstReadingFindings(
  s: Entries,
  range: { readonly lrv_kPa: number; readonly urv_kPa: number },
): Finding[] {
  if (s.compared === 'no') return []
  const { known, reads } = s
  const [low, high] = [range.lrv_kPa, range.urv_kPa]
  const head = (s.lineDensity * GRAVITY_M_S2 * s.below_m) / 1000
  const line =
    s.duty === 'gauge' || s.duty === 'absolute'
      ? [
          ...(head === 0
            ? []
            : [
                {
                  says: 'the liquid between tap and transmitter is counted and is not there, or hangs the other way',
                  reads: known - head,
                },
                {
                  says: 'the liquid between tap and transmitter is there and was not counted',
                  reads: known + head,
                },
              ]),
          {
            says: 'the receiver takes an absolute pressure for a gauge pressure',
            reads: known + ATMOSPHERE_KPA,
          },
          {
            says: 'the receiver takes a gauge pressure for an absolute one',
            reads: known - ATMOSPHERE_KPA,
          },
        ]
      : [{ says: 'high and low side are exchanged', reads: -known }]
  return judgeFirstReading({ known, reads, unit: 'kPa', agrees: 0.01 * Math.abs(high - low) }, [
    ...line,
    ...(isTapped(s) ? [] : rangeSlips(known, low, high)),
    ...unitSlips(known),
  ])
}
