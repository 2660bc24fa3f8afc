import { existsSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { migrate as run } from 'drizzle-orm/node-postgres/migrator'
import type { Database } from './connection.ts'

/** The migrations folder beside the sources or beside the bundle. */
function migrationsFolder(): string {
  let at = dirname(fileURLToPath(import.meta.url))
  while (!existsSync(join(at, 'migrations'))) {
    const up = dirname(at)
    if (up === at) throw new Error('migrations folder not found')
    at = up
  }
  return join(at, 'migrations')
}

/** Brings the database to the newest schema. */
export const migrate = (db: Database): Promise<void> => run(db, { migrationsFolder: migrationsFolder() })
