import { twoCorrelations, twoSpectra } from '../../numeric/fft.ts'
import type { OnGrid } from './common-base.ts'

/** Pairs of a part of two series at each lag −most … most, summed up about an origin, so that parts can be added. */
export interface LagSums {
  readonly most: number
  readonly n: Float64Array
  readonly a: Float64Array
  readonly b: Float64Array
  readonly aa: Float64Array
  readonly bb: Float64Array
  readonly ab: Float64Array
}
/** Values near the middle of both series: sums about it keep their digits. */
export interface Origin {
  readonly a: number
  readonly b: number
}
/** Numbers of grid points of b: from the first one up to, not including, the last. */
export interface GridPart {
  readonly from: number
  readonly to: number
}

/** Pairs that are multiplied one by one in half a second; more go through their spectra. */
const MOST_ONE_BY_ONE = 2e7
/** Points that go through their spectra at once: a second or two, and some 400 MB. */
export const MOST_POINTS = 2 ** 21
const DUST = 1e-12

const empty = (most: number): LagSums => {
  const zeros = () => new Float64Array(2 * most + 1)
  return { most, n: zeros(), a: zeros(), b: zeros(), aa: zeros(), bb: zeros(), ab: zeros() }
}

function oneByOne(a: OnGrid, b: OnGrid, most: number, part: GridPart, origin: Origin): LagSums {
  const sums = empty(most)
  // About the origin once, not once for each lag.
  const [x, y] = [a.v.map((v) => v - origin.a), b.v.map((v) => v - origin.b)]
  for (let k = -most; k <= most; k++) {
    const from = Math.max(a.first - k, b.first, part.from)
    const to = Math.min(a.first - k + a.v.length, b.first + b.v.length, part.to)
    // Numbers of grid points are too large to index by fast.
    addPairs(sums, k + most, x, from + k - a.first, y, from - b.first, to - from)
  }
  return sums
}

/** Adds up pairs of two stretches of the same length that begin at two places. */
function addPairs(
  sums: LagSums,
  at: number,
  x: Float64Array,
  inX: number,
  y: Float64Array,
  inY: number,
  count: number,
): void {
  let n = 0
  let [sa, sb, aa, bb, ab] = [0, 0, 0, 0, 0]
  for (let i = 0; i < count; i++) {
    const p = x[inX + i] ?? NaN
    const q = y[inY + i] ?? NaN
    if (p !== p || q !== q) continue
    n++
    sa += p
    sb += q
    aa += p * p
    bb += q * q
    ab += p * q
  }
  sums.n[at] = n
  sums.a[at] = sa
  sums.b[at] = sb
  sums.aa[at] = aa
  sums.bb[at] = bb
  sums.ab[at] = ab
}

/** A series about its origin, its squares, and where it has values: 0 where it has none, or does not belong to it. */
function filled(g: OnGrid, origin: number, first: number, part: GridPart) {
  const long = Math.max(0, g.first + g.v.length - first)
  const [x, squares, has] = [new Float64Array(long), new Float64Array(long), new Float64Array(long)]
  for (let i = Math.max(g.first, part.from); i < Math.min(g.first + g.v.length, part.to); i++) {
    const value = (g.v[i - g.first] ?? NaN) - origin
    if (value !== value) continue
    // Dust of a level that stands is no movement.
    x[i - first] = Math.abs(value) > DUST * Math.abs(origin) ? value : 0
    squares[i - first] = (x[i - first] ?? 0) ** 2
    has[i - first] = 1
  }
  return { x, squares, has }
}

function bySpectra(a: OnGrid, b: OnGrid, most: number, part: GridPart, origin: Origin): LagSums {
  const first = Math.min(a.first, b.first)
  const [of, by] = [
    filled(a, origin.a, first, { from: -Infinity, to: Infinity }),
    filled(b, origin.b, first, part),
  ]
  let size = 1
  while (size < pointsOf(a, b, most)) size *= 2
  const [x, y] = twoSpectra(of.x, by.x, size)
  const [hasX, hasY] = twoSpectra(of.has, by.has, size)
  const [xx, yy] = twoSpectra(of.squares, by.squares, size)
  const at = (r: Float64Array) =>
    Float64Array.from({ length: 2 * most + 1 }, (_, i) => r[(i - most + size) % size] ?? 0)
  const [n, ab] = twoCorrelations([hasX, hasY], [x, y])
  const [sa, sb] = twoCorrelations([x, hasY], [hasX, y])
  const [aa, bb] = twoCorrelations([xx, hasY], [hasX, yy])
  return { most, n: at(n).map(Math.round), a: at(sa), b: at(sb), aa: at(aa), bb: at(bb), ab: at(ab) }
}

/** Points of the spectra of two series whose lag is looked for up to so many steps. */
export function pointsOf(a: OnGrid, b: OnGrid, most: number): number {
  const end = Math.max(a.first + a.v.length, b.first + b.v.length)
  return end - Math.min(a.first, b.first) + most
}

/**
 * Sums of the pairs a(i + k), b(i) at each lag k of −most … most steps.
 * @param part - points of b whose pairs are counted
 */
export function lagSumsOf(
  a: OnGrid,
  b: OnGrid,
  most: number,
  part: GridPart,
  origin: Origin,
  mostOneByOne = MOST_ONE_BY_ONE,
): LagSums {
  const pairs = (2 * most + 1) * Math.min(a.v.length, b.v.length, part.to - part.from)
  return (pairs <= mostOneByOne ? oneByOne : bySpectra)(a, b, most, part, origin)
}

/** The sums of several parts, all about one origin. */
export function lagSumsAdded(parts: readonly LagSums[]): LagSums {
  const sums = empty(parts[0]?.most ?? 0)
  for (const p of parts)
    for (const key of ['n', 'a', 'b', 'aa', 'bb', 'ab'] as const)
      p[key].forEach((x, i) => (sums[key][i] = (sums[key][i] ?? 0) + x))
  return sums
}
