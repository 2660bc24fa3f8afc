import { randomUUID } from 'node:crypto'
import { mkdtempSync, rmSync, chmodSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { TestProject } from 'vitest/node'
import pg from 'pg'
import { connect } from '../db/connection.ts'
import { prepareDatabase } from '../plant/prepare.ts'
import { loadDemoPlant } from '../demo/load.ts'
// The same program that starts the product's own cluster: tests run on a real PostgreSQL.
import { ensurePostgres } from '../../../scripts/lib/install.mjs'
import { startCluster } from '../../../scripts/lib/postgres.mjs'
import { buildWorker } from '../../build-worker.mjs'

declare module 'vitest' {
  interface ProvidedContext {
    databaseUrl: string
  }
}

const quiet = { warn: () => undefined }

/** One cluster for all server tests with a migrated template database; thrown away afterwards. */
export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const folder = mkdtempSync(join(tmpdir(), 'calm-test-'))
  chmodSync(folder, 0o755)
  const cluster = await startCluster(ensurePostgres(), folder, undefined, true)
  const { pool } = connect(cluster.url, quiet)
  await pool.query('create database template_calm')
  await pool.end()
  process.env['CALM_WORKER'] = await buildWorker()
  await prepareDatabase(databaseUrl(cluster.url, 'template_calm'), { folder: folder, passphrase: null })
  // Loading the demo plant takes seconds; copying it does not.
  const demo = connect(await freshDatabase(cluster.url, 'template_calm', 'template_demo'), quiet)
  await loadDemoPlant(demo.db)
  await demo.pool.end()
  project.provide('databaseUrl', cluster.url)
  return () => {
    cluster.stop()
    rmSync(folder, { recursive: true, force: true })
    return Promise.resolve()
  }
}

export function databaseUrl(url: string, name: string): string {
  const u = new URL(url)
  u.pathname = `/${name}`
  return u.toString()
}

/** A database of its own for one test file, copied from the migrated template, or the one with the demo plant. */
export async function freshDatabase(
  clusterUrl: string,
  template: 'template_calm' | 'template_demo' = 'template_calm',
  name = `t_${randomUUID().replaceAll('-', '')}`,
): Promise<string> {
  const client = new pg.Client({ connectionString: clusterUrl })
  await client.connect()
  await client.query(`create database ${name} template ${template}`)
  await client.end()
  return databaseUrl(clusterUrl, name)
}
