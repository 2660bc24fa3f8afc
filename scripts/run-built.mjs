// Runs a built server program that needs no database: node scripts/run-built.mjs server/dist/check-package.js FILE
import { spawnSync } from 'node:child_process'
import { ensureBuilt } from './lib/build.mjs'
import { ensurePackages } from './lib/install.mjs'

ensurePackages()
ensureBuilt()
process.exitCode = spawnSync(process.execPath, process.argv.slice(2), { stdio: 'inherit' }).status ?? 1
