/** Ends of the measuring information of a 4-20 mA output. @see NAMUR NE 43 */
export const MEASURING_LOW_MA = 3.8
export const MEASURING_HIGH_MA = 20.5

/** Loop current of a fraction of span, held to the measuring limits as an output does. */
export const currentOfFraction = (fraction: number): number =>
  Math.min(MEASURING_HIGH_MA, Math.max(MEASURING_LOW_MA, 4 + 16 * fraction))
