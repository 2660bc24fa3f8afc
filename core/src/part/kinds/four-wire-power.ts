import { when } from '../../quantity/condition.ts'
import type { NetElement } from '../../circuit/netlist.ts'
import {
  element,
  term,
  type LivePart,
  type PlacedPart,
  type SolvedPart,
  type Terminal,
} from '../part-kind.ts'
import { choice, number, type ValuesOf } from '../../quantity/setting.ts'

/** How a 4-wire device gets its own power: shared by the kinds that have a separate supply. */
const onDc = when('fed', 'dc')

export const powerSettings = [
  choice('fed', 'Own supply', 'dc', { dc: '24 V DC', mains: 'mains' }),
  number('own_mA', 'Own consumption', 'mA', 120, 1, 5000, onDc),
  number('min_V', 'Lowest supply', 'V', 18, 5, 36, onDc),
] as const
type Power = ValuesOf<typeof powerSettings>
const dc = (s: Power) => s.fed === 'dc'

export const powerTerminals = (s: Power, side: Terminal['side']): Terminal[] =>
  dc(s)
    ? [term('V+', 'V+', 'dc+', side), term('V-', 'V−', 'dc-', side)]
    : [term('L', 'L', 'L', side), term('N', 'N', 'N', side), term('PE', 'PE', 'PE', side)]

/** What the device takes from a 24 V supply, as the resistance that takes it. */
export const powerElements = (p: PlacedPart<Power>): NetElement[] =>
  dc(p.s) ? [element(p, 'resistor', { a: 'V+', b: 'V-' }, { r: 24 / (p.s.own_mA / 1000) }, '~own')] : []

/** Below its lowest supply the device is dead. */
export const powerReacts = (p: SolvedPart<Power>): Partial<LivePart> =>
  dc(p.s) && p.volts('V+', 'V-') < p.s.min_V ? { powered: false } : {}

export const powerCaution = (s: Power): string | null =>
  dc(s)
    ? null
    : 'The supply terminals carry mains beside the signal terminals. Isolate, lock, prove dead before opening.'

export const powerTestPoints = (s: Power): (readonly [string, string, string])[] =>
  dc(s) ? [['V+', 'V-', 'its supply']] : []
