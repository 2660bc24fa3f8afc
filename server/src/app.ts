import type { DemoSignIn } from '@calm/contract/people'
import { randomUUID } from 'node:crypto'
import { existsSync } from 'node:fs'
import { join } from 'node:path'
import type { Person } from '@calm/contract/people'
import compression from 'compression'
import express, { type Express, type Request } from 'express'
import type { Logger } from 'pino'
import expressStaticGzip from 'express-static-gzip'
import { pinoHttp } from 'pino-http'
import { calcHandlers } from './calc/handlers.ts'
import type { Clock } from './clock.ts'
import { comparisonHandlers } from './comparisons/handlers.ts'
import type { Connection } from './db/connection.ts'
import { deviceHandlers } from './devices/handlers.ts'
import { standInLink } from './devices/store.ts'
import { workshopHandlers } from './devices/workshop-handlers.ts'
import { diagnosisHandlers } from './diagnoses/handlers.ts'
import { driftHandlers } from './drift/handlers.ts'
import { wiringHandlers } from './wiring/handlers.ts'
import { ownPartsHandlers } from './own-parts/handlers.ts'
import { equipmentHandlers } from './equipment/handlers.ts'
import { system } from '@calm/contract/api/addresses'
import { bodyReaders } from './http/bodies.ts'
import { bind, routerOf, type Bound } from './http/endpoint.ts'
import { freeOf, roomFor } from './health/disk.ts'
import { healthOf } from './health/health.ts'
import { readableAddress } from './http/hostile.ts'
import type { Live } from './http/live.ts'
import { openApi } from './http/openapi.ts'
import { notFound, problemHandler } from './http/problems.ts'
import {
  keptByNobody,
  knownHost,
  samePersonWrites,
  sameOriginWrites,
  securityHeaders,
} from './http/security.ts'
import { fileLog } from './plant-log/file-log.ts'
import type { PlantKey } from './plant-log/plant-key.ts'
import { proofHandlers } from './proof/handlers.ts'
import { inputHandlers } from './inputs/handlers.ts'
import { loopListHandlers } from './loop-list/handlers.ts'
import { personOnLoop } from './loops/areas.ts'
import { logHandlers } from './logs/handlers.ts'
import { loopHandlers } from './loops/handlers.ts'
import { packageHandlers } from './package/handlers.ts'
import { logbookHandlers } from './logbook/handlers.ts'
import { registerHandlers } from './register/handlers.ts'
import { runHandlers } from './runs/handlers.ts'
import { setUpHandlers } from './set-up/handlers.ts'
import { loopLifeHandlers } from './loop-life/handlers.ts'
import { noteHandlers } from './notes/handlers.ts'
import { bearerOf } from './programs/bearer.ts'
import { programHandlers } from './programs/handlers.ts'
import { sensorHandlers } from './sensors/handlers.ts'
import { surveyHandlers } from './surveys/handlers.ts'
import { todayHandlers } from './today/handlers.ts'
import { settingsHandlers } from './settings/handlers.ts'
import { sessionHandlers } from './session/handlers.ts'
import { providerHandlers } from './session/provider-handlers.ts'
import type { Provider } from './session/provider.ts'
import { cookieName, endsWhenIdle, sessions } from './session/session.ts'
import type { Pool } from './work/pool.ts'
import { version } from './version.ts'

/** What a plant sets; everything has a value that is safe on one machine. */
export interface Settings {
  /** As people type it, `https://calm.plant.example`; null: this machine only. */
  readonly address: string | null
  /** A proxy whose word on who asks is trusted: its address; null: nobody's. */
  readonly proxy: string | null
  /** Shown on the sign-in page of the demo plant; nobody elsewhere. */
  readonly demo: readonly DemoSignIn[]
  readonly idleHours: number
  /** The plant's own sign-in, by OpenID Connect; null: everybody signs in here. */
  readonly provider: Provider | null
  /** Everything goes by https: the cookie is bound to this host and sent by nothing else. */
  readonly onlyHttps: boolean
  readonly dataFolder: string
  /** Where heads of the record are kept outside the database; null: nowhere. */
  readonly headsFile: string | null
  /** Where daily backups go; null: none are made. */
  readonly backupFolder: string | null
}

export interface Parts {
  readonly connection: Connection
  readonly live: Live
  readonly pool: Pool
  /** What the plant signs its heads and packages with. */
  readonly plantKey: PlantKey
  readonly clock: Clock
  readonly log: Logger
  /** The built web application; null serves the API alone. */
  readonly webFolder: string | null
  readonly settings: Settings
}

function systemHandlers(parts: Parts): Bound[] {
  const health = healthOf({ ...parts, ...parts.settings })
  return [
    bind(system.health, async ({ res }) => {
      const now = await health()
      if (!now.ok) res.status(503)
      return now
    }),
    bind(system.about, async () => {
      const { rows } = await parts.connection.pool.query<{ server_version: string }>('show server_version')
      return { version, node: process.versions.node, database: rows[0]?.server_version ?? '' }
    }),
    bind(system.description, openApi),
    bind(system.live, ({ req, res, person }) =>
      parts.live.join(res, { sessionId: req.sessionID, personId: person.id, address: req.ip ?? '' }),
    ),
  ]
}

