/** Ends of the measuring information of a 4-20 mA output. @see NAMUR NE 43 */
export const MEASURING_LOW_MA = 3.8
export const MEASURING_HIGH_MA = 20.5

/** Loop current of a fraction of span, 4 to 20 mA; not held to any limit. */
export const currentOf = (fraction: number): number => 4 + 16 * fraction
/** Fraction of span that a loop current stands for. */
export const fractionOf = (current_mA: number): number => (current_mA - 4) / 16
/** A current held to the measuring limits, as an output does. */
export const heldToLimits = (
  current_mA: number,
  low_mA = MEASURING_LOW_MA,
  high_mA = MEASURING_HIGH_MA,
): number => Math.min(high_mA, Math.max(low_mA, current_mA))
/** Whether a current measures; outside it says that it cannot. */
export const measures = (current_mA: number): boolean =>
  current_mA >= MEASURING_LOW_MA && current_mA <= MEASURING_HIGH_MA

/** Loop current of a fraction of span, held to the measuring limits as an output does. */
export const currentOfFraction = (fraction: number): number => heldToLimits(currentOf(fraction))
