import { isUnitSymbol, printedUnit } from '../quantity/units.ts'
import { sayNumber } from '../quantity/round.ts'
import { shownSettings, valuesOf, type Setting, type SettingValue, type Typed } from '../quantity/setting.ts'
import { sensorValues, type SensorDescription } from '../sensor/sensor.ts'
import type { Family, SensorFit } from './family.ts'

/** A value of an entry as a person reads it. */
export function sayEntry(s: Setting, value: SettingValue | undefined): string {
  if (s.kind === 'choice') return s.options.find((o) => o.value === value)?.title ?? String(value)
  if (s.kind === 'flag') return value === true ? 'yes' : 'no'
  if (s.kind !== 'number') return typeof value === 'string' && value !== '' ? value : 'nothing'
  const unit = isUnitSymbol(s.unit) ? printedUnit(s.unit) : s.unit
  return `${sayNumber(Number(value), 7)}${unit === '' ? '' : ` ${unit}`}`
}

/** An entry in which the set-up is not what the plate of its sensor says. */
export interface SensorDifference {
  readonly name: string
  readonly title: string
  readonly here: string
  readonly plate: string
}

/** What a plate tells of a family's set-up; empty for a family that has no sensor of its own. */
export const entriesOfSensor = (family: Family, sensor: Pick<SensorDescription, 'kind' | 'values'>): Typed =>
  family.sensor && family.sensor.kind === sensor.kind ? family.sensor.entries(sensorValues(sensor)) : {}

/** Of these, the entries that nobody typed off the plate: on the loop they are assumptions, not facts. */
export const untoldOfSensor = (
  family: Family,
  sensor: Pick<SensorDescription, 'kind' | 'values'>,
): string[] =>
  Object.keys(entriesOfSensor(family, sensor)).filter((name) => sensor.values[name] === undefined)

/** Entries in which a set-up and the plate of its sensor part: two truths about one thing. */
export function sensorDifferences(
  family: Family,
  typed: Typed,
  sensor: Pick<SensorDescription, 'kind' | 'values'>,
): SensorDifference[] {
  const here: Typed = valuesOf(family.settings, typed)
  const plate: Readonly<Record<string, SettingValue | undefined>> = entriesOfSensor(family, sensor)
  const shown = shownSettings(family.settings, { ...here, ...entriesOfSensor(family, sensor) })
  return shown.flatMap((s) => {
    const there = plate[s.name]
    return there === undefined || there === here[s.name]
      ? []
      : [{ name: s.name, title: s.title, here: sayEntry(s, here[s.name]), plate: sayEntry(s, there) }]
  })
}

/** A sensor of the stock with what is for and against it on this loop. */
export interface RankedSensor<T> extends SensorFit {
  readonly sensor: T
}
/**
 * The sensors of a stock that are of the family's kind, the best first: those that can be used, then those with
 * fewer objections. What is scrapped is no choice.
 */
export function rankSensors<T extends { readonly description: SensorDescription }>(
  family: Family,
  typed: Typed,
  stock: readonly T[],
): RankedSensor<T>[] {
  const use = family.sensor
  if (!use) return []
  return stock
    .filter((s) => s.description.kind === use.kind && s.description.state !== 'scrapped')
    .map((sensor) => ({
      sensor,
      ...(use.fits?.(typed, sensorValues(sensor.description)) ?? { impossible: [], but: [] }),
    }))
    .sort((a, b) => a.impossible.length - b.impossible.length || a.but.length - b.but.length)
}
