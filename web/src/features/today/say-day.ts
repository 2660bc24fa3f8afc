import { wallOf } from '@calm/core/today/wall-time'
import { dayAfter } from '@calm/core/today/from-loop'
import { format, parseISO } from 'date-fns'

/** A day as people call it: today, tomorrow, else its name and date. */
export function sayDayLong(day: string, now: string, zone: string): string {
  const today = wallOf(Date.parse(now), zone).day
  const date = format(parseISO(day), 'EEE d MMM')
  return day === today ? `Today, ${date}` : day === dayAfter(today, 1) ? `Tomorrow, ${date}` : date
}
export const sayDayShort = (day: string): string => format(parseISO(day), 'EEE d MMM')
