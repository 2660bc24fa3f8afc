import { sayNumber } from '../quantity/round.ts'
import type { ValuesOf } from '../quantity/setting.ts'
import type { SheetLine } from './family.ts'
import { VESSEL_ENTRIES } from './vessel.ts'

/** The tank as a device is told it; nothing where none was entered. */
export function vesselLines(s: ValuesOf<typeof VESSEL_ENTRIES>): SheetLine[] {
  const line = (says: string, value: string): SheetLine => ({ says, value, part: 'Tank' })
  const m = (x: number) => `${sayNumber(x, 6)} m`
  const title = VESSEL_ENTRIES[0].options.find((o) => o.value === s.shape)?.title ?? s.shape
  switch (s.shape) {
    case 'none':
      return []
    case 'table':
      return [
        line('Tank', `${title} of ${s.strapping.length} rows`),
        line('Density', `${sayNumber(s.bulk_kg_m3)} kg/m³`),
      ]
    case 'rectangular':
      return [
        line('Tank', title),
        line('Tank inside', `${m(s.length_m)} × ${m(s.width_m)} × ${m(s.height_m)}`),
      ]
    case 'sphere':
      return [line('Tank', title), line('Tank inside diameter', m(s.diameter_m))]
    default:
      return [
        line('Tank', title),
        line('Tank inside diameter', m(s.diameter_m)),
        line('Straight shell', m(s.shell_m)),
        line('Ends of the tank', `${s.head1} and ${s.head2}`),
      ]
  }
}
