import { randomBytes } from 'node:crypto'
import pg from 'pg'
import { freePort } from '../../scripts/lib/postgres.mjs'
import { serve } from '../../scripts/lib/serve.mjs'

type Environment = Readonly<Record<string, string>>
/**
 * The built product on a database of its own: what a journey decides there disturbs no other.
 * @param env - what a plant sets, or that by the address on which it will be
 */
export async function ownServer(
  env: Environment | ((url: string) => Environment) = {},
): Promise<{ readonly url: string; readonly stop: () => Promise<void> }> {
  const owner = process.env['CALM_E2E_DATABASE'] ?? ''
  const name = `own_${randomBytes(6).toString('hex')}`
  const client = new pg.Client({ connectionString: owner })
  await client.connect()
  await client.query(`create database ${name}`)
  await client.end()
  const database = new URL(owner)
  database.pathname = `/${name}`
  const port = await freePort()
  const url = `http://127.0.0.1:${port}`
  const told = typeof env === 'function' ? env(url) : env
  const server = await serve({ url: database.toString(), port, env: { LOG_LEVEL: 'warn', ...told } })
  return { url, stop: () => server.stop() }
}
