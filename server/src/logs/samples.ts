import type { Log } from '@calm/contract/logs'
import { CHUNK, coarser, isRising, ROW_BYTES } from '@calm/core/logs/blocks'
import { sql } from 'drizzle-orm'
import type pg from 'pg'
import type { Executor } from '../db/connection.ts'
import { floatsOf, floatsOfAll } from './floats.ts'

/** The chunks of a channel, and where each stands. */
export interface Chunks {
  readonly chunks: Float64Array
  /** Of every few of them one. */
  readonly coarse: Float64Array
  /** Chunk with which each block begins, and the end. */
  readonly begins: readonly number[]
  readonly blocks: readonly number[]
  readonly rows: readonly number[]
  /** No chunk begins or ends before the one before it: as nearly every log is. */
  readonly rising: boolean
}

/** One channel of a log. */
export type Stretch = { readonly log: string; readonly channel: number }

/** What is held of every 64 rows of a channel. */
export async function chunksOf(pool: pg.Pool, { log, channel }: Stretch): Promise<Chunks> {
  const { rows } = await pool.query<{ block: number; rows: number; chunks: Buffer }>({
    text: 'select block, rows, chunks from log_blocks where log_id = $1 and channel = $2 order by block',
    values: [log, channel],
  })
  const begins = [0]
  for (const r of rows) begins.push((begins.at(-1) ?? 0) + Math.ceil(r.rows / CHUNK))
  const chunks = floatsOfAll(rows.map((r) => r.chunks))
  return {
    chunks,
    coarse: coarser(chunks),
    rising: isRising(chunks),
    begins,
    blocks: rows.map((r) => r.block),
    rows: rows.map((r) => r.rows),
  }
}

/** Chunks that lie so near to each other are read in one piece: to find a piece costs more than to read it. */
const NEAR = 2

interface Run {
  readonly block: number
  readonly first: number
  last: number
}

/** Runs of chunks that lie together in a block. @param places - of chunks, rising */
function runsOf(c: Chunks, places: readonly number[]): Run[] {
  const runs: Run[] = []
  let b = 0
  for (const k of places) {
    while (k >= (c.begins[b + 1] ?? Infinity)) b++
    const run = runs.at(-1)
    if (run?.block === b && k - run.last <= NEAR) run.last = k
    else runs.push({ block: b, first: k, last: k })
  }
  return runs
}

/** The samples of some chunks. @param places - of chunks, rising */
export async function samplesOfChunks(
  pool: pg.Pool,
  { log, channel }: Stretch,
  c: Chunks,
  places: readonly number[],
): Promise<Float64Array[]> {
  const runs = runsOf(c, places).map(({ block, first, last }) => {
    const begins = c.begins[block] ?? 0
    const row = (first - begins) * CHUNK
    const end = Math.min((last + 1 - begins) * CHUNK, c.rows[block] ?? 0)
    return {
      first,
      last,
      block: c.blocks[block] ?? 0,
      from: row * ROW_BYTES + 1,
      bytes: (end - row) * ROW_BYTES,
    }
  })
  if (runs.length === 0) return []
  const { rows } = await pool.query<{ part: Buffer }>({
    name: 'samples_of_chunks',
    text: `select substring(s.samples from w.begins for w.length) as part
     from unnest($3::int[], $4::int[], $5::int[]) with ordinality as w (block, begins, length, place)
     join log_blocks s on s.log_id = $1 and s.channel = $2 and s.block = w.block order by w.place`,
    values: [log, channel, runs.map((r) => r.block), runs.map((r) => r.from), runs.map((r) => r.bytes)],
  })
  const CHUNK_BYTES = CHUNK * ROW_BYTES
  let r = 0
  return places.map((k) => {
    while (k > (runs[r]?.last ?? Infinity)) r++
    const at = (k - (runs[r]?.first ?? 0)) * CHUNK_BYTES
    return floatsOf((rows[r]?.part ?? Buffer.alloc(0)).subarray(at, at + CHUNK_BYTES))
  })
}

/** All samples of the blocks that touch a stretch. */
export async function samplesBetween(
  pool: pg.Pool,
  { log, channel }: Stretch,
  from: number,
  to: number,
): Promise<Float64Array> {
  const { rows } = await pool.query<{ samples: Buffer }>({
    text: `select samples from log_blocks where log_id = $1 and channel = $2 and to_ms >= $3 and from_ms <= $4
     order by block`,
    values: [log, channel, from, to],
  })
  return floatsOfAll(rows.map((r) => r.samples))
}

/** The blocks that touch a stretch, in their order. */
export async function spansBetween(
  pool: pg.Pool,
  { log, channel }: Stretch,
  from: number,
  to: number,
): Promise<{ block: number; rows: number; from: number; to: number }[]> {
  const { rows } = await pool.query<{ block: number; rows: number; from: number; to: number }>({
    text: `select block, rows, from_ms as "from", to_ms as "to" from log_blocks
     where log_id = $1 and channel = $2 and to_ms >= $3 and from_ms <= $4 order by block`,
    values: [log, channel, from, to],
  })
  return rows
}

/** All samples of some blocks in their order. */
export async function samplesOfBlocks(
  pool: pg.Pool,
  { log, channel }: Stretch,
  blocks: readonly number[],
): Promise<Float64Array> {
  const { rows } = await pool.query<{ samples: Buffer }>({
    text: `select samples from log_blocks where log_id = $1 and channel = $2 and block = any($3::int[])
     order by block`,
    values: [log, channel, blocks],
  })
  return floatsOfAll(rows.map((r) => r.samples))
}

/** The channel of the signal quality that a log tells beside one; null where it tells none, or the channel is it. */
export function qualityChannelOf(log: Log, channel: number): number | null {
  const quality = log.channels.findIndex((c) => c.kind === 'quality')
  return quality < 0 || quality === channel ? null : quality
}

/** The signal quality beside a channel, of a stretch; null where there is none. */
export async function qualityBetween(
  pool: pg.Pool,
  log: Log,
  channel: number,
  from: number,
  to: number,
): Promise<Float64Array | null> {
  const quality = qualityChannelOf(log, channel)
  if (quality === null) return null
  return samplesBetween(pool, { log: log.id, channel: quality }, from, to)
}

/** How many rows the blocks have that touch a stretch. */
export async function rowsBetween(pool: pg.Pool, s: Stretch, from: number, to: number): Promise<number> {
  const { rows } = await pool.query<{ n: string | null }>(
    'select sum(rows) as n from log_blocks where log_id = $1 and channel = $2 and to_ms >= $3 and from_ms <= $4',
    [s.log, s.channel, from, to],
  )
  return Number(rows[0]?.n ?? 0)
}

/** SHA-256 of the hashes of a log's blocks in their order, each with its place. */
export async function hashOfLog(db: Executor, log: string): Promise<string> {
  const { rows } = await db.execute<{ hash: string }>(sql`
    select encode(sha256(convert_to(coalesce(string_agg(
      channel || ' ' || block || ' ' || rows || ' ' || encode(sha256(samples), 'hex'), E'\\n'
      order by channel, block), ''), 'UTF8')), 'hex') as hash from log_blocks where log_id = ${log}`)
  return rows[0]?.hash ?? ''
}
