import { randomUUID } from 'node:crypto'
import type { RunEventBody } from '@calm/core/record/kinds/verification'
import type pg from 'pg'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { testApp, type TestApp } from '../test/app.ts'
import { eventsOfRun } from '../record/events.ts'
import { foldEvents, keptFold } from '../record/fold.ts'
import { close, events, read, send, starter } from '../test/verification.ts'

let app: TestApp
let wren: TestAgent
let said: string[] = []
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
  // Whatever goes to the database, by whichever client of the pool.
  app.connection.pool.on('acquire', (client: pg.PoolClient & { counted?: boolean }) => {
    if (client.counted) return
    client.counted = true
    const query = client.query.bind(client) as (...all: unknown[]) => unknown
    client.query = ((...all: unknown[]) => {
      const [first] = all as [string | { text: string }]
      said.push(typeof first === 'string' ? first : first.text)
      return query(...all)
    }) as typeof client.query
  })
})
afterAll(() => app.stop())

/** Statements that a request needs, without the words that begin and end a transaction. */
async function statementsOf(work: () => Promise<unknown>): Promise<string[]> {
  said = []
  await work()
  return said.filter((s) => !/^(begin|commit)/i.test(s))
}

describe('what one recorded reading costs the database', () => {
  test('at most six statements, the first as the sixtieth, and none reads the events that are there', async () => {
    const { begin } = await starter(wren)
    const runId = randomUUID()
    const record = (...bodies: RunEventBody[]) => send(wren, events(runId, ...bodies), loopId).expect(200)
    const { body: loop } = await wren.get('/api/loops/PT-202').expect(200)
    const loopId = loop.id as string
    await record(begin())
    const first = await statementsOf(() => record(read(0, 1)))
    for (let n = 1; n < 60; n++) await record(read(n % 3, n))
    const last = await statementsOf(() => record(read(1, 2)))
    expect(first.length).toBeLessThanOrEqual(6)
    expect(last).toHaveLength(first.length)
    expect(last.filter((s) => /^select .* from "events"/i.test(s))).toEqual([])
  })
})

describe('a run kept beside its row', () => {
  test('is to the letter what its events tell, also of a time that was sent without its thousandths', async () => {
    const { begin } = await starter(wren, 'PT-103')
    const runId = randomUUID()
    const sent = events(runId, begin(), read(0, 1)).map((e) => ({ ...e, at: e.at.replace('.000Z', 'Z') }))
    expect(sent[0]?.at).not.toContain('.')
    await send(wren, sent, 'PT-103').expect(200)
    const { rows } = await app.connection.pool.query<{ folded: unknown }>(
      'select folded from runs where id = $1',
      [runId],
    )
    const again = foldEvents(await eventsOfRun(app.connection.db, runId), [])
    expect(rows[0]?.folded).toEqual(again && keptFold(again))
  })
  test('holds all of many readings that come at the same moment, as its events do', async () => {
    const { begin } = await starter(wren, 'PT-405')
    const runId = randomUUID()
    await send(wren, events(runId, begin()), 'PT-405').expect(200)
    const all = Array.from({ length: 3 }, (_, index) => events(runId, read(index, index + 1)))
    // Each twice, as after an answer that was lost.
    await Promise.all([...all, ...all].map((list) => send(wren, list, 'PT-405').expect(200)))
    const { body } = await wren.get(`/api/runs/${runId}`).expect(200)
    expect(body.events).toHaveLength(1 + all.length)
    const { rows } = await app.connection.pool.query<{ folded: { run: { asFound: object } } }>(
      'select folded from runs where id = $1',
      [runId],
    )
    expect(Object.keys(rows[0]?.folded.run.asFound ?? {})).toEqual(['0', '1', '2'])
  })
  test('is what its events tell: taken away, the next event folds them and keeps it again', async () => {
    const { begin } = await starter(wren, 'PT-103')
    const runId = randomUUID()
    const record = (...bodies: RunEventBody[]) => send(wren, events(runId, ...bodies), 'PT-103')
    const keptRun = async () => {
      const { rows } = await app.connection.pool.query<{ folded: unknown }>(
        'select folded from runs where id = $1',
        [runId],
      )
      return rows[0]?.folded
    }
    await record(begin(), read(0, 1), close).expect(200)
    expect(await keptRun()).toMatchObject({ kind: 'verification', run: { state: 'adjust' } })
    const confirm: RunEventBody = {
      type: 'reading.confirmed',
      payload: { phase: 'asFound', index: 0, columns: ['applied'] },
    }
    for (const lost of ['null', `jsonb_build_object('form', 0)`]) {
      await app.tamper(`update runs set folded = ${lost} where id = '${runId}'`)
      await record(confirm).expect(200)
      const run = { state: 'adjust', confirmed: { asFound: { 0: ['applied'] } } }
      expect(await keptRun()).toMatchObject({ run })
    }
    // What the rules refuse is refused from the kept run as from the events.
    await record(close).expect(409)
  })
})
