/** How far a clock in the field may go ahead of the server's. */
export const AHEAD_MS = 5 * 60_000
/** How long an event may have waited before it is sent. */
const LATEST_MS = 366 * 86_400_000
const FIRST_YEAR = 2000
const LAST_YEAR = 2199

/** When an event happened, when the server took it in, and when its run began. ISO instants in UTC. */
export interface EventTimes {
  readonly at: string
  readonly recordedAt: string
  readonly runBegan?: string | undefined
}

/**
 * What is wrong with the time of an event, in a sentence; null where nothing is.
 *
 * A clock in the field may be a little wrong and an event may have waited for a network, but nothing happens in the
 * future, before its own run began, or more than a year before anybody hears of it.
 */
export function eventTimeProblem({ at, recordedAt, runBegan }: EventTimes): string | null {
  const t = Date.parse(at)
  const now = Date.parse(recordedAt)
  const year = Number.isFinite(t) ? new Date(t).getUTCFullYear() : Number.NaN
  if (!(year >= FIRST_YEAR && year <= LAST_YEAR))
    return `The year of ${at} cannot be right: it must lie from ${FIRST_YEAR} to ${LAST_YEAR}. Set this device’s clock.`
  if (t > now + AHEAD_MS)
    return `${at} lies in the future: here it is ${recordedAt}. Set this device’s clock, then send it again.`
  if (t < now - LATEST_MS) return `${at} is more than a year ago: here it is ${recordedAt}.`
  if (runBegan !== undefined && t < Date.parse(runBegan))
    return `${at} is before this run began (${runBegan}).`
  return null
}

/** Whether an event happened before the one recorded before it: kept, and marked. */
export const isOutOfOrder = (at: string, before: string | undefined): boolean =>
  before !== undefined && Date.parse(at) < Date.parse(before)
