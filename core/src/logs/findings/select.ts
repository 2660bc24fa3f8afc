/** One thing that explains a series of blocks: a step behind a block edge, or a line over the whole. */
export interface Term {
  readonly kind: 'line' | 'step'
  /** Edge between blocks; −1 of a line. */
  readonly edge: number
  /** Sample from which the step counts; −1 of a line. */
  readonly sample: number
  readonly column: Float64Array
  coefficient: number
}

export interface Selection {
  readonly y: Float64Array
  readonly weights: Float64Array
  /** Variance of a block of weight 1. */
  readonly variance: number
  /** A term is taken where the squares fall by more than this many variances. */
  readonly c: number
  /** Fewest blocks between two steps, and from the ends. */
  readonly apart: number
  /** The line's column; null: no line is looked for. */
  readonly line: Float64Array | null
  /** Puts a step at an edge to its sample; the column is the share of each block behind it. */
  readonly place: (edge: number, others: readonly Term[]) => { sample: number; column: Float64Array }
}

const MOST_TERMS = 12

/** Columns made orthogonal to each other in the weights, the constant first. */
function basisOf(terms: readonly Term[], w: Float64Array): Float64Array[] {
  const basis: Float64Array[] = []
  for (const column of [new Float64Array(w.length).fill(1), ...terms.map((t) => t.column)]) {
    const left = without(column, basis, w)
    const size = Math.sqrt(dot(left, left, w))
    if (size > 1e-9) basis.push(left.map((x) => x / size))
  }
  return basis
}
function dot(a: Float64Array, b: Float64Array, w: Float64Array): number {
  let sum = 0
  for (let i = 0; i < w.length; i++) sum += (a[i] ?? 0) * (b[i] ?? 0) * (w[i] ?? 0)
  return sum
}
function without(column: Float64Array, basis: readonly Float64Array[], w: Float64Array): Float64Array {
  const left = column.slice()
  for (const q of basis) {
    const share = dot(left, q, w)
    for (let i = 0; i < left.length; i++) left[i] = (left[i] ?? 0) - share * (q[i] ?? 0)
  }
  return left
}
/** By how much the squares of what is left fall when a column is taken in too. */
function fallBy(
  column: Float64Array,
  rest: Float64Array,
  basis: readonly Float64Array[],
  w: Float64Array,
): number {
  const left = without(column, basis, w)
  const size = dot(left, left, w)
  return size > 1e-12 ? dot(rest, left, w) ** 2 / size : 0
}

/** Coefficients of all terms together: each from what the others do not explain. */
function refit(terms: Term[], y: Float64Array, w: Float64Array): void {
  for (const term of terms) {
    const basis = basisOf(
      terms.filter((t) => t !== term),
      w,
    )
    const left = without(term.column, basis, w)
    const size = dot(left, left, w)
    term.coefficient = size > 1e-12 ? dot(y, left, w) / size : 0
  }
}

/**
 * Which steps, and whether a line, explain a series of block means: the strongest first, each as long as it explains
 * more than chance would; then those out again that no longer do beside the others. This decides by itself between
 * a step, of which a line explains three quarters, and a drift.
 */
export function selectTerms(s: Selection): readonly Term[] {
  const N = s.y.length
  const terms: Term[] = []
  const shareFrom = (edge: number) => Float64Array.from({ length: N }, (_, i) => (i >= edge ? 1 : 0))
  while (terms.length < MOST_TERMS) {
    const basis = basisOf(terms, s.weights)
    const rest = without(s.y, basis, s.weights)
    let best: { fall: number; edge: number } = { fall: 0, edge: 0 }
    if (s.line && !terms.some((t) => t.kind === 'line'))
      best = { fall: fallBy(s.line, rest, basis, s.weights), edge: -1 }
    for (let edge = s.apart; edge <= N - s.apart; edge++) {
      if (terms.some((t) => t.kind === 'step' && Math.abs(t.edge - edge) < s.apart)) continue
      const fall = fallBy(shareFrom(edge), rest, basis, s.weights)
      if (fall > best.fall) best = { fall, edge }
    }
    if (!(best.fall > s.c * s.variance)) break
    terms.push(
      best.edge < 0 && s.line
        ? { kind: 'line', edge: -1, sample: -1, column: s.line, coefficient: 0 }
        : { kind: 'step', edge: best.edge, coefficient: 0, ...s.place(best.edge, terms) },
    )
    refit(terms, s.y, s.weights)
  }
  for (;;) {
    const falls = terms.map((term) => {
      const basis = basisOf(
        terms.filter((t) => t !== term),
        s.weights,
      )
      return fallBy(term.column, without(s.y, basis, s.weights), basis, s.weights)
    })
    const least = falls.indexOf(Math.min(...falls))
    if (least < 0 || (falls[least] ?? 0) > s.c * s.variance) break
    terms.splice(least, 1)
    refit(terms, s.y, s.weights)
  }
  return terms
}
