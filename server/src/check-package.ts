// npm run check:package FILE: proves a package offline, without a server and without a database.
import { readFileSync } from 'node:fs'
import { provePackage } from './package/prove.ts'

let broken = 0
for (const file of process.argv.slice(2)) {
  const proof = provePackage(readFileSync(file), new Date().toISOString())
  if (proof.kind === 'whole')
    console.log(
      `${file}: ${proof.contents.loop.tag}, ${proof.contents.events.length} events, complete and unchanged, ending in ${proof.contents.events.at(-1)?.hash ?? ''}`,
    )
  else {
    broken++
    console.log(`${file}: ${proof.says} (${proof.where})`)
  }
}
process.exitCode = broken === 0 ? 0 : 1
