import { pino } from 'pino'
import { connect } from './db/connection.ts'
import { allLoops } from './loops/store.ts'
import { proveLoop } from './record/prove.ts'

const url = process.env['DATABASE_URL']
if (!url) throw new Error('DATABASE_URL is not set')
const { db, pool } = connect(url, pino({ level: 'silent' }))
let broken = 0
let events = 0
let foreign = 0
const loops = await allLoops(db)
for (const loop of loops) {
  const proof = await proveLoop(db, loop.id)
  if (proof.kind === 'whole') {
    events += proof.events
    foreign += proof.foreign
  } else {
    broken += 1
    console.log(`${loop.tag}: ${proof.says}`)
  }
}
console.log(
  broken === 0
    ? `The records of ${loops.length} loops with ${events} events are complete and unchanged.${foreign > 0 ? ` ${foreign} of them are foreign: they came with packages.` : ''}`
    : `${broken} of ${loops.length} records are broken.`,
)
await pool.end()
process.exitCode = broken === 0 ? 0 : 1
