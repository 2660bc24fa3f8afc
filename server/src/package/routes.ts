import { PackageTaken } from '@calm/contract/loop-package'
import { z } from 'zod'
import type { Database } from '../db/connection.ts'
import { endpoint, EVERYONE, WORKERS, type Endpoint } from '../http/endpoint.ts'
import { HttpProblem } from '../http/problems.ts'
import { loopIdOf } from '../loops/store.ts'
import { makePackage } from './make.ts'
import { provePackage } from './prove.ts'
import { takePackage } from './take.ts'

export const packageRoutes = (db: Database): Endpoint[] => [
  endpoint({
    method: 'get',
    path: '/api/loops/:loop/package.zip',
    summary: 'The whole loop as one package in open formats',
    allow: EVERYONE,
    params: z.object({ loop: z.string().min(1).max(80) }),
    response: 'application/zip',
    async handle({ params, res }) {
      const { tag, bytes } = await makePackage(db, await loopIdOf(db, params.loop), new Date())
      res.attachment(`${tag}-package.zip`).type('application/zip').send(Buffer.from(bytes))
    },
  }),
  endpoint({
    method: 'post',
    path: '/api/packages',
    summary: 'Take in the package of a loop (application/zip); the same one twice is there once',
    allow: WORKERS,
    response: PackageTaken,
    async handle({ req }) {
      const body: unknown = req.body
      const proved = Buffer.isBuffer(body)
        ? provePackage(body)
        : ({ kind: 'refused', path: '', says: 'Send a package as application/zip.' } as const)
      if (proved.kind === 'refused')
        throw new HttpProblem(422, 'wrong-package', 'The package cannot be used.', [
          { path: proved.path, says: proved.says },
        ])
      return takePackage(db, proved.contents)
    },
  }),
]
