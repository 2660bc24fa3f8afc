import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import type pg from 'pg'
import { z } from 'zod'
import { sha256Bytes } from '../package/prove.ts'
import { PLANT_TABLES, type PlantTable } from './tables.ts'

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
}
const shapeOf = async (client: pg.ClientBase): Promise<string> => {
  const { rows } = await client.query<{ hash: string }>(
    'select hash from drizzle.__drizzle_migrations order by created_at desc limit 1',
  )
  return rows[0]?.hash ?? ''
}
/** Columns that are stored and not reckoned by the database itself. */
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
      const columns = quoted(await columnsOf(client, table))
      const { rows } = await client.query<{ row: string }>(
        `select to_jsonb(t)::text as row from (select ${columns} from ${table} order by ${ORDER[table]}) t`,
      )
      const bytes = strToU8(rows.map((r) => `${r.row}\n`).join(''))
      files[`${table}.jsonl`] = bytes
      tables[table] = { rows: rows.length, sha256: sha256Bytes(bytes) }
    }
    const manifest = {
      format: FORMAT,
      version: 1,
      shape: await shapeOf(client),
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

/**
 * Puts a dumped plant into an empty database of the same shape.
 * @returns rows by table. @throws Error with a sentence when the file is wrong or the database is not empty
 */
export async function restorePlant(
  client: pg.ClientBase,
  bytes: Uint8Array,
): Promise<Record<string, number>> {
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
  for (const table of PLANT_TABLES) {
    const file = files[`${table}.jsonl`]
    if (!file || sha256Bytes(file) !== tables[table]?.sha256)
      throw new Error(`${table}.jsonl was changed after the backup was made, or is missing.`)
  }
  if (shape !== (await shapeOf(client)))
    throw new Error('The backup is from another version. Restore it with that version, then update.')
  const done: Record<string, number> = {}
  await client.query('begin')
  try {
    const { rows: busy } = await client.query<{ n: string }>('select count(*) n from people')
    if (Number(busy[0]?.n) > 0)
      throw new Error(
        'This database is not empty. A plant is restored into an empty one only: nothing is overwritten.',
      )
    await client.query('delete from settings')
    for (const table of PLANT_TABLES) {
      const columns = quoted(await columnsOf(client, table))
      const lines = strFromU8(files[`${table}.jsonl`] ?? new Uint8Array())
        .split('\n')
        .filter((l) => l !== '')
      for (let i = 0; i < lines.length; i += AT_ONCE)
        await client.query(
          `insert into ${table} (${columns}) overriding system value
           select ${columns} from jsonb_populate_recordset(null::${table}, $1::jsonb)`,
          [`[${lines.slice(i, i + AT_ONCE).join(',')}]`],
        )
      done[table] = lines.length
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
