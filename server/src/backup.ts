// npm run backup [FILE]: the whole plant as one ZIP of JSON.
import { writeFileSync } from 'node:fs'
import pg from 'pg'
import { dumpPlant } from './plant/dump.ts'

const url = process.env['DATABASE_URL']
if (!url) throw new Error('DATABASE_URL is not set')
const now = new Date()
const file = process.argv[2] ?? `calm-loop-${now.toISOString().slice(0, 10)}.zip`
const client = new pg.Client({ connectionString: url })
await client.connect()
const bytes = await dumpPlant(client, now)
await client.end()
writeFileSync(file, bytes, { flag: 'wx' })
console.log(`${file}: ${(bytes.length / 1e6).toFixed(1)} MB. Keep it where this machine’s disk is not.`)
