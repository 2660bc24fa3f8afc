import { coverageFactor } from './student-t.ts'

/** How a line of a budget is stated; the divisor makes a standard uncertainty of it. */
export const DISTRIBUTIONS = ['normal2', 'normal1', 'rect', 'tri', 'arcsine', 'resolution'] as const
export type Distribution = (typeof DISTRIBUTIONS)[number]

const DIVISOR: Readonly<Record<Distribution, number>> = {
  normal2: 2,
  normal1: 1,
  rect: Math.sqrt(3),
  tri: Math.sqrt(6),
  arcsine: Math.SQRT2,
  resolution: Math.sqrt(12),
}

/** One line of a budget. `resolution` takes the full step, the others a half width or a stated U. */
export interface BudgetLine {
  readonly value: number
  readonly distribution: Distribution
  /** Change of the result per unit of this input. */
  readonly c: number
  /** Degrees of freedom; infinite when not given. */
  readonly nu?: number | undefined
}

export interface Budget {
  /** Standard uncertainty that each line brings, always positive. */
  readonly u: readonly number[]
  readonly uc: number
  readonly nuEff: number
  readonly k: number
  readonly U: number
}

export const standardUncertainty = (line: Pick<BudgetLine, 'value' | 'distribution'>): number =>
  line.value / DIVISOR[line.distribution]

/**
 * Combined and expanded uncertainty.
 * @param correlations - pairs of line numbers with their correlation coefficient; two lines of one standard have 1.
 * @see JCGM 100:2008, 5.1, 5.2 and G.4
 */
export function combine(
  lines: readonly BudgetLine[],
  correlations: readonly (readonly [i: number, j: number, r: number])[] = [],
): Budget {
  const signed = lines.map((l) => l.c * standardUncertainty(l))
  let variance = signed.reduce((s, u) => s + u * u, 0)
  for (const [i, j, r] of correlations) variance += 2 * r * (signed[i] ?? 0) * (signed[j] ?? 0)
  const uc = Math.sqrt(Math.max(0, variance))
  const spread = lines.reduce(
    (s, l, i) => (l.nu === undefined || !Number.isFinite(l.nu) ? s : s + (signed[i] ?? 0) ** 4 / l.nu),
    0,
  )
  const nuEff = spread === 0 ? Infinity : uc ** 4 / spread
  const k = coverageFactor(nuEff)
  return { u: signed.map(Math.abs), uc, nuEff, k, U: k * uc }
}
