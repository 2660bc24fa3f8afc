// npm run bench kills: the server is killed at random moments of running procedures; nothing acknowledged is lost.
import { randomUUID } from 'node:crypto'
import { chmodSync, mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { ProcedureRun } from '@calm/core/procedure/engine'
import { ensurePostgres } from '../scripts/lib/install.mjs'
import { freePort, startCluster } from '../scripts/lib/postgres.mjs'
import { serve } from '../scripts/lib/serve.mjs'
import { answerTo, ProcedureClient } from './procedure-client.ts'

const KILLS = Number(process.argv[2] ?? 200)
const folder = mkdtempSync(join(tmpdir(), 'calm-kills-'))
chmodSync(folder, 0o755)
const cluster = await startCluster(ensurePostgres(), folder)
const port = await freePort()
const options = { url: cluster.url, port, env: { LOG_LEVEL: 'fatal' }, quiet: true }
const sleep = (ms: number) => new Promise((r) => setTimeout(r, ms))
let server = await serve(options)
const client = new ProcedureClient(`http://127.0.0.1:${port}`)
await client.signIn()
const [loop] = await client.loops()
if (!loop) throw new Error('no loop')

let runId = await client.begin(loop.tag, 'zero-trim')
let acknowledged = 1
let [lost, doubled, wrongStep, resent] = [0, 0, 0, 0]
for (let kill = 0; kill < KILLS; kill++) {
  // Steps go on until the server is gone, at a moment nobody chose.
  const alive = { yes: true }
  const death = sleep(5 + Math.random() * 250).then(async () => {
    process.kill(server.pid, 'SIGKILL')
    await server.gone
    alive.yes = false
  })
  let open: { id: string; body: ReturnType<typeof answerTo>; run: string } | null = null
  while (alive.yes) {
    try {
      const run: ProcedureRun | null = await client.run(runId)
      const step = run?.left[0]
      if (!step) {
        runId = await client.begin(loop.tag, 'zero-trim')
        acknowledged = 1
        continue
      }
      open = { id: randomUUID(), body: answerTo(step), run: runId }
      if ((await client.send(loop.tag, runId, open.body, open.id)) === 200) {
        acknowledged++
        open = null
      }
    } catch {
      break
    }
  }
  await death
  server = await serve(options)
  const run = await client.run(runId).catch(() => null)
  const stored = 1 + (run?.done.length ?? 0)
  // The one on its way may be stored or not; every acknowledged one is.
  const inFlight = open !== null && open.run === runId ? 1 : 0
  if (stored < acknowledged) lost++
  if (stored > acknowledged + inFlight) doubled++
  if (open && inFlight) {
    resent++
    const status = await client.send(loop.tag, runId, open.body, open.id)
    const after = await client.run(runId)
    if (status !== 200 || 1 + (after?.done.length ?? 0) !== acknowledged + 1) wrongStep++
    else acknowledged++
  }
}
await server.stop()
cluster.stop()
rmSync(folder, { recursive: true, force: true })
console.log(
  `${KILLS} kills: ${lost} with something lost, ${doubled} with something doubled, ${wrongStep} of ${resent} sent again that did not fit.`,
)
process.exitCode = lost + doubled + wrongStep === 0 ? 0 : 1
