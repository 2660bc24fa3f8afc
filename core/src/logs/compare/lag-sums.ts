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
const MOST_POINTS = 2 ** 21
/** Steps of the longest lag that is looked for. */
export const MOST_LAG = MOST_POINTS / 4
const DUST = 1e-12

const empty = (most: number): LagSums => {
  const zeros = () => new Float64Array(2 * most + 1)
  return { most, n: zeros(), a: zeros(), b: zeros(), aa: zeros(), bb: zeros(), ab: zeros() }
}

function oneByOne(a: OnGrid, b: OnGrid, most: number, origin: Origin): LagSums {
  const sums = empty(most)
  // About the origin once, not once for each lag.
  const [x, y] = [a.v.map((v) => v - origin.a), b.v.map((v) => v - origin.b)]
  for (let k = -most; k <= most; k++) {
    const from = Math.max(a.first - k, b.first)
    const to = Math.min(a.first - k + a.v.length, b.first + b.v.length)
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

/** The points of a series that lie from one number up to, not including, another; none is an empty one. */
function within(g: OnGrid, { from, to }: GridPart): OnGrid {
  const begin = Math.max(g.first, from)
  const end = Math.max(begin, Math.min(g.first + g.v.length, to))
  return begin >= g.first + g.v.length
    ? { first: g.first, v: new Float64Array() }
    : { first: begin, v: g.v.subarray(begin - g.first, end - g.first) }
}

/** What of both meets in a part at some lag. */
function meeting(a: OnGrid, b: OnGrid, most: number, part: GridPart): readonly [OnGrid, OnGrid] {
  const near = { from: a.first - most, to: a.first + a.v.length + most }
  const ofB = within(within(b, part), near)
  return [within(a, { from: ofB.first - most, to: ofB.first + ofB.v.length + most }), ofB]
}

/** A series about its origin, its squares, and where it has values: 0 where it has none. */
function filled(g: OnGrid, origin: number, first: number) {
  const long = g.first + g.v.length - first
  const [x, squares, has] = [new Float64Array(long), new Float64Array(long), new Float64Array(long)]
  for (let i = 0; i < g.v.length; i++) {
    const value = (g.v[i] ?? NaN) - origin
    if (value !== value) continue
    const at = g.first - first + i
    // Dust of a level that stands is no movement.
    x[at] = Math.abs(value) > DUST * Math.abs(origin) ? value : 0
    squares[at] = (x[at] ?? 0) ** 2
    has[at] = 1
  }
  return { x, squares, has }
}

/** Points that two series take together with the lag beside them. */
function pointsOf(a: OnGrid, b: OnGrid, most: number): number {
  const end = Math.max(a.first + a.v.length, b.first + b.v.length)
  return end - Math.min(a.first, b.first) + most
}

function bySpectra(a: OnGrid, b: OnGrid, most: number, origin: Origin): LagSums {
  const first = Math.min(a.first, b.first)
  const [of, by] = [filled(a, origin.a, first), filled(b, origin.b, first)]
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
  mostPoints = MOST_POINTS,
): LagSums {
  const [ofA, ofB] = meeting(a, b, most, part)
  if (ofA.v.length === 0 || ofB.v.length === 0) return empty(most)
  const pairs = (2 * most + 1) * Math.min(ofA.v.length, ofB.v.length)
  if (pairs <= mostOneByOne) return oneByOne(ofA, ofB, most, origin)
  // As many points of b at a time as go through with the lag on either side of them.
  const long = mostPoints - 3 * most
  const pieces: LagSums[] = []
  for (let from = ofB.first; from < ofB.first + ofB.v.length; from += long) {
    const [x, y] = meeting(ofA, ofB, most, { from, to: from + long })
    if (x.v.length > 0 && y.v.length > 0) pieces.push(bySpectra(x, y, most, origin))
  }
  return pieces.length === 1 && pieces[0] ? pieces[0] : lagSumsAdded(pieces, most)
}

/** The sums of several parts, all about one origin. */
export function lagSumsAdded(parts: readonly LagSums[], most = parts[0]?.most ?? 0): LagSums {
  const sums = empty(most)
  for (const p of parts)
    for (const key of ['n', 'a', 'b', 'aa', 'bb', 'ab'] as const)
      p[key].forEach((x, i) => (sums[key][i] = (sums[key][i] ?? 0) + x))
  return sums
}
