import { sayNumber } from '../../quantity/round.ts'
import { FEWEST_JUDGED, type LogFinding, type LogFindingCode } from '../findings/finding.ts'

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
  /** What it was found to have; null: it was not judged. */
  readonly findings: readonly LogFinding[] | null
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

const found = (findings: readonly LogFinding[], code: LogFindingCode) =>
  findings.filter((f) => f.code === code)
const told = (f: LogFinding, key: string) => Number(f.evidence[key] ?? 0)

/** Why a side has no mean that could be held against another one, or null. */
function unfit(side: Side, word: string, unit: string): string | null {
  if (side.findings === null) return `Not judged: what lies ${word} it is too long to be judged at once.`
  const [frozen] = found(side.findings, 'FROZEN')
  if (frozen)
    return `Not judged: ${word} it the value stood at ${sayNumber(told(frozen, 'value'), 4)}${unit} for ${told(frozen, 'samples')} samples without its own noise. Find out whether the device held its output.`
  const [limited] = found(side.findings, 'AT_LIMIT')
  if (limited)
    return `Not judged: ${word} it ${told(limited, 'samples')} samples stand at ${sayNumber(told(limited, 'limit'), 4)}${unit}; what lies beyond was not recorded.`
  if (side.noise === 0 && found(side.findings, 'QUANTISED').length === 0)
    return `Not judged: ${word} it nothing scatters: what it is known to cannot be told.`
  return null
}

/** The coarseness of the display, as a standard uncertainty of a mean that does not average it away. */
const uOfDisplay = ({ findings }: Side): number =>
  Math.max(0, ...found(findings ?? [], 'QUANTISED').map((f) => told(f, 'step') / Math.sqrt(12)))

/** Why a side does not stand long enough to have one mean, or null. @param most - what it may move by */
function moving(side: Side, word: string, most: number, unit: string): string | null {
  const stands = 'Look at a shorter stretch in which it stands.'
  const way = travels(side)
  if (Math.abs(way) > most)
    return `Not judged: it was on its way ${word} it, by ${signed(way)}${unit} over that stretch. ${stands}`
  const [step] = found(side.findings ?? [], 'STEP').filter((f) => Math.abs(told(f, 'size')) > most)
  return step
    ? `Not judged: ${word} it the level changed by ${signed(told(step, 'size'))}${unit}. ${stands}`
    : null
}
const signed = (x: number, digits = 3) => `${x < 0 ? '−' : '+'}${sayNumber(Math.abs(x), digits)}`

/**
 * The same channel before and after a moment: cleaned, trimmed, a valve moved. Means of the two, with their scatter and
 * the likeness of neighbours; a side that is frozen, at a limit, or on its way somewhere has no mean to be held
 * against, and behind a change of unit the two are no longer of one kind.
 * @param across - what both were found to have when judged as one; null: they were not
 * @param unit - as printed, with its blank in front; empty where nobody told it
 */
export function beforeAfter(
  before: Side,
  after: Side,
  across: readonly LogFinding[] | null,
  unit: string,
): BeforeAfter {
  const difference = after.mean - before.mean
  const U = 2 * Math.hypot(before.uMean, after.uMean, uOfDisplay(before), uOfDisplay(after))
  const isCoarse = uOfDisplay(before) + uOfDisplay(after) > 0
  // What is finer than the display cannot be told.
  const noiseRatio = before.noise > 0 && !isCoarse ? after.noise / before.noise : null
  const sides = [
    [before, 'before'],
    [after, 'after'],
  ] as const
  const few = Math.min(before.n, after.n)
  // As much as the difference that is looked for: which moment of it would be the mean?
  const most = Math.max(U, Math.abs(difference) / 2)
  const why =
    few < FEWEST_JUDGED
      ? `Not judged: ${few} samples on one side are too few, ${FEWEST_JUDGED} are needed.`
      : across === null
        ? 'Not judged: what is seen is too long to be judged at once.'
        : found(across, 'UNIT_CHANGED').length > 0
          ? 'Not judged: the unit was changed in what is seen. Correct it, or look at one side of the change.'
          : (sides.map(([s, word]) => unfit(s, word, unit)).find((x) => x !== null) ??
            sides.map(([s, word]) => moving(s, word, most, unit)).find((x) => x !== null))
  if (why !== undefined) return { verdict: 'notJudged', difference, U, noiseRatio, says: [why] }
  const by = `${signed(difference)} ± ${sayNumber(U, 2)}${unit}`
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
      ...(isCoarse ? ['The log moves in coarse steps: they are in the ±, and its noise is not told.'] : []),
    ],
  }
}
