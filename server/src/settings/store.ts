import {
  Logo,
  NO_PREFERENCES,
  NO_RULES,
  PlantRules,
  Preferences,
  type ChangeRules,
  type RestoreRules,
} from '@calm/contract/settings'
import type { WantedUnits } from '@calm/core/quantity/asked-in'
import { wholeGates } from '@calm/core/procedure/gate-numbers'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { rulesChanged } from '@calm/core/record/plant-log/kinds/plant'
import { eq, sql } from 'drizzle-orm'
import type { z } from 'zod'
import type { Connection, Executor } from '../db/connection.ts'
import { tellWindows } from '../http/live.ts'
import { wrongValues } from '../http/problems.ts'
import { note } from '../plant-log/note.ts'
import { settings } from '../db/schema.ts'
import { RULES, rulesAfter } from './revisions.ts'

const LOGO = 'logo'
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

/** With what is usual where an older decision did not say it. */
export async function plantRules(db: Executor): Promise<PlantRules> {
  const rules = await read(db, RULES, PlantRules, NO_RULES)
  return { ...rules, gates: wholeGates(rules.gates) }
}

/** What is kept with what is decided anew; null takes away. */
function merged<V>(
  now: Readonly<Record<string, V>>,
  change: Readonly<Record<string, V | null>>,
): Record<string, V> {
  const all: Record<string, V | null> = { ...now, ...change }
  return Object.fromEntries(Object.entries(all).flatMap(([name, v]) => (v === null ? [] : [[name, v]])))
}

/** A unit that is said in itself is nobody's wish any more. */
const ownIsNone = (units: WantedUnits): Record<string, string | null> =>
  Object.fromEntries(Object.entries(units).map(([unit, as]) => [unit, as === unit ? null : as]))

const WORDS: Readonly<Record<Exclude<keyof ChangeRules, 'reason'>, string>> = {
  water: 'water of water columns',
  sheetOrder: 'order of settings sheets',
  letterhead: 'name and address on papers',
  plans: 'test plans',
  units: 'units of entries and results',
  byKind: 'what is usually asked of kinds of meters',
  paper: 'paper',
  dates: 'days and times on papers',
  decimalSign: 'decimal sign on papers',
  decision: 'decision rule',
  signing: 'signatures',
  gates: 'what a reading has to be before it counts',
  wireColours: 'school of wire colours',
  inputWords: 'what sinking and sourcing are called after',
  retention_years: 'how long records are kept',
}

/** One at a time: of two who decide different things at once both have theirs. */
const hold = (tx: Executor) => tx.execute(sql`select pg_advisory_xact_lock(hashtext('calm rules'))`)

export async function changeRules(
  db: Connection['db'],
  { reason = '', ...change }: ChangeRules,
  by: string,
  at: Date,
): Promise<PlantRules> {
  return db.transaction(async (tx) => {
    await hold(tx)
    const { water, letterhead, sheetOrder, plans, byKind, units, gates, ...others } = change
    const now = await plantRules(tx)
    const rules = PlantRules.parse({
      ...now,
      ...others,
      water: water === undefined ? now.water : water,
      sheetOrder: { ...now.sheetOrder, ...sheetOrder },
      letterhead: letterhead ?? now.letterhead,
      plans: merged(now.plans, plans ?? {}),
      byKind: merged(now.byKind, byKind ?? {}),
      units: merged(now.units, ownIsNone(units ?? {})),
      gates: { ...now.gates, ...gates },
    })
    if (canonicalJson(rules) === canonicalJson(now)) return now
    await keep(tx, RULES, rules)
    const what = Object.keys(change).map((k) => WORDS[k as keyof typeof WORDS])
    const row = { table: 'settings', key: RULES } as const
    await note(tx, { kind: rulesChanged, payload: { what }, by, reason, row }, at)
    await tellWindows(tx, { what: 'rules' })
    return rules
  })
}

/**
 * All rules as they were after an earlier decision, as a decision of its own: the ones between stay in the log.
 * @throws HttpProblem 422 where there was no such decision
 */
export async function restoreRules(
  db: Connection['db'],
  { number, reason }: RestoreRules,
  by: string,
  at: Date,
): Promise<PlantRules> {
  return db.transaction(async (tx) => {
    await hold(tx)
    const then = await rulesAfter(tx, number)
    if (!then)
      throw wrongValues([{ path: 'number', says: `There was no decision ${number} about the rules.` }])
    const now = await plantRules(tx)
    const parts = Object.keys(WORDS).filter((k) => {
      const part = k as keyof typeof WORDS
      return canonicalJson(then[part]) !== canonicalJson(now[part])
    })
    if (parts.length === 0) return now
    await keep(tx, RULES, then)
    const what = parts.map((k) => WORDS[k as keyof typeof WORDS])
    const row = { table: 'settings', key: RULES } as const
    const why = `${number === 0 ? 'As the program ships' : `As decision ${number} again`}: ${reason}`
    await note(tx, { kind: rulesChanged, payload: { what }, by, reason: why, row }, at)
    await tellWindows(tx, { what: 'rules' })
    return plantRules(tx)
  })
}

export const plantLogo = (db: Executor): Promise<Logo> => read(db, LOGO, Logo, { image: null })

export async function changeLogo(db: Connection['db'], logo: Logo, by: string, at: Date): Promise<Logo> {
  return db.transaction(async (tx) => {
    await hold(tx)
    await keep(tx, LOGO, logo)
    const row = { table: 'settings', key: LOGO } as const
    const what = [logo.image === null ? 'the picture on papers is taken away' : 'the picture on papers']
    await note(tx, { kind: rulesChanged, payload: { what }, by, row }, at)
    await tellWindows(tx, { what: 'rules' })
    return logo
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
