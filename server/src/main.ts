import { readFileSync } from 'node:fs'
import { createServer } from 'node:http'
import { createServer as createSecureServer } from 'node:https'
import { isIP } from 'node:net'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { pino } from 'pino'
import { createApp, type Settings } from './app.ts'
import { systemClock } from './clock.ts'
import { connect } from './db/connection.ts'
import { shapeOf } from './db/migrate.ts'
import { backupOptions } from './plant/prepare.ts'
import { demoFiles, loadDemoPlant } from './demo/load.ts'
import { fillErrors } from './drift/store.ts'
import { startLive } from './http/live.ts'
import { scheduleBackups } from './plant/schedule.ts'
import { beginPlantLog } from './plant-log/note.ts'
import { plantKey, type PlantKey } from './plant-log/plant-key.ts'
import { startSender } from './programs/sender.ts'
import { startSealer } from './plant-log/sealer.ts'
import { tellHead } from './programs/tell-head.ts'
import { headsFile, keyFile } from './plant-log/where.ts'
import { readProvider } from './session/provider-settings.ts'
import { providerOf, type Provider } from './session/provider.ts'
import { startPool } from './work/pool.ts'

const STOP_AFTER_MS = 3_000
/** A client that is slower than this with its headers or its body gives its place to others. */
const HEADERS_MS = 15_000
const REQUEST_MS = 120_000
const MOST_CONNECTIONS = 2_000

const log = pino({ level: process.env['LOG_LEVEL'] ?? 'info' })

/** Ends with one sentence for the starter and the terminal, and no trace. */
function giveUp(says: string): never {
  process.send?.({ failed: says })
  process.stderr.write(`${says}\n`)
  process.exit(1)
}
/** A number from the environment, in its range. */
function numberOf(name: string, usual: number, least: number, most: number): number {
  const text = process.env[name]
  const n = text === undefined ? usual : Number(text)
  return n >= least && n <= most
    ? n
    : giveUp(`${name} is “${text}”. It must be a number from ${least} to ${most}.`)
}
function addressOf(text: string | undefined): string | null {
  if (text === undefined || text === '') return null
  try {
    if (/^https?:$/.test(new URL(text).protocol)) return text
  } catch {
    // Told below.
  }
  return giveUp(`CALM_ADDRESS is “${text}”. It must look like https://calm.plant.example.`)
}

/** The plant's own certificate and its key, as files; null: a proxy in front has them, or nobody needs them here. */
function tlsOf(cert = '', key = ''): { readonly cert: Buffer; readonly key: Buffer } | null {
  if (cert === '' && key === '') return null
  try {
    return { cert: readFileSync(cert), key: readFileSync(key) }
  } catch (error) {
    return giveUp(
      `CALM_TLS_CERT and CALM_TLS_KEY name the certificate and its key, both as files: ${error instanceof Error ? error.message : 'unknown'}.`,
    )
  }
}

const PROXY_WORDS = new Set(['loopback', 'linklocal', 'uniquelocal'])
/** Addresses of proxies, separated by commas; a wrong one would be found out by the first request. */
function proxyOf(text: string | undefined): string | null {
  if (text === undefined || text === '') return null
  const bad = text
    .split(',')
    .map((t) => t.trim())
    .find((t) => !PROXY_WORDS.has(t) && isIP(t.replace(/\/\d{1,3}$/, '')) === 0)
  return bad === undefined
    ? text
    : giveUp(`CALM_PROXY holds “${bad}”. It must be an address as 10.0.0.7 or 10.0.0.0/24, or loopback.`)
}
function plantKeyOrGiveUp(): PlantKey {
  try {
    return plantKey(keyFile(process.env), process.env['CALM_PLANT_KEY'] ?? null)
  } catch (error) {
    return giveUp(error instanceof Error ? error.message : String(error))
  }
}
/** The plant's own sign-in as the environment tells it; null: everybody signs in here. */
function providerOrGiveUp(): Provider | null {
  const told = readProvider(process.env)
  return typeof told === 'string' ? giveUp(told) : told && providerOf(told)
}
const cannotStart = (error: Error) => giveUp(`Calm Loop cannot start: ${error.message}`)
process.on('uncaughtException', cannotStart)

