import type { LogEntry, LogFilter, LogPage } from '@calm/contract/plant-log'
import { PLANT_KINDS, sayPlantEvent } from '@calm/core/record/plant-log/kinds/index'
import { reviewed } from '@calm/core/record/plant-log/kinds/plant'
import { signInFailed } from '@calm/core/record/plant-log/kinds/sign-ins'
import { and, desc, eq, gte, inArray, lt, sql, type SQL } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { people } from '../people/schema.ts'
import { plantEvents } from '../plant-log/schema.ts'

const DAY_MS = 86_400_000
/** Whoever did it where nobody was signed in: a try at the door, or the program itself. */
const nobodyAt = (type: string) => (type === signInFailed.type ? 'nobody signed in' : 'the program')

const typesOf = (group: string) =>
  [...PLANT_KINDS.values()].filter((k) => k.group === group).map((k) => k.type)

function conditionsOf(f: LogFilter): SQL | undefined {
  return and(
    f.group === undefined ? undefined : inArray(plantEvents.type, typesOf(f.group)),
    f.by === undefined ? undefined : eq(plantEvents.by, f.by),
    f.from === undefined ? undefined : gte(plantEvents.at, new Date(f.from)),
    f.to === undefined ? undefined : lt(plantEvents.at, new Date(Date.parse(f.to) + DAY_MS)),
    f.before === undefined ? undefined : lt(plantEvents.position, f.before),
    f.text === undefined || f.text === ''
      ? undefined
      : sql`${plantEvents.payload}::text || ' ' || ${plantEvents.reason} || ' ' || coalesce(${people.shownName}, '') ilike ${`%${f.text.replace(/[\\%_]/g, '\\$&')}%`}`,
  )
}

/** Changes outside the loops, the newest first. */
export async function logEntries(db: Executor, filter: LogFilter): Promise<LogEntry[]> {
  const rows = await db
    .select({ e: plantEvents, byName: people.shownName })
    .from(plantEvents)
    .leftJoin(people, eq(people.id, plantEvents.by))
    .where(conditionsOf(filter))
    .orderBy(desc(plantEvents.position))
    .limit(filter.most)
  return rows.map(({ e, byName }) => ({
    id: e.id,
    position: e.position,
    at: isoInstant(e.at),
    group: PLANT_KINDS.get(e.type)?.group ?? null,
    type: e.type,
    ...sayPlantEvent(e.type, e.payload),
    by: e.by,
    byName: byName ?? nobodyAt(e.type),
    reason: e.reason,
  }))
}

/** Up to where the log was looked through last; null: never. */
export async function lastReview(db: Executor): Promise<LogPage['reviewed']> {
  const [row] = await db
    .select({ e: plantEvents, byName: people.shownName })
    .from(plantEvents)
    .leftJoin(people, eq(people.id, plantEvents.by))
    .where(eq(plantEvents.type, reviewed.type))
    .orderBy(desc(plantEvents.position))
    .limit(1)
  return row
    ? {
        position: Number(row.e.subject),
        at: isoInstant(row.e.at),
        byName: row.byName ?? nobodyAt(row.e.type),
      }
    : null
}
