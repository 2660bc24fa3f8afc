import { sayNumber } from '../../quantity/round.ts'
import type { PressureKind, ZeroInput } from '../family.ts'
import { differentialAt_Pa, interfaceAt_Pa } from './hydrostatic.ts'
import { isLevel, levelOf } from './range.ts'
import type { Entries } from './settings.ts'

/** What the cell is compared with. An open tank's transmitter has its low side in the air. */
export const pressureKind = (s: Entries): PressureKind =>
  s.duty === 'gauge' || s.duty === 'absolute' ? s.duty : s.duty === 'open' ? 'gauge' : 'differential'

/** How a range of this kind is written, by the rules of the field: gauge, absolute, or a difference. */
export const UNIT_OF_KIND = { gauge: 'kPa(g)', absolute: 'kPa(a)', differential: 'kPa' } as const

/**
 * What the sensor feels at zero: legs, seals and elevation included.
 * With the tank at its 0 % the cell is not at 0 kPa; with a manifold equalised it is, and the legs are shut off.
 */
export function zeroInput(s: Entries): ZeroInput {
  if (s.duty === 'absolute')
    return {
      input: null,
      unit: 'kPa(a)',
      says: 'Open to the air it reads the barometer: an absolute cell is never zeroed there.',
    }
  const unit = UNIT_OF_KIND[pressureKind(s)]
  if (s.manifold !== 'none')
    return { input: 0, unit, says: 'With the manifold equalised the legs are shut off: the true input is 0.' }
  if (isLevel(s) || s.duty === 'interface') {
    const Pa =
      s.duty === 'interface'
        ? interfaceAt_Pa(
            {
              lower: s.density,
              upper: s.upperDensity,
              fill: s.fill,
              lowerTap_m: s.lowerTap_m,
              upperTap_m: s.upperTap_m,
              gravity: s.gravity,
            },
            s.zero_m,
          )
        : differentialAt_Pa(levelOf(s), s.zero_m)
    return {
      input: Pa / 1000,
      unit,
      says: `At 0 % the legs and fills stand at ${sayNumber(Pa / 1000, 5)} kPa, not at 0: ${s.duty === 'seals' ? 'the seals’ capillaries cannot be vented; zero it with both seals at one height' : 'shut the taps and vent both sides for a true 0'}.`,
    }
  }
  const head = s.duty === 'gauge' ? (s.lineDensity * s.gravity * s.below_m) / 1000 : 0
  return head === 0
    ? { input: 0, unit, says: 'Shut off and vented the true input is 0.' }
    : {
        input: head,
        unit,
        says: `Vented at the tap with the line full it feels the column, ${sayNumber(head, 4)} kPa; vented at the cell it is 0.`,
      }
}
