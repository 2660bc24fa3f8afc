import { mean } from './mean.ts'

/**
 * Standard deviation of a sample, in the unit of the numbers: squares over n − 1.
 * @returns 0 for fewer than two: one number does not scatter
 */
export function deviation(xs: readonly number[]): number {
  if (xs.length < 2) return 0
  const m = mean(xs)
  let squares = 0
  for (const x of xs) squares += (x - m) ** 2
  return Math.sqrt(squares / (xs.length - 1))
}
