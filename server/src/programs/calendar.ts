import ical, { ICalCalendarMethod } from 'ical-generator'
import { and, asc, eq, isNotNull, isNull } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { allEquipment } from '../equipment/store.ts'
import { loops } from '../record/schema.ts'

/** What a calendar is fetched again after, s. */
const AGAIN_S = 3_600
/** A whole day: what is due is not due at an hour. */
const dayOf = (iso: string) => new Date(`${iso}T00:00:00.000Z`)

/**
 * When loops are due, and the certificates of the plant's instruments end, as all-day entries.
 * @param area - only loops of this area, and no instruments
 * @see RFC 5545
 */
export async function calendarOf(db: Executor, now: Date, area?: string): Promise<string> {
  const due = await db
    .select({ id: loops.id, tag: loops.tag, service: loops.service, area: loops.area, due: loops.due })
    .from(loops)
    .where(
      and(
        isNotNull(loops.due),
        isNull(loops.archivedAt),
        area === undefined ? undefined : eq(loops.area, area),
      ),
    )
    .orderBy(asc(loops.due), asc(loops.tag))
  const calendar = ical({
    name: area === undefined ? 'Due for verification' : `Due for verification, ${area}`,
    prodId: { company: 'Calm Loop', product: 'due dates' },
    method: ICalCalendarMethod.PUBLISH,
    ttl: AGAIN_S,
  })
  const event = (id: string, on: string, summary: string, description: string) =>
    calendar.createEvent({ id, start: dayOf(on), allDay: true, stamp: now, summary, description })
  for (const l of due)
    if (l.due !== null) event(`${l.id}@loop`, l.due, `${l.tag} due`, `${l.service} (${l.area})`)
  if (area === undefined)
    for (const e of await allEquipment(db))
      if (!e.retired)
        event(`${e.id}@instrument`, e.dueOn, `${e.name}: certificate ends`, `Serial ${e.serial}`)
  return calendar.toString()
}
