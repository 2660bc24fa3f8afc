import { CHAIN_START } from '@calm/core/record/hash-chain'
import { packageMade, packageTakenIn } from '@calm/core/record/plant-log/kinds/plant'
import { refused } from '@calm/core/refused'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { packages } from '@calm/contract/api/addresses'
import { bind, type Bound } from '../http/endpoint.ts'
import { progressTeller } from '../http/live.ts'
import { conflict, HttpProblem } from '../http/problems.ts'
import { loopIdOf } from '../loops/store.ts'
import { note } from '../plant-log/note.ts'
import { sha256Bytes } from '../record/digest.ts'
import type { Pool } from '../work/pool.ts'
import { resultOf } from '../work/result.ts'
import type { PlantKey } from '../plant-log/plant-key.ts'
import { partsOfPackage } from './make.ts'
import { signedZip } from './pack.ts'
import { withPapers, type ProvedPackage } from './prove.ts'
import { takePackage } from './take.ts'
import { comparePaper, makePackageWork, provePackageWork } from './work.ts'

const TOO_LARGE = 'This package is too large to be a loop.'

/** Proved in a thread of its own: what a package holds may be anything. */
async function proved(pool: Pool, bytes: Uint8Array, now: Date, signal: AbortSignal): Promise<ProvedPackage> {
  const outcome = await pool.run(provePackageWork, { bytes, now: now.toISOString() }, { signal })
  const told = resultOf(outcome) ?? refused(TOO_LARGE)
  return withPapers(told, async (print) => {
    const same = resultOf(await pool.run(comparePaper, print, { signal }))
    if (same === null)
      throw new HttpProblem('wrong-package', 'The package cannot be used.', [
        { path: print.name, says: TOO_LARGE },
      ])
    return same
  })
}

export const packageHandlers = (db: Database, pool: Pool, clock: Clock, key: PlantKey): Bound[] => [
  bind(packages.make, async ({ params, res, gone, person }) => {
    const parts = await partsOfPackage(db, await loopIdOf(db, params.loop), clock(), key)
    const { id, tag } = parts.contents.loop
    const packed = resultOf(
      await pool.run(makePackageWork, parts, { signal: gone, tell: progressTeller(db, id) }),
    )
    if (!packed) throw conflict('This loop’s record is too large to be one package.')
    const bytes = signedZip(packed, key)
    const { events } = parts.contents
    const payload = {
      tag,
      file: sha256Bytes(bytes),
      events: events.length,
      head: events.at(-1)?.hash ?? CHAIN_START,
    }
    // A program that looks by a token is nobody of the plant.
    await note(db, { kind: packageMade, payload, by: person.id || null, subject: id }, clock())
    res.attachment(`${tag}-package.zip`).type('application/zip').send(Buffer.from(bytes))
  }),
  bind(packages.take, async ({ body, person, gone }) => {
    const now = clock()
    const told = await proved(pool, body, now, gone)
    if (told.kind === 'refused')
      throw new HttpProblem('wrong-package', 'The package cannot be used.', [
        { path: told.where, says: told.says },
      ])
    const taken = await takePackage(db, told, person, now)
    if (taken.stored) {
      const payload = { tag: taken.tag, file: told.file, events: taken.events }
      await note(db, { kind: packageTakenIn, payload, by: person.id, subject: taken.id }, now)
    }
    return taken
  }),
]
