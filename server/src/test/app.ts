import { inject } from 'vitest'
import { pino } from 'pino'
import supertest from 'supertest'
import type TestAgent from 'supertest/lib/agent.js'
import { createApp } from '../app.ts'
import { connect, type Connection } from '../db/connection.ts'
import { loadDemoPlant } from '../demo/load.ts'
import { startLive } from '../http/live.ts'
import { freshDatabase } from './database.ts'

export interface TestApp {
  readonly connection: Connection
  readonly as: (name: 'wren' | 'dunlin' | 'heron' | 'tern') => Promise<TestAgent>
  readonly anyone: () => TestAgent
  readonly stop: () => Promise<void>
}

/**
 * The whole application on a database of its own, with the demo plant.
 * @param own - a demo plant loaded anew, whose people and loops have other identifiers than everybody else's
 */
export async function testApp({ signInsPerMinute = 1000, own = false } = {}): Promise<TestApp> {
  const log = pino({ level: 'silent' })
  const template = own ? 'template_calm' : 'template_demo'
  const connection = connect(await freshDatabase(inject('databaseUrl'), template), log)
  if (own) await loadDemoPlant(connection.db)
  const live = await startLive(connection.pool, log)
  const app = await createApp({ connection, live, log, webFolder: null, signInsPerMinute })
  const anyone = () => supertest.agent(app)
  return {
    connection,
    anyone,
    async as(name) {
      const agent = anyone()
      await agent.post('/api/session').send({ name, password: 'salt-and-water' }).expect(200)
      return agent
    },
    async stop() {
      await live.stop()
      await connection.pool.end()
    },
  }
}
