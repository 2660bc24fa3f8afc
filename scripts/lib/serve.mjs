import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { ROOT } from './install.mjs'

/**
 * Starts the built server on a database and waits until it listens.
 * @param {{ url: string, port: number, env?: Record<string, string>, quiet?: boolean }} options
 * @returns {Promise<{ stop: () => Promise<void>, gone: Promise<number>, pid: number }>}
 */
export function serve({ url, port, env = {}, quiet = false }) {
  const child = spawn(process.execPath, ['--enable-source-maps', join(ROOT, 'server/dist/main.js')], {
    cwd: ROOT,
    // Detached: Ctrl-C reaches only the starter, which stops server and database in order.
    detached: true,
    stdio: ['ignore', quiet ? 'ignore' : 'inherit', 'inherit', 'ipc'],
    env: { ...process.env, DATABASE_URL: url, PORT: String(port), ...env },
  })
  /** @type {Promise<number>} */
  const gone = new Promise((done) => child.on('exit', (code) => done(code ?? 1)))
  const stop = async () => {
    if (child.exitCode === null) child.kill('SIGTERM')
    await gone
  }
  return new Promise((done, fail) => {
    child.on('message', (/** @type {{listening?: number, failed?: string}} */ m) => {
      if (m.listening) done({ stop, gone, pid: child.pid ?? 0 })
      else if (m.failed) fail(new Error(m.failed))
    })
    gone.then((code) => fail(new Error(`The server ended with code ${code} before it answered.`)))
  })
}
