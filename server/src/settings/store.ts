import { NO_PREFERENCES, NO_RULES, PlantRules, Preferences, type ChangeRules } from '@calm/contract/settings'
import { rulesChanged } from '@calm/core/record/plant-log/kinds/plant'
import { eq, sql } from 'drizzle-orm'
import type { z } from 'zod'
import type { Connection, Executor } from '../db/connection.ts'
import { tellWindows } from '../http/live.ts'
import { note } from '../plant-log/note.ts'
import { settings } from '../db/schema.ts'

const RULES = 'rules of the plant'
const ofPerson = (id: string) => `preferences of ${id}`

async function read<S extends z.ZodType>(db: Executor, key: string, schema: S, none: z.output<S>) {
  const [row] = await db.select().from(settings).where(eq(settings.key, key))
  const told = schema.safeParse(row?.value)
  // What an older or newer program kept here and this one cannot read is as if nobody had said it.
  return told.success ? told.data : none
}
async function keep(db: Executor, key: string, value: object): Promise<void> {
  await db
    .insert(settings)
    .values({ key, value })
    .onConflictDoUpdate({ target: settings.key, set: { value } })
}

export const plantRules = (db: Executor): Promise<PlantRules> => read(db, RULES, PlantRules, NO_RULES)

/** What is kept with what is decided anew; null takes away. */
function merged<V>(
  now: Readonly<Record<string, V>>,
  change: Readonly<Record<string, V | null>>,
): Record<string, V> {
  const all: Record<string, V | null> = { ...now, ...change }
  return Object.fromEntries(Object.entries(all).flatMap(([name, v]) => (v === null ? [] : [[name, v]])))
}

const WORDS: Readonly<Record<keyof ChangeRules, string>> = {
  water: 'water of water columns',
  sheetOrder: 'order of settings sheets',
  letterhead: 'name and address on papers',
  plans: 'test plans',
}

export async function changeRules(
  db: Connection['db'],
  change: ChangeRules,
  by: string,
  at: Date,
): Promise<PlantRules> {
  return db.transaction(async (tx) => {
    // One at a time: of two who decide different things at once both have theirs.
    await tx.execute(sql`select pg_advisory_xact_lock(hashtext('calm rules'))`)
    const now = await plantRules(tx)
    const rules: PlantRules = {
      water: change.water === undefined ? now.water : change.water,
      sheetOrder: { ...now.sheetOrder, ...change.sheetOrder },
      letterhead: change.letterhead ?? now.letterhead,
      plans: merged(now.plans, change.plans ?? {}),
    }
    await keep(tx, RULES, rules)
    const what = Object.keys(change).map((k) => WORDS[k as keyof ChangeRules])
    const row = { table: 'settings', key: RULES } as const
    await note(tx, { kind: rulesChanged, payload: { what }, by, row }, at)
    await tellWindows(tx, { what: 'rules' })
    return rules
  })
}

export const preferencesOf = (db: Executor, personId: string): Promise<Preferences> =>
  read(db, ofPerson(personId), Preferences, NO_PREFERENCES)

export async function keepPreferences(
  db: Executor,
  personId: string,
  mine: Preferences,
): Promise<Preferences> {
  await keep(db, ofPerson(personId), mine)
  return mine
}
