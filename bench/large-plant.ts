import { createHash } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { createGzip } from 'node:zlib'
import { CHAIN_START, eventHash } from '@calm/core/record/hash-chain'
import { readBackup } from '../server/src/plant/backup-file.ts'

type Row = Readonly<Record<string, unknown>>

const sha256 = (text: string) => createHash('sha256').update(text).digest('hex')
/** The same identifier for the same words, so that a record can be told twice. */
const idOf = (...words: readonly unknown[]) =>
  sha256(words.join()).replace(/^(.{8})(.{4})(.{4})(.{4})(.{12}).*$/, '$1-$2-$3-$4-$5')
const instant = (t: unknown) => new Date(String(t)).toISOString()

async function tablesOf(file: string): Promise<{ head: Row & { rows: Row }; tables: Map<string, Row[]> }> {
  const lines: string[] = []
  for await (const line of readBackup(file, null)) lines.push(line)
  const head = JSON.parse(lines[0] ?? '') as Row & { rows: Record<string, number> }
  const tables = new Map<string, Row[]>()
  let at = 1
  for (const [table, rows] of Object.entries(head.rows)) {
    tables.set(
      table,
      lines.slice(at, at + rows).map((l) => JSON.parse(l) as Row),
    )
    at += rows
  }
  return { head, tables }
}

/**
 * Writes the backup of a plant of many loops, each with the demo plant's countersigned verification once for every year; all
 * chains hold.
 * @returns how many events are in it
 */
export async function writeLargePlant(
  from: string,
  to: string,
  loops: number,
  years: number,
): Promise<number> {
  const { head, tables } = await tablesOf(from)
  const of = (table: string) => tables.get(table) ?? []
  const run = of('runs').find((r) => r['kind'] === 'verification' && r['state'] === 'countersigned')
  const loop = of('loops').find((l) => l['id'] === run?.['loop_id'])
  const mine = of('events').filter((e) => e['loop_id'] === loop?.['id'])
  const saved = mine.find((e) => e['type'] === 'revision.saved')
  const revision = of('loop_revisions').find((r) => r['loop_id'] === loop?.['id'] && r['number'] === 1)
  if (!run || !loop || !saved || !revision)
    throw new Error('the demo plant has no countersigned verification')
  const told = mine.filter((e) => e['run_id'] === run['id'])
  const plan = [
    { run: null, e: saved },
    ...Array.from({ length: years }, (_, y) => told.map((e) => ({ run: y, e }))).flat(),
  ]

  function* record(n: number): Generator<Row & { hash: string }> {
    let previous = CHAIN_START
    for (const [i, { run: year, e }] of plan.entries()) {
      const event = {
        id: idOf('event', n, i),
        loopId: idOf('loop', n),
        runId: year === null ? null : idOf('run', n, year),
        seq: i + 1,
        type: String(e['type']),
        at: instant(e['at']),
        recordedAt: instant(e['recorded_at']),
        form: 2 as const,
        by: String(e['by']),
        payload: e['payload'] ?? null,
        previous,
      }
      previous = eventHash(event, sha256)
      const { loopId, runId, recordedAt, ...same } = event
      yield { ...same, loop_id: loopId, run_id: runId, recorded_at: recordedAt, hash: previous }
    }
  }
  const headOf = (n: number) => [...record(n)].at(-1)?.hash
  const each = Array.from({ length: loops }, (_, n) => n)
  const rowsOf: Readonly<Record<string, { readonly n: number; readonly rows: () => Iterable<Row> }>> = {
    loops: {
      n: loops,
      *rows() {
        for (const n of each)
          yield {
            ...loop,
            id: idOf('loop', n),
            position: n + 1,
            tag: `B-${n + 1}`,
            taken: [],
            last_seq: plan.length,
            last_hash: headOf(n),
          }
      },
    },
    loop_revisions: {
      n: loops,
      *rows() {
        for (const n of each) yield { ...revision, loop_id: idOf('loop', n) }
      },
    },
    runs: {
      n: loops * years,
      *rows() {
        for (const n of each)
          for (let y = 0; y < years; y++)
            yield { ...run, id: idOf('run', n, y), loop_id: idOf('loop', n), revision: 1 }
      },
    },
    events: {
      n: loops * plan.length,
      *rows() {
        for (const n of each) yield* record(n)
      },
    },
    ...Object.fromEntries(
      ['imports', 'held_rows', 'stand_ins', 'sign_ins'].map((t) => [t, { n: 0, rows: () => [] }]),
    ),
  }
  const hash = createHash('sha256')
  function* text(): Generator<string> {
    const line = (value: unknown) => {
      const said = `${JSON.stringify(value)}\n`
      hash.update(said)
      return said
    }
    const rows = Object.fromEntries(Object.keys(head.rows).map((t) => [t, rowsOf[t]?.n ?? of(t).length]))
    yield line({ ...head, rows })
    for (const table of Object.keys(head.rows))
      for (const row of rowsOf[table]?.rows() ?? of(table)) yield line(row)
    yield `${JSON.stringify({ sha256: hash.digest('hex') })}\n`
  }
  await pipeline(Readable.from(text()), createGzip({ level: 1 }), createWriteStream(to))
  return loops * plan.length
}
