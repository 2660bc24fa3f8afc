import type { SqlView } from '@calm/contract/programs'
import { sql } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'

/** Views for programs that read the database, by the words that the migrations put beside them. */
export async function allViews(db: Executor): Promise<SqlView[]> {
  const { rows } = await db.execute<{
    view: string
    says: string | null
    columns: { name: string; type: string }[]
  }>(sql`
    select c.relname as view, obj_description(c.oid) as says,
      (select json_agg(json_build_object('name', a.attname, 'type', format_type(a.atttypid, a.atttypmod)) order by a.attnum)
        from pg_attribute a where a.attrelid = c.oid and a.attnum > 0 and not a.attisdropped) as columns
    from pg_class c join pg_namespace n on n.oid = c.relnamespace
    where n.nspname = 'reading' and c.relkind = 'v' order by c.relname`)
  return rows.map((r) => ({ name: `reading.${r.view}`, says: r.says ?? '', columns: r.columns }))
}
