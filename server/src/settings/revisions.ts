import { NO_RULES, PlantRules, type RulesRevision } from '@calm/contract/settings'
import { rulesChanged } from '@calm/core/record/plant-log/kinds/plant'
import { differences } from '@calm/core/record/revision-difference'
import { and, asc, eq, sql } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'
import { isoInstant } from '../db/time.ts'
import { people } from '../people/schema.ts'
import { plantEvents } from '../plant-log/schema.ts'

/** Under this name they are kept. */
export const RULES = 'rules of the plant'

const say = (value: unknown): string =>
  value === null || value === undefined || value === ''
    ? 'not said'
    : typeof value === 'string'
      ? value
      : JSON.stringify(value)

interface Decision {
  readonly after: PlantRules
  readonly at: Date
  readonly byName: string | null
  readonly reason: string
}

/** Every decision about the rules as the log has it, the oldest first, with all rules as they stood after it. */
async function decisions(db: Executor): Promise<Decision[]> {
  const rows = await db
    .select({
      row: plantEvents.row,
      at: plantEvents.at,
      reason: plantEvents.reason,
      byName: people.shownName,
    })
    .from(plantEvents)
    .leftJoin(people, eq(people.id, plantEvents.by))
    .where(and(eq(plantEvents.type, rulesChanged.type), sql`${plantEvents.row} ->> 'key' = ${RULES}`))
    .orderBy(asc(plantEvents.position))
  let after: PlantRules = NO_RULES
  return rows.map(({ row, ...told }) => {
    const read = PlantRules.safeParse(row?.is)
    if (read.success) after = read.data
    return { ...told, after }
  })
}

/** All rules as they stood after a decision; 0: before the first. Null where there was none of that number. */
export async function rulesAfter(db: Executor, number: number): Promise<PlantRules | null> {
  return number === 0 ? NO_RULES : ((await decisions(db))[number - 1]?.after ?? null)
}

/** Every decision about the rules as the log has it, the newest first, with what it changed. */
export async function rulesRevisions(db: Executor): Promise<RulesRevision[]> {
  let before: PlantRules = NO_RULES
  return (await decisions(db))
    .map(({ after, at, byName, reason }, i): RulesRevision => {
      const changes = differences(before, after).map((c) => ({
        path: c.path,
        before: say(c.before),
        after: say(c.after),
      }))
      before = after
      return { number: i + 1, at: isoInstant(at), byName: byName ?? 'the program', reason, changes }
    })
    .reverse()
}
