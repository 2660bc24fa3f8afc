import { NO_RULES, PlantRules, type RulesRevision } from '@calm/contract/settings'
import { rulesChanged } from '@calm/core/record/plant-log/kinds/plant'
import { differences } from '@calm/core/record/revision-difference'
import { and, asc, eq, sql } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { people } from '../people/schema.ts'
import { plantEvents } from '../plant-log/schema.ts'
import { RULES } from './store.ts'

const say = (value: unknown): string =>
  value === null || value === undefined || value === ''
    ? 'not said'
    : typeof value === 'string'
      ? value
      : JSON.stringify(value)

/** Every decision about the rules as the log has it, the newest first, with what it changed. */
export async function rulesRevisions(db: Executor): Promise<RulesRevision[]> {
  const rows = await db
    .select({ e: plantEvents, byName: people.shownName })
    .from(plantEvents)
    .leftJoin(people, eq(people.id, plantEvents.by))
    .where(and(eq(plantEvents.type, rulesChanged.type), sql`${plantEvents.row} ->> 'key' = ${RULES}`))
    .orderBy(asc(plantEvents.position))
  let before: PlantRules = NO_RULES
  return rows
    .map(({ e, byName }, i): RulesRevision => {
      const told = PlantRules.safeParse(e.row?.is)
      const after = told.success ? told.data : before
      const changes = differences(before, after).map((c) => ({
        path: c.path,
        before: say(c.before),
        after: say(c.after),
      }))
      before = after
      return {
        number: i + 1,
        at: isoInstant(e.at),
        byName: byName ?? 'the program',
        reason: e.reason,
        changes,
      }
    })
    .reverse()
}
