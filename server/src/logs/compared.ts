import { channelOf } from '@calm/core/logs/blocks'
import type { StretchPair } from '@calm/core/logs/compare/by-stretch'
import {
  type Compared,
  compareLogs,
  type CompareAsked,
  type NotCompared,
} from '@calm/core/logs/compare/compare'
import type { LagSums } from '@calm/core/logs/compare/lag-sums'
import { lagPart, pairPart, type PairsOfPart } from '@calm/core/logs/compare/parts'
import { USUAL_JUDGEMENT } from '@calm/core/logs/findings/finding'
import type { Channel } from '@calm/core/logs/samples'
import { type HeldBy, usableToCompare, withoutLeftOut } from '@calm/core/logs/usable'
import type { HeldAgainst } from './held-against.ts'
import type { PartToCompare, PartToPair, ToCompare, Told } from './work.ts'

const { gapFactor, qualityLimit } = USUAL_JUDGEMENT

/** What a comparison is asked for with the tolerance and damping of the loop, where it has them. */
export const askedFor = (o: {
  readonly maxLag: number
  readonly Ua: number
  readonly Ub: number
  readonly against: HeldAgainst | null
}): CompareAsked => ({
  maxLag_s: o.maxLag,
  ratio: 1,
  Ua: o.Ua,
  Ub: o.Ub,
  ...(o.against?.T ? { tau: o.against.tau, T: o.against.T } : {}),
  gapFactor,
  atOneTime: true,
})

/** What is said of a log that cannot be held against another one. */
export const ofLog = (of: 'a' | 'b', says: string): NotCompared => ({
  says: `${of === 'a' ? 'The first log' : 'The second log'} ${says}`,
  where: of,
})

/** As many stretches as are still looked at one by one; the shorter ones of more are known less well. */
const MOST_STRETCHES = 2_000
const longest = (points: readonly StretchPair[] | null): readonly StretchPair[] | null =>
  points &&
  points
    .toSorted((x, y) => y.to - y.from - (x.to - x.from))
    .slice(0, MOST_STRETCHES)
    .sort((x, y) => x.from - y.from)

/** A comparison as it is answered: with what was left out, and the coarseness of both displays. */
export function toldOf(told: Compared, a: HeldBy, b: HeldBy, { Ua, Ub }: CompareAsked): Told {
  const points = told.byStretch?.points ?? null
  const byStretch =
    longest(points)?.map((p) => {
      // A mean does not average a coarse display away.
      const [uA, uB] = [Math.hypot(p.uA, a.step / Math.sqrt(12)), Math.hypot(p.uB, b.step / Math.sqrt(12))]
      const wide = Math.hypot(Ua, Ub, 2 * uA, 2 * uB)
      return { ...p, uA, uB, En: wide > 0 ? p.difference / wide : null }
    }) ?? null
  const leftOut = [
    ...a.leftOut.map((f) => ({ ...f, evidence: { ...f.evidence }, of: 'a' as const })),
    ...b.leftOut.map((f) => ({ ...f, evidence: { ...f.evidence }, of: 'b' as const })),
  ]
  const stretches = points?.length ?? null
  return { ...told, limits: [...told.limits], byStretch, stretches, plot: [...told.plot], leftOut }
}

/** Two stretches of one time compared, by what of both measures. */
export function comparedStretch(asked: ToCompare): Told | NotCompared {
  const { from, to, against } = asked
  const range = against ? { lo: against.lo, hi: against.hi } : undefined
  const usable = (samples: Float64Array, quality: Float64Array | null) => {
    const q = quality ? channelOf(quality, from, to).v : null
    return usableToCompare({ ...channelOf(samples, from, to), q }, { ...USUAL_JUDGEMENT, range })
  }
  const a = usable(asked.a, asked.qualityOfA)
  if ('says' in a) return ofLog('a', a.says)
  const b = usable(asked.b, asked.qualityOfB)
  if ('says' in b) return ofLog('b', b.says)
  const o = askedFor(asked)
  const told = compareLogs(a.channel, b.channel, o)
  return 'says' in told ? told : toldOf(told, a, b, o)
}

/** What of both measures in a part. */
function seen(asked: PartToCompare): readonly [Channel, Channel] {
  const { from, to, leftOut } = asked
  const of = (samples: Float64Array, quality: Float64Array | null, left: PartToCompare['leftOut']['a']) => {
    const q = quality ? channelOf(quality, from, to).v : null
    return withoutLeftOut({ ...channelOf(samples, from, to), q }, left, qualityLimit)
  }
  return [of(asked.a, asked.qualityOfA, leftOut.a), of(asked.b, asked.qualityOfB, leftOut.b)]
}

/** Pairs of a part at each lag. */
export function laggedPart({ most, ...asked }: PartToCompare & { readonly most: number }): LagSums {
  const [a, b] = seen(asked)
  return lagPart(a, b, { ...asked, most, gapFactor })
}

/** Pairs of a part with the lag taken out. */
export function pairedPart(asked: PartToPair): PairsOfPart {
  const [a, b] = seen(asked)
  return pairPart(a, b, { ...asked, gapFactor })
}
