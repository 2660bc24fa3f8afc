import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { ROOT } from './install.mjs'
import { giveUp, say } from './say.mjs'

const SOURCES = [
  'core/src',
  'contract/src',
  'server/src',
  'server/migrations',
  'web/src',
  'web/building',
  'web/public',
]
const FILES = [
  'package-lock.json',
  'web/index.html',
  'web/vite.config.ts',
  'server/build.mjs',
  'server/build-worker.mjs',
  'server/bundled.mjs',
]

/** Name, size and time of every source file: cheap to read and different whenever something changed. */
function fingerprint() {
  const hash = createHash('sha256')
  const add = (/** @type {string} */ file) => {
    const s = statSync(file)
    hash.update(`${file}:${s.size}:${s.mtimeMs};`)
  }
  const walk = (/** @type {string} */ dir) => {
    for (const e of readdirSync(dir, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1))) {
      const path = join(dir, e.name)
      if (e.isDirectory()) walk(path)
      else add(path)
    }
  }
  for (const dir of SOURCES) if (existsSync(join(ROOT, dir))) walk(join(ROOT, dir))
  for (const file of FILES) add(join(ROOT, file))
  return hash.digest('hex')
}

/** Builds web and server when a source changed since the last build. */
export function ensureBuilt() {
  const stamp = join(ROOT, 'server/dist/.stamp')
  const now = fingerprint()
  const whole = existsSync(join(ROOT, 'web/dist/index.html')) && existsSync(join(ROOT, 'server/dist/main.js'))
  if (whole && existsSync(stamp) && readFileSync(stamp, 'utf8') === now) return
  say('Building …')
  const done = spawnSync('npm', ['run', '--silent', 'build'], {
    cwd: ROOT,
    stdio: ['ignore', 'pipe', 'pipe'],
    encoding: 'utf8',
  })
  if (done.status !== 0) giveUp(`The build failed:\n${done.stdout}\n${done.stderr}`)
  writeFileSync(stamp, now)
}
