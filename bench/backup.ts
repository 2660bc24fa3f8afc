import { spawn } from 'node:child_process'
import { readFileSync, rmSync, statSync } from 'node:fs'
import { join } from 'node:path'
import pg from 'pg'
import { writeLargePlant } from './large-plant.ts'
import { median, type Figure } from './report.ts'

const PROGRAMS = join(import.meta.dirname, '../server/dist')
const YEARS = 10
const SMALL = 50
/** `CALM_BENCH_LOOPS=5000` is the whole plant, and takes as long. */
const LARGE = Number(process.env['CALM_BENCH_LOOPS'] ?? 500)

interface Ran {
  readonly s: number
  /** The most that the program held in memory. */
  readonly peak_MB: number
}
async function run(program: string, file: string, url: string): Promise<Ran> {
  const begun = performance.now()
  const child = spawn(process.execPath, [join(PROGRAMS, `${program}.js`), file], {
    stdio: ['ignore', 'pipe', 'ignore'],
    env: { ...process.env, DATABASE_URL: url },
  })
  let says = ''
  child.stdout.setEncoding('utf8').on('data', (t: string) => (says += t))
  let peak_kB = 0
  const look = setInterval(() => {
    try {
      const status = readFileSync(`/proc/${child.pid}/status`, 'utf8')
      peak_kB = Number(/VmHWM:\s+(\d+)/.exec(status)?.[1] ?? peak_kB)
    } catch {
      // It has just ended.
    }
  }, 20)
  const code = await new Promise((r) => child.on('close', r))
  clearInterval(look)
  if (code !== 0) throw new Error(`${program}: ${says}`)
  return { s: (performance.now() - begun) / 1000, peak_MB: peak_kB / 1024 }
}

async function emptyDatabase(url: string, name: string): Promise<string> {
  const client = new pg.Client({ connectionString: url })
  await client.connect()
  await client.query(`create database ${name}`)
  await client.end()
  const there = new URL(url)
  there.pathname = `/${name}`
  return there.toString()
}

/** What a bench asks of a record, each of another loop, ms: its events, one run's, and the newest of a kind. */
async function questions(url: string): Promise<number> {
  const client = new pg.Client({ connectionString: url })
  await client.connect()
  await client.query('analyze')
  const { rows } = await client.query<{ id: string; run: string }>(
    'select l.id, (select r.id from runs r where r.loop_id = l.id limit 1) as run from loops l order by md5(l.tag) limit 50',
  )
  const took: number[] = []
  for (const { id, run } of rows) {
    const begun = performance.now()
    await client.query('select * from events where loop_id = $1 order by seq', [id])
    await client.query('select * from events where run_id = $1 order by seq', [run])
    await client.query('select * from events where loop_id = $1 and type = $2 order by seq desc limit 1', [
      id,
      'revision.saved',
    ])
    took.push(performance.now() - begun)
  }
  await client.end()
  return median(took)
}

/** A plant restored and backed up again: what both hold in memory beside what they hold for a tenth of it or less. */
export async function backupFigures(url: string, folder: string): Promise<Figure[]> {
  const demo = join(folder, 'demo.jsonl.gz')
  await run('backup', demo, url)
  async function there(loops: number) {
    const file = join(folder, `${loops}.jsonl.gz`)
    const again = join(folder, `${loops}-again.jsonl.gz`)
    const events = await writeLargePlant(demo, file, loops, YEARS)
    const database = await emptyDatabase(url, `plant_${loops}`)
    const restore = await run('restore', file, database)
    const backup = await run('backup', again, database)
    const size_MB = statSync(again).size / 1e6
    const asked_ms = await questions(database)
    for (const f of [file, again]) rmSync(f)
    return { events, restore, backup, size_MB, asked_ms }
  }
  const small = await there(SMALL)
  const large = await there(LARGE)
  const asked: Figure = {
    title: `record of a loop, of a run, and its newest of a kind, among ${large.events} events`,
    measured: `${large.asked_ms.toFixed(2)} ms`,
    against: `${small.asked_ms.toFixed(2)} ms among ${small.events}`,
    ratio: large.asked_ms / small.asked_ms,
    wanted: 'near 1: ten years stay quick',
  }
  const memory = (['backup', 'restore'] as const).map((program) => ({
    title: `${program} of ${LARGE} loops and ${YEARS} years (${large.events} events, ${large.size_MB.toFixed(1)} MB): memory`,
    measured: `${large[program].peak_MB.toFixed(0)} MB in ${large[program].s.toFixed(1)} s`,
    against: `${small[program].peak_MB.toFixed(0)} MB for ${SMALL} loops`,
    ratio: large[program].peak_MB / small[program].peak_MB,
    wanted: 'near 1, however large the plant',
  }))
  return [...memory, asked]
}
