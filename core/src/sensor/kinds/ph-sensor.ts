import { number, text, valuesOf, type Typed } from '../../quantity/setting.ts'
import { sayNumber } from '../../quantity/round.ts'
import { numberListProblem } from '../../quantity/number-list.ts'
import type { SensorKind } from '../sensor-kind.ts'

/** A pH sensor with what its last calibration in the workshop found: the values go with it to the loop. */
export const PH_SENSOR_SETTINGS = [
  text('serial', 'Serial', ''),
  number('offset_mV', 'Offset of its last calibration', 'mV', 0, -200, 200),
  number('slope_pct', 'Slope of its last calibration', '%', 100, 10, 150),
  number('glass_Mohm', 'Glass resistance, MΩ (0: not known)', '', 0, 0, 100_000),
  number('reference_kohm', 'Reference resistance (0: not known)', 'kohm', 0, 0, 100_000),
  text('days', 'Days of its calibrations, as 0 60 120', '', numberListProblem),
  text('slopes', 'Slopes at each, %', '', numberListProblem),
] as const

export const phSensor: SensorKind = {
  id: 'ph-sensor',
  title: 'pH sensor',
  titles: 'pH sensors',
  settings: PH_SENSOR_SETTINGS,
  says: (typed: Typed) => {
    const s = valuesOf(PH_SENSOR_SETTINGS, typed)
    return `offset ${sayNumber(s.offset_mV, 3)} mV, slope ${sayNumber(s.slope_pct, 4)} %`
  },
  problems: (typed) =>
    valuesOf(PH_SENSOR_SETTINGS, typed).serial.trim() === ''
      ? [{ name: 'serial', says: 'A sensor is known by its serial.' }]
      : [],
}
