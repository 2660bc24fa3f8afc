import { generateKeyPairSync } from 'node:crypto'
import { inject } from 'vitest'
import { pino } from 'pino'
import pg from 'pg'
import supertest from 'supertest'
import type TestAgent from 'supertest/lib/agent.js'
import { createApp, type Parts, type Settings } from '../app.ts'
import { connect, type Connection } from '../db/connection.ts'
import { plantKey } from '../plant-log/plant-key.ts'
import { prepareDatabase } from '../plant/prepare.ts'
import { demoFiles, loadDemoPlant } from '../demo/load.ts'
import { startLive } from '../http/live.ts'
import { startPool } from '../work/pool.ts'
import { freshDatabase } from './database.ts'

export interface TestApp {
  /** As the application works: a role that owns nothing. */
  readonly connection: Connection
  readonly parts: Parts
  readonly as: (name: 'wren' | 'dunlin' | 'heron' | 'plover' | 'tern') => Promise<TestAgent>
  readonly anyone: () => TestAgent
  /** As somebody with the whole database in hand: what is never changed can be changed. */
  readonly tamper: (sql: string) => Promise<void>
  readonly ownerUrl: string
  readonly stop: () => Promise<void>
}

/** The day on which all server tests take place; time goes on from there. */
const TODAY_MS = Date.parse('2026-11-27T12:00:00.000Z')
const BEGAN_MS = Date.now()
export const testClock = () => new Date(TODAY_MS + Date.now() - BEGAN_MS)
/** A plant's key that is kept nowhere. */
export const testKey = () =>
  plantKey('', String(generateKeyPairSync('ed25519').privateKey.export({ format: 'pem', type: 'pkcs8' })))
const NO_BACKUPS = { folder: '/dev/null/backups', passphrase: null }

/**
 * The whole application on a database of its own, with the demo plant.
 * @param own - a demo plant loaded anew, whose people and loops have other identifiers than everybody else's
 * @param empty - nobody and nothing in it
 * @param beside - a second server on the database of that one
 */
export async function testApp({
  own = false,
  empty = false,
  beside,
  settings = {},
  clock = testClock,
}: {
  own?: boolean
  empty?: boolean
  beside?: TestApp
  settings?: Partial<Settings>
  clock?: () => Date
} = {}): Promise<TestApp> {
  const log = pino({ level: 'silent' })
  const ownerUrl =
    beside?.ownerUrl ??
    (await freshDatabase(inject('databaseUrl'), own || empty ? 'template_calm' : 'template_demo'))
  const { url } = await prepareDatabase(ownerUrl, NO_BACKUPS)
  const connection = connect(url, log)
  if (own) await loadDemoPlant(connection.db)
  const live = await startLive(connection.pool, log)
  const pool = startPool(1)
  const parts: Parts = {
    connection,
    live,
    pool,
    plantKey: beside?.parts.plantKey ?? testKey(),
    clock,
    log,
    webFolder: null,
    settings: {
      address: null,
      proxy: null,
      idleHours: 8,
      provider: null,
      onlyHttps: false,
      demo: demoFiles().people,
      headsFile: null,
      dataFolder: '.',
      backupFolder: null,
      ...settings,
    },
  }
  const app = await createApp(parts)
  const anyone = () => supertest.agent(app)
  return {
    connection,
    parts,
    anyone,
    ownerUrl,
    async as(name) {
      const agent = anyone()
      await agent.post('/api/session').send({ name, password: 'salt-and-water' }).expect(200)
      return agent
    },
    async tamper(sql) {
      const client = new pg.Client({ connectionString: ownerUrl })
      await client.connect()
      await client.query('set session_replication_role = replica')
      await client.query(sql)
      await client.end()
    },
    async stop() {
      await live.stop()
      await pool.stop()
      await connection.pool.end()
    },
  }
}
