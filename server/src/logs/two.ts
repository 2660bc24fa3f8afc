import type { Log } from '@calm/contract/logs'
import { convert } from '@calm/core/quantity/units'
import { wrongValues } from '../http/problems.ts'

/** A channel of a log that is compared, and its unit. */
export interface Side {
  readonly log: Log
  readonly channel: number
  readonly unit: string
}
export interface CompareTwo {
  readonly a: Side
  readonly b: Side
  readonly from: number
  readonly to: number
  readonly maxLag: number
  readonly Ua: number
  readonly Ub: number
}

/** Samples in another unit, in place; NaN stays. */
export function inUnit(samples: Float64Array, from: string, to: string): Float64Array {
  for (let i = 1; from !== to && i < samples.length; i += 2) {
    const x = samples[i] ?? NaN
    if (Number.isNaN(x)) continue
    const c = convert(x, from, to)
    if (c.kind !== 'value')
      throw wrongValues([{ path: 'withChannel', says: `${from} cannot be held against ${to}.` }])
    samples[i] = c.value
  }
  return samples
}
