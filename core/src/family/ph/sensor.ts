import { valuesOf } from '../../quantity/setting.ts'
import { PH_SENSOR_SETTINGS } from '../../sensor/kinds/ph-sensor.ts'
import type { SensorUse } from '../family.ts'
import type { Entries } from './settings.ts'

/** A sensor that was calibrated in the workshop brings its own offset and slope: the old one’s never stay. */
export const phSensorUse: SensorUse<Entries> = {
  kind: 'ph-sensor',
  entries: (sensor) => {
    const p = valuesOf(PH_SENSOR_SETTINGS, sensor)
    return {
      serial: p.serial,
      offset_mV: p.offset_mV,
      slope_pct: p.slope_pct,
      glass_Mohm: p.glass_Mohm,
      reference_kohm: p.reference_kohm,
      days: p.days,
      slopes: p.slopes,
    }
  },
  fits: (_s, sensor) => {
    const p = valuesOf(PH_SENSOR_SETTINGS, sensor)
    const worn = p.slope_pct < 85 || p.slope_pct > 105 || Math.abs(p.offset_mV) > 30
    return {
      impossible: worn
        ? [`slope ${p.slope_pct} % and offset ${p.offset_mV} mV are outside 85 to 105 % and ±30 mV`]
        : [],
      but: p.slope_pct < 90 ? [`slope ${p.slope_pct} %: nearing its end`] : [],
    }
  },
}
