import { numbersOf } from '../../quantity/number-list.ts'
import { sayNumber } from '../../quantity/round.ts'
import type { Typed } from '../../quantity/setting.ts'
import { bufferByPH, bufferProblem, phResult } from './buffer-check.ts'
import { bufferPH } from './buffers.ts'
import { electrode_pH, glassAt25_Mohm } from './electrode.ts'

/** A reading of an electrode in a beaker: the bottle's pH at 25 °C, the voltage, the temperature measured there. */
export interface BeakerReading {
  readonly buffer: number
  readonly mV: number
  readonly t: number
}
/** The first of two readings, and when it was noted, ISO 8601. */
export interface FirstReading extends BeakerReading {
  readonly at: string
}

/** The pH rule for typed readings: so long apart, and no further from each other; typical. */
export const BEAKER_APART_S = 15
const MOST_MV = 1
/** Temperatures in one beaker are the same within this, °C; typical. */
export const MOST_C = 0.5
/** A check in a buffer as left is right within this; typical. */
export const CHECK_WITHIN_PH = 0.05

/** Why a reading in a beaker does not count yet, or null. @param at - now, ISO 8601 */
export function beakerWaits(
  now: BeakerReading,
  first: FirstReading | null,
  earlier: readonly BeakerReading[],
  at: string,
): string | null {
  const wrong = bufferProblem(
    { ...now },
    earlier.map((r) => ({ ...r })),
  )
  if (wrong !== null) return wrong
  if (first?.buffer !== now.buffer)
    return `Note a first reading; the one that counts comes ${BEAKER_APART_S} s after it.`
  const since = (Date.parse(at) - Date.parse(first.at)) / 1000
  if (since < BEAKER_APART_S)
    return `Waits for ${Math.ceil(BEAKER_APART_S - since)} s since the first reading.`
  if (Math.abs(now.mV - first.mV) > MOST_MV)
    return `It still moves: ${sayNumber(first.mV, 5)} and ${sayNumber(now.mV, 5)} mV are more than ${MOST_MV} mV apart.`
  if (Math.abs(now.t - first.t) > MOST_C)
    return `The temperature still moves: ${sayNumber(first.t, 4)} and ${sayNumber(now.t, 4)} °C.`
  return null
}

export interface BenchOutcome {
  readonly result: 'good' | 'worn' | 'rejected' | 'offsetOnly'
  readonly says: readonly string[]
  readonly offset_mV: number
  /** Null with one buffer: the slope stays as it was. */
  readonly slope_pct: number | null
}
/** Offset, slope and glass of an electrode from the beakers; null before the first one. */
export function benchOutcome(readings: readonly BeakerReading[], glass_Mohm = 0): BenchOutcome | null {
  const result = phResult(readings.map((r) => ({ ...r })))
  if (!result) return null
  const { offset_mV, slope_pct } = result.electrode
  const suspect = result.warnings.includes('SUSPECT_BUFFER')
  const last = readings.at(-1)
  const glass = glass_Mohm > 0 && last ? glassAt25_Mohm(glass_Mohm, last.t) : null
  const broken = glass !== null && (glass < 10 || glass > 1000)
  const says = [
    `Offset ${sayNumber(offset_mV, 3)} mV${readings.length > 1 ? `, slope ${sayNumber(slope_pct, 4)} % of the ideal` : ': one buffer gives the offset only'}.`,
    ...(suspect
      ? [
          `One beaker lies ${sayNumber(result.maxResidual_mV, 3)} mV off the line: an old bottle, one that was contaminated, or not the one on the label.`,
        ]
      : []),
    ...(result.warnings.includes('TEMPERATURES_APART')
      ? ['The beakers differ by more than 10 °C: let them come to the same.']
      : []),
    ...(glass === null
      ? ['Not judged: the glass, whose resistance nobody entered.']
      : [
          `Glass ${sayNumber(glass, 3)} MΩ at 25 °C${broken ? ': broken or wet below 10, dry or coated above 1000' : ''}.`,
        ]),
  ]
  if (result.state === 'REJECTED' || suspect || broken)
    return {
      result: 'rejected',
      says: [...says, 'It is not written: clean it and read again, else replace it.'],
      offset_mV,
      slope_pct: null,
    }
  if (readings.length === 1) return { result: 'offsetOnly', says, offset_mV, slope_pct: null }
  return { result: result.state === 'GOOD' ? 'good' : 'worn', says, offset_mV, slope_pct }
}

/** What the electrode shows in a beaker with its new values, against the bottle. */
export function beakerCheck(
  o: Pick<BenchOutcome, 'offset_mV' | 'slope_pct'>,
  r: BeakerReading,
): { readonly good: boolean; readonly says: string } {
  const pH = electrode_pH({ offset_mV: o.offset_mV, slope_pct: o.slope_pct ?? 100 }, r.mV, r.t)
  return asLeftIn(r.buffer, r.t, pH)
}

/** What is shown in a buffer as left, against its bottle. @param buffer - pH on it at 25 °C @param t_C - there */
export function asLeftIn(
  buffer: number,
  t_C: number,
  pH: number,
): { readonly good: boolean; readonly says: string } {
  const named = bufferByPH(buffer)
  const should = named ? bufferPH(named, t_C) : null
  if (should === null) return { good: false, says: 'That is no buffer of the set.' }
  const good = Math.abs(pH - should) <= CHECK_WITHIN_PH
  return {
    good,
    says: `As left it shows ${sayNumber(pH, 4)} in buffer ${sayNumber(should, 4)}${good ? `, within ±${CHECK_WITHIN_PH}` : `, more than ${CHECK_WITHIN_PH} off`}.`,
  }
}

const DAY_MS = 86_400_000
/**
 * A sensor's data after a calibration: new offset and slope, and the slope in its history.
 * @param lastOn - day of its last calibration, or null
 * @param today - as 2026-11-23
 */
export function sensorAfter(
  values: Typed,
  o: Pick<BenchOutcome, 'offset_mV' | 'slope_pct'>,
  lastOn: string | null,
  today: string,
): Typed {
  const round = (x: number, per: number) => Math.round(x * per) / per
  const offset_mV = round(o.offset_mV, 100)
  if (o.slope_pct === null) return { ...values, offset_mV }
  const slope_pct = round(o.slope_pct, 100)
  const text = (name: string) => (typeof values[name] === 'string' ? values[name] : '')
  const [days, slopes] = [numbersOf(text('days')), numbersOf(text('slopes'))]
  // Days and slopes belong together; a history with a gap begins anew.
  const whole = days.length === slopes.length && days.length > 0 && lastOn !== null
  const since = whole ? Math.round((Date.parse(today) - Date.parse(lastOn)) / DAY_MS) : 0
  return {
    ...values,
    offset_mV,
    slope_pct,
    days: [...(whole ? days : []), whole ? (days.at(-1) ?? 0) + since : 0].join(' '),
    slopes: [...(whole ? slopes : []), slope_pct].join(' '),
  }
}
