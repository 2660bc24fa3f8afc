import { chmodSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { ensurePostgres } from '../../scripts/lib/install.mjs'
import { freePort, startCluster } from '../../scripts/lib/postgres.mjs'
import { serve } from '../../scripts/lib/serve.mjs'

/** The technician that most journeys begin with is signed in once for all of them. */
async function sessionCookie(url: string): Promise<string> {
  const answer = await fetch(`${url}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ name: 'wren', password: 'salt-and-water' }),
  })
  const cookie = answer.headers.getSetCookie()[0]?.split(';')[0]
  if (!answer.ok || cookie === undefined) throw new Error(`sign-in answered ${answer.status}`)
  return cookie
}

/** The built product on a database of its own with the demo plant, for all journeys. */
export default async function start(): Promise<() => Promise<void>> {
  const folder = mkdtempSync(join(tmpdir(), 'calm-e2e-'))
  chmodSync(folder, 0o755)
  const bin = ensurePostgres()
  const cluster = await startCluster(bin, folder, undefined, true)
  const port = await freePort()
  const server = await serve({ url: cluster.url, port, env: { LOG_LEVEL: 'warn' } })
  process.env['CALM_E2E_URL'] = `http://127.0.0.1:${port}`
  process.env['CALM_E2E_DATABASE'] = cluster.url
  process.env['CALM_E2E_COOKIE'] = await sessionCookie(`http://127.0.0.1:${port}`)
  return async () => {
    await server.stop()
    cluster.stop()
    rmSync(folder, { recursive: true, force: true })
  }
}
