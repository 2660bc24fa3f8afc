import { rtdResistance_ohm, rtdTemperature_C } from '../family/temperature/rtd.ts'
import { thermocouple_C, thermocouple_mV } from '../family/temperature/thermocouple.ts'
import { convert, printedUnit } from '../quantity/units.ts'
import { sayNumber } from '../quantity/round.ts'
import type { Range } from '../signal/stage.ts'
import type { AppliedLaw } from './kinds/applied.ts'

/** The unit in which the standard is set. */
export const appliedUnit = (law: AppliedLaw): string =>
  law.kind === 'linear' ? law.unit : law.kind === 'resistance' ? 'ohm' : 'mV'

const inC = (value: number, unit: string): number | null => {
  const c = convert(value, unit, 'degC')
  return c.kind === 'value' ? c.value : null
}

/** What is set on the standard for a value of the loop's input; null where the law has none. */
export function toApplied(law: AppliedLaw, input: number, range: Range): number | null {
  if (law.kind === 'linear')
    return law.low + ((input - range.low) / (range.high - range.low)) * (law.high - law.low)
  const t = inC(input, range.unit)
  if (t === null) return null
  if (law.kind === 'resistance') return rtdResistance_ohm(t, law.r0_ohm)
  const [E, cold] = [thermocouple_mV(law.type, t), thermocouple_mV(law.type, law.junction_C)]
  return E === null || cold === null ? null : E - cold
}

/** The value of the loop's input that a setting of the standard stands for; null outside the law. */
export function fromApplied(law: AppliedLaw, applied: number, range: Range): number | null {
  if (law.kind === 'linear')
    return range.low + ((applied - law.low) / (law.high - law.low)) * (range.high - range.low)
  const t =
    law.kind === 'resistance'
      ? rtdTemperature_C(applied, law.r0_ohm)
      : thermocouple_C(law.type, applied + (thermocouple_mV(law.type, law.junction_C) ?? NaN))
  if (t === null || Number.isNaN(t)) return null
  const back = convert(t, 'degC', range.unit)
  return back.kind === 'value' ? back.value : null
}

/** Places over the range at which the steepness is looked at. */
const PLACES = 20

/** What has to be set over a range, and the most that one unit of it moves the input. Null where the law has no value. */
export function appliedSpan(
  law: AppliedLaw,
  range: Range,
): { readonly low: number; readonly high: number; readonly unit: string; readonly perUnit: number } | null {
  const at = Array.from({ length: PLACES + 1 }, (_, i) =>
    toApplied(law, range.low + ((range.high - range.low) * i) / PLACES, range),
  )
  if (at.some((v) => v === null)) return null
  const values = at as number[]
  const step = Math.abs(range.high - range.low) / PLACES
  const steps = values.slice(1).map((v, i) => Math.abs(v - (values[i] ?? v)))
  return {
    low: Math.min(...values),
    high: Math.max(...values),
    unit: appliedUnit(law),
    perUnit: step / Math.min(...steps),
  }
}

/** The law in words, for papers. */
export function sayLaw(law: AppliedLaw, range: Range): string {
  switch (law.kind) {
    case 'resistance':
      return `Applied as resistance by the table of platinum, R0 ${sayNumber(law.r0_ohm)} Ω (IEC 60751).`
    case 'thermocouple':
      return `Applied as voltage by the table of type ${law.type} (IEC 60584-1), less that of the junction at ${sayNumber(law.junction_C, 3)} °C.`
    case 'linear':
      return `Applied as ${printedUnit(law.unit)}: ${sayNumber(law.low)} to ${sayNumber(law.high)} for ${sayNumber(range.low)} to ${sayNumber(range.high)} ${printedUnit(range.unit)}.`
  }
}
