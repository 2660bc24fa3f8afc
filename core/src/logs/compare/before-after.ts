import { sayNumber } from '../../quantity/round.ts'
import { FEWEST_JUDGED } from '../findings/finding.ts'

/** What a stretch amounts to: values in the unit of the channel, slope per hour. */
export interface Side {
  readonly n: number
  readonly mean: number
  /** With the likeness of neighbours. */
  readonly uMean: number
  readonly noise: number
  readonly slope: number | null
  readonly uSlope: number | null
  readonly lasts_s: number
}
/** One side of a moment against the other one. */
export interface BeforeAfter {
  readonly verdict: 'moved' | 'same' | 'notJudged'
  /** After less before, and what that is known to, k = 2. */
  readonly difference: number
  readonly U: number
  readonly noiseRatio: number | null
  readonly says: readonly string[]
}

/** The noise is another one from this ratio on, either way; typical, as for a log that is judged. */
const OTHER_NOISE = 1.5
const S_AN_HOUR = 3600
/** A slope is one from so many times its standard uncertainty on: at two of them one stretch in ten would have one. */
const SLOPE_TIMES_U = 3

/** How far a side goes by its slope while it lasts; 0 where that is within what the slope is known to. */
function travels({ slope, uSlope, lasts_s }: Side): number {
  if (slope === null || uSlope === null || Math.abs(slope) <= SLOPE_TIMES_U * uSlope) return 0
  return (slope * lasts_s) / S_AN_HOUR
}

/**
 * The same channel before and after a moment: cleaned, trimmed, a valve moved. Means of the two, with their scatter and
 * the likeness of neighbours; a side that is on its way somewhere has no mean to be held against.
 * @param unit - as printed, with its blank in front; empty where nobody told it
 */
export function beforeAfter(before: Side, after: Side, unit: string): BeforeAfter {
  const difference = after.mean - before.mean
  const U = 2 * Math.hypot(before.uMean, after.uMean)
  const noiseRatio = before.noise > 0 ? after.noise / before.noise : null
  const not = (says: string): BeforeAfter => ({
    verdict: 'notJudged',
    difference,
    U,
    noiseRatio,
    says: [says],
  })
  const few = Math.min(before.n, after.n)
  if (few < FEWEST_JUDGED)
    return not(`Not judged: ${few} samples on one side are too few, ${FEWEST_JUDGED} are needed.`)
  for (const [side, word] of [
    [before, 'before'],
    [after, 'after'],
  ] as const) {
    const way = travels(side)
    // As much as the difference that is looked for: which moment of it would be the mean?
    if (Math.abs(way) > Math.max(U, Math.abs(difference) / 2))
      return not(
        `Not judged: it was on its way ${word} it, by ${sayNumber(way, 3)}${unit} over that stretch. Look at a shorter one in which it stands.`,
      )
  }
  const by = `${difference < 0 ? '−' : '+'}${sayNumber(Math.abs(difference), 3)} ± ${sayNumber(U, 2)}${unit}`
  const moved = Math.abs(difference) > U
  const noise =
    noiseRatio !== null && (noiseRatio >= OTHER_NOISE || noiseRatio <= 1 / OTHER_NOISE)
      ? [
          noiseRatio > 1
            ? `Its noise is ${sayNumber(noiseRatio, 2)} times what it was.`
            : `Its noise is down to ${sayNumber(100 * noiseRatio, 2)} % of what it was.`,
        ]
      : []
  return {
    verdict: moved ? 'moved' : 'same',
    difference,
    U,
    noiseRatio,
    says: [
      moved
        ? `The mean moved by ${by}: more than both sides scatter. Whether the meter moved or what it measures, this does not tell.`
        : `No difference can be told: ${by}.`,
      ...noise,
    ],
  }
}