const url = process.env['DATABASE_URL']
if (!url) giveUp('DATABASE_URL is not set. Start with “npm start”, which sets it.')
const listen = process.env['CALM_LISTEN'] ?? '127.0.0.1'
if (isIP(listen) === 0)
  giveUp(`CALM_LISTEN is “${listen}”. It must be an address of this machine, as 127.0.0.1 or 0.0.0.0.`)
const port = numberOf('PORT', 4180, 1, 65_535)
const here = dirname(fileURLToPath(import.meta.url))
const webFolder =
  process.env['CALM_WEB'] === 'none' ? null : (process.env['CALM_WEB'] ?? join(here, '../../web/dist'))
const backups = backupOptions(process.env, fileURLToPath(import.meta.url))
const tls = tlsOf(process.env['CALM_TLS_CERT'], process.env['CALM_TLS_KEY'])
const address = addressOf(process.env['CALM_ADDRESS'])
const proxy = proxyOf(process.env['CALM_PROXY'])
const settings: Settings = {
  address,
  proxy,
  // Behind a proxy only where its word is taken: else nobody knows that the connection was secure.
  onlyHttps: tls !== null || (proxy !== null && address?.startsWith('https:') === true),
  demo: process.env['CALM_DEMO'] === 'none' ? [] : demoFiles().people,
  idleHours: numberOf('CALM_IDLE_HOURS', 8, 0.01, 168),
  provider: providerOrGiveUp(),
  headsFile: headsFile(process.env),
  dataFolder: process.env['CALM_DATA_DIR'] ?? '.',
  backupFolder: process.env['CALM_BACKUP_DIR'] === 'none' ? null : backups.folder,
}

const connection = connect(url, log)
const shape = await shapeOf(connection.pool).catch((error: unknown) =>
  giveUp(`The database cannot be used: ${error instanceof Error ? error.message : 'unknown'}.`),
)
if (shape.is !== 'same')
  giveUp(
    `The database has shape ${shape.here}; this program needs shape ${shape.known}. “npm start” makes it ready, after a backup.`,
  )
await fillErrors(connection.db)
if (process.env['CALM_DEMO'] !== 'none') await loadDemoPlant(connection.db)
await beginPlantLog(connection.db, new Date())
const ownKey = plantKeyOrGiveUp()
const stopSealing = startSealer(
  connection.db,
  ownKey,
  settings.headsFile,
  (head) => tellHead(connection.db, head),
  log,
)
const stopSending = startSender(connection.db, log)
const live = await startLive(connection.pool, log)
const pool = startPool()
const stopBackups =
  settings.backupFolder === null ? () => undefined : scheduleBackups(settings.backupFolder, url, log)
const app = await createApp({
  connection,
  live,
  pool,
  plantKey: ownKey,
  clock: systemClock,
  log,
  webFolder,
  settings,
})

const limits = { headersTimeout: HEADERS_MS, requestTimeout: REQUEST_MS }
const server = tls === null ? createServer(limits, app) : createSecureServer({ ...tls, ...limits }, app)
server.maxConnections = MOST_CONNECTIONS
server.on('error', (error: NodeJS.ErrnoException) =>
  giveUp(error.code === 'EADDRINUSE' ? `Port ${port} is in use.` : error.message),
)
server.listen(port, listen, () => {
  // From here on a fault is worth its trace: the starter starts the server again.
  process.off('uncaughtException', cannotStart)
  process.send?.({ listening: port })
})

let stopping = false
async function stop(): Promise<void> {
  if (stopping) return
  stopping = true
  setTimeout(() => process.exit(0), STOP_AFTER_MS).unref()
  stopBackups()
  await stopSending()
  await stopSealing()
  await live.stop()
  await pool.stop()
  await new Promise<void>((done) => {
    server.close(() => done())
    server.closeIdleConnections()
  })
  await connection.pool.end()
  process.exit(0)
}
process.on('SIGTERM', () => void stop())
process.on('SIGINT', () => void stop())
// The starter died: do not keep its port.
process.on('disconnect', () => void stop())
// The starter asks whether this thread still answers; one that does not is ended and started again.
process.on('message', (message: unknown) => {
  if (message === 'ping') process.send?.({ pong: true })
})
