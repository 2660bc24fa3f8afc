import { firstIn } from '../../signal/range-in.ts'
import type { LoopStart } from '../family.ts'
import type { Entries } from './settings.ts'

/** A new set-up from the loop's range: a pressure at the tap, or a level between two elevations. */
export function startOf({ range, shows }: LoopStart): Partial<Entries> {
  const pressure =
    firstIn([range, shows], 'kPa(g)') ?? firstIn([range, shows], 'kPa(a)') ?? firstIn([range, shows], 'kPa')
  const level = firstIn([range, shows], 'm')
  const asked = range && range.unit !== '%' ? range : shows
  const absolute = asked?.unit.includes('(a)') ?? false
  const inItsOwn = absolute ? firstIn([range, shows], 'kPa(a)') : pressure
  return {
    ...(inItsOwn ? { lrv_kPa: inItsOwn.low, urv_kPa: inItsOwn.high } : {}),
    ...(level && !pressure ? { zero_m: level.low, full_m: level.high, duty: 'open' } : {}),
    ...(absolute ? { duty: 'absolute' } : {}),
  }
}
