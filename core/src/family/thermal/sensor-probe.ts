import { valuesOf } from '../../quantity/setting.ts'
import { PROBE_SETTINGS } from '../../sensor/kinds/insertion-probe.ts'
import type { SensorUse } from '../family.ts'
import { insertionOf } from './full-scale.ts'
import type { Entries } from './settings.ts'
import { marksOf } from './stack-findings.ts'

type Probe = ReturnType<typeof valuesOf<typeof PROBE_SETTINGS>>
const entriesOf = (p: Probe): Partial<Entries> => ({
  serial: p.serial,
  probe_mm: p.probe_mm,
  stem_mm: p.stem_mm,
  head_mm: p.head_mm,
  tip_mm: p.tip_mm,
  nozzle: p.nozzle,
  throat_mm: p.throat_mm,
  Cd: p.Cd,
  checkFs_kgh: p.checkFs_kgh,
  p0_unit: p.p0_unit,
  p0_list: p.p0_list,
  certified_list: p.certified_list,
})

/** A probe of the stock on this pipe: long enough, and narrower than the valve. */
export const thermalSensor: SensorUse<Entries> = {
  kind: 'insertion-probe',
  entries: (sensor) => entriesOf(valuesOf(PROBE_SETTINGS, sensor)),
  fits: (s, sensor) => {
    const with_: Entries = { ...s, ...entriesOf(valuesOf(PROBE_SETTINGS, sensor)) }
    const i = insertionOf(with_)
    const marks = marksOf(with_, i)
    return {
      impossible: [...(i.refused ? [i.refused] : []), ...(marks?.problem ? [marks.problem.says] : [])],
      but: [],
    }
  },
}
