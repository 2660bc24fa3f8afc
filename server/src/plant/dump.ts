import { createHash } from 'node:crypto'
import type pg from 'pg'
import type { FirstLine, Tell } from './backup-lines.ts'
import { columnsByTable, newestShape } from './shape.ts'
import { ORDER, SECRET_SETTINGS } from './tables.ts'

/** Rows fetched at once: what a backup holds in memory, however large the plant. */
const AT_ONCE = 200

/**
 * The whole plant as JSON lines, all from one moment, read piece by piece.
 * @param madeAt - by the clock here
 * @throws whatever the signal was given up with
 */
export async function* dumpPlant(
  client: pg.ClientBase,
  madeAt: Date,
  tell: Tell = () => undefined,
  signal?: AbortSignal,
): AsyncGenerator<string> {
  await client.query('begin isolation level repeatable read read only')
  try {
    const hash = createHash('sha256')
    const line = (text: string) => {
      hash.update(text)
      return text
    }
    const tables = [...(await columnsByTable(client))].map(([table, columns]) => ({
      table,
      select: `select ${columns} from ${table} ${table === 'settings' ? `where key <> all('{${SECRET_SETTINGS.map((s) => `"${s}"`).join(',')}}')` : ''}`,
    }))
    const rows: Record<string, number> = {}
    for (const { table, select } of tables) {
      const counted = await client.query<{ n: string }>(`select count(*) n from (${select}) t`)
      rows[table] = Number(counted.rows[0]?.n ?? 0)
    }
    const first: FirstLine = {
      format: 'calm-loop-plant',
      version: 2,
      shape: await newestShape(client),
      madeAt: madeAt.toISOString(),
      rows,
    }
    yield line(`${JSON.stringify(first)}\n`)
    for (const { table, select } of tables) {
      const of = rows[table] ?? 0
      await client.query(
        `declare plant no scroll cursor for
         select to_jsonb(t)::text as row from (${select} order by ${ORDER[table]}) t`,
      )
      for (let done = 0; done < of;) {
        signal?.throwIfAborted()
        const fetched = await client.query<{ row: string }>(`fetch ${AT_ONCE} from plant`)
        done += fetched.rows.length
        tell({ does: table, done, of })
        yield line(fetched.rows.map((r) => `${r.row}\n`).join(''))
      }
      await client.query('close plant')
    }
    yield `${JSON.stringify({ sha256: hash.digest('hex') })}\n`
  } finally {
    await client.query('rollback')
  }
}
