import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres'
import pg from 'pg'
import type { Logger } from 'pino'
import { databaseIsGone } from './away.ts'

export type Database = NodePgDatabase
/** Inside a transaction the same calls work. */
export type Executor = Pick<
  Database,
  'select' | 'insert' | 'update' | 'delete' | 'execute' | '$with' | 'with'
>

/** What can begin a transaction, or another one inside of it. */
export type Transactional = Executor & Pick<Database, 'transaction'>

export interface Connection {
  readonly pool: pg.Pool
  readonly db: Database
}

export const CASING = { casing: 'snake_case' } as const
const MOST_CLIENTS = 20
/** A database that is away refuses at once; one that is slow to let somebody in is busy, not away. */
const CONNECT_MS = 15_000
/** A statement that takes this long is held up by something: it is given up, and nothing was stored. */
const STATEMENT_MS = 30_000

/** Opens the pool. A database that goes away is logged, not fatal: the next query connects again. */
export function connect(url: string, log: Pick<Logger, 'warn'>): Connection {
  const pool = new pg.Pool({
    connectionString: url,
    max: MOST_CLIENTS,
    connectionTimeoutMillis: CONNECT_MS,
    statement_timeout: STATEMENT_MS,
    keepAlive: true,
  })
  const lost = (error: Error) => log.warn({ err: error.message }, 'database connection lost')
  // Without these listeners the process dies when the database stops: the pool hears of idle clients only, so
  // that each client, at work or not, needs one of its own.
  pool.on('error', lost)
  pool.on('connect', (client) => client.on('error', lost))
  const db: Database = Object.assign(drizzle(pool, CASING), {
    transaction: ((work, config) =>
      onOneClient(pool, (client) =>
        client.transaction((tx) => {
          behind.set(tx, { client, database: db })
          return work(tx)
        }, config),
      )) satisfies Database['transaction'],
  })
  return { pool, db }
}

interface Behind {
  /** Of the client that the transaction has to itself: it outlives the transaction. */
  readonly client: Database
  readonly database: Database
}
const behind = new WeakMap<Executor, Behind>()
/** What asks on the same client as a transaction does, and is there longer: statements that were made are kept by it. */
export const clientBehind = (tx: Executor): Executor => behind.get(tx)?.client ?? tx
/** The database that a transaction is of. */
export const databaseBehind = (tx: Executor): Executor => behind.get(tx)?.database ?? tx

const ofClient = new WeakMap<pg.PoolClient, Database>()
function drizzled(client: pg.PoolClient): Database {
  const db = ofClient.get(client) ?? drizzle(client, CASING)
  ofClient.set(client, db)
  return db
}

/**
 * Lends a client of the pool for one transaction and gives it back whatever happens, also where the transaction
 * cannot even begin: a client that is not given back is missing for ever, and ten of them are the whole pool.
 */
async function onOneClient<T>(pool: pg.Pool, work: (db: Database) => Promise<T>): Promise<T> {
  const client = await pool.connect()
  let broken = false
  try {
    return await work(drizzled(client))
  } catch (error) {
    broken = databaseIsGone(error)
    throw error
  } finally {
    // One that broke is closed: what it was doing is over.
    client.release(broken)
  }
}
