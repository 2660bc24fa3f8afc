import { z } from 'zod'

/** What a plant asks of a reading before it counts, and of what is written and judged by it, whatever the loop. */
export const GateNumbers = z.strictObject({
  /** A reading over the link is looked at for so long, s; longer where damping or noise ask for it. */
  still_s: z.number('Type a number.').min(5, 'At least 5 s.').max(110, 'At most 110 s: no more is kept.'),
  /** Two typed readings lie so far apart, s. */
  apart_s: z.number('Type a number.').min(5, 'At least 5 s.').max(600, 'At most 600 s.'),
  /** The input is right within this, % of span; or as well as the standard is known. */
  input_pct: z.number('Type a number.').min(0.01, 'At least 0.01 %.').max(1, 'At most 1 %.'),
  /** A trim may shift a reading by so much, % of the sensor's upper limit. None in what was begun before there was. */
  shift_pct: z.number('Type a number.').min(0.1, 'At least 0.1 %.').max(5, 'At most 5 %.').optional(),
  /** A figure of a health check may have changed by so much since the first, %. */
  health_pct: z.number('Type a number.').min(0.5, 'At least 0.5 %.').max(20, 'At most 20 %.').optional(),
  /** Where a flow is at rest its temperature changes by less than this, K/min. */
  rate_KPerMin: z
    .number('Type a number.')
    .min(0.05, 'At least 0.05 K/min.')
    .max(5, 'At most 5 K/min.')
    .optional(),
})
export type GateNumbers = z.output<typeof GateNumbers>

/** All of them, none left out. */
export type WholeGates = { readonly [K in keyof GateNumbers]-?: NonNullable<GateNumbers[K]> }

/** Typical; what is asked where the plant has said nothing. */
export const USUAL_GATES: WholeGates = {
  ...{ still_s: 10, apart_s: 15, input_pct: 0.1 },
  ...{ shift_pct: 3, health_pct: 4, rate_KPerMin: 0.5 },
}
/** All of them, with what is usual where something is not said. */
export function wholeGates(gates: Partial<GateNumbers> = {}): WholeGates {
  const said = Object.fromEntries(Object.entries(gates).filter(([, value]) => value !== undefined))
  return { ...USUAL_GATES, ...(said as Partial<WholeGates>) }
}
