import ical, { ICalCalendarMethod } from 'ical-generator'
import { and, asc, eq, isNotNull, isNull, sql } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { allEquipment } from '../equipment/store.ts'
import { loops } from '../record/schema.ts'

/** What a calendar is fetched again after, s. */
const AGAIN_S = 3_600
/** A whole day: what is due is not due at an hour. */
const dayOf = (iso: string) => new Date(`${iso}T00:00:00.000Z`)

interface Of {
  readonly area?: string | undefined
  readonly assignee?: string | undefined
}
/**
 * When loops are due, and the certificates of the plant's instruments end, as all-day entries.
 * @param of - only loops of an area, or of who looks after them; then no instruments
 * @see RFC 5545
 */
export async function calendarOf(db: Executor, now: Date, { area, assignee }: Of = {}): Promise<string> {
  const isWhole = area === undefined && assignee === undefined
  const due = await db
    .select({ id: loops.id, tag: loops.tag, service: loops.service, area: loops.area, due: loops.due })
    .from(loops)
    .where(
      and(
        isNotNull(loops.due),
        isNull(loops.archivedAt),
        area === undefined ? undefined : eq(loops.area, area),
        assignee === undefined ? undefined : sql`lower(${loops.assignee}) = ${assignee.toLowerCase()}`,
      ),
    )
    .orderBy(asc(loops.due), asc(loops.tag))
  const calendar = ical({
    name: ['Due for verification', area, assignee].filter((t) => t !== undefined).join(', '),
    prodId: { company: 'Calm Loop', product: 'due dates' },
    method: ICalCalendarMethod.PUBLISH,
    ttl: AGAIN_S,
  })
  const event = (id: string, on: string, summary: string, description: string) =>
    calendar.createEvent({ id, start: dayOf(on), allDay: true, stamp: now, summary, description })
  for (const l of due)
    if (l.due !== null) event(`${l.id}@loop`, l.due, `${l.tag} due`, `${l.service} (${l.area})`)
  if (isWhole)
    for (const e of await allEquipment(db))
      if (!e.retired)
        event(`${e.id}@instrument`, e.dueOn, `${e.name}: certificate ends`, `Serial ${e.serial}`)
  return calendar.toString()
}
