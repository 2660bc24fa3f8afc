import type { NetElement } from '../../circuit/netlist.ts'
import {
  element,
  term,
  type PartKind,
  type PlacedPart,
  type SolvedPart,
  type Terminal,
} from '../part-kind.ts'
import { choice, number, type Setting, type Settings } from '../../quantity/setting.ts'

/** How a 4-wire device gets its own power: shared by the kinds that have a separate supply. */
const dc = (s: Settings) => s.word('fed') === 'dc'

export const powerSettings: readonly Setting[] = [
  choice('fed', 'Own supply', 'dc', { dc: '24 V DC', mains: 'mains' }),
  number('own_mA', 'Own consumption', 'mA', 120, 1, 5000, dc),
  number('min_V', 'Lowest supply', 'V', 18, 5, 36, dc),
]

export const powerTerminals = (s: Settings, side: Terminal['side']): Terminal[] =>
  dc(s)
    ? [term('V+', 'V+', 'dc+', side), term('V-', 'V−', 'dc-', side)]
    : [term('L', 'L', 'L', side), term('N', 'N', 'N', side), term('PE', 'PE', 'PE', side)]

/** What the device takes from a 24 V supply, as the resistance that takes it. */
export const powerElements = (p: PlacedPart): NetElement[] =>
  dc(p.s)
    ? [element(p, 'resistor', { a: 'V+', b: 'V-' }, { r: 24 / (p.s.num('own_mA') / 1000) }, '~own')]
    : []

/** Below its lowest supply the device is dead. */
export const powerReacts: NonNullable<PartKind['react']> = (p: SolvedPart) =>
  dc(p.s) && p.volts('V+', 'V-') < p.s.num('min_V') ? { powered: false } : {}

export const powerCaution = (s: Settings): string | null =>
  dc(s)
    ? null
    : 'The supply terminals carry mains beside the signal terminals. Isolate, lock, prove dead before opening.'

export const powerTestPoints = (s: Settings): (readonly [string, string, string])[] =>
  dc(s) ? [['V+', 'V-', 'its supply']] : []
