// npm run check:package FILE: proves a package offline, without a server and without a database.
import { readFileSync } from 'node:fs'
import { fingerprintOf } from './plant-log/plant-key.ts'
import { provePackage, withPapers } from './package/prove.ts'

/** Whose word it is. */
const signer = (publicKey: string | undefined) =>
  publicKey === undefined
    ? 'no plant signed it'
    : `signed by the plant with key ${fingerprintOf(publicKey)}: ask the plant whether it is its own`
let broken = 0
for (const file of process.argv.slice(2)) {
  const proof = await withPapers(provePackage(readFileSync(file), new Date().toISOString()))
  if (proof.kind === 'whole')
    console.log(
      `${file}: ${proof.contents.loop.tag}, ${proof.contents.events.length} events, complete and unchanged, ending in ${proof.contents.events.at(-1)?.hash ?? ''}; ${signer(proof.manifest.plant?.publicKey)}; ${
        proof.compared
          ? `lists, drawings and certificates made again and the same${proof.notPrinted > 0 ? `, but the drawn pages of ${proof.notPrinted} certificates not compared: another version made them` : ''}`
          : 'lists and papers not compared'
      }`,
    )
  else {
    broken++
    console.log(`${file}: ${proof.says} (${proof.where})`)
  }
}
process.exitCode = broken === 0 ? 0 : 1
