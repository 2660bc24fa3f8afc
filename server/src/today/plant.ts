import { rulesChanged } from '@calm/core/record/plant-log/kinds/plant'
import { canonicalJson } from '@calm/core/record/canonical-json'
import { PlantAtWork, UNTIL_SAID } from '@calm/core/today/plant-at-work'
import { eq } from 'drizzle-orm'
import type { Database, Executor } from '../db/connection.ts'
import { settings } from '../db/schema.ts'
import { tellWindows } from '../http/live.ts'
import { note } from '../plant-log/note.ts'

export const PLANT_AT_WORK = 'plant at work'

/** Places, ways, usual shift, abilities and stock; what is usual until somebody said it. */
export async function plantAtWork(db: Executor): Promise<PlantAtWork> {
  const [row] = await db.select().from(settings).where(eq(settings.key, PLANT_AT_WORK))
  const told = PlantAtWork.safeParse(row?.value)
  return told.success ? told.data : UNTIL_SAID
}

export async function changePlantAtWork(
  db: Database,
  plant: PlantAtWork,
  reason: string,
  by: string | null,
  at: Date,
): Promise<PlantAtWork> {
  return db.transaction((tx) => storePlantAtWork(tx, plant, reason, by, at))
}

/** The same within a transaction that holds more. */
export async function storePlantAtWork(
  tx: Executor,
  plant: PlantAtWork,
  reason: string,
  by: string | null,
  at: Date,
): Promise<PlantAtWork> {
  const now = await plantAtWork(tx)
  if (canonicalJson(now) === canonicalJson(plant)) return now
  await tx
    .insert(settings)
    .values({ key: PLANT_AT_WORK, value: plant })
    .onConflictDoUpdate({ target: settings.key, set: { value: plant } })
  const changed = (Object.keys(plant) as (keyof PlantAtWork)[]).filter(
    (k) => canonicalJson(now[k]) !== canonicalJson(plant[k]),
  )
  const what = changed.map((k) => WORDS[k])
  const row = { table: 'settings', key: PLANT_AT_WORK } as const
  await note(tx, { kind: rulesChanged, payload: { what }, by, reason, row }, at)
  await tellWindows(tx, { what: 'today' })
  return plant
}

const WORDS: Readonly<Record<keyof PlantAtWork, string>> = {
  home: 'where the day begins',
  walk: 'ways between places',
  usualWalk_min: 'the usual way',
  floor_min: 'minutes a floor',
  shift: 'the usual shift',
  weekdays: 'working days',
  abilities: 'what people may do',
  stock: 'stock',
  holders: 'who releases hold points',
}
