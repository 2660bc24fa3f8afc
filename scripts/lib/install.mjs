import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { giveUp, say } from './say.mjs'

export const ROOT = join(import.meta.dirname, '../..')
const isRoot = process.getuid?.() === 0

/** Installs the npm packages when the lock file or Node changed since the last time. */
export function ensurePackages() {
  const stamp = join(ROOT, 'node_modules/.calm-stamp')
  const want = createHash('sha256')
    .update(readFileSync(join(ROOT, 'package-lock.json')))
    .update(process.version)
    .digest('hex')
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === want) return
  say('Installing packages …')
  const done = spawnSync('npm', ['ci', '--prefer-offline', '--no-audit', '--no-fund'], {
    cwd: ROOT,
    stdio: ['ignore', 'ignore', 'inherit'],
  })
  if (done.status !== 0)
    giveUp('npm could not install the packages. Check the network to the npm registry, then try again.')
  writeFileSync(stamp, want)
}

/**
 * Installs Debian packages when this user may, else says what to type.
 * @param {string[]} names
 * @param {string} why
 */
function ensureDebian(names, why) {
  const command = `apt-get install -y --no-install-recommends ${names.join(' ')}`
  if (!isRoot || !existsSync('/usr/bin/apt-get'))
    giveUp(`${why} is missing. Install it with: sudo ${command}`)
  say(`Installing ${why} …`)
  // Without this the package makes and starts a cluster of its own on port 5432.
  if (names.includes('postgresql')) {
    mkdirSync('/etc/postgresql-common', { recursive: true })
    const conf = '/etc/postgresql-common/createcluster.conf'
    if (!existsSync(conf)) writeFileSync(conf, 'create_main_cluster = false\n')
  }
  const wait = ['-o', 'DPkg::Lock::Timeout=300']
  spawnSync('apt-get', [...wait, 'update', '-qq'], { stdio: ['ignore', 'ignore', 'inherit'] })
  const done = spawnSync('apt-get', [...wait, 'install', '-y', '-qq', '--no-install-recommends', ...names], {
    stdio: ['ignore', 'ignore', 'inherit'],
    env: { ...process.env, DEBIAN_FRONTEND: 'noninteractive' },
  })
  if (done.status !== 0) giveUp(`${why} could not be installed. Try it by hand: ${command}`)
}

/** Folder of the newest PostgreSQL server programs, or null. */
function findPostgres() {
  const base = '/usr/lib/postgresql'
  if (!existsSync(base)) return null
  const versions = readdirSync(base)
    .filter((v) => existsSync(join(base, v, 'bin/initdb')))
    .sort((a, b) => Number(b) - Number(a))
  return versions[0] ? join(base, versions[0], 'bin') : null
}

/** @returns {string} folder of the PostgreSQL server programs */
export function ensurePostgres() {
  const found = findPostgres()
  if (found) return found
  ensureDebian(['postgresql'], 'PostgreSQL')
  return findPostgres() ?? giveUp('PostgreSQL was installed but its programs are not where Debian puts them.')
}

const BROWSERS = ['/usr/bin/chromium', '/usr/bin/chromium-headless-shell']
/** @returns {string} the browser that tests and pictures are made with: the one without a window where it is there */
export function ensureChromium() {
  const found = BROWSERS.find((b) => existsSync(b))
  if (found) return found
  ensureDebian(['chromium-headless-shell'], 'Chromium (for the browser tests)')
  return (
    BROWSERS.find((b) => existsSync(b)) ??
    giveUp('Chromium was installed but it is not where Debian puts it.')
  )
}
