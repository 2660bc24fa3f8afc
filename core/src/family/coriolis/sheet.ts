import { sayNumber } from '../../quantity/round.ts'
import type { SheetLine } from '../family.ts'
import { nameOf, type Constant } from './characterization.ts'
import { memoryLines } from './memory-lost.ts'
import { massIn } from './in-units.ts'
import { outputLines } from './outputs.ts'
import { FURTHER, NEEDED, type Role } from './roles.ts'
import type { Entries } from './settings.ts'

/**
 * A Coriolis meter in the order in which it is keyed in; after a lost memory first what the plate tells and what is
 * lost with it. No line stands twice: a value is keyed in once.
 */
export function coriolisSheet(s: Entries, constants: Readonly<Partial<Record<Role, Constant>>>): SheetLine[] {
  const again = s.memoryLost ? memoryLines(s, constants) : []
  const part = (name: string, lines: readonly SheetLine[]) => lines.map((l) => ({ ...l, part: name }))
  const lines = [
    ...again,
    ...part('Characterization', [
      ...NEEDED.map((role) => ({
        says: nameOf(s, role),
        value: constants[role]?.typed ?? 'not entered',
        exact: true,
        trap: 'every decimal; apply each',
      })),
      ...FURTHER.flatMap((role) => {
        const c = constants[role]
        return c ? [{ says: nameOf(s, role), value: c.typed, exact: true }] : []
      }),
    ]),
    ...part('Units', [
      {
        says: 'Unit of the mass flow',
        value: s.massUnit,
        trap: 'before the ranges: a changed unit changes them',
      },
      { says: 'Unit of the volume flow', value: s.volumeUnit },
      { says: 'Unit of the density', value: s.densityUnit === 'g/cm3' ? 'g/cm³' : 'kg/m³' },
      { says: 'Unit of the temperature', value: s.temperatureUnit },
    ]),
    ...part('Reading', [
      { says: 'Low-flow cutoff', value: massIn(s, s.cutoff_kgh), trap: 'both ways, never 0' },
      { says: 'Flow direction', value: s.direction },
      { says: 'Damping', value: `${sayNumber(s.damping_s)} s` },
    ]),
    ...outputLines(s),
    ...part('Last', [
      {
        says: 'Zero',
        act: true,
        value: s.memoryLost ? 'full, shut and still; then a comparison' : 'only if it is worth it',
      },
      { says: 'Configuration', value: 'saved whole, as the backup of this meter', act: true },
    ]),
  ]
  return lines.filter((l, i) => lines.findIndex((other) => other.says === l.says) === i)
}
