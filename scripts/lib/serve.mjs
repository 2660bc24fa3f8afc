import { spawn } from 'node:child_process'
import { generateKeyPairSync } from 'node:crypto'
import { join } from 'node:path'
import { ROOT } from './install.mjs'
import { say } from './say.mjs'

/** Thrown with one sentence for the person at the terminal. */
export class CannotServe extends Error {}

/** A main thread that left so many questions unanswered does not come back by itself. Counted, not timed: after a
 * machine's sleep it has only missed one. */
const MOST_UNANSWERED = 10
const ASK_EVERY_MS = 2_000

/**
 * Makes a database ready by its owner's address: shape, backup before a change, the application's own role.
 * @param {string} url @param {Record<string, string>} [env]
 * @returns {Promise<{ url: string, ownRole: boolean, backup: string | null }>}
 */
export function prepare(url, env = {}) {
  const child = spawn(process.execPath, ['--enable-source-maps', join(ROOT, 'server/dist/prepare.js')], {
    cwd: ROOT,
    stdio: ['ignore', 'ignore', 'pipe', 'ipc'],
    env: { ...process.env, ...env, DATABASE_URL: url },
  })
  let trace = ''
  child.stderr?.setEncoding('utf8').on('data', (text) => (trace += text))
  return new Promise((done, fail) => {
    child.on('message', (/** @type {{prepared?: any, refused?: string}} */ m) => {
      if (m.prepared) done(m.prepared)
      else if (m.refused) fail(new CannotServe(m.refused))
    })
    child.on('error', (error) => fail(new CannotServe(error.message)))
    child.on('close', (code) =>
      fail(
        new CannotServe(
          `The database could not be made ready (${code}): ${trace.trim().split('\n').at(-1) ?? 'no reason given'}`,
        ),
      ),
    )
  })
}

/**
 * Starts the built server on a prepared database and waits until it listens. A server whose main thread does not
 * answer is ended: whoever waits for `gone` starts it again.
 * @param {{ url: string, port: number, env?: Record<string, string>, quiet?: boolean }} options
 * @returns {Promise<{ stop: () => Promise<void>, gone: Promise<number>, pid: number }>}
 */
export function serveOn({ url, port, env = {}, quiet = false }) {
  const child = spawn(process.execPath, ['--enable-source-maps', join(ROOT, 'server/dist/main.js')], {
    cwd: ROOT,
    // Detached: Ctrl-C reaches only the starter, which stops server and database in order.
    detached: true,
    stdio: ['ignore', quiet ? 'ignore' : 'inherit', 'pipe', 'ipc'],
    env: { ...process.env, ...env, DATABASE_URL: url, PORT: String(port) },
  })
  let failed = false
  child.stderr?.on('data', (text) => {
    // What it could not start with is told once, by the starter.
    if (!failed && !quiet) process.stderr.write(text)
  })
  let unanswered = 0
  /** @type {NodeJS.Timeout | undefined} */
  let watchdog
  const watch = () => {
    watchdog = setInterval(() => {
      if (!child.connected) return
      if (unanswered >= MOST_UNANSWERED) {
        if (!quiet) say('The server does not answer; it is ended and started again.')
        child.kill('SIGKILL')
      } else {
        unanswered++
        child.send('ping', () => undefined)
      }
    }, ASK_EVERY_MS)
    watchdog.unref()
  }
  /** @type {Promise<number>} */
  const gone = new Promise((done) =>
    child.on('exit', (code) => {
      clearInterval(watchdog)
      done(code ?? 1)
    }),
  )
  const stop = async () => {
    if (child.exitCode === null && child.signalCode === null) child.kill('SIGTERM')
    await gone
  }
  return new Promise((done, fail) => {
    child.on('message', (/** @type {{listening?: number, failed?: string, pong?: boolean}} */ m) => {
      unanswered = 0
      if (m.listening) {
        // Not before: loading a plant may keep it busy.
        watch()
        done({ stop, gone, pid: child.pid ?? 0 })
      } else if (m.failed) {
        failed = true
        fail(new CannotServe(m.failed))
      }
    })
    void gone.then((code) => fail(new CannotServe(`The server ended with code ${code} before it answered.`)))
  })
}

/**
 * Prepares the database by its owner's address, then serves as the application's own role: for tests, benches and
 * pictures, which keep no daily backups.
 * @param {Parameters<typeof serveOn>[0]} options
 */
export async function serve(options) {
  // Nor do they sign with the key of a plant that is at work here, or tell anybody its heads.
  const { privateKey } = generateKeyPairSync('ed25519')
  const pem = String(privateKey.export({ format: 'pem', type: 'pkcs8' }))
  const env = { CALM_BACKUP_DIR: 'none', CALM_PLANT_KEY: pem, CALM_HEADS_FILE: 'none', ...options.env }
  const prepared = await prepare(options.url, env)
  return serveOn({ ...options, url: prepared.url, env })
}
