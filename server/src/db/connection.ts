import { drizzle, type NodePgDatabase } from 'drizzle-orm/node-postgres'
import pg from 'pg'
import type { Logger } from 'pino'

export type Database = NodePgDatabase
/** Inside a transaction the same calls work. */
export type Executor = Pick<Database, 'select' | 'insert' | 'update' | 'delete' | 'execute'>

export interface Connection {
  readonly pool: pg.Pool
  readonly db: Database
}

/** Opens the pool. A database that goes away is logged, not fatal: the next query connects again. */
export function connect(url: string, log: Pick<Logger, 'warn'>): Connection {
  const pool = new pg.Pool({
    connectionString: url,
    max: 10,
    connectionTimeoutMillis: 5_000,
    keepAlive: true,
  })
  // Without a listener the process dies when the database stops.
  pool.on('error', (error) => log.warn({ err: error.message }, 'database connection lost'))
  return { pool, db: drizzle(pool, { casing: 'snake_case' }) }
}
