// npm run backup [FILE]: the whole plant in one file. With --daily: today's, into the folder of backups.
import { existsSync, mkdirSync } from 'node:fs'
import { basename } from 'node:path'
import { backupMade } from '@calm/core/record/plant-log/kinds/plant'
import { drizzle } from 'drizzle-orm/node-postgres'
import pg from 'pg'
import { CASING } from './db/connection.ts'
import { note } from './plant-log/note.ts'
import { givenUp, tellAtTerminal } from './plant/at-a-terminal.ts'
import { backupOptions } from './plant/prepare.ts'
import { backUpDaily, backUpTo, endingOf, megabytes } from './plant/backup-file.ts'

const url = process.env['DATABASE_URL']
if (!url) throw new Error('DATABASE_URL is not set')
const now = new Date()
const { folder, passphrase } = backupOptions(process.env, process.argv[1] ?? '.')
const [name] = process.argv.slice(2)
const signal = givenUp('It was cancelled; nothing is left of it.')
const client = new pg.Client({ connectionString: url })
try {
  const given = name ?? `calm-loop-${now.toISOString().slice(0, 10)}.${endingOf(passphrase)}`
  if (given !== '--daily' && existsSync(given))
    throw new Error(`${given} is there already. Name another file: a backup is never overwritten.`)
  await client.connect()
  if (given === '--daily') mkdirSync(folder, { recursive: true, mode: 0o700 })
  const file =
    given === '--daily'
      ? await backUpDaily(client, { folder, passphrase }, now, signal)
      : await backUpTo(client, given, passphrase, now, { tell: tellAtTerminal(), signal })
  const payload = { file: basename(file), sealed: passphrase !== null }
  await note(drizzle(client, CASING), { kind: backupMade, payload, by: null }, new Date())
  console.log(
    `${file}: ${megabytes(file)} MB, ${passphrase === null ? 'not sealed' : 'sealed'}. Keep a copy where this machine’s disk is not.`,
  )
} catch (error) {
  console.log(`The backup was not made. ${error instanceof Error ? error.message : String(error)}`)
  process.exitCode = 1
} finally {
  await client.end().catch(() => undefined)
}
