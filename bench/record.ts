import type { LoopRow } from '@calm/contract/loops'
import type { RunInfo } from '@calm/contract/events'
import pg from 'pg'
import { ProcedureClient } from './procedure-client.ts'
import { median, type Figure } from './report.ts'

const TIMES = 7
async function timed(client: ProcedureClient, base: string, path: string): Promise<number> {
  const begun = performance.now()
  const answer = await fetch(base + path, { headers: { cookie: client.session } })
  await answer.arrayBuffer()
  if (!answer.ok) throw new Error(`${path} answered ${answer.status}`)
  return performance.now() - begun
}
async function often(client: ProcedureClient, base: string, path: string): Promise<number> {
  await timed(client, base, path)
  const all: number[] = []
  for (let i = 0; i < TIMES; i++) all.push(await timed(client, base, path))
  return median(all)
}

const PAST_LOOPS = 1000
const PAST_YEARS = 10
const PARCEL = 2000
/** Ten years of papers for a thousand loops, two points each, as a page sends them. */
async function enterPast(client: ProcedureClient, tags: readonly string[]): Promise<number> {
  const rows = tags.slice(0, PAST_LOOPS).flatMap((tag) =>
    Array.from({ length: PAST_YEARS }, (_, y) => y).flatMap((y) =>
      [0, 100].map((level) => ({
        line: 1,
        tag,
        on: `${2010 + y}-05-01`,
        number: `C-${y}`,
        by: '',
        applied: { value: level, unit: '%' },
        as: 'error',
        found: { value: 0.02 * y, unit: '%' },
        left: null,
      })),
    ),
  )
  const begun = performance.now()
  let kept = 0
  for (let i = 0; i < rows.length; i += PARCEL) {
    const { body } = await client.ask<{ certificates: number }>('POST', '/api/past-certificates', {
      id: crypto.randomUUID(),
      at: new Date().toISOString(),
      source: 'bench',
      keep: true,
      rows: rows.slice(i, i + PARCEL),
    })
    kept += body.certificates
  }
  if (kept !== PAST_LOOPS * PAST_YEARS) throw new Error(`${kept} certificates were kept`)
  return (performance.now() - begun) / 1000
}

/** A certificate, a package, and the plant's drift list with every loop of 5 000 having a history. */
export async function recordFigures(base: string, databaseUrl: string): Promise<Figure[]> {
  const client = new ProcedureClient(base)
  await client.signIn()
  const { body: loops } = await client.ask<LoopRow[]>('GET', '/api/loops')
  const tag = loops.find((l) => l.tag === 'PT-202')?.id ?? ''
  const { body: runs } = await client.ask<RunInfo[]>('GET', `/api/loops/${tag}/runs`)
  const run = runs.find((r) => r.kind === 'verification')?.id ?? ''
  const certificate_ms = await often(client, base, `/api/runs/${run}/certificate.pdf`)
  const package_ms = await often(client, base, `/api/loops/${tag}/package.zip`)
  // What ten years of verifications leave behind in a loop's row is one drift, whatever their number.
  const database = new pg.Client({ connectionString: databaseUrl })
  await database.connect()
  await database.query(
    `update loops set drift = (select drift from loops where tag = 'LT-102') where drift is null`,
  )
  await database.end()
  const past_s = await enterPast(
    client,
    loops.map((l) => l.tag).filter((t) => t.startsWith('B-')),
  )
  const drift_ms = await often(client, base, '/api/drift')
  return [
    {
      title: `${PAST_LOOPS * PAST_YEARS} past certificates entered`,
      measured: `${past_s.toFixed(1)} s`,
      against: '20 s allowed',
      ratio: past_s / 20,
      wanted: 'below 1',
    },
    {
      title: 'certificate of a verification as PDF',
      measured: `${certificate_ms.toFixed(0)} ms`,
      against: '1500 ms allowed',
      ratio: certificate_ms / 1500,
      wanted: 'below 1',
    },
    {
      title: `package of a loop with ${runs.length} runs`,
      measured: `${package_ms.toFixed(0)} ms`,
      against: `${certificate_ms.toFixed(0)} ms for one certificate`,
      ratio: package_ms / certificate_ms,
      wanted: 'about the number of its verifications',
    },
    {
      title: `drift list of ${loops.length} loops`,
      measured: `${drift_ms.toFixed(0)} ms`,
      against: '1000 ms allowed',
      ratio: drift_ms / 1000,
      wanted: 'below 1',
    },
  ]
}
