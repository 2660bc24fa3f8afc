// Runs a built server program on the project's database: node scripts/with-database.mjs check-chain
import { spawnSync } from 'node:child_process'
import { join, resolve } from 'node:path'
import { ensureBuilt } from './lib/build.mjs'
import { ensurePackages, ensurePostgres, ROOT } from './lib/install.mjs'
import { openDatabase } from './lib/postgres.mjs'

ensurePackages()
ensureBuilt()
const dataDir = resolve(process.env['CALM_DATA_DIR'] ?? join(ROOT, 'data'))
const database = await openDatabase(process.env['DATABASE_URL'] ? '' : ensurePostgres(), dataDir)
// Ctrl-C is for the program, which leaves nothing half done; then the database stops as after any other end.
process.on('SIGINT', () => undefined)
const [program = '', ...more] = process.argv.slice(2)
const done = spawnSync(process.execPath, [join(ROOT, 'server/dist', `${program}.js`), ...more], {
  // Where it was called: the file that is named is there.
  cwd: process.env['INIT_CWD'] ?? ROOT,
  stdio: 'inherit',
  env: { ...process.env, DATABASE_URL: database.url, CALM_DATA_DIR: dataDir },
})
if (database.started) database.stop()
process.exitCode = done.status ?? 1
