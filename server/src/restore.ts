// npm run restore FILE: a backed-up plant into an empty database. CALM_BACKUP_PASSPHRASE opens a sealed one.
import pg from 'pg'
import { backupOptions, prepareDatabase } from './plant/prepare.ts'
import { readBackup } from './plant/backup-file.ts'
import { restorePlant } from './plant/dump.ts'

const url = process.env['DATABASE_URL']
if (!url) throw new Error('DATABASE_URL is not set')
const file = process.argv[2]
let client: pg.Client | null = null
try {
  if (file === undefined) throw new Error('Name the file: npm run restore calm-loop-2026-11-26.zip')
  const options = backupOptions(process.env, process.argv[1] ?? '.')
  const bytes = readBackup(file, options.passphrase)
  await prepareDatabase(url, options)
  client = new pg.Client({ connectionString: url })
  await client.connect()
  const rows = await restorePlant(client, bytes)
  console.log(
    `Restored: ${Object.entries(rows)
      .map(([t, n]) => `${n} ${t}`)
      .join(', ')}.`,
  )
} catch (error) {
  console.log(error instanceof Error ? error.message : error)
  process.exitCode = 1
} finally {
  await client?.end()
}
