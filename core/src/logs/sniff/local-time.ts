const HOUR = 3_600_000
const DAY = 24 * HOUR

/** Whether a time zone of this IANA name is known here. */
export function isTimeZone(zone: string): boolean {
  try {
    new Intl.DateTimeFormat('en-US', { timeZone: zone })
    return true
  } catch {
    return false
  }
}

/** Offset of a zone from UTC, ms, at an instant: asked of the calendar once an hour, remembered. */
function offsetsOf(zone: string): (utc: number) => number {
  if (zone === 'UTC') return () => 0
  const parts = new Intl.DateTimeFormat('en-US', {
    timeZone: zone,
    hourCycle: 'h23',
    year: 'numeric',
    month: 'numeric',
    day: 'numeric',
    hour: 'numeric',
    minute: 'numeric',
    second: 'numeric',
  })
  const known = new Map<number, number>()
  return (utc) => {
    // Offsets change at whole quarter hours at the finest.
    const quarter = Math.floor(utc / (HOUR / 4))
    const held = known.get(quarter)
    if (held !== undefined) return held
    const at = quarter * (HOUR / 4)
    const of: Record<string, number> = {}
    for (const p of parts.formatToParts(new Date(at))) of[p.type] = Number(p.value)
    const wall = Date.UTC(
      of['year'] ?? 0,
      (of['month'] ?? 1) - 1,
      of['day'] ?? 1,
      of['hour'] ?? 0,
      of['minute'] ?? 0,
      of['second'] ?? 0,
    )
    known.set(quarter, wall - at)
    return wall - at
  }
}

/** Where a log's own clock is. */
export interface WallState {
  wall: number | null
  isSecond: boolean
}

export interface LocalTime {
  readonly utc: number
  /** The clock never showed this time, or showed it twice. */
  readonly doubt: 'LOCAL_NONEXISTENT' | 'LOCAL_AMBIGUOUS' | null
}

/**
 * Turns clock times of a zone into instants, in the order of the log. A time that the clock jumped over is taken with
 * the offset before the change. One that it showed twice has its first meaning until the log's own clock falls back
 * inside the double hour, from there its second.
 * @param zone - IANA name
 * @param s - where the log's clock is: kept from one piece of a file to the next
 */
export function localClock(zone: string, s: WallState): (wall: number) => LocalTime {
  const offsetAt = offsetsOf(zone)
  return (wall) => {
    const [o1, o2] = [offsetAt(wall - DAY), offsetAt(wall + DAY)]
    const wasAt = s.wall ?? wall
    s.wall = wall
    if (o1 === o2) {
      s.isSecond = false
      return { utc: wall - o1, doubt: null }
    }
    const [first, second] = [wall - o1, wall - o2]
    const isFirst = offsetAt(first) === o1
    const isLater = offsetAt(second) === o2
    if (isFirst && isLater) {
      const since = o1 - o2
      if (wall < wasAt && wasAt - wall <= since) s.isSecond = true
      return { utc: s.isSecond ? second : first, doubt: 'LOCAL_AMBIGUOUS' }
    }
    s.isSecond = false
    if (!isFirst && !isLater) return { utc: first, doubt: 'LOCAL_NONEXISTENT' }
    return { utc: isFirst ? first : second, doubt: null }
  }
}
