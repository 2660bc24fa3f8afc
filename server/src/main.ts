import { createServer } from 'node:http'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { pino } from 'pino'
import { createApp } from './app.ts'
import { connect } from './db/connection.ts'
import { migrate } from './db/migrate.ts'
import { loadDemoPlant } from './demo/load.ts'
import { fillErrors } from './drift/store.ts'
import { startLive } from './http/live.ts'

const STOP_AFTER_MS = 3_000

const log = pino({ level: process.env['LOG_LEVEL'] ?? 'info' })
const url = process.env['DATABASE_URL']
if (!url) throw new Error('DATABASE_URL is not set; start with “npm start”, which sets it')
const port = Number(process.env['PORT'] ?? 4180)
const here = dirname(fileURLToPath(import.meta.url))
const webFolder =
  process.env['CALM_WEB'] === 'none' ? null : (process.env['CALM_WEB'] ?? join(here, '../../web/dist'))

const connection = connect(url, log)
await migrate(connection.db)
await fillErrors(connection.db)
if (process.env['CALM_DEMO'] !== 'none') await loadDemoPlant(connection.db)
const live = await startLive(connection.pool, log)
const app = await createApp({
  connection,
  live,
  log,
  webFolder,
  signInsPerMinute: Number(process.env['CALM_SIGN_INS_PER_MINUTE'] ?? 10),
})

const server = createServer(app)
server.listen(port, '127.0.0.1', () => process.send?.({ listening: port }))
server.on('error', (error: NodeJS.ErrnoException) => {
  process.send?.({ failed: error.code === 'EADDRINUSE' ? `Port ${port} is in use.` : error.message })
  process.exit(1)
})

let stopping = false
async function stop(): Promise<void> {
  if (stopping) return
  stopping = true
  setTimeout(() => process.exit(0), STOP_AFTER_MS).unref()
  await live.stop()
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
