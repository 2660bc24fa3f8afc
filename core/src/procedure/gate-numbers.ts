import { z } from 'zod'

/** What a plant asks of a reading before it counts, whatever the loop. */
export const GateNumbers = z.strictObject({
  /** A reading over the link is looked at for so long, s; longer where damping or noise ask for it. */
  still_s: z.number('Type a number.').min(5, 'At least 5 s.').max(110, 'At most 110 s: no more is kept.'),
  /** Two typed readings lie so far apart, s. */
  apart_s: z.number('Type a number.').min(5, 'At least 5 s.').max(600, 'At most 600 s.'),
  /** The input is right within this, % of span; or as well as the standard is known. */
  input_pct: z.number('Type a number.').min(0.01, 'At least 0.01 %.').max(1, 'At most 1 %.'),
})
export type GateNumbers = z.output<typeof GateNumbers>

/** Typical; what is asked where the plant has said nothing. */
export const USUAL_GATES: GateNumbers = { still_s: 10, apart_s: 15, input_pct: 0.1 }
