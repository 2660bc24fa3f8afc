// npm run check:chain [HEADS.jsonl]: proves the whole plant, also against heads that were kept elsewhere.
import { existsSync } from 'node:fs'
import { pino } from 'pino'
import { connect } from './db/connection.ts'
import { readHeads } from './plant-log/heads-file.ts'
import { headsFile } from './plant-log/where.ts'
import { provePlant } from './proof/prove.ts'

const url = process.env['DATABASE_URL']
if (!url) throw new Error('DATABASE_URL is not set')
const given = process.argv[2]
const file = given ?? headsFile(process.env)
if (given !== undefined && !existsSync(given)) throw new Error(`There is no file ${given}.`)
const outside = file !== null && existsSync(file) ? readHeads(file) : { heads: [], unreadable: [] }
const { db, pool } = connect(url, pino({ level: 'silent' }))
const proof = await provePlant(db, outside.heads)
for (const line of outside.unreadable) console.log(`${file}, line ${line}: it holds no head.`)
for (const m of proof.mismatches)
  console.log(`${m.where}${m.field === null ? '' : `, ${m.field}`}: ${m.says}`)
const { loops, events, entries, signatures, foreign, mismatches } = proof
console.log(
  mismatches.length === 0
    ? `${loops} loops with ${events} events, ${entries} entries of the log and ${signatures} signatures are complete and unchanged, held against ${outside.heads.length === 1 ? '1 head' : `${outside.heads.length} heads`} kept outside.${foreign > 0 ? ` ${foreign} events are foreign: they came with packages.` : ''}`
    : `${mismatches.length} things are not what was recorded.`,
)
await pool.end()
process.exitCode = mismatches.length === 0 && outside.unreadable.length === 0 ? 0 : 1
