import { proveRecord, type ChainedEvent } from '@calm/core/record/hash-chain'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import type pg from 'pg'
import { z } from 'zod'
import { isoInstant } from '../db/time.ts'
import { sha256, sha256Bytes } from '../record/digest.ts'
import { PLANT_TABLES, SECRET_SETTINGS, type PlantTable } from './tables.ts'

const FORMAT = 'calm-loop-plant'
const Manifest = z.object({
  format: z.literal(FORMAT),
  version: z.literal(1),
  /** Name of the newest change of the database's shape. */
  shape: z.string(),
  madeAt: z.string(),
  tables: z.record(z.string(), z.object({ rows: z.int(), sha256: z.string() })),
})
/** Rows sent to the database at once. */
const AT_ONCE = 500

/** Order of rows in a file: the same plant always gives the same bytes. */
const ORDER: Readonly<Record<PlantTable, string>> = {
  people: 'id',
  equipment: 'id',
  settings: 'key',
  loops: 'position',
  loop_revisions: 'loop_id, number',
  runs: 'id',
  events: 'loop_id, seq',
  imports: 'id',
  held_rows: 'id',
  stand_ins: 'loop_id',
  sign_ins: 'id',
}
const newestShape = async (client: pg.ClientBase): Promise<string> => {
  const { rows } = await client.query<{ hash: string }>(
    'select hash from drizzle.__drizzle_migrations order by created_at desc limit 1',
  )
  return rows[0]?.hash ?? ''
}
/** Columns that are stored and not reckoned by the database itself; none where an older shape has no such table. */
async function columnsOf(client: pg.ClientBase, table: PlantTable): Promise<string[]> {
  const { rows } = await client.query<{ column_name: string }>(
    `select column_name from information_schema.columns
     where table_schema = 'public' and table_name = $1 and is_generated = 'NEVER' order by ordinal_position`,
    [table],
  )
  return rows.map((r) => r.column_name)
}
const quoted = (names: readonly string[]) => names.map((n) => `"${n}"`).join(', ')

/** The whole plant as a ZIP of JSON lines, one file a table, all from one moment. */
export async function dumpPlant(client: pg.ClientBase, madeAt: Date): Promise<Uint8Array> {
  await client.query('begin isolation level repeatable read read only')
  try {
    const files: Record<string, Uint8Array> = {}
    const tables: Record<string, { rows: number; sha256: string }> = {}
    for (const table of PLANT_TABLES) {
      const columns = await columnsOf(client, table)
      if (columns.length === 0) continue
      const { rows } = await client.query<{ row: string }>(
        `select to_jsonb(t)::text as row from (select ${quoted(columns)} from ${table}
         ${table === 'settings' ? 'where key <> all($1)' : ''} order by ${ORDER[table]}) t`,
        table === 'settings' ? [SECRET_SETTINGS] : [],
      )
      const bytes = strToU8(rows.map((r) => `${r.row}\n`).join(''))
      files[`${table}.jsonl`] = bytes
      tables[table] = { rows: rows.length, sha256: sha256Bytes(bytes) }
    }
    const manifest = {
      format: FORMAT,
      version: 1,
      shape: await newestShape(client),
      madeAt: madeAt.toISOString(),
      tables,
    }
    return zipSync(
      { 'manifest.json': strToU8(`${JSON.stringify(manifest, null, 1)}\n`), ...files },
      { mtime: madeAt },
    )
  } finally {
    await client.query('rollback')
  }
}

const Instant = z.string().transform((t) => isoInstant(new Date(t)))
const EventRow = z.object({
  id: z.string(),
  loop_id: z.string(),
  run_id: z.string().nullable(),
  seq: z.int(),
  type: z.string(),
  at: Instant,
  recorded_at: Instant,
  form: z.union([z.literal(1), z.literal(2)]),
  by: z.string(),
  payload: z.unknown(),
  previous: z.string(),
  hash: z.string(),
})
const LoopRow = z.object({ id: z.string(), tag: z.string(), last_seq: z.int(), last_hash: z.string() })
const RevisionRow = z.object({ loop_id: z.string(), number: z.int(), document: z.unknown() })

type Lines = Readonly<Record<PlantTable, readonly string[]>>

