import type { Response } from 'express'
import type pg from 'pg'
import type { Logger } from 'pino'

const CHANNEL = 'calm_live'
const HEARTBEAT_MS = 25_000

export interface Live {
  readonly join: (res: Response) => void
  readonly stop: () => Promise<void>
}

/** What to tell the other windows; sent inside the transaction, so it is heard only when that is committed. */
export const LIVE_SQL = `select pg_notify('${CHANNEL}', $1)`

/**
 * Passes the database's notifications on to every open window, so that several servers on one database
 * tell each other's windows too. A lost connection is taken up again.
 */
export async function startLive(pool: pg.Pool, log: Pick<Logger, 'warn'>): Promise<Live> {
  const windows = new Set<Response>()
  let client: pg.PoolClient | null = null
  let stopped = false
  let retry: NodeJS.Timeout | undefined

  const send = (text: string) => {
    for (const res of windows) res.write(text)
  }
  async function listen(): Promise<void> {
    const c = await pool.connect()
    client = c
    c.on('notification', (n) => send(`event: changed\ndata: ${n.payload ?? '{}'}\n\n`))
    c.on('error', (error) => {
      log.warn({ err: error.message }, 'live connection lost')
      c.release(true)
      client = null
      again()
    })
    await c.query(`listen ${CHANNEL}`)
  }
  function again(): void {
    if (stopped) return
    retry = setTimeout(() => {
      // What changed meanwhile is unknown: the windows look for themselves.
      listen().then(() => send('event: missed\ndata: {}\n\n'), again)
    }, 1000)
    retry.unref()
  }
  await listen()
  const heartbeat = setInterval(() => send(': still here\n\n'), HEARTBEAT_MS)
  heartbeat.unref()

  return {
    join(res) {
      res.writeHead(200, {
        'Content-Type': 'text/event-stream',
        'Cache-Control': 'no-cache, no-transform',
        Connection: 'keep-alive',
        'X-Accel-Buffering': 'no',
      })
      res.write('retry: 2000\n\n')
      windows.add(res)
      res.on('close', () => windows.delete(res))
    },
    async stop() {
      stopped = true
      clearInterval(heartbeat)
      clearTimeout(retry)
      for (const res of windows) res.end()
      if (client) {
        await client.query(`unlisten ${CHANNEL}`).catch(() => undefined)
        client.release(true)
      }
    },
  }
}
