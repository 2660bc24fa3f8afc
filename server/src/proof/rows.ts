import { plantEventHash, type PlantEvent } from '@calm/core/record/plant-log/plant-event'
import { sayPlantEvent } from '@calm/core/record/plant-log/kinds/index'
import { canonicalJson } from '@calm/core/record/canonical-json'
import type { Executor } from '../db/connection.ts'
import { keptRows } from '../plant-log/rows.ts'
import { sha256 } from '../record/digest.ts'
import { differing, mismatchesOf, sayValue, type Mismatch } from './mismatch.ts'

const nameOfEntry = (e: PlantEvent) => `the log, “${sayPlantEvent(e.type, e.payload).title}” of ${e.at}`

/** Every entry of the log is as it was written. */
export const provedEntries = (all: readonly PlantEvent[]): Mismatch[] =>
  all.flatMap((e) =>
    plantEventHash(e, sha256) === e.hash
      ? []
      : [{ where: nameOfEntry(e), field: null, says: 'This entry was changed after it was written.' }],
  )

/** What a row's own entries call it. */
function wordsOf(e: PlantEvent): string {
  const row = e.row?.is as Record<string, unknown> | null
  const told = row?.['shownName'] ?? row?.['name']
  const name = typeof told === 'string' ? told : (e.row?.key ?? '')
  return `${e.row?.table === 'people' ? 'the person' : (e.row?.table.replace(/_/g, ' ') ?? '')} ${name}`
}

/** Every row outside the loops is what its newest entry says; none without an entry, and no entry without its row. */
export async function provedRows(db: Executor, all: readonly PlantEvent[]): Promise<Mismatch[]> {
  const newest = new Map<string, PlantEvent>()
  for (const e of all) if (e.row) newest.set(`${e.row.table} ${e.row.key}`, e)
  const out: Mismatch[] = []
  const here = new Set<string>()
  for (const { table, key, name, is } of await keptRows(db)) {
    const told = newest.get(`${table} ${key}`)
    here.add(`${table} ${key}`)
    if (!told)
      out.push({ where: name, field: null, says: 'Nobody entered this: no entry of the log tells of it.' })
    else if (canonicalJson(is) !== canonicalJson(told.row?.is))
      out.push(
        ...(differing(is, told.row?.is).length > 0
          ? mismatchesOf(name, is, told.row?.is)
          : [
              {
                where: name,
                field: null,
                says: `It is ${sayValue(is)} here, and ${sayValue(told.row?.is)} by the log.`,
              },
            ]),
      )
  }
  for (const [key, e] of newest)
    if (!here.has(key))
      out.push({
        where: wordsOf(e),
        field: null,
        says: 'It was taken out: the log tells of it, and it is not here.',
      })
  return out
}
