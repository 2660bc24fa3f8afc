// npm run dev: the server restarts and the pages reload as files change.
import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { ensurePackages, ensurePostgres, ROOT } from './lib/install.mjs'
import { openDatabase } from './lib/postgres.mjs'
import { say } from './lib/say.mjs'
import { ensureBuilt } from './lib/build.mjs'
import { prepare } from './lib/serve.mjs'
import { buildWorker } from '../server/build-worker.mjs'

ensurePackages()
const database = await openDatabase(
  process.env['DATABASE_URL'] ? '' : ensurePostgres(),
  process.env['CALM_DATA_DIR'] ?? join(ROOT, 'data'),
)
ensureBuilt()
const { url } = await prepare(database.url)
const port = process.env['PORT'] ?? '4180'
const run = (/** @type {string[]} */ args, /** @type {Record<string, string>} */ env) =>
  spawn(process.execPath, args, { cwd: ROOT, stdio: 'inherit', env: { ...process.env, ...env } })
const children = [
  run(['node_modules/tsx/dist/cli.mjs', 'watch', '--clear-screen=false', 'server/src/main.ts'], {
    DATABASE_URL: url,
    CALM_WORKER: await buildWorker(),
    CALM_BACKUP_DIR: 'none',
    PORT: port,
    CALM_WEB: 'none',
    LOG_LEVEL: 'info',
  }),
  run(['node_modules/vite/bin/vite.js', 'web', '--host', '127.0.0.1'], {
    CALM_API: `http://127.0.0.1:${port}`,
  }),
]
const stop = () => {
  for (const child of children) child.kill('SIGTERM')
  if (database.started) database.stop()
  process.exit(0)
}
for (const signal of /** @type {const} */ (['SIGINT', 'SIGTERM'])) process.on(signal, stop)
say('Pages with hot reload: http://127.0.0.1:5173')
