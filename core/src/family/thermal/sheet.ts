import { NAMED_GASES } from '../../media/fluid.ts'
import { sayNumber } from '../../quantity/round.ts'
import type { SheetLine } from '../family.ts'
import { meanFactor, type Inserted } from './insertion.ts'
import type { Entries } from './settings.ts'
import type { StemMarks } from './stack.ts'

const HELD: Readonly<Record<Entries['restraint'], string>> = {
  none: 'by hand',
  cable: 'by a restraint cable',
  retractor: 'by a retractor',
}
/** A thermal probe in the order in which it is told, put in, and filed. */
export function thermalSheet(s: Entries, i: Inserted, marks: StemMarks | null): SheetLine[] {
  const part = (name: string, lines: readonly (SheetLine | null)[]) =>
    lines.flatMap((l) => (l ? [{ ...l, part: name }] : []))
  const orBlank = (text: string) => (text.trim() === '' ? 'not entered' : text.trim())
  return [
    ...part('Gas', [
      {
        says: 'Gas',
        value: NAMED_GASES[s.gas]?.title ?? s.gas,
        trap: 'another gas’s calibration reads wrong',
      },
      { says: 'Base conditions', value: `${sayNumber(s.base_C)} °C, 101.325 kPa absolute` },
    ]),
    ...part('Pipe', [
      {
        says: 'Pipe bore',
        value: `${(s.od_mm - 2 * s.wall_mm).toFixed(2)} mm`,
        trap: 'the bore, not the outside diameter',
      },
      { says: 'Profile factor', value: meanFactor(s.n).F.toFixed(4) },
    ]),
    ...part('Probe', [
      { says: 'Serial of the probe', value: orBlank(s.serial) },
      { says: 'Insertion mark at the fitting face', value: `${i.mark_mm.toFixed(1)} mm` },
      marks
        ? {
            says: 'Mark “clear of the valve”',
            value: `${marks.clear_mm.toFixed(1)} mm`,
            trap: 'never close the valve before it shows',
          }
        : { says: 'Mark “clear of the valve”', value: 'not known' },
      { says: 'Flow arrow', value: 'along the pipe within 2°' },
      { says: 'Force on the stem', value: `${i.force_N.toFixed(0)} N, held ${HELD[s.restraint]}` },
    ]),
    ...part('Reading', [
      { says: 'Flow at 20 mA', value: `${sayNumber(s.fs_kgh)} kg/h` },
      { says: 'Low cutoff', value: `${sayNumber(s.cutoff_kgh)} kg/h`, trap: 'never 0' },
      { says: 'Damping', value: `${sayNumber(s.damping_s)} s` },
    ]),
    ...part('Last', [
      { says: 'Nozzle of its certificate', value: orBlank(s.nozzle) },
      { says: 'Baseline certificate', value: 'filed with this sheet' },
    ]),
  ]
}
