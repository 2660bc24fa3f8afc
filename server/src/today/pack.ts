import type { Person } from '@calm/contract/people'
import { sayNumber } from '@calm/core/quantity/round'
import type { Database } from '../db/connection.ts'
import { settings } from '../db/schema.ts'
import { wrongValues } from '../http/problems.ts'
import { keepEntry, packed } from './entries.ts'
import { PLANT_AT_WORK, plantAtWork, storePlantAtWork } from './plant.ts'
import { eq } from 'drizzle-orm'

/** What somebody ticked as packed, or unticked. */
interface Ticked {
  readonly id: string
  readonly day: string
  readonly person: string
  readonly what: string
  readonly packed: boolean
  readonly takes?: number | undefined
}

/**
 * Ticks a thing of a kit. What is used up leaves the stock by as much as is packed more than before, and comes back when
 * it is unticked; what nobody counts is only ticked.
 * @throws HttpProblem 422 where the stock has less
 */
export async function pack(db: Database, t: Ticked, person: Person, now: Date): Promise<boolean> {
  return db.transaction(async (tx) => {
    // One at a time: two who pack take from one stock.
    await tx.select().from(settings).where(eq(settings.key, PLANT_AT_WORK)).for('update')
    const subject = `${t.person} ${t.what}`
    const before = (await packed(tx, t.day)).get(subject)?.payload
    const out = before?.packed === true ? (before.takes ?? 0) : 0
    const takes = t.packed ? (t.takes ?? 0) : 0
    const payload = { packed: t.packed, ...(t.takes === undefined ? {} : { takes: t.takes }) }
    const isNew = await keepEntry(
      tx,
      { id: t.id, kind: 'packed', day: t.day, subject, payload, noted: null },
      person,
      now,
    )
    const plant = await plantAtWork(tx)
    // By its own name only: what every object has is no stock.
    const here = Object.hasOwn(plant.stock, t.what) ? plant.stock[t.what] : undefined
    if (!isNew || here === undefined || takes === out) return isNew
    const left = here - (takes - out)
    if (left < 0)
      throw wrongValues([
        {
          path: 'takes',
          says: `Only ${sayNumber(here, 6)} of it is counted in stock. Count again under Places and stock.`,
        },
      ])
    const reason = `${t.packed ? 'packed' : 'put back'} for ${t.day}`
    // What lies in stock is a count: the last digits of a sum are none.
    const stock = { ...plant.stock, [t.what]: Number(left.toPrecision(12)) }
    await storePlantAtWork(tx, { ...plant, stock }, reason, person.id, now)
    return isNew
  })
}
