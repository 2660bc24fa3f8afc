/** Arithmetic mean, in the unit of the numbers; NaN of none. */
export const mean = (xs: readonly number[]): number => sum(xs) / xs.length
/** Sum of numbers; 0 of none. */
export const sum = (xs: readonly number[]): number => {
  let total = 0
  for (const x of xs) total += x
  return total
}
