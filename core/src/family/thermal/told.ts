import { numbersOf } from '../../quantity/number-list.ts'
import { CERTIFICATE_PRESSURES } from '../../sensor/kinds/insertion-probe.ts'
import { insertionOf } from './full-scale.ts'
import { marksOf } from './stack-findings.ts'
import { absolute_kPa } from './nozzle-settings.ts'
import type { Entries } from './settings.ts'

/** The certificate of the nozzle check: its pressures, what the meter read at each, and its own limits. */
export function told(
  s: Entries,
  isTyped: (name: keyof Entries) => boolean,
): Readonly<Record<string, number | string | readonly number[]>> {
  const pressures = numbersOf(s.p0_list)
  const certified = numbersOf(s.certified_list)
  // Zero and one kilopascal tell how any pressure of the certificate becomes an absolute one.
  const base = absolute_kPa(s, 0)
  const inserted = insertionOf(s)
  const marks = marksOf(s, inserted)
  return {
    ...(isTyped('gauge_kPa')
      ? { force_N: inserted.force_N, needsRestraint: inserted.needsRetractor ? 'yes' : 'no' }
      : {}),
    ...(marks
      ? {
          inserted_mm: marks.inserted_mm,
          clear_mm: marks.clear_mm,
          ...(marks.problem ? { stackProblem: marks.problem.says } : {}),
        }
      : {}),
    ...(isTyped('throat_mm') ? { throat_mm: s.throat_mm } : {}),
    ...(isTyped('Cd') ? { Cd: s.Cd } : {}),
    ...(isTyped('checkFs_kgh') ? { checkFs_kgh: s.checkFs_kgh } : {}),
    ofReading_pct: s.ofReading_pct,
    ofFs_pct: s.ofFs_pct,
    pressureUnit: CERTIFICATE_PRESSURES[s.p0_unit],
    perUnit_kPa: absolute_kPa(s, 1) - base,
    base_kPa: base,
    pressures,
    certified: certified.length === pressures.length ? certified : [],
  }
}
