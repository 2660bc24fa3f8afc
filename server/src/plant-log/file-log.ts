import { packages, type Address } from '@calm/contract/api/addresses'
import type { Person } from '@calm/contract/people'
import { fileFetched } from '@calm/core/record/plant-log/kinds/plant'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { note } from './note.ts'

const MOST = 300
/** These tell more of what left than the name of a file. */
const TOLD_APART: ReadonlySet<Address> = new Set([packages.make])

/**
 * Who took which file out of the house stands in the log. What programs fetch by a token does not: they come every hour,
 * and when a token was used last is told with it.
 */
export const fileLog =
  (db: Database, clock: Clock) =>
  async (address: Address, file: string, person: Person): Promise<void> => {
    if (person.id === '' || TOLD_APART.has(address)) return
    await note(db, { kind: fileFetched, payload: { file: file.slice(0, MOST) }, by: person.id }, clock())
  }
