import { correlationOf } from '../correlation.ts'
import type { Origin } from './lag-sums.ts'

interface Pair {
  readonly d: number
  readonly m: number
}
/**
 * Pairs of two series summed up by their difference d = a − b and mean m, about an origin, in the order of time. Parts
 * can be joined; two series that hardly differ keep the digits of what they differ by.
 */
export interface PairSums {
  readonly origin: Origin
  readonly n: number
  readonly d: number
  readonly m: number
  readonly dd: number
  readonly dm: number
  readonly mm: number
  /** Products of neighbours: Σ d·d′, Σ d·m′ + m·d′, Σ m·m′. */
  readonly nextDD: number
  readonly nextDM: number
  readonly nextMM: number
  readonly first: Pair | null
  readonly last: Pair | null
}

/** Sums up pairs. @param origin - values near the middle of both */
export function pairSumsOf(a: ArrayLike<number>, b: ArrayLike<number>, origin: Origin): PairSums {
  const [od, om] = [origin.a - origin.b, (origin.a + origin.b) / 2]
  const n = Math.min(a.length, b.length)
  let [sd, sm, dd, dm, mm, nextDD, nextDM, nextMM] = [0, 0, 0, 0, 0, 0, 0, 0]
  let [first, last]: [Pair | null, Pair | null] = [null, null]
  let [beforeD, beforeM] = [0, 0]
  for (let i = 0; i < n; i++) {
    const [x, y] = [a[i] ?? 0, b[i] ?? 0]
    const d = x - y - od
    const m = (x + y) / 2 - om
    sd += d
    sm += m
    dd += d * d
    dm += d * m
    mm += m * m
    if (i === 0) first = { d, m }
    else {
      nextDD += beforeD * d
      nextDM += beforeD * m + beforeM * d
      nextMM += beforeM * m
    }
    beforeD = d
    beforeM = m
    if (i === n - 1) last = { d, m }
  }
  return { origin, n, d: sd, m: sm, dd, dm, mm, nextDD, nextDM, nextMM, first, last }
}

/** The sums of parts that lie one behind the other, all about one origin. */
export function pairSumsJoined(parts: readonly PairSums[]): PairSums | null {
  return parts.reduce<PairSums | null>((x, y) => {
    if (!x?.last) return y
    if (!y.first) return x
    const [l, f] = [x.last, y.first]
    return {
      origin: x.origin,
      n: x.n + y.n,
      d: x.d + y.d,
      m: x.m + y.m,
      dd: x.dd + y.dd,
      dm: x.dm + y.dm,
      mm: x.mm + y.mm,
      nextDD: x.nextDD + y.nextDD + l.d * f.d,
      nextDM: x.nextDM + y.nextDM + l.d * f.m + l.m * f.d,
      nextMM: x.nextMM + y.nextMM + l.m * f.m,
      first: x.first,
      last: y.last,
    }
  }, null)
}

/** What a line or a mean leaves over: Σ e², and by how much neighbours of it are alike, 0 to 0.99. */
export interface Residuals {
  readonly squares: number
  readonly r1: number
}
/** Pairs about their own means. */
export interface Spread {
  readonly n: number
  readonly meanA: number
  readonly meanB: number
  readonly meanD: number
  readonly saa: number
  readonly sbb: number
  readonly sab: number
  readonly sdd: number
  readonly sdm: number
  readonly smm: number
  /** Of e = p·d + q·m about its mean. */
  readonly residuals: (p: number, q: number) => Residuals
}

/** Squares this small against what they are made of are rounding. */
const DUST = 1e-15

/** Squares and products of pairs about their means, from their sums. */
export function spreadOf(s: PairSums): Spread {
  const { n } = s
  const [md, mm] = [s.d / n, s.m / n]
  const sdd = Math.max(0, s.dd - s.d * md)
  const smm = Math.max(0, s.mm - s.m * mm)
  const sdm = s.dm - s.d * mm
  const [f, l] = [s.first ?? { d: 0, m: 0 }, s.last ?? { d: 0, m: 0 }]
  const [endsD, endsM] = [2 * s.d - f.d - l.d, 2 * s.m - f.m - l.m]
  const cdd = s.nextDD - md * endsD + (n - 1) * md * md
  const cmm = s.nextMM - mm * endsM + (n - 1) * mm * mm
  const cdm = s.nextDM - mm * endsD - md * endsM + 2 * (n - 1) * md * mm
  const meanD = s.origin.a - s.origin.b + md
  const meanM = (s.origin.a + s.origin.b) / 2 + mm
  return {
    n,
    meanA: meanM + meanD / 2,
    meanB: meanM - meanD / 2,
    meanD,
    saa: smm + sdm + sdd / 4,
    sbb: smm - sdm + sdd / 4,
    sab: smm - sdd / 4,
    sdd,
    sdm,
    smm,
    residuals: (p, q) => {
      const squares = p * p * sdd + 2 * p * q * sdm + q * q * smm
      if (!(squares > DUST * (p * p * sdd + q * q * smm))) return { squares: 0, r1: 0 }
      return { squares, r1: correlationOf(p * p * cdd + p * q * cdm + q * q * cmm, squares, n) }
    },
  }
}
