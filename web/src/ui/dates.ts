import { differenceInCalendarDays, format, parseISO } from 'date-fns'

export const sayDay = (iso: string | null): string =>
  iso === null ? 'never' : format(parseISO(iso), 'd MMM yyyy')
export const sayInstant = (iso: string): string => format(parseISO(iso), 'd MMM yyyy, HH:mm')
export const saySecond = (d: Date): string => format(d, 'HH:mm:ss')
export const sayTime = (d: Date): string => format(d, 'HH:mm')

/** Days until a date; negative when it has passed. */
export const daysUntil = (iso: string, now: Date): number => differenceInCalendarDays(parseISO(iso), now)
