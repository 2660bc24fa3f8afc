import type pg from 'pg'
import { FOLDED_COLUMNS, PLANT_TABLES, type PlantTable } from './tables.ts'

/** Name of the newest change of a database's shape; empty before the first. */
export async function newestShape(client: pg.ClientBase): Promise<string> {
  const { rows } = await client.query<{ hash: string }>(
    'select hash from drizzle.__drizzle_migrations order by created_at desc limit 1',
  )
  return rows[0]?.hash ?? ''
}

/** Columns of each table that hold the plant, in quotes; a table that an older shape does not have is missing. */
export async function columnsByTable(client: pg.ClientBase): Promise<Map<PlantTable, string>> {
  const { rows } = await client.query<{ table: PlantTable; columns: string }>(
    `select table_name as table, string_agg(quote_ident(column_name), ', ' order by ordinal_position) as columns
     from information_schema.columns
     where table_schema = 'public' and is_generated = 'NEVER' and column_name <> all($1) group by table_name`,
    [FOLDED_COLUMNS],
  )
  const columns = new Map(rows.map((r) => [r.table, r.columns]))
  return new Map(
    PLANT_TABLES.flatMap((table) => {
      const mine = columns.get(table)
      return mine === undefined ? [] : [[table, mine] as const]
    }),
  )
}
