import type { Finding } from '../../finding.ts'
import { judgeFirstReading, rangeSlips } from '../first-reading.ts'
import { backwards, flowUnitSlips, otherVolume } from '../flow-reading.ts'
import { fullScale } from './full-scale.ts'
import type { Entries } from './settings.ts'

/** A mass flow that is known against what the probe reads. Allowed: six percent, its profile alone is worth that. */
export function flowReadingFindings(s: Entries): Finding[] {
  if (s.compared === 'no') return []
  const { known, reads } = s
  const full = fullScale(s)
  const inside = (s.od_mm / (s.od_mm - 2 * s.wall_mm)) ** 2
  return judgeFirstReading({ known, reads, unit: 'kg/h', agrees: Math.max(0.06 * Math.abs(known), 1e-9) }, [
    otherVolume(known, inside, 'the device has the outside diameter for the bore'),
    ...(full
      ? [
          otherVolume(known, 1 / full.base_kg_m3, 'the receiver shows base volume and mass is there'),
          otherVolume(known, 1 / full.atWork_kg_m3, 'the receiver shows actual volume and mass is there'),
        ]
      : []),
    backwards(known, 'the probe looks against the flow: its arrow points the other way'),
    {
      says: 'the packing or the wall: the tip stands outside the flow, or the arrow across it',
      reads: known * 0.2,
      slope: 0.8,
    },
    ...flowUnitSlips(known, 'kg/h'),
    ...rangeSlips(known, 0, s.fs_kgh),
  ])
}