/** Every loop's record, proved from the lines of a backup alone. @throws Error naming what is not whole */
function proveLines(lines: Lines): void {
  const rows = <T extends z.ZodType>(table: PlantTable, schema: T): z.output<T>[] =>
    lines[table].map((l, i) => {
      const parsed = schema.safeParse(JSON.parse(l))
      if (!parsed.success)
        throw new Error(`${table}.jsonl, line ${i + 1}: ${parsed.error.issues[0]?.message ?? ''}`)
      return parsed.data
    })
  const byLoop = new Map<string, ChainedEvent[]>()
  for (const { loop_id, run_id, recorded_at, payload = null, ...e } of rows('events', EventRow)) {
    const chain = byLoop.get(loop_id) ?? []
    chain.push({ ...e, loopId: loop_id, runId: run_id, recordedAt: recorded_at, payload })
    byLoop.set(loop_id, chain)
  }
  const revisions = rows('loop_revisions', RevisionRow)
  const loops = rows('loops', LoopRow)
  const known = new Set(loops.map((l) => l.id))
  const stray = [...byLoop.keys(), ...revisions.map((r) => r.loop_id)].find((id) => !known.has(id))
  if (stray !== undefined) throw new Error(`The backup holds a record of no loop (${stray}).`)
  for (const loop of loops) {
    const proof = proveRecord(
      loop.id,
      byLoop.get(loop.id) ?? [],
      revisions.flatMap((r) => (r.loop_id === loop.id ? [{ number: r.number, document: r.document }] : [])),
      sha256,
      { seq: loop.last_seq, hash: loop.last_hash },
    )
    if (proof.kind === 'broken') throw new Error(`The record of ${loop.tag} is not whole: ${proof.says}`)
  }
}

function linesOf(bytes: Uint8Array): { lines: Lines; shape: string } {
  const files = (() => {
    try {
      return unzipSync(bytes)
    } catch {
      throw new Error('This file is no ZIP archive, or it was cut off.')
    }
  })()
  const text = files['manifest.json']
  const parsed = Manifest.safeParse(text ? JSON.parse(strFromU8(text)) : null)
  if (!parsed.success) throw new Error('This file is no backup of a plant.')
  const { tables, shape } = parsed.data
  const lines = Object.fromEntries(
    PLANT_TABLES.map((table) => {
      const file = files[`${table}.jsonl`]
      if (!file || sha256Bytes(file) !== tables[table]?.sha256)
        throw new Error(`${table}.jsonl was changed after the backup was made, or is missing.`)
      return [
        table,
        strFromU8(file)
          .split('\n')
          .filter((l) => l !== ''),
      ]
    }),
  ) as unknown as Lines
  return { lines, shape }
}

/**
 * Puts a dumped plant into an empty database of the same shape, by its owner. Every record is proved before
 * anything is written.
 * @returns rows by table. @throws Error with a sentence when the file is wrong or the database is not empty
 */
export async function restorePlant(
  client: pg.ClientBase,
  bytes: Uint8Array,
): Promise<Record<string, number>> {
  const { lines, shape } = linesOf(bytes)
  if (shape !== (await newestShape(client)))
    throw new Error('The backup is from another version. Restore it with that version, then update.')
  proveLines(lines)
  const done: Record<string, number> = {}
  await client.query('begin')
  try {
    const { rows: busy } = await client.query<{ n: string }>('select count(*) n from people')
    if (Number(busy[0]?.n) > 0)
      throw new Error(
        'This database is not empty. A plant is restored into an empty one only: nothing is overwritten.',
      )
    await client.query('delete from settings where key <> all($1)', [SECRET_SETTINGS])
    for (const table of PLANT_TABLES) {
      const columns = quoted(await columnsOf(client, table))
      const mine = lines[table]
      for (let i = 0; i < mine.length; i += AT_ONCE)
        await client.query(
          `insert into ${table} (${columns}) overriding system value
           select ${columns} from jsonb_populate_recordset(null::${table}, $1::jsonb)`,
          [`[${mine.slice(i, i + AT_ONCE).join(',')}]`],
        )
      done[table] = mine.length
    }
    await client.query(
      `select setval(pg_get_serial_sequence('loops', 'position'), greatest(1, (select coalesce(max(position), 1) from loops)))`,
    )
    await client.query('commit')
  } catch (error) {
    await client.query('rollback')
    throw error
  }
  return done
}
