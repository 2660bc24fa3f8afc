import { randomUUID } from 'node:crypto'
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { Problem } from '@calm/contract/problem'
import type { Person } from '@calm/contract/people'
import compression from 'compression'
import express, { type Express, type Request } from 'express'
import type { Logger } from 'pino'
import { pinoHttp } from 'pino-http'
import { z } from 'zod'
import { calcRoutes } from './calc/routes.ts'
import type { Connection } from './db/connection.ts'
import { equipmentRoutes } from './equipment/routes.ts'
import { endpoint, EVERYONE, routerOf, type Endpoint } from './http/endpoint.ts'
import type { Live } from './http/live.ts'
import { openApiOf } from './http/openapi.ts'
import { notFound, problemHandler } from './http/problems.ts'
import { sameOriginWrites, securityHeaders } from './http/security.ts'
import { loopListRoutes } from './loop-list/routes.ts'
import { deviceRoutes } from './devices/routes.ts'
import { driftRoutes } from './drift/routes.ts'
import { comparisonRoutes } from './comparisons/routes.ts'
import { inputRoutes } from './inputs/routes.ts'
import { packageRoutes } from './package/routes.ts'
import { diagnosisRoutes } from './diagnoses/routes.ts'
import { loopRoutes } from './loops/routes.ts'
import { peopleRoutes } from './people/routes.ts'
import { personById } from './people/store.ts'
import { runRoutes } from './runs/routes.ts'
import { sessionRoutes, signInLimit } from './session/routes.ts'
import { sessions } from './session/session.ts'

export interface Parts {
  readonly connection: Connection
  readonly live: Live
  readonly log: Logger
  /** The built web application; null serves the API alone. */
  readonly webFolder: string | null
  readonly signInsPerMinute: number
}

const BODY_LIMIT = '1mb'
const PACKAGE_LIMIT = '64mb'
const LIST_LIMIT = '5mb'

function systemRoutes(parts: Parts, all: () => readonly Endpoint[]): Endpoint[] {
  return [
    endpoint({
      method: 'get',
      path: '/api/health',
      summary: 'Whether server and database answer',
      allow: 'anyone',
      response: z.object({ ok: z.literal(true) }),
      async handle() {
        await parts.connection.pool.query('select 1')
        return { ok: true as const }
      },
    }),
    endpoint({
      method: 'get',
      path: '/api/openapi.json',
      summary: 'This description',
      allow: 'anyone',
      response: z.record(z.string(), z.unknown()),
      handle: () => ({ ...openApiOf(all(), Problem) }),
    }),
    endpoint({
      method: 'get',
      path: '/api/live',
      summary: 'Tells what changed as it changes',
      allow: EVERYONE,
      response: 'text/event-stream',
      handle: ({ res }) => parts.live.join(res),
    }),
  ]
}

/** Everything the server answers, described. */
export function endpointsOf(parts: Parts): Endpoint[] {
  const { db } = parts.connection
  const all: Endpoint[] = []
  all.push(
    ...systemRoutes(parts, () => all),
    ...sessionRoutes(db),
    ...peopleRoutes(db),
    ...loopRoutes(db),
    ...diagnosisRoutes(db),
    ...deviceRoutes(db),
    ...driftRoutes(db),
    ...comparisonRoutes(db),
    ...inputRoutes(db),
    ...packageRoutes(db),
    ...runRoutes(db),
    ...loopListRoutes(db),
    ...equipmentRoutes(db),
    ...calcRoutes(),
  )
  return all
}

/** The whole application; it never listens. */
export async function createApp(parts: Parts): Promise<Express> {
  const { connection, log, webFolder } = parts
  const app = express()
  app.disable('x-powered-by')
  app.set('trust proxy', 'loopback')
  app.use(
    pinoHttp({
      logger: log,
      genReqId: (_req, res) => {
        const id = randomUUID()
        res.setHeader('X-Request-Id', id)
        return id
      },
      // One line a request; never its cookies or bodies.
      serializers: {
        req: (r: { id: string; method: string; url: string }) => ({ id: r.id, method: r.method, url: r.url }),
        res: (r: { statusCode: number }) => ({ status: r.statusCode }),
      },
      customLogLevel: (_req, res, error) => (error || res.statusCode >= 500 ? 'error' : 'debug'),
    }),
  )
  app.use(securityHeaders)
  if (webFolder !== null && existsSync(webFolder)) {
    app.use(compression({ filter: (req) => !req.path.startsWith('/api/') }))
    app.use(
      '/assets',
      express.static(join(webFolder, 'assets'), { immutable: true, maxAge: '365d', fallthrough: false }),
    )
    app.use(express.static(webFolder, { index: false, maxAge: 0 }))
  }
  app.use('/api', sameOriginWrites)
  app.use('/api/session', (req, res, next) => (req.method === 'POST' ? limit(req, res, next) : next()))
  const limit = signInLimit(parts.signInsPerMinute)
  app.use('/api/loop-list', express.json({ limit: LIST_LIMIT }))
  app.use('/api/packages', express.raw({ type: 'application/zip', limit: PACKAGE_LIMIT }))
  app.use('/api', express.json({ limit: BODY_LIMIT, strict: false }))
  app.use('/api', await sessions(connection))
  const personOf = (req: Request): Promise<Person | null> => {
    const id = req.session?.personId
    return id === undefined ? Promise.resolve(null) : personById(connection.db, id)
  }
  app.use(routerOf(endpointsOf(parts), personOf))
  app.use('/api', () => {
    throw notFound('address')
  })
  if (webFolder !== null)
    app.get('/{*any}', (_req, res) => {
      res.sendFile(join(webFolder, 'index.html'), { headers: { 'Cache-Control': 'no-cache' } })
    })
  app.use(problemHandler)
  return app
}
