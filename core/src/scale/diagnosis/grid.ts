/** Numbers that a law is not a line of are looked at on a grid: its points are joined by what lies between them. */
export const BETWEEN = 0.6

/** Density of a normal number. */
export const density = (x: number, mean: number, sd: number) =>
  Math.exp(-((x - mean) ** 2) / (2 * sd * sd)) / (sd * Math.sqrt(2 * Math.PI))
