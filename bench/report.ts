/** One measured figure beside its floor or its limit, from the same run. */
export interface Figure {
  readonly title: string
  readonly measured: string
  readonly against: string
  readonly ratio: number
  /** What the ratio should be. */
  readonly wanted: string
}

export const median = (xs: readonly number[]): number => percentile(xs, 50)

/** Nearest-rank percentile. */
export function percentile(xs: readonly number[], p: number): number {
  const sorted = [...xs].sort((a, b) => a - b)
  return sorted[Math.min(sorted.length - 1, Math.ceil((p / 100) * sorted.length) - 1)] ?? NaN
}

export function print(figures: readonly Figure[]): void {
  for (const f of figures)
    console.log(
      `${f.title}\n    ${f.measured}  against  ${f.against}  =  ${f.ratio.toFixed(2)}   (wanted: ${f.wanted})`,
    )
}
