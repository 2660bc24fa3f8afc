import { number, text, valuesOf, type Typed } from '../../quantity/setting.ts'
import { sayNumber } from '../../quantity/round.ts'
import type { SensorKind } from '../sensor-kind.ts'

/** A case with a meter and several pairs; the pairs say which kit they belong to. */
export const KIT_SETTINGS = [
  text('serial', 'Serial of the meter', ''),
  number('logSamples', 'Samples that its log holds', '', 100_000, 0, 100_000_000),
  number('battery_h', 'Runs on its battery, h', '', 14, 0, 1000),
  number('siteName', 'Longest name of a site, characters', '', 8, 1, 80),
] as const

export const portableKit: SensorKind = {
  id: 'portable-kit',
  title: 'Portable kit',
  titles: 'Portable kits',
  settings: KIT_SETTINGS,
  says: (typed: Typed) => {
    const s = valuesOf(KIT_SETTINGS, typed)
    return `log of ${sayNumber(s.logSamples, 8)} samples, ${sayNumber(s.battery_h)} h on its battery`
  },
  problems: (typed) =>
    valuesOf(KIT_SETTINGS, typed).serial.trim() === ''
      ? [{ name: 'serial', says: 'A kit is known by its serial.' }]
      : [],
}
