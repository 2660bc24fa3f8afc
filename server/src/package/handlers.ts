import { refused } from '@calm/core/refused'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { packages } from '@calm/contract/api/addresses'
import { bind, type Bound } from '../http/endpoint.ts'
import { busy, HttpProblem } from '../http/problems.ts'
import { loopIdOf } from '../loops/store.ts'
import type { Pool } from '../work/pool.ts'
import { makePackage } from './make.ts'
import type { ProvedPackage } from './prove.ts'
import { takePackage } from './take.ts'
import { provePackageWork } from './work.ts'

/** Proved in a thread of its own: what a package holds may be anything. */
async function proved(pool: Pool, bytes: Uint8Array, now: Date): Promise<ProvedPackage> {
  const outcome = await pool.run(provePackageWork, { bytes, now: now.toISOString() })
  if (outcome.kind === 'busy') throw busy()
  return outcome.kind === 'done' ? outcome.result : refused('This package is too large to be a loop.')
}

export const packageHandlers = (db: Database, pool: Pool, clock: Clock): Bound[] => [
  bind(packages.make, async ({ params, res }) => {
    const { tag, bytes } = await makePackage(db, await loopIdOf(db, params.loop), clock())
    res.attachment(`${tag}-package.zip`).type('application/zip').send(Buffer.from(bytes))
  }),
  bind(packages.take, async ({ body, person }) => {
    const now = clock()
    const told = await proved(pool, body, now)
    if (told.kind === 'refused')
      throw new HttpProblem('wrong-package', 'The package cannot be used.', [
        { path: told.where, says: told.says },
      ])
    return takePackage(db, told, person, now)
  }),
]
