/** How papers may say a day. */
export const DATE_FORMS = ['iso', 'words', 'dots', 'slashes'] as const
export type DateForm = (typeof DATE_FORMS)[number]
/** 23 November 2026 in each of them. */
export const DATE_FORM_SAYS: Readonly<Record<DateForm, string>> = {
  iso: '2026-11-23',
  words: '23 Nov 2026',
  dots: '23.11.2026',
  slashes: '11/23/2026',
}

/** How a plant's papers say days and times. */
export interface DatesAs {
  readonly form: DateForm
  /** IANA name. */
  readonly timeZone: string
}

const monthNames = new Intl.DateTimeFormat('en-US', { month: 'short', timeZone: 'UTC' })

/**
 * A calendar day as the plant's papers say it.
 * @param day - as 2026-11-23
 */
export function sayDayAs(day: string, { form }: DatesAs): string {
  const [y = '', m = '', d = ''] = day.split('-')
  switch (form) {
    case 'iso':
      return day
    case 'words':
      return `${Number(d)} ${monthNames.format(new Date(day))} ${y}`
    case 'dots':
      return `${d}.${m}.${y}`
    case 'slashes':
      return `${m}/${d}/${y}`
  }
}

/**
 * An instant as the plant's papers say it, in the plant's time zone, which stands beside it: an hour without its zone
 * is not a time.
 * @param iso - as 2026-11-23T14:02:00.000Z
 */
export function sayInstantAs(iso: string, as: DatesAs): string {
  const parts = new Intl.DateTimeFormat('en-GB', {
    timeZone: as.timeZone,
    year: 'numeric',
    month: '2-digit',
    day: '2-digit',
    hour: '2-digit',
    minute: '2-digit',
    hourCycle: 'h23',
    timeZoneName: 'shortOffset',
  }).formatToParts(new Date(iso))
  const of = (type: Intl.DateTimeFormatPartTypes) => parts.find((p) => p.type === type)?.value ?? ''
  const zone = of('timeZoneName')
    .replace(/^GMT(\+0)?$|^GMT/, 'UTC')
    .replace('-', '\u2212')
  return `${sayDayAs(`${of('year')}-${of('month')}-${of('day')}`, as)} ${of('hour')}:${of('minute')} ${zone}`
}
