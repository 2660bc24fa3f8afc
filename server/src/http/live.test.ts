import type { Response } from 'express'
import pg from 'pg'
import { afterAll, beforeAll, expect, inject, test } from 'vitest'
import { connect, type Connection } from '../db/connection.ts'
import { freshDatabase } from '../test/database.ts'
import { startLive, tellEnded, tellWindows, type Live } from './live.ts'

const quiet = { warn: () => undefined }
let connection: Connection
let other: pg.Client
let live: Live
beforeAll(async () => {
  const url = await freshDatabase(inject('databaseUrl'))
  connection = connect(url, quiet)
  other = new pg.Client({ connectionString: url })
  await other.connect()
  live = await startLive(connection.pool, quiet)
})
afterAll(async () => {
  await live.stop()
  await other.end()
  await connection.pool.end()
})

/** An open window, as far as the stream needs it. */
function openWindow(sessionId = 's', personId = 'p') {
  const ended = { yes: false, writtenTo: false }
  const heard: string[] = []
  let closed: () => void = () => undefined
  const res = {
    writeHead: () => res,
    get writableEnded() {
      return ended.yes
    },
    write(t: string) {
      if (ended.yes) ended.writtenTo = true
      heard.push(t)
    },
    writableLength: 0,
    end: () => void (ended.yes = true),
    on: (_e: string, f: () => void) => (closed = f),
  }
  live.join(res as unknown as Response, { sessionId, personId, address: '127.0.0.1' })
  return {
    heard,
    ended,
    close: () => closed(),
    changes: () => heard.filter((t) => t.startsWith('event: changed')),
  }
}
const news = { loopId: 'l', tag: "O'Hara-1", what: 'revision' as const }
const soon = (check: () => void) => expect.poll(() => (check(), true), { timeout: 5000 }).toBe(true)

test('every open window hears a change, one that was closed does not', async () => {
  const [a, b] = [openWindow(), openWindow()]
  b.close()
  await tellWindows(connection.db, news)
  await soon(() => expect(a.changes()).toHaveLength(1))
  expect(a.changes()[0]).toContain(JSON.stringify(news))
  expect(b.changes()).toEqual([])
})

test('nothing is told of a change that was taken back', async () => {
  const a = openWindow()
  await connection.db
    .transaction(async (tx) => {
      await tellWindows(tx, news)
      throw new Error('taken back')
    })
    .catch(() => undefined)
  await tellWindows(connection.db, { ...news, tag: 'after' })
  await soon(() => expect(a.changes()).toHaveLength(1))
  expect(a.changes()[0]).toContain('after')
})

test('a lost database connection is taken up again and the windows are told to look', async () => {
  const a = openWindow()
  await connection.pool.query(
    "select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and query like 'listen%' and pid <> pg_backend_pid()",
  )
  await soon(() => expect(a.heard.some((t) => t.startsWith('event: missed'))).toBe(true))
  await tellWindows(connection.db, news)
  await soon(() => expect(a.changes()).toHaveLength(1))
})

test('a window ends with its session, on every server, and no other does', async () => {
  const [mine, other] = [openWindow('mine'), openWindow('other')]
  await tellEnded(connection.db, ['mine'])
  await soon(() => expect(mine.ended.yes).toBe(true))
  expect(other.ended.yes).toBe(false)
})

test('a window that was just ended is not written to: it would take the server with it', async () => {
  const [mine, theirs] = [openWindow('locked'), openWindow('goes on')]
  await connection.db.transaction(async (tx) => {
    await tellEnded(tx, ['locked'])
    await tellWindows(tx, news)
  })
  await soon(() => expect(theirs.changes()).toHaveLength(1))
  expect(mine.ended).toEqual({ yes: true, writtenTo: false })
})

test('so many windows of one person and no more; a closed one makes room', () => {
  const open = Array.from({ length: 24 }, () => openWindow('s', 'many'))
  expect(() => openWindow('s', 'many')).toThrow(/Too many windows/)
  open[0]?.close()
  openWindow('s', 'many')
})

test('connections that break while it begins to listen again are given back', async () => {
  const broken = (client: pg.PoolClient) => void (client as unknown as pg.Client).end()
  connection.pool.on('acquire', broken)
  await connection.pool.query('select 1').catch(() => undefined)
  await other.query(
    "select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and query like 'listen%' and pid <> pg_backend_pid()",
  )
  await new Promise((r) => setTimeout(r, 2500))
  connection.pool.off('acquire', broken)
  const a = openWindow()
  await soon(() => expect(a.heard.some((t) => t.startsWith('event: missed'))).toBe(true))
  await tellWindows(connection.db, news)
  await soon(() => expect(a.changes()).toHaveLength(1))
  // One that listens; none that nobody gave back.
  expect(connection.pool.totalCount - connection.pool.idleCount).toBe(1)
})
