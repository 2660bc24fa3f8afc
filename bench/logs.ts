// npm run bench logs: reading in, drawing and judging of logs, against the database's own COPY and against what is promised.
import { randomUUID } from 'node:crypto'
import { appendFileSync, chmodSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { readFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { LOG_FINDINGS, USUAL_JUDGEMENT } from '@calm/core/logs/findings/finding'
import { judgeLog } from '@calm/core/logs/findings/judge'
import { sniff } from '@calm/core/logs/sniff/sniff'
import { faultyLog } from '@calm/core/logs/test/faulty-logs'
import { series } from '@calm/core/logs/test/series'
import pg from 'pg'
import { ensurePostgres } from '../scripts/lib/install.mjs'
import { freePort, startCluster } from '../scripts/lib/postgres.mjs'
import { serve } from '../scripts/lib/serve.mjs'
import { launched, signIn } from './browser.ts'
import { drawnFigure } from './logs-drawn.ts'
import { percentile, print, type Figure } from './report.ts'

const SEED = 20_317
const EACH = 100
const CLEAN = 500
const ROWS = 2_000_000
const LONG = 10_000_000
const PIECE = 1_500_000
/** Of each of those who pan. */
const LOOKS = 60

const share = (title: string, part: number, of: number, wanted: number): Figure => ({
  title: `${title} (seed ${SEED})`,
  measured: `${part} of ${of}`,
  against: `${100 * wanted} % wanted`,
  ratio: part / of / wanted,
  wanted: 'at least 1',
})

function judgementFigures(): Figure[] {
  const judged = (log: ReturnType<typeof faultyLog>) =>
    judgeLog(log, { ...USUAL_JUDGEMENT, ...(log.range ? { range: log.range } : {}) })
  const figures: Figure[] = []
  for (const code of LOG_FINDINGS) {
    let found = 0
    for (let i = 0; i < EACH; i++) if (judged(faultyLog(SEED + i, code)).some((f) => f.code === code)) found++
    figures.push(share(`${code} found`, found, EACH, 0.98))
  }
  let silent = 0
  for (let i = 0; i < CLEAN; i++) if (judged(faultyLog(2 * SEED + i, null)).length === 0) silent++
  figures.push(share('clean logs silent', silent, CLEAN, 0.99))
  const times: number[] = []
  const log = series({ n: 20_000, level: 50, sd: 0.2, phi: 0.7, g: 0.01 })
  for (let i = 0; i < 15; i++) {
    const begun = performance.now()
    judgeLog(log, USUAL_JUDGEMENT)
    times.push(performance.now() - begun)
  }
  const p50 = percentile(times, 50)
  figures.push({
    title: '20 000 samples judged',
    measured: `${p50.toFixed(0)} ms`,
    against: '100 ms',
    ratio: p50 / 100,
    wanted: 'at most 1',
  })
  return figures
}

const START = Date.UTC(2026, 0, 1)
const row = (i: number) =>
  `${new Date(START + i * 1000).toISOString().slice(0, 19).replace('T', ' ')};${(42 + 5 * Math.sin(i / 4000) + ((i * 7919) % 101) / 300).toFixed(3)}`
const HEAD = 'Time;Flow [m³/h]\n'

/** Lines of a long log, some at a time. */
function* pieces(rows: number): Generator<string> {
  let text = HEAD
  for (let i = 0; i < rows; i++) {
    text += `${row(i)}\n`
    if (text.length < PIECE) continue
    yield text
    text = ''
  }
  if (text !== '') yield text
}

async function serverFigures(
  base: string,
  databaseUrl: string,
  folder: string,
  serverPid: number,
): Promise<Figure[]> {
  const signedIn = await fetch(`${base}/api/session`, {
    method: 'POST',
    headers: { 'content-type': 'application/json', origin: base },
    body: JSON.stringify({ name: 'wren', password: 'salt-and-water' }),
  })
  const cookie = signedIn.headers
    .getSetCookie()
    .map((c) => c.split(';')[0])
    .join('; ')
  const ask = async (path: string, body?: unknown) => {
    const res = await fetch(`${base}${path}`, {
      method: body === undefined ? 'GET' : 'POST',
      headers: { cookie, origin: base, 'content-type': 'application/json' },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
    })
    const text = await res.text()
    if (!res.ok) throw new Error(`${path}: ${res.status} ${text.slice(0, 300)}`)
    return text
  }
  const mapping = sniff((HEAD + Array.from({ length: 50 }, (_, i) => row(i)).join('\n')).split('\n'))?.mapping
  const resident = async () =>
    Number(/VmRSS:\s+(\d+)/.exec(await readFile(`/proc/${serverPid}/status`, 'utf8'))?.[1] ?? 0) / 1024
  async function readIn(rows: number): Promise<{ id: string; ms: number; most: number }> {
    const id = randomUUID()
    const of = {
      id,
      title: `bench ${rows}`,
      of: 'installed',
      instrument: null,
      site: '',
      files: ['a.csv'],
      mapping,
    }
    await ask('/api/loops/FT-101/logs', of)
    // Lines are at hand as a file's are. At most three pieces are on their way, as the page sends them.
    const lines = rows > ROWS ? pieces(rows) : [...pieces(rows)]
    let [piece, most] = [0, 0]
    const sent: Promise<string>[] = []
    const begun = performance.now()
    for (const text of lines) {
      const body = { piece, file: 0, beginsFile: piece === 0, text }
      const one = ask(`/api/loops/FT-101/logs/${id}/pieces`, body)
      one.catch(() => undefined)
      sent.push(one)
      if (sent.length > 2) await sent.shift()
      most = Math.max(most, await resident())
      piece++
    }
    await Promise.all(sent)
    await ask(`/api/loops/FT-101/logs/${id}/keep`, { at: new Date().toISOString() })
    return { id, ms: performance.now() - begun, most }
  }
  const client = new pg.Client({ connectionString: databaseUrl })
  await client.connect()
  const file = join(folder, 'copied.csv')
  writeFileSync(file, '')
  for (const text of pieces(ROWS)) appendFileSync(file, text.replace(HEAD, ''))
  chmodSync(file, 0o644)
  await client.query('create table copied (t timestamp, v double precision)')
  const copyBegun = performance.now()
  await client.query(`copy copied from '${file}' (delimiter ';')`)
  const copyMs = performance.now() - copyBegun
  await client.query('drop table copied')
  await client.end()
  const before = await resident()
  const two = await readIn(ROWS)
  const long = await readIn(LONG)
  const figures: Figure[] = [
    {
      title: '2 million rows read in',
      measured: `${(two.ms / 1000).toFixed(1)} s`,
      against: `the database's own COPY of the same file, ${(copyMs / 1000).toFixed(1)} s`,
      ratio: two.ms / copyMs,
      wanted: 'at most 1.5',
    },
    {
      title: "the server's memory while 10 million rows come in",
      measured: `${long.most.toFixed(0)} MB`,
      against: `${before.toFixed(0)} MB before, ${two.most.toFixed(0)} MB at 2 million`,
      ratio: long.most / Math.max(two.most, before),
      wanted: 'about 1',
    },
  ]
  const at = `/api/loops/FT-101/logs/${long.id}`
  const span = LONG * 1000
  /** Views of all sizes, from the whole to a minute. */
  const views = (n: number) =>
    Array.from({ length: n }, (_, i) => {
      const wide = span * 10 ** (-(i % 9) / 2)
      const from = START + (((i * 7919) % 1000) / 1000) * (span - wide)
      return `${at}/view?channel=0&from=${from}&to=${from + wide}&width=1000`
    })
  const firstBegun = performance.now()
  await ask(views(1)[0] ?? '')
  const first = performance.now() - firstBegun
  const [times, sizes]: [number[], number[]] = [[], []]
  for (const v of views(90)) {
    const begun = performance.now()
    sizes.push((await ask(v)).length)
    times.push(performance.now() - begun)
  }
  const p95 = percentile(times, 95)
  figures.push(
    {
      title: 'any view of 10 million samples, p95',
      measured: `${p95.toFixed(0)} ms (the very first look ${first.toFixed(0)} ms)`,
      against: '50 ms',
      ratio: p95 / 50,
      wanted: 'at most 1',
    },
    {
      title: 'a view over the wire, before it is packed',
      measured: `${(Math.max(...sizes) / 1024).toFixed(0)} KB`,
      against: '40 KB',
      ratio: Math.max(...sizes) / 1024 / 40,
      wanted: 'at most 1',
    },
  )
  const crowd: number[] = []
  await Promise.all(
    Array.from({ length: 20 }, async (_, p) => {
      // Twenty people do not begin in the same millisecond.
      await new Promise((go) => setTimeout(go, p * 5))
      for (const v of views(LOOKS + p).slice(p)) {
        const begun = performance.now()
        await ask(v)
        crowd.push(performance.now() - begun)
        await new Promise((go) => setTimeout(go, 100))
      }
    }),
  )
  const panned = percentile(crowd, 95)
  figures.push({
    title: 'twenty people panning at once, ten looks a second each, p95',
    measured: `${panned.toFixed(0)} ms`,
    against: '150 ms',
    ratio: panned / 150,
    wanted: 'at most 1',
  })
  const summedBegun = performance.now()
  await ask(`${at}/judgement?channel=0&from=${START}&to=${START + span}`)
  const summed = performance.now() - summedBegun
  figures.push({
    title: 'statistics of 10 million samples',
    measured: `${summed.toFixed(0)} ms`,
    against: '1000 ms',
    ratio: summed / 1000,
    wanted: 'at most 1',
  })
  const browser = await launched()
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } })
  await page.goto(`${base}/sign-in`)
  await signIn(page)
  figures.push(await drawnFigure(page, `${base}/logs/FT-101/${long.id}`))
  await browser.close()
  return figures
}

print(judgementFigures())
const folder = mkdtempSync(join(tmpdir(), 'calm-logs-'))
chmodSync(folder, 0o755)
const cluster = await startCluster(ensurePostgres(), folder)
const port = await freePort()
const server = await serve({ url: cluster.url, port, env: { LOG_LEVEL: 'warn' } })
try {
  print(await serverFigures(`http://127.0.0.1:${port}`, cluster.url, folder, server.pid ?? 0))
} finally {
  await server.stop()
  cluster.stop()
  rmSync(folder, { recursive: true, force: true })
}
