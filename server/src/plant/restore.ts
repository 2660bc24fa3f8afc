import { createHash } from 'node:crypto'
import { DrizzleQueryError } from 'drizzle-orm/errors'
import { drizzle } from 'drizzle-orm/node-postgres'
import type pg from 'pg'
import type { z } from 'zod'
import { CASING } from '../db/connection.ts'
import { provePlant } from '../proof/prove.ts'
import { refreshSummary } from '../loops/store.ts'
import { projectRun } from '../record/project.ts'
import { proveLoop } from '../record/prove.ts'
import { FirstLine, LastLine, type Tell } from './backup-lines.ts'
import { columnsByTable, newestShape } from './shape.ts'
import { SECRET_SETTINGS } from './tables.ts'

/** Rows and letters sent to the database at once. */
const AT_ONCE = 500
const LETTERS_AT_ONCE = 2e6
const NO_PLACE = '23503'
/** Columns that number their rows: the next number comes after the restored ones. */
const NUMBERED = [
  ['loops', 'position'],
  ['plant_events', 'position'],
  ['day_entries', 'position'],
  ['unsealed', 'position'],
] as const

const CUT = 'This file was changed after the backup was made, or it was cut off.'
const NO_BACKUP = 'This file is not a backup of a plant.'

function parsed<S extends z.ZodType>(text: string, schema: S): z.output<S> | null {
  try {
    return schema.safeParse(JSON.parse(text)).data ?? null
  } catch {
    return null
  }
}

/** The rows of one table, as many at once as the database takes. */
async function* batches(lines: AsyncIterator<string>, rows: number): AsyncGenerator<string[]> {
  let batch: string[] = []
  let letters = 0
  for (let i = 0; i < rows; i++) {
    const next = await lines.next()
    if (next.done) throw new Error(CUT)
    batch.push(next.value)
    letters += next.value.length
    if (batch.length >= AT_ONCE || letters >= LETTERS_AT_ONCE || i === rows - 1) {
      yield batch
      batch = []
      letters = 0
    }
  }
}

/** Every record of the plant that stands in this transaction, proved, and its runs told anew from it. @throws Error naming the first that is not whole */
async function proveAll(client: pg.Client, tell: Tell, signal: AbortSignal | undefined): Promise<void> {
  const db = drizzle(client, CASING)
  const { rows } = await client.query<{ id: string; tag: string }>(
    'select id, tag from loops order by position',
  )
  for (const [i, loop] of rows.entries()) {
    signal?.throwIfAborted()
    const proof = await proveLoop(db, loop.id)
    if (proof.kind === 'broken') throw new Error(`The record of ${loop.tag} is not whole: ${proof.says}`)
    const begun = await client.query<{ id: string }>('select id from runs where loop_id = $1', [loop.id])
    for (const run of begun.rows)
      try {
        await projectRun(db, loop.id, run.id)
      } catch (error) {
        // What the rules of today would not take in stays as it was kept: nobody's record is lost for it.
        if (error instanceof DrizzleQueryError) throw error
      }
    await refreshSummary(db, loop.id)
    tell({ does: 'records proved', done: i + 1, of: rows.length })
  }
}

/**
 * Puts a backed-up plant into an empty database of the same shape, by its owner, in one transaction: it stands there
 * only when the file is whole and every record in it is proved.
 * @param source - lines of the backup as they come
 * @returns when it was made, and rows by table. @throws Error with a sentence when the file is wrong or the database is not empty
 */
export async function restorePlant(
  client: pg.Client,
  source: AsyncIterable<string>,
  tell: Tell = () => undefined,
  signal?: AbortSignal,
): Promise<FirstLine> {
  const hash = createHash('sha256')
  const lines = (async function* () {
    for await (const line of source) {
      // The last line is not in the hash that it tells.
      yield line
      hash.update(`${line}\n`)
    }
  })()
  const head = await lines.next()
  const first = head.done ? null : parsed(head.value, FirstLine)
  if (!first) throw new Error(NO_BACKUP)
  if (first.shape !== (await newestShape(client)))
    throw new Error('The backup is from another version. Restore it with that version, then update.')
  await drizzle(client, CASING).transaction(async (tx) => {
    const { rows: busy } = await client.query<{ n: string }>('select count(*) n from people')
    if (Number(busy[0]?.n) > 0)
      throw new Error(
        'This database is not empty. A plant is restored into an empty one only: nothing is overwritten.',
      )
    await client.query('delete from settings where key <> all($1)', [SECRET_SETTINGS])
    const columns = await columnsByTable(client)
    if (Object.keys(first.rows).join() !== [...columns.keys()].join()) throw new Error(NO_BACKUP)
    for (const [table, names] of columns) {
      // What was put in just now waits by itself, in an order that is not the one in which it happened.
      if (table === 'unsealed') await client.query('delete from unsealed')
      const of = first.rows[table] ?? 0
      let done = 0
      for await (const batch of batches(lines, of)) {
        signal?.throwIfAborted()
        await put(client, table, names, batch)
        done += batch.length
        tell({ does: table, done, of })
      }
    }
    const last = await lines.next()
    const told = last.done ? null : parsed(last.value, LastLine)
    if (told?.sha256 !== hash.copy().digest('hex') || !(await lines.next()).done) throw new Error(CUT)
    await proveAll(client, tell, signal)
    const { mismatches } = await provePlant(tx)
    const [wrong] = mismatches
    if (wrong)
      throw new Error(
        `This plant is not what was recorded: ${wrong.where}${wrong.field === null ? '' : `, ${wrong.field}`}. ${wrong.says}`,
      )
    for (const [table, column] of NUMBERED)
      await client.query(
        `select setval(pg_get_serial_sequence('${table}', '${column}'), greatest(1, (select coalesce(max(${column}), 1) from ${table})))`,
      )
  })
  return first
}

async function put(client: pg.Client, table: string, names: string, batch: readonly string[]): Promise<void> {
  try {
    await client.query(
      `insert into ${table} (${names}) overriding system value
       select ${names} from jsonb_populate_recordset(null::${table}, $1::jsonb)`,
      [`[${batch.join(',')}]`],
    )
  } catch (error) {
    const { code, detail, message } = error as { code?: string; detail?: string; message: string }
    throw new Error(
      code === NO_PLACE
        ? `The backup holds a record of no loop, in ${table}. ${detail ?? ''}`
        : `A row of ${table} does not fit. ${CUT} (${message})`,
      { cause: error },
    )
  }
}
