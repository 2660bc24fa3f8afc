// npm start: installs what is missing, starts the database, migrates, loads the demo plant, builds, serves.
// npm run serve: the same for a plant of one's own, in a folder of its own, without the demo plant.
import { readFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { ensureBuilt } from './lib/build.mjs'
import { ensurePackages, ensurePostgres, ROOT } from './lib/install.mjs'
import { takeFolder } from './lib/one-start.mjs'
import { openDatabase, startCluster } from './lib/postgres.mjs'
import { giveUp, say } from './lib/say.mjs'
import { CannotServe, prepare, serveOn } from './lib/serve.mjs'

const port = Number(process.env['PORT'] ?? 4180)
if (!Number.isInteger(port) || port < 1 || port > 65535)
  giveUp(`PORT is “${process.env['PORT']}”. It must be a number from 1 to 65535.`)
const own = process.argv.includes('--own')
const dataDir = resolve(process.env['CALM_DATA_DIR'] ?? join(ROOT, own ? 'plant' : 'data'))
const demo = !own && process.env['CALM_DEMO'] !== 'none'
const ownDatabase = !process.env['DATABASE_URL']
const scheme = process.env['CALM_TLS_CERT'] ? 'https' : 'http'
/** @type {Record<string, string>} */
const env = {
  CALM_DATA_DIR: dataDir,
  CALM_BACKUP_DIR: process.env['CALM_BACKUP_DIR'] ?? join(dataDir, 'backups'),
  ...(demo ? {} : { CALM_DEMO: 'none' }),
  LOG_LEVEL: process.env['LOG_LEVEL'] ?? 'warn',
}

/** @type {Awaited<ReturnType<typeof openDatabase>> | null} */
let database = null
/** @type {Awaited<ReturnType<typeof serveOn>> | null} */
let server = null
/** @type {(() => void) | null} */
let giveBack = null
let stopping = false
/** In order: the server, then the database. @param {number} code */
async function stop(code) {
  if (stopping) return
  stopping = true
  await server?.stop()
  if (database?.started) database.stop()
  giveBack?.()
  process.exit(code)
}
// From here on, whatever ends this process ends what it started.
for (const signal of /** @type {const} */ (['SIGINT', 'SIGTERM', 'SIGHUP']))
  process.on(signal, () => void stop(0))
// npm ends without a word to us when a service manager ends it: who lost the parent stops too.
const parent = process.env['npm_lifecycle_event'] === undefined ? null : process.ppid
const PARENT_EVERY_MS = 500
setInterval(() => {
  if (parent !== null && process.ppid !== parent) void stop(0)
}, PARENT_EVERY_MS).unref()
process.on('exit', () => giveBack?.())
for (const kind of ['uncaughtException', 'unhandledRejection'])
  process.on(kind, (error) => void failed(error))
/** Ends what was started, with one sentence. @param {unknown} error @returns {Promise<never>} */
async function failed(error) {
  await server?.stop()
  if (database?.started) database.stop()
  giveBack?.()
  const says = error instanceof Error ? error.message : String(error)
  return giveUp(
    /^Port \d+ is in use/.test(says) ? `${says} Choose another port with PORT=4181 npm start.` : says,
  )
}

ensurePackages()
if (ownDatabase) giveBack = takeFolder(dataDir)
const bin = ownDatabase ? ensurePostgres() : ''
ensureBuilt()
database = await openDatabase(bin, dataDir)

let url = ''
try {
  const prepared = await prepare(database.url, env)
  url = prepared.url
  if (prepared.backup)
    say(`The plant was kept in ${prepared.backup} before its database was brought up to date.`)
  if (!prepared.ownRole)
    say('The database’s role may not make another: Calm Loop works as the owner. See docs/running.md.')
  server = await serveOn({ url, port, env })
} catch (error) {
  await failed(error)
}
/** @type {{name: string, role: string, password: string}[]} */
const people = JSON.parse(readFileSync(join(ROOT, 'demo/people.json'), 'utf8'))
say(`\nCalm Loop is at ${scheme}://127.0.0.1:${port}`)
if (demo) {
  say('Demo sign-ins (on a fresh database):')
  for (const p of people) say(`  ${p.name.padEnd(8)} ${p.password}   ${p.role}`)
}
if (!demo) say('A plant of your own: whoever opens the page first becomes its first administrator.')
say('Stop with Ctrl-C.')

// A database that was killed comes back on its port; the server connects again and windows send what they kept.
const LOOK_EVERY_MS = 1000
let mending = false
setInterval(() => {
  if (stopping || mending || !database || database.alive()) return
  mending = true
  say('The database has stopped; starting it again …')
  startCluster(bin, dataDir, database.port).then(
    () => (mending = false),
    () => (mending = false),
  )
}, LOOK_EVERY_MS).unref()

// A server that fell is started again; one that falls at once, again and again, is not.
const SHORT_LIFE_MS = 10_000
const MOST_SHORT_LIVES = 5
let short = 0
while (server && !stopping) {
  const began = Date.now()
  const code = await server.gone
  if (stopping) break
  short = Date.now() - began < SHORT_LIFE_MS ? short + 1 : 0
  if (short > MOST_SHORT_LIVES)
    await failed(new Error(`The server fell ${short} times in a row (code ${code}).`))
  say(`The server has stopped (code ${code}); starting it again …`)
  await new Promise((done) => setTimeout(done, Math.min(8_000, 250 * 2 ** short)))
  if (stopping) break
  try {
    server = await serveOn({ url, port, env })
    say(`Calm Loop is back at ${scheme}://127.0.0.1:${port}`)
  } catch (error) {
    // The database may be away too: it is looked for again after a while.
    if (!(error instanceof CannotServe) || short >= MOST_SHORT_LIVES) await failed(error)
    say(error instanceof Error ? error.message : String(error))
    server = { stop: async () => undefined, gone: Promise.resolve(1), pid: 0 }
  }
}
