import { unitOf } from '../quantity/units.ts'
import type { ReadingSlip } from './first-reading.ts'

/** Units of flow that are taken for each other, by what is measured. */
const UNITS = {
  'm3/h': ['L/min', 'L/s', 'L/h', 'USgal/min', 'm3/d'],
  'kg/h': ['kg/min', 't/h', 'lb/h', 'lb/min', 'g/s'],
} as const
const PRINTED: Readonly<Record<string, string>> = { 'm3/d': 'm³/d', 'USgal/min': 'US gal/min' }

/** A flow read in another unit than it is shown in, or a range typed in one. @param known - in `unit` */
export function flowUnitSlips(known: number, unit: keyof typeof UNITS): ReadingSlip[] {
  return UNITS[unit].flatMap((other) => {
    const ratio = unitOf(other).factor / unitOf(unit).factor
    const name = PRINTED[other] ?? other
    return [
      { says: `the receiver is in ${name}`, reads: known / ratio, slope: 1 / ratio },
      { says: `the range was typed in ${name}`, reads: known * ratio, slope: ratio },
    ]
  })
}

/** A flow that runs the wrong way, by the sign alone. */
export const backwards = (known: number, says: string): ReadingSlip => ({ says, reads: -known, slope: -1 })

/** What a meter reads that takes one volume for another. @param ratio - of the volume read to the volume meant */
export const otherVolume = (known: number, ratio: number, says: string): ReadingSlip => ({
  says,
  reads: known * ratio,
  slope: ratio,
})

/** A pulse worth another amount at the counter: a factor per litre taken per cubic metre, or the other way. */
export const pulseSlips = (known: number): ReadingSlip[] => [
  { says: 'a factor in pulses per litre was taken per cubic metre', reads: known * 1000, slope: 1000 },
  { says: 'a factor in pulses per cubic metre was taken per litre', reads: known / 1000, slope: 0.001 },
]
