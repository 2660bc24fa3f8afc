// npm run restore FILE: a backed-up plant into an empty database. CALM_BACKUP_PASSPHRASE opens a sealed one.
import { plantRestored } from '@calm/core/record/plant-log/kinds/plant'
import { drizzle } from 'drizzle-orm/node-postgres'
import pg from 'pg'
import { CASING } from './db/connection.ts'
import { givenUp, tellAtTerminal } from './plant/at-a-terminal.ts'
import { readBackup } from './plant/backup-file.ts'
import { backupOptions, prepareDatabase } from './plant/prepare.ts'
import { note } from './plant-log/note.ts'
import { restorePlant } from './plant/restore.ts'

const url = process.env['DATABASE_URL']
if (!url) throw new Error('DATABASE_URL is not set')
const file = process.argv[2]
const signal = givenUp('It was cancelled; the database is as it was.')
let client: pg.Client | null = null
try {
  if (file === undefined) throw new Error('Name the file: npm run restore calm-loop-2026-11-26.jsonl.gz')
  const options = backupOptions(process.env, process.argv[1] ?? '.')
  await prepareDatabase(url, options)
  client = new pg.Client({ connectionString: url })
  await client.connect()
  const { rows, madeAt } = await restorePlant(
    client,
    readBackup(file, options.passphrase),
    tellAtTerminal(),
    signal,
  )
  const size = rows['leaves'] ?? 0
  await note(
    drizzle(client, CASING),
    { kind: plantRestored, payload: { madeAt, size }, by: null },
    new Date(),
  )
  console.log(
    `Restored: ${Object.entries(rows)
      .map(([t, n]) => `${n} ${t}`)
      .join(', ')}.`,
  )
} catch (error) {
  console.log(`The plant was not restored. ${error instanceof Error ? error.message : String(error)}`)
  process.exitCode = 1
} finally {
  await client?.end()
}
