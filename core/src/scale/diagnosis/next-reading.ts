import type { StationId } from '../../signal/stage.ts'
import type { Link } from './links.ts'
import { ORDER, type Located, type SegmentResult } from './locate.ts'
import { nextMeasurement } from './next-measurement.ts'

/** The one reading that tells most now: a station in between, or a further level at the stations that are read. */
export type NextReading =
  | {
      readonly kind: 'station'
      readonly at: StationId
      readonly minutes: number
      /** Share of what is open in the stretch that it settles, %. */
      readonly settles_pct: number
      readonly within: SegmentResult
    }
  | { readonly kind: 'level'; readonly at_pct: number; readonly within: SegmentResult }
  /** What stands still hides what lies behind it: known signals are fed in there, and the stations behind are read. */
  | { readonly kind: 'feed'; readonly at: StationId; readonly within: SegmentResult }

/** A level that parts the leading causes less than this much is not worth the walk. */
const LEAST_PARTING = 0.02
const behind = (link: Link) => (link.split('>')[1] ?? '') as StationId

/** Where a known signal can be fed in behind what stands still: the device's own number, a current, the volts of a shunt. */
const FEEDS: readonly (readonly [Link, StationId])[] = [
  ['V>CNT', 'CNT'],
  ['MA>V', 'V'],
  ['PCT>MA', 'MA'],
  ['PV>PCT', 'PCT'],
  ['IN>PV', 'PV'],
]
const CANNOT_FEED: readonly StationId[] = ['CNT']
function feedAt({ links }: SegmentResult): StationId | null {
  const [, at] = FEEDS.find(([link]) => links.includes(link)) ?? []
  return at && !CANNOT_FEED.includes(at) ? at : null
}
/** What lies behind it and was seen at one value alone. */
const hiddenBy = (segments: readonly SegmentResult[], still: SegmentResult) =>
  segments.filter((s) => ORDER.indexOf(s.from) >= ORDER.indexOf(still.to) && s.seesOneValue)

/** How open a stretch is: what none of the known mistakes makes first, then what is undecided, then the longest. */
function openness({ explanation, links, state }: SegmentResult): number {
  const answer = explanation?.answer ?? null
  const sure = { unknown: 4, undecided: 3, likely: 2, named: 1 } as const
  const open = answer === null ? 2.5 : sure[answer]
  return (state === 'OUT' ? 10 : 0) + open + links.length / 100
}

/**
 * What is read next, so that every mistake that is there comes into a stretch of its own.
 *
 * Two mistakes in one stretch look like neither: a stretch that no single one explains is parted first. Where every
 * stretch that is out is one step of the line, further levels part the causes that are left.
 * @param readable - stations that this loop has and that can be read
 * @returns null where nothing is open, or nothing that can be read would tell more
 */
export function nextReading({ segments }: Located, readable: readonly StationId[]): NextReading | null {
  const still = segments.find((s) => s.state === 'OUT' && s.explanation?.ranked[0]?.shape === 'STUCK')
  const at = still && feedAt(still)
  const hidden = still && at && readable.includes(at) ? hiddenBy(segments, still) : []
  const feed = still && at ? ({ kind: 'feed', at, within: still } as const) : null
  if (hidden.some((s) => s.state !== 'WITHIN')) return feed
  const open = segments
    .filter((s) => s.state !== 'WITHIN')
    .sort((a, b) => openness(b) - openness(a) || segments.indexOf(a) - segments.indexOf(b))
  for (const within of open) {
    const inside = within.links.slice(0, -1).map(behind)
    if (!inside.some((id) => readable.includes(id))) continue
    const { gains, entropy_bit } = nextMeasurement({ links: within.links, readings: [] })
    const [best] = gains
      .filter((g) => readable.includes(g.at))
      .sort((a, b) => b.gain_bit - a.gain_bit || a.minutes - b.minutes)
    if (best)
      return {
        kind: 'station',
        at: best.at,
        minutes: best.minutes,
        settles_pct: (100 * best.gain_bit) / entropy_bit,
        within,
      }
  }
  if (hidden.length > 0) return feed
  for (const within of open) {
    const e = within.explanation
    if (!e || e.answer === 'named' || e.answer === 'unknown') continue
    const [look] = e.lookNext
    if (look && look.S >= LEAST_PARTING) return { kind: 'level', at_pct: 100 * look.u, within }
  }
  return null
}
