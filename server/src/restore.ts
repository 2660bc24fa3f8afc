// npm run restore FILE: a backed-up plant into an empty database.
import { readFileSync } from 'node:fs'
import pg from 'pg'
import { pino } from 'pino'
import { connect } from './db/connection.ts'
import { migrate } from './db/migrate.ts'
import { restorePlant } from './plant/dump.ts'

const url = process.env['DATABASE_URL']
if (!url) throw new Error('DATABASE_URL is not set')
const file = process.argv[2]
if (file === undefined) throw new Error('Name the file: npm run restore calm-loop-2026-11-26.zip')
const connection = connect(url, pino({ level: 'silent' }))
await migrate(connection.db)
await connection.pool.end()
const client = new pg.Client({ connectionString: url })
await client.connect()
try {
  const rows = await restorePlant(client, readFileSync(file))
  console.log(
    `Restored: ${Object.entries(rows)
      .map(([t, n]) => `${n} ${t}`)
      .join(', ')}.`,
  )
} catch (error) {
  console.log(error instanceof Error ? error.message : error)
  process.exitCode = 1
} finally {
  await client.end()
}
