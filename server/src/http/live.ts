import { AsyncLocalStorage } from 'node:async_hooks'
import { createHash } from 'node:crypto'
import type { News, Progress } from '@calm/contract/api/news'
import { sql, type Placeholder } from 'drizzle-orm'
import type { Response } from 'express'
import type pg from 'pg'
import type { Logger } from 'pino'
import type { Executor } from '../db/connection.ts'
import { Counter } from './in-flight.ts'
import { HttpProblem } from './problems.ts'

const CHANNEL = 'calm_live'
const ENDED = 'calm_sessions_ended'
const HEARTBEAT_MS = 25_000
const MOST_STREAMS = { address: 120, person: 24 }
/** A window that does not read what it is told is closed at this much; it opens again and looks for itself. */
const MOST_UNREAD_BYTES = 256_000

/** Whose window it is. */
export interface Listener {
  readonly sessionId: string
  readonly personId: string
  readonly address: string
}
export interface Live {
  readonly join: (res: Response, who: Listener) => void
  readonly stop: () => Promise<void>
}

const asking = new AsyncLocalStorage<string>()
/** Does something that a window asked for: the news of it carry that window's name, which knows already. */
export const askedBy = <T>(window: string | undefined, work: () => T): T =>
  window === undefined ? work() : asking.run(window.slice(0, 60), work)

/** News as it is told, with the name of the window that asked. */
export function newsText(news: Omit<News, 'window'>): string {
  const window = asking.getStore()
  const told: News = window === undefined ? news : { ...news, window }
  return JSON.stringify(told)
}
/** The telling, as part of a statement that does more. @param news - by `newsText` */
export const telling = (news: string | Placeholder) => sql<null>`pg_notify(${CHANNEL}, ${news})`

/** Tells every open window what changed; sent inside the transaction, so it is heard only when that is committed. */
export async function tellWindows(tx: Executor, news: Omit<News, 'window'>): Promise<void> {
  await tx.execute(sql`select ${telling(newsText(news))}`)
}

/** Tells the window that asked how far its work is: in their order, and not waited for. It gets its answer all the same. */
export function progressTeller(db: Executor, loopId?: string): (progress: Progress) => void {
  let telling = Promise.resolve()
  return (progress) => {
    telling = telling
      .then(() => tellWindows(db, { what: 'working', ...(loopId === undefined ? {} : { loopId }), progress }))
      .catch(() => undefined)
  }
}

/** A session's identifier is a secret: what travels is its hash. */
const hashOf = (sessionId: string) => createHash('sha256').update(sessionId).digest('hex')

/** Ends the windows of sessions on every server. */
export async function tellEnded(db: Executor, sessionIds: readonly string[]): Promise<void> {
  for (const id of sessionIds) await db.execute(sql`select pg_notify(${ENDED}, ${hashOf(id)})`)
}

/**
 * Passes the database's notifications on to every open window, so that several servers on one database
 * tell each other's windows too. A lost connection is taken up again. A window ends with its session.
 */
export async function startLive(pool: pg.Pool, log: Pick<Logger, 'warn'>): Promise<Live> {
  const windows = new Map<Response, string>()
  const byAddress = new Counter(MOST_STREAMS.address)
  const byPerson = new Counter(MOST_STREAMS.person)
  let client: pg.PoolClient | null = null
  let leave: () => void = () => undefined
  let stopped = false
  let retry: NodeJS.Timeout | undefined

  const send = (text: string) => {
    for (const res of windows.keys()) {
      // One that was ended just now is not closed yet: written to, it would take the whole server with it.
      if (res.writableEnded) continue
      res.write(text)
      if (res.writableLength > MOST_UNREAD_BYTES) res.destroy()
    }
  }
  const end = (hash: string) => {
    for (const [res, of] of windows) if (of === hash) res.end()
  }
  async function listen(): Promise<void> {
    const c = await pool.connect()
    let held = true
    /** Gives the connection back once, however it was lost: one kept would be missing for ever. */
    const lost = (error?: Error) => {
      if (!held) return
      held = false
      if (client === c) client = null
      c.release(true)
      if (stopped) return
      log.warn({ err: error?.message ?? 'ended' }, 'live connection lost')
      again()
    }
    c.on('error', lost)
    c.on('end', () => lost())
    leave = () => lost()
    if (stopped) {
      lost()
      return
    }
    client = c
    c.on('notification', (n) =>
      n.channel === ENDED ? end(n.payload ?? '') : send(`event: changed\ndata: ${n.payload ?? '{}'}\n\n`),
    )
    try {
      await c.query(`listen ${CHANNEL}`)
      await c.query(`listen ${ENDED}`)
    } catch (error) {
      lost(error instanceof Error ? error : undefined)
    }
  }
  function again(): void {
    if (stopped) return
    clearTimeout(retry)
    retry = setTimeout(() => {
      // What changed meanwhile is unknown: the windows look for themselves.
      listen().then(() => {
        if (client) send('event: missed\ndata: {}\n\n')
      }, again)
    }, 1000)
    retry.unref()
  }
  await listen()
  /** Sessions end by time too, and by a word that was missed. */
  async function look(): Promise<void> {
    send(': still here\n\n')
    if (windows.size === 0) return
    const { rows } = await pool.query<{ sid: string }>('select sid from sessions where expire > now()')
    const alive = new Set(rows.map((r) => hashOf(r.sid)))
    for (const [res, of] of windows) if (!alive.has(of)) res.end()
  }
  const heartbeat = setInterval(() => void look().catch(() => undefined), HEARTBEAT_MS)
  heartbeat.unref()

  return {
    join(res, who) {
      const places = [byAddress.take(who.address), byPerson.take(who.personId)]
      const giveBack = () => {
        for (const p of places) p?.()
      }
      if (places.includes(null)) {
        giveBack()
        throw new HttpProblem('busy', 'Too many windows are open here. Close some, then reload.')
      }
      res.writeHead(200, {
        'Content-Type': 'text/event-stream',
        'Cache-Control': 'no-store, no-transform',
        Connection: 'keep-alive',
        'X-Accel-Buffering': 'no',
      })
      res.write('retry: 2000\n\n')
      windows.set(res, hashOf(who.sessionId))
      res.on('close', () => {
        windows.delete(res)
        giveBack()
      })
    },
    stop() {
      stopped = true
      clearInterval(heartbeat)
      clearTimeout(retry)
      for (const res of windows.keys()) res.end()
      // Its connection is closed, and with it what it listened to.
      leave()
      return Promise.resolve()
    },
  }
}
