// npm run bench: measures what the product promises, on this machine, now. npm run bench kills: see bench/kills.ts.
import { spawnSync } from 'node:child_process'
import { ensureBuilt } from './lib/build.mjs'
import { ensureChromium, ensurePackages, ROOT } from './lib/install.mjs'

ensurePackages()
ensureChromium()
ensureBuilt()
const done = spawnSync(
  process.execPath,
  ['node_modules/tsx/dist/cli.mjs', `bench/${process.argv[2] ?? 'main'}.ts`, ...process.argv.slice(3)],
  {
    cwd: ROOT,
    stdio: 'inherit',
  },
)
process.exitCode = done.status ?? 1
