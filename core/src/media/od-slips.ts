import { sayNumber } from '../quantity/round.ts'
import { namedPipe, PIPE_MAKES, sizesOf } from './other-pipes.ts'
import { PIPE_SIZES } from './pipe-sizes-table.ts'
import { keysOf } from '../quantity/setting.ts'

/** A tape or a caliper on a real pipe is no better. */
const SAME = 0.006
/** What was typed by mistake fits a listed size as well as the size itself would. */
const FITS = 0.004

/** Steel and ductile iron, inch and metric: what most pipes that carry a meter are. */
const COMMON_MM = [
  ...new Set([
    ...PIPE_SIZES.flatMap((p) => p.schedules.map(([, od]) => od)),
    ...(['en', 'ductile'] as const).flatMap((make) =>
      sizesOf(make).map((size) => namedPipe(make, size, {}).od_mm ?? 0),
    ),
  ]),
]
const ALL_MM = [
  ...new Set([
    ...COMMON_MM,
    ...keysOf(PIPE_MAKES).flatMap((make) =>
      sizesOf(make).map((size) => namedPipe(make, size, {}).od_mm ?? 0),
    ),
  ]),
]
const fits = (sizes: readonly number[], od_mm: number, by: number): number | null =>
  sizes.find((size) => Math.abs(od_mm / size - 1) <= by) ?? null

export interface OdSlip {
  readonly code: 'OD_IS_CIRCUMFERENCE' | 'OD_IS_INCH' | 'OD_IS_CM' | 'OD_IS_RADIUS'
  /** The size that it fits, mm. */
  readonly od_mm: number
  readonly says: string
}
/** Full flow slower than this, in a pipe of the size that was typed, is hardly what it was built for; m/s. */
const SLOW = { liquid: 0.35, gas: 3 } as const
/** A circumference for a diameter makes the area π² times too large, and so the velocity too small. */
const AREA = Math.PI ** 2
const FAST = { liquid: 8, gas: 60 } as const

/**
 * An outside diameter that is no pipe’s, and would be one if it had been typed as something else: a circumference,
 * inches, centimetres. One that is a pipe’s is doubted only where the flow would hardly move in it and would in the
 * smaller one.
 * @param od_mm - as it was typed
 * @param flow - velocity at full flow in the pipe as typed, and what flows; null where no flow is entered
 */
export function odSlips(
  od_mm: number,
  flow: { readonly v_m_s: number; readonly fluid: 'liquid' | 'gas' } | null = null,
): OdSlip[] {
  if (!(od_mm > 0)) return []
  const isPipe = fits(ALL_MM, od_mm, SAME) !== null
  const slow =
    flow !== null &&
    flow.v_m_s < SLOW[flow.fluid] &&
    flow.v_m_s * AREA > SLOW[flow.fluid] &&
    flow.v_m_s * AREA < FAST[flow.fluid]
  const fast = flow !== null && flow.v_m_s > FAST[flow.fluid]
  if (isPipe && !slow && !fast) return []
  /** Whether the flow would be usual in a pipe so many times as large. */
  const usual = (times: number) =>
    flow !== null && flow.v_m_s / times ** 2 > SLOW[flow.fluid] && flow.v_m_s / times ** 2 < FAST[flow.fluid]
  const ways = [
    ['OD_IS_CIRCUMFERENCE', od_mm / Math.PI, 'for the circumference'],
    ['OD_IS_INCH', od_mm * 25.4, 'in inches'],
    ['OD_IS_CM', od_mm * 10, 'in centimetres'],
    ['OD_IS_RADIUS', od_mm * 2, 'as a radius'],
  ] as const
  const typed = sayNumber(od_mm, 6)
  return ways.flatMap(([code, as_mm, how]): OdSlip[] => {
    const size = fits(COMMON_MM, as_mm, FITS)
    if (size === null) return []
    // A pipe that exists is doubted only by its flow, and half a diameter only where the flow says so too.
    if (isPipe || code === 'OD_IS_RADIUS') {
      const flowSays = code === 'OD_IS_CIRCUMFERENCE' ? slow : fast && usual(as_mm / od_mm)
      if (!flowSays) return []
    }
    const begin = isPipe
      ? `Full flow would be ${sayNumber(flow?.v_m_s ?? 0, 2)} m/s in a pipe of ${typed} mm`
      : `No pipe has an outside diameter of ${typed} mm`
    const other = `${sayNumber(size, 6)} mm`
    return [
      {
        code,
        od_mm: size,
        says:
          code === 'OD_IS_CIRCUMFERENCE'
            ? `${begin}, and ${typed} mm is the circumference of one of ${other}: was it typed for the diameter?`
            : `${begin}, and ${how} it is one of ${other}.`,
      },
    ]
  })
}
