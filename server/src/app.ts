import { randomUUID } from 'node:crypto'
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import { Problem } from '@calm/contract/problem'
import type { Person } from '@calm/contract/people'
import compression from 'compression'
import express, { type Express, type Request, type RequestHandler } from 'express'
import type { Logger } from 'pino'
import { pinoHttp } from 'pino-http'
import { z } from 'zod'
import { calcRoutes } from './calc/routes.ts'
import type { Clock } from './clock.ts'
import { comparisonRoutes } from './comparisons/routes.ts'
import type { Connection } from './db/connection.ts'
import { deviceRoutes } from './devices/routes.ts'
import { diagnosisRoutes } from './diagnoses/routes.ts'
import { driftRoutes } from './drift/routes.ts'
import { equipmentRoutes } from './equipment/routes.ts'
import { endpoint, EVERYONE, routerOf, type Endpoint } from './http/endpoint.ts'
import { Health, healthOf } from './http/health.ts'
import { harmlessBody, readableAddress, shallowEnough } from './http/hostile.ts'
import { bodyLimits } from './http/in-flight.ts'
import type { Live } from './http/live.ts'
import { openApiOf } from './http/openapi.ts'
import { notFound, problemHandler } from './http/problems.ts'
import {
  keptByNobody,
  knownHost,
  samePersonWrites,
  sameOriginWrites,
  securityHeaders,
} from './http/security.ts'
import { inputRoutes } from './inputs/routes.ts'
import { loopListRoutes } from './loop-list/routes.ts'
import { loopRoutes } from './loops/routes.ts'
import { packageRoutes } from './package/routes.ts'
import { peopleRoutes } from './people/routes.ts'
import { personById } from './people/store.ts'
import { runRoutes } from './runs/routes.ts'
import { sessionRoutes } from './session/routes.ts'
import { endsWhenIdle, sessions } from './session/session.ts'
import type { Pool } from './work/pool.ts'

/** What a plant sets; everything has a value that is safe on one machine. */
export interface Settings {
  /** As people type it, `https://calm.plant.example`; null: this machine only. */
  readonly address: string | null
  /** A proxy whose word on who asks is trusted: its address; null: nobody's. */
  readonly proxy: string | null
  readonly idleHours: number
  readonly dataFolder: string
  /** Where daily backups go; null: none are made. */
  readonly backupFolder: string | null
}

export interface Parts {
  readonly connection: Connection
  readonly live: Live
  readonly pool: Pool
  readonly clock: Clock
  readonly log: Logger
  /** The built web application; null serves the API alone. */
  readonly webFolder: string | null
  readonly settings: Settings
}

const STRANGER_LIMIT = '16kb'
const BODY_LIMIT = '1mb'
const PACKAGE_LIMIT = '64mb'
const LIST_LIMIT = '5mb'

function systemRoutes(parts: Parts, all: () => readonly Endpoint[]): Endpoint[] {
  const health = healthOf({ ...parts, ...parts.settings })
  return [
    endpoint({
      method: 'get',
      path: '/api/health',
      summary: 'Whether database, writing, disk, backups and calculations are well',
      allow: 'anyone',
      response: Health,
      async handle({ res }) {
        const now = await health()
        if (!now.ok) res.status(503)
        return now
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
      handle: ({ req, res, person }) =>
        parts.live.join(res, { sessionId: req.sessionID, personId: person.id, address: req.ip ?? '' }),
    }),
  ]
}

/** Everything the server answers, described. */
export function endpointsOf(parts: Parts): Endpoint[] {
  const { pool, clock } = parts
  const { db } = parts.connection
  const all: Endpoint[] = []
  all.push(
    ...systemRoutes(parts, () => all),
    ...sessionRoutes(db, clock),
    ...peopleRoutes(db),
    ...loopRoutes(db, clock),
    ...diagnosisRoutes(db, clock),
    ...deviceRoutes(db, clock),
    ...driftRoutes(db),
    ...comparisonRoutes(db, clock),
    ...inputRoutes(db, clock),
    ...packageRoutes(db, pool, clock),
    ...runRoutes(db),
    ...loopListRoutes(db, clock),
    ...equipmentRoutes(db, clock),
    ...calcRoutes(pool),
  )
  return all
}

const sessionPerson = (req: Request): string | undefined => req.session?.personId

/**
 * Reads bodies, and no large one of somebody who is not signed in: a sign-in is small, and everything else needs one.
 */
function bodies(): RequestHandler {
  const json = (limit: string) => express.json({ limit, strict: false, verify: shallowEnough })
  const [stranger, usual, list] = [json(STRANGER_LIMIT), json(BODY_LIMIT), json(LIST_LIMIT)]
  const archive = express.raw({ type: 'application/zip', limit: PACKAGE_LIMIT })
  return (req, res, next) => {
    if (sessionPerson(req) === undefined) return stranger(req, res, next)
    if (req.path.startsWith('/packages')) return archive(req, res, next)
    return (req.path.startsWith('/loop-list') ? list : usual)(req, res, next)
  }
}

/** The whole application; it never listens. */
export async function createApp(parts: Parts): Promise<Express> {
  const { connection, log, webFolder, settings } = parts
  const app = express()
  app.disable('x-powered-by')
  app.set('trust proxy', settings.proxy ?? false)
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
  app.use(securityHeaders, readableAddress, knownHost(settings.address))
  if (webFolder !== null && existsSync(webFolder)) {
    app.use(compression({ filter: (req) => !req.path.startsWith('/api/') }))
    app.use(
      '/assets',
      express.static(join(webFolder, 'assets'), { immutable: true, maxAge: '365d', fallthrough: false }),
    )
    app.use(express.static(webFolder, { index: false, maxAge: 0 }))
  }
  app.use('/api', keptByNobody, sameOriginWrites)
  // Who asks is known before anything large is read.
  app.use('/api', await sessions(connection), endsWhenIdle(settings.idleHours))
  app.use('/api', samePersonWrites(sessionPerson), bodyLimits(sessionPerson), bodies(), harmlessBody)
  const personOf = (req: Request): Promise<Person | null> => {
    const id = sessionPerson(req)
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