/** What answers at each address of the contract. */
function handlersOf(parts: Parts): Bound[] {
  const { pool, clock } = parts
  const { db } = parts.connection
  const link = standInLink(db)
  return [
    // Addresses are tried one by one: what a hundred windows ask every second comes first.
    ...deviceHandlers(db, pool, clock, link),
    ...runHandlers(db, pool, clock, link),
    ...systemHandlers(parts),
    ...sessionHandlers(db, clock, parts.settings.demo, cookieName(parts.settings.onlyHttps)),
    ...providerHandlers(db, clock, parts.settings.provider, cookieName(parts.settings.onlyHttps)),
    ...registerHandlers(db, clock),
    ...logbookHandlers(db, clock),
    ...proofHandlers(parts.connection, parts.settings.headsFile),
    ...loopHandlers(db, pool, clock),
    ...noteHandlers(db, clock),
    ...loopLifeHandlers(db, pool, clock, parts.settings.address),
    ...diagnosisHandlers(db, clock),
    ...driftHandlers(db, clock),
    ...comparisonHandlers(db, clock),
    ...inputHandlers(db, clock),
    ...packageHandlers(db, pool, clock, parts.plantKey),
    ...loopListHandlers(db, clock),
    ...logHandlers(
      parts.connection,
      pool,
      clock,
      roomFor(() => freeOf(parts.settings.dataFolder)),
    ),
    ...surveyHandlers(parts.connection, pool, clock),
    ...todayHandlers(db, pool, clock),
    ...equipmentHandlers(db, clock),
    ...ownPartsHandlers(db, clock),
    ...sensorHandlers(db, clock),
    ...workshopHandlers(db, clock),
    ...settingsHandlers(db, clock),
    ...programHandlers(db, pool, clock),
    ...wiringHandlers(db, clock),
    ...setUpHandlers(db, clock),
    ...calcHandlers(db, pool, clock),
  ]
}

/** Text is sent smaller; a stream is not held back for it. */
const mayShrink: compression.CompressionFilter = (req, res) =>
  !String(res.getHeader('Content-Type') ?? '').startsWith('text/event-stream') && compression.filter(req, res)

/** There is no session where its store is away. */
const sessionPerson = (req: Partial<Pick<Request, 'session'>>): string | undefined => req.session?.personId

/** The whole application; it never listens. */
export async function createApp(parts: Parts): Promise<Express> {
  const { connection, log, webFolder, settings } = parts
  const app = express()
  app.disable('x-powered-by')
  // What the API answers is stored by nobody, so that nobody could ask whether it is still the same.
  app.disable('etag')
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
        req: (r: { id: string; method: string; url: string }) => ({
          id: r.id,
          method: r.method,
          // A calendar's address holds its token, that of the plant's own sign-in its code.
          url: r.url.replace(/([?&](?:token|code|state)=)[^&]*/g, '$1…'),
        }),
        res: (r: { statusCode: number }) => ({ status: r.statusCode }),
      },
      customLogLevel: (_req, res, error) => (error || res.statusCode >= 500 ? 'error' : 'debug'),
    }),
  )
  app.use(securityHeaders, readableAddress, knownHost(settings.address))
  app.use(compression({ filter: mayShrink }))
  if (webFolder !== null && existsSync(webFolder)) {
    app.use(
      '/assets',
      expressStaticGzip(join(webFolder, 'assets'), {
        enableBrotli: true,
        index: false,
        serveStatic: { immutable: true, maxAge: '365d', fallthrough: false },
      }),
    )
  }
  app.use('/api', keptByNobody, sameOriginWrites)
  // Who asks is known before anything large is read.
  app.use(
    '/api',
    await sessions(connection, parts.clock, settings.onlyHttps, settings.demo.length > 0),
    endsWhenIdle(settings.idleHours),
  )
  app.use('/api', samePersonWrites(sessionPerson))
  const personOf = async (req: Request): Promise<Person | null> =>
    sessionPerson(req) === undefined
      ? bearerOf(connection.db, req, parts.clock())
      : (req.session.person ?? null)
  app.use(
    routerOf(handlersOf(parts), {
      personOf,
      personOnLoop: (person, loop) => personOnLoop(connection.db, person, loop),
      fileLeft: fileLog(connection.db, parts.clock),
      reads: bodyReaders(sessionPerson),
    }),
  )
  app.use('/api', () => {
    throw notFound('address')
  })
  if (webFolder !== null) {
    app.use(express.static(webFolder, { index: false, maxAge: 0 }))
    app.get('/{*any}', (_req, res) => {
      res.sendFile(join(webFolder, 'index.html'), { headers: { 'Cache-Control': 'no-cache' } })
    })
  }
  app.use(problemHandler)
  return app
}
