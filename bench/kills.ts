// npm run bench kills [N]: server and database are killed N times each, at random moments of running procedures;
// nothing acknowledged is lost or doubled, and the server never falls with its database.
import { randomUUID } from 'node:crypto'
import { chmodSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { ProcedureRun } from '@calm/core/procedure/run'
import { ensurePostgres } from '../scripts/lib/install.mjs'
import { freePort, startCluster } from '../scripts/lib/postgres.mjs'
import { serve } from '../scripts/lib/serve.mjs'
import { killsAtDevice } from './kills-at-device.ts'
import { Answered, answerTo, ProcedureClient } from './procedure-client.ts'

const KILLS = Number(process.argv[2] ?? 200)
const bin = ensurePostgres()
const folder = mkdtempSync(join(tmpdir(), 'calm-kills-'))
chmodSync(folder, 0o755)
const cluster = await startCluster(bin, folder)
const port = await freePort()
const options = { url: cluster.url, port, env: { LOG_LEVEL: 'silent' }, quiet: true }
const sleep = (ms: number) => new Promise((r) => setTimeout(r, ms))
let server = await serve(options)
const client = new ProcedureClient(`http://127.0.0.1:${port}`)
await client.signIn()
const loops = await client.loops()
const [loop] = loops
// One that the typed work does not stand on, and whose zero can be trimmed.
const other = loops.find((l) => l.tag.startsWith('PT-') && l.tag !== loop?.tag)
if (!loop || !other) throw new Error('no loop')

let runId = await client.begin(loop.tag, 'zero-trim')
let acknowledged = 1
let [lost, doubled, wrongStep, resent, falls, wrongAnswers, unavailable] = [0, 0, 0, 0, 0, 0, 0]
/** The step whose answer was not heard: it may be stored or not. */
let open: { id: string; body: ReturnType<typeof answerTo>; run: string } | null = null

/** Works on until told that it is over, or until nothing answers. */
async function work(over: { yes: boolean }, throughOutage: boolean): Promise<void> {
  while (!over.yes) {
    try {
      const run: ProcedureRun | null = await client.run(runId)
      const step = run?.left[0]
      if (!step) {
        runId = await client.begin(loop?.tag ?? '', 'zero-trim')
        acknowledged = 1
        continue
      }
      open = { id: randomUUID(), body: answerTo(step), run: runId }
      const status = await client.send(loop?.tag ?? '', runId, open.body, open.id)
      if (status === 200) {
        acknowledged++
        open = null
      } else if (status === 503) {
        unavailable++
        return
      } else {
        wrongAnswers++
        return
      }
    } catch (error) {
      if (!throughOutage) return
      // Reading while the database is away is a 503 too; anything else, also no answer at all, is none of ours.
      if (error instanceof Answered && error.status === 503) unavailable++
      else wrongAnswers++
      return
    }
  }
}
/** What the database alone tells of the run, held against what was acknowledged; then the open step again. */
async function compare(): Promise<void> {
  let run: ProcedureRun | null = null
  // Until the database is back: what counts is what it holds then.
  for (let i = 0; i < 400; i++) {
    try {
      run = await client.run(runId)
      break
    } catch {
      await sleep(25)
    }
  }
  const stored = run ? 1 + run.done.length : 0
  const inFlight = open !== null && open.run === runId ? 1 : 0
  if (stored < acknowledged) lost++
  if (stored > acknowledged + inFlight) doubled++
  if (open && inFlight) {
    resent++
    const status = await client.send(loop?.tag ?? '', runId, open.body, open.id)
    const after = await client.run(runId)
    if (status !== 200 || 1 + (after?.done.length ?? 0) !== acknowledged + 1) wrongStep++
    else acknowledged++
  }
  open = null
}

for (let kill = 0; kill < KILLS; kill++) {
  const over = { yes: false }
  const death = sleep(5 + Math.random() * 250).then(async () => {
    process.kill(server.pid, 'SIGKILL')
    await server.gone
    over.yes = true
  })
  await work(over, false)
  await death
  server = await serve(options)
  await compare()
}
const afterServers = { lost, doubled, wrongStep }

const atDevice = await killsAtDevice(client, other, KILLS, async (work) => {
  const death = sleep(Math.random() * 120).then(async () => {
    process.kill(server.pid, 'SIGKILL')
    await server.gone
  })
  // Until the server is gone: whatever it was doing then is what counts.
  await work().catch((error: unknown) => {
    if (error instanceof Error && error.message.startsWith('a step at')) console.log(error.message)
  })
  await death
  server = await serve(options)
})

const postmaster = () => Number(readFileSync(join(folder, 'pg/postmaster.pid'), 'utf8').split('\n')[0])
let fell = false
void server.gone.then(() => (fell = true))
for (let kill = 0; kill < KILLS && !fell; kill++) {
  const over = { yes: false }
  const death = sleep(5 + Math.random() * 120).then(() => {
    process.kill(postmaster(), 'SIGKILL')
    over.yes = true
  })
  // Two more windows, so that several writes are on their way when it dies.
  const others = [1, 2].map(async () => {
    while (!over.yes) await client.ask('GET', `/api/loops/${loop.tag}/runs`).catch(() => undefined)
  })
  await Promise.all([work(over, true), ...others])
  await death
  await startCluster(bin, folder, cluster.port)
  await compare()
}
if (fell) falls++
else await server.stop()
cluster.stop()
rmSync(folder, { recursive: true, force: true })
console.log(
  `${KILLS} kills of the server: ${afterServers.lost} with something lost, ${afterServers.doubled} doubled, ${afterServers.wrongStep} that did not fit.`,
)
console.log(
  `${KILLS} kills of the server while a device is trimmed: ${atDevice.writes} writes, ${atDevice.torn} times record and device were not the same; ${atDevice.resent} sent again.`,
)
console.log(
  `${KILLS} kills of the database under work: ${lost - afterServers.lost} with something lost, ${doubled - afterServers.doubled} doubled, ${falls} falls of the server, ${unavailable} answered 503, ${wrongAnswers} otherwise; ${wrongStep} of all ${resent} sent again did not fit.`,
)
process.exitCode = lost + doubled + wrongStep + falls + wrongAnswers + atDevice.torn === 0 ? 0 : 1
