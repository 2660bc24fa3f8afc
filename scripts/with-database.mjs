// Runs a built server program on the project's database: node scripts/with-database.mjs server/dist/check-chain.js
import { spawnSync } from 'node:child_process'
import { join } from 'node:path'
import { ensureBuilt } from './lib/build.mjs'
import { ensurePackages, ensurePostgres, ROOT } from './lib/install.mjs'
import { openDatabase } from './lib/postgres.mjs'

ensurePackages()
ensureBuilt()
const database = await openDatabase(
  process.env['DATABASE_URL'] ? '' : ensurePostgres(),
  process.env['CALM_DATA_DIR'] ?? join(ROOT, 'data'),
)
const done = spawnSync(process.execPath, process.argv.slice(2), {
  cwd: ROOT,
  stdio: 'inherit',
  env: { ...process.env, DATABASE_URL: database.url },
})
if (database.started) database.stop()
process.exitCode = done.status ?? 1
