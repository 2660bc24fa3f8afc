import { sayDuration } from '@calm/core/logs/say-finding'

/** How times of a log are said: in its own zone, or as time since it began. */
export interface TimesAs {
  readonly relative: boolean
  readonly zone: string
}

const known = new Map<string, Intl.DateTimeFormat>()
function formatOf(zone: string, options: Intl.DateTimeFormatOptions): Intl.DateTimeFormat {
  const key = `${zone} ${JSON.stringify(options)}`
  const held = known.get(key)
  if (held) return held
  const made = new Intl.DateTimeFormat('en-GB', { ...options, timeZone: zone, hourCycle: 'h23' })
  known.set(key, made)
  return made
}
const CLOCK = { hour: '2-digit', minute: '2-digit', second: '2-digit' } as const

/** An instant of a log with its day. */
export const sayLogTime = (ms: number, { relative, zone }: TimesAs): string =>
  relative
    ? `${sayDuration(ms / 1000)} in`
    : formatOf(zone, { day: 'numeric', month: 'short', year: 'numeric', ...CLOCK }).format(ms)

const SECOND = 1000
const DAY = 86_400_000
const STEPS = [
  1,
  2,
  5,
  10,
  20,
  50,
  100,
  200,
  500,
  SECOND,
  2 * SECOND,
  5 * SECOND,
  10 * SECOND,
  15 * SECOND,
  30 * SECOND,
  60_000,
  120_000,
  300_000,
  600_000,
  900_000,
  1_800_000,
  3_600_000,
  7_200_000,
  10_800_000,
  21_600_000,
  43_200_000,
  DAY,
  2 * DAY,
  7 * DAY,
  14 * DAY,
  28 * DAY,
  91 * DAY,
  182 * DAY,
  365 * DAY,
]

/** Places along an axis of time: whole seconds, minutes, hours, days, as many as there is room for. */
export function timeTicks(from: number, to: number, most: number): number[] {
  const step =
    STEPS.find((s) => (to - from) / s <= most) ?? 365 * DAY * Math.ceil((to - from) / most / 365 / DAY)
  const ticks: number[] = []
  for (let t = Math.ceil(from / step) * step; t <= to; t += step) ticks.push(t)
  return ticks
}

/** What stands at a tick: no finer than the ticks are apart. */
export function sayTick(ms: number, width: number, { relative, zone }: TimesAs): string {
  if (relative) return sayDuration(ms / 1000)
  if (width > 4 * DAY) return formatOf(zone, { day: 'numeric', month: 'short' }).format(ms)
  const clock = formatOf(zone, { hour: '2-digit', minute: '2-digit' })
  // Over midnight the day stands where it begins.
  if (width > DAY && clock.format(ms) === '00:00')
    return formatOf(zone, { day: 'numeric', month: 'short' }).format(ms)
  if (width > 8 * 60_000) return clock.format(ms)
  const fine = width < 5 * SECOND ? ({ fractionalSecondDigits: 3 } as const) : {}
  return formatOf(zone, { ...CLOCK, ...fine }).format(ms)
}
