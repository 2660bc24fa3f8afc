import { interpolate } from '../numeric/interpolate.ts'
/** How a fraction of the input span becomes a fraction of the output span. */
export type Transfer =
  | { readonly kind: 'linear' }
  /** Square root; results below `cutoff` (a fraction of output) become 0. */
  | { readonly kind: 'sqrt'; readonly cutoff?: number | undefined }
  /** Piecewise linear through [input, output] fractions, end segments extended. */
  | { readonly kind: 'table'; readonly points: readonly (readonly [number, number])[] }

export const LINEAR: Transfer = { kind: 'linear' }

/** What is known of a fraction on the way back through the path. */
export type Known =
  | { readonly kind: 'value'; readonly phi: number }
  /** An input code stands for everything that rounds to it: the images of n, n-0.5 and n+0.5. */
  | { readonly kind: 'interval'; readonly mid: number; readonly lo: number; readonly hi: number }
  /** At a limit only one side is known. */
  | { readonly kind: 'atLeast' | 'atMost'; readonly bound: number }
  | { readonly kind: 'none' }

/** Why a table cannot be used, or null when it can: it must be strictly monotone both ways. */
export function tableProblem(points: readonly (readonly [number, number])[]): string | null {
  if (points.length < 2) return 'A table needs at least two points.'
  const sorted = [...points].sort((a, b) => a[0] - b[0])
  const rises = (sorted[1]?.[1] ?? 0) > (sorted[0]?.[1] ?? 0)
  for (let i = 1; i < sorted.length; i++) {
    const [x0, y0] = sorted[i - 1] ?? [0, 0]
    const [x1, y1] = sorted[i] ?? [0, 0]
    if (x1 === x0) return `Two points of the table have the same input, ${x0}.`
    if (y1 === y0 || y1 > y0 !== rises)
      return `The table turns back at input ${x1}: the output must keep rising or keep falling.`
  }
  return null
}

/** Tables may be typed falling; between their rows they are straight. */
const along = (points: readonly (readonly [number, number])[], x: number): number =>
  interpolate(
    [...points].sort((a, b) => a[0] - b[0]),
    x,
  )

/** Output fraction for an input fraction. Linear and tables are not clamped. */
export function applyTransfer(t: Transfer, u: number): number {
  switch (t.kind) {
    case 'linear':
      return u
    case 'sqrt': {
      const q = u > 0 ? Math.sqrt(u) : 0
      return q < (t.cutoff ?? 0) ? 0 : q
    }
    case 'table':
      return along(t.points, u)
  }
}

/**
 * Output fraction of the transfers that a transmitter offers for flow elements and weirs.
 * @param cutoff - output fraction below which a square root gives 0, or falls on a straight line.
 */
export function powerTransfer(
  kind: 'linear' | 'sqrt' | 'pow3/2' | 'pow5/2',
  x: number,
  cutoff = 0,
  below: 'zero' | 'linear' = 'zero',
): number {
  if (kind === 'linear') return x
  if (x <= 0) return 0
  if (kind === 'pow3/2') return x ** 1.5
  if (kind === 'pow5/2') return x ** 2.5
  const y = Math.sqrt(x)
  if (y >= cutoff) return y
  return below === 'zero' ? 0 : x / cutoff
}

/** Input fraction for an output fraction; at a square root's zero only "at most cutoff²" is known. */
export function invertTransfer(t: Transfer, q: number): Known {
  switch (t.kind) {
    case 'linear':
      return { kind: 'value', phi: q }
    case 'sqrt':
      return q > 0 ? { kind: 'value', phi: q * q } : { kind: 'atMost', bound: (t.cutoff ?? 0) ** 2 }
    case 'table':
      return {
        kind: 'value',
        phi: along(
          t.points.map(([x, y]) => [y, x] as const),
          q,
        ),
      }
  }
}

/** Takes everything known of an output fraction back through a transfer function. */
export function invertKnown(t: Transfer, known: Known): Known {
  const one = (q: number): number => {
    const back = invertTransfer(t, q)
    return back.kind === 'value' ? back.phi : back.kind === 'atMost' ? back.bound : 0
  }
  const falls = t.kind === 'table' && applyTransfer(t, 1) < applyTransfer(t, 0)
  switch (known.kind) {
    case 'none':
      return known
    case 'value':
      return invertTransfer(t, known.phi)
    case 'interval':
      return { kind: 'interval', mid: one(known.mid), lo: one(known.lo), hi: one(known.hi) }
    case 'atLeast':
    case 'atMost':
      return {
        kind: falls ? (known.kind === 'atLeast' ? 'atMost' : 'atLeast') : known.kind,
        bound: one(known.bound),
      }
  }
}
