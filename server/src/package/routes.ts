import { PackageTaken } from '@calm/contract/loop-package'
import { refused } from '@calm/core/refused'
import { z } from 'zod'
import type { Clock } from '../clock.ts'
import type { Database } from '../db/connection.ts'
import { endpoint, EVERYONE, WORKERS, type Endpoint } from '../http/endpoint.ts'
import { busy, HttpProblem } from '../http/problems.ts'
import { loopIdOf } from '../loops/store.ts'
import type { Pool } from '../work/pool.ts'
import { makePackage } from './make.ts'
import type { ProvedPackage } from './prove.ts'
import { takePackage } from './take.ts'

/** Proved in a thread of its own: what a package holds may be anything. */
async function proved(pool: Pool, body: unknown, now: Date): Promise<ProvedPackage> {
  if (!Buffer.isBuffer(body)) return refused('Send a package as application/zip.')
  const outcome = await pool.run({ kind: 'prove-package', bytes: body, now: now.toISOString() })
  if (outcome.kind === 'busy') throw busy()
  return outcome.kind === 'done' ? outcome.result : refused('This package is too large to be a loop.')
}

export const packageRoutes = (db: Database, pool: Pool, clock: Clock): Endpoint[] => [
  endpoint({
    method: 'get',
    path: '/api/loops/:loop/package.zip',
    summary: 'The whole loop as one package in open formats',
    allow: EVERYONE,
    params: z.object({ loop: z.string().min(1).max(80) }),
    response: 'application/zip',
    async handle({ params, res }) {
      const { tag, bytes } = await makePackage(db, await loopIdOf(db, params.loop), clock())
      res.attachment(`${tag}-package.zip`).type('application/zip').send(Buffer.from(bytes))
    },
  }),
  endpoint({
    method: 'post',
    path: '/api/packages',
    summary: 'Take in the package of a loop (application/zip); the same one twice is there once',
    allow: WORKERS,
    response: PackageTaken,
    async handle({ req, person }) {
      const now = clock()
      const told = await proved(pool, req.body, now)
      if (told.kind === 'refused')
        throw new HttpProblem(422, 'wrong-package', 'The package cannot be used.', [
          { path: told.where, says: told.says },
        ])
      return takePackage(db, told, person, now)
    },
  }),
]
