import { describe, expect, test } from 'vitest'
import { DATE_FORM_SAYS, DATE_FORMS, sayDayAs, sayInstantAs } from './date-form.ts'

describe('days and times on papers', () => {
  test.each(DATE_FORMS)('%s: as it is offered', (form) => {
    expect(sayDayAs('2026-11-23', { form, timeZone: 'UTC' })).toBe(DATE_FORM_SAYS[form])
  })
  test.each<[string, string, string]>([
    ['2026-11-23T14:02:59.000Z', 'UTC', '23 Nov 2026 14:02 UTC'],
    ['2026-11-23T23:30:00.000Z', 'Europe/Berlin', '24 Nov 2026 00:30 UTC+1'],
    ['2026-07-01T23:30:00.000Z', 'Europe/Berlin', '2 Jul 2026 01:30 UTC+2'],
    ['2026-01-01T03:00:00.000Z', 'America/New_York', '31 Dec 2025 22:00 UTC\u22125'],
    ['2026-01-01T00:00:00.000Z', 'Asia/Kolkata', '1 Jan 2026 05:30 UTC+5:30'],
  ])('%s in %s', (iso, timeZone, says) => {
    expect(sayInstantAs(iso, { form: 'words', timeZone })).toBe(says)
  })
})
