import { noiseOf } from './noise.ts'
import { risen, type Channel } from './samples.ts'

/** Seconds of the time that a rate is counted by. */
export const SECONDS = { s: 1, min: 60, h: 3600, d: 86_400 } as const
export type Per = keyof typeof SECONDS

export interface TotalAsked {
  readonly per: Per
  /** Rates nearer 0 than this count as 0. */
  readonly cutoff: number
  /** A gap is left out, or its rate is held at the last one before it. */
  readonly gap: 'refuse' | 'hold'
  readonly gapFactor: number
  /** Standard uncertainty of the rate: % of reading, and at zero in its unit. */
  readonly uReading: number
  readonly uZero: number
  readonly totalizer?:
    | {
        readonly start: number
        readonly end: number
        /** Where the counter begins again at 0. */
        readonly modulus?: number | undefined
        /** Expanded uncertainty of what it counts, k = 2. */
        readonly U?: number | undefined
        /** Whether it counts backwards with reverse flow. */
        readonly net?: boolean | undefined
      }
    | undefined
}

export interface Total {
  readonly forward: number
  readonly reverse: number
  readonly net: number
  readonly covered_s: number
  readonly zero_s: number
  readonly gaps: readonly {
    readonly from: number
    readonly to: number
    readonly seconds: number
    readonly held: number
  }[]
  readonly held: number
  /** False where a gap was left out: such a total is never extended over it. */
  readonly complete: boolean
  readonly uNoise: number
  readonly u: number
  /** Expanded, k = 2. */
  readonly U: number
  readonly totalizer: {
    readonly volume: number
    readonly difference_pct: number | null
    readonly En: number | null
  } | null
}

/** Forward and reverse part of a straight piece of a rate from a to b, by its length. */
function pieces(a: number, b: number, d: number): readonly [forward: number, reverse: number] {
  if (a >= 0 && b >= 0) return [((a + b) / 2) * d, 0]
  if (a <= 0 && b <= 0) return [0, -((a + b) / 2) * d]
  const x = a / (a - b)
  const [before, after] = [(Math.abs(a) / 2) * x * d, (Math.abs(b) / 2) * (1 - x) * d]
  return a > 0 ? [before, after] : [after, before]
}

/** The total of a rate over a log, forward and reverse, with its uncertainty and against a counter. */
export function totalOf(channel: Channel, asked: TotalAsked): Total {
  const { n, t, v, pace } = risen(channel, asked.gapFactor)
  const per = SECONDS[asked.per] * 1000
  const rate = (i: number) => (Math.abs(v[i] ?? 0) < asked.cutoff ? 0 : (v[i] ?? 0))
  const gaps: Total['gaps'][number][] = []
  let [forward, reverse, covered, zero, held, heldVariance] = [0, 0, 0, 0, 0, 0]
  for (let i = 1; i < n; i++) {
    const [a, b] = [rate(i - 1), rate(i)]
    const [from, to] = [t[i - 1] ?? 0, t[i] ?? 0]
    const d = (to - from) / per
    if (to - from > pace.gapAbove) {
      const kept = asked.gap === 'hold' ? a * d : 0
      gaps.push({ from, to, seconds: (to - from) / 1000, held: kept })
      if (asked.gap === 'refuse') continue
      held += kept
      heldVariance += ((b - a) * d) ** 2 / 12
      if (kept > 0) forward += kept
      else reverse -= kept
    } else {
      const [f, r] = pieces(a, b, d)
      forward += f
      reverse += r
    }
    covered += to - from
    if (a === 0 && b === 0) zero += to - from
  }
  const net = forward - reverse
  const g = covered / per
  const uNoise = n > 0 ? (noiseOf(v).noiseDiff * g) / Math.sqrt(n) : 0
  const u = Math.hypot((asked.uReading / 100) * net, asked.uZero * g, uNoise, Math.sqrt(heldVariance))
  return {
    forward,
    reverse,
    net,
    covered_s: covered / 1000,
    zero_s: zero / 1000,
    gaps,
    held,
    complete: asked.gap === 'hold' || gaps.length === 0,
    uNoise,
    u,
    U: 2 * u,
    totalizer: asked.totalizer ? againstCounter(asked.totalizer, forward, net, 2 * u) : null,
  }
}

/**
 * A total held against a counter that was read before and after.
 * @param U - expanded uncertainty of the total, k = 2
 */
export function againstCounter(
  c: NonNullable<TotalAsked['totalizer']>,
  forward: number,
  net: number,
  U: number,
): NonNullable<Total['totalizer']> {
  const moved = c.end - c.start
  const volume = c.modulus === undefined ? moved : ((moved % c.modulus) + c.modulus) % c.modulus
  const off = (c.net ? net : forward) - volume
  const wide = Math.hypot(U, c.U ?? 0)
  return {
    volume,
    difference_pct: volume === 0 ? null : (100 * off) / volume,
    En: wide > 0 ? off / wide : null,
  }
}
