// npm start: installs what is missing, starts the database, migrates, loads the demo plant, builds, serves.
import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { ensureBuilt } from './lib/build.mjs'
import { ensurePackages, ensurePostgres, ROOT } from './lib/install.mjs'
import { openDatabase, startCluster } from './lib/postgres.mjs'
import { giveUp, say } from './lib/say.mjs'
import { serve } from './lib/serve.mjs'

const port = Number(process.env['PORT'] ?? 4180)
if (!Number.isInteger(port) || port < 1 || port > 65535)
  giveUp(`PORT is “${process.env['PORT']}”. It must be a number from 1 to 65535.`)
const dataDir = process.env['CALM_DATA_DIR'] ?? join(ROOT, 'data')

ensurePackages()
const bin = process.env['DATABASE_URL'] ? '' : ensurePostgres()
ensureBuilt()
const database = await openDatabase(bin, dataDir)

/** @type {Awaited<ReturnType<typeof serve>> | null} */
let server = null
let stopping = false
async function stop() {
  if (stopping) return
  stopping = true
  await server?.stop()
  if (database.started) database.stop()
  process.exit(0)
}
for (const signal of /** @type {const} */ (['SIGINT', 'SIGTERM', 'SIGHUP']))
  process.on(signal, () => void stop())

try {
  server = await serve({ url: database.url, port, env: { LOG_LEVEL: process.env['LOG_LEVEL'] ?? 'warn' } })
} catch (error) {
  if (database.started) database.stop()
  giveUp(`${error instanceof Error ? error.message : error} Choose another port with PORT=4181 npm start.`)
}
/** @type {{name: string, role: string, password: string}[]} */
const people = JSON.parse(readFileSync(join(ROOT, 'demo/people.json'), 'utf8'))
say(`\nCalm Loop is at http://127.0.0.1:${port}`)
say('Demo sign-ins (on a fresh database):')
for (const p of people) say(`  ${p.name.padEnd(8)} ${p.password}   ${p.role}`)
say('Stop with Ctrl-C.')

// A database that was killed comes back on its port; the server connects again and windows send what they kept.
const LOOK_EVERY_MS = 2000
let mending = false
setInterval(() => {
  if (stopping || mending || database.alive()) return
  mending = true
  say('The database has stopped; starting it again …')
  startCluster(bin, dataDir, database.port).then(
    () => (mending = false),
    () => (mending = false),
  )
}, LOOK_EVERY_MS).unref()

const code = await server.gone
if (!stopping) {
  if (database.started) database.stop()
  giveUp(`The server ended with code ${code}.`)
}
