import { sql, type SQL } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'

const instant = (column: SQL) => sql`to_char(${column} at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')`

/** A table outside the loops whose rows must be what the plant's record says, and how a row is told. */
interface KeptTable {
  readonly key: SQL
  /** The row as JSON, the same on every machine. */
  readonly is: SQL
  /** Which rows are kept; all where it is silent. */
  readonly only?: SQL
  /** What a row is called in a sentence. */
  readonly name: SQL
}

/** By name. Preferences, held rows and sessions are nobody's evidence and are not among them. */
const KEPT_TABLES = {
  people: {
    key: sql`id::text`,
    is: sql`jsonb_build_object('name', name, 'shownName', shown_name, 'role', role, 'state', state, 'areas', areas,
      'until', until::text, 'demo', demo,
      'password', encode(sha256(convert_to(password_hash, 'UTF8')), 'hex'))
      || case when provider is null then '{}'::jsonb else jsonb_build_object('provider', provider) end
      || case when area_roles is null then '{}'::jsonb else jsonb_build_object('areaRoles', area_roles) end`,
    name: sql`'the person ' || shown_name`,
  },
  person_keys: {
    key: sql`fingerprint`,
    is: sql`jsonb_build_object('person', person_id, 'publicKey', public_key, 'salt', salt, 'iv', iv, 'wrapped', wrapped,
      'rounds', rounds, 'from', ${instant(sql`"from"`)}, 'until', ${instant(sql`until`)}, 'ended', ended)`,
    name: sql`'the signing key ' || left(fingerprint, 16)`,
  },
  second_factors: {
    key: sql`person_id::text`,
    is: sql`jsonb_build_object('since', ${instant(sql`since`)}, 'recovery', recovery,
      'secret', encode(sha256(convert_to(secret, 'UTF8')), 'hex'))`,
    name: sql`'a second factor'`,
  },
  equipment: {
    key: sql`id::text`,
    is: sql`jsonb_build_object('name', name, 'serial', serial, 'range', range, 'uncertainty', uncertainty,
      'drift', drift, 'resolution', resolution, 'certificate', certificate, 'certifiedOn', certified_on::text,
      'dueOn', due_on::text, 'foreign', "foreign", 'retired', retired)`,
    name: sql`'the instrument ' || name || ', serial ' || serial`,
  },
  sensor_revisions: {
    key: sql`sensor_id || '/' || revision`,
    is: sql`jsonb_build_object('description', description, 'at', ${instant(sql`at`)}, 'by', by, 'reason', reason)`,
    name: sql`'description ' || revision || ' of a sensor'`,
  },
  settings: {
    key: sql`key`,
    is: sql`value`,
    only: sql`key in ('rules of the plant', 'own parts', 'plant', 'logo', 'plant at work')`,
    name: sql`'the setting ' || key`,
  },
  day_entries: {
    key: sql`id::text`,
    is: sql`jsonb_build_object('kind', kind, 'day', day::text, 'subject', subject, 'by', by, 'at', ${instant(sql`at`)},
      'payload', encode(sha256(convert_to(payload::text, 'UTF8')), 'hex'))`,
    // What is packed is ticked and unticked a hundred times, and proves nothing.
    only: sql`kind <> 'packed'`,
    name: sql`'an entry of the kind ' || kind || coalesce(' for ' || day::text, '')`,
  },
  imports: {
    key: sql`id::text`,
    is: sql`jsonb_build_object('by', by, 'at', ${instant(sql`at`)}, 'result', result)`,
    name: sql`'an import'`,
  },
} as const satisfies Readonly<Record<string, KeptTable>>
export type KeptTableName = keyof typeof KEPT_TABLES

interface ToldRow {
  readonly table: string
  readonly key: string
  readonly name: string
  readonly is: unknown
}

async function rowsOf(db: Executor, table: KeptTableName, also: SQL = sql``): Promise<ToldRow[]> {
  const { key, is, name, only = sql`true` }: KeptTable = KEPT_TABLES[table]
  const { rows } = await db.execute<{ key: string; name: string; is: unknown }>(
    sql`select ${key} as key, ${name} as name, ${is} as is
        from ${sql.identifier(table)} where ${only} ${also} order by 1`,
  )
  return rows.map((r) => ({ table, ...r }))
}

/** Every row that is kept, as it stands now. */
export async function keptRows(db: Executor): Promise<ToldRow[]> {
  const all: ToldRow[] = []
  for (const table of Object.keys(KEPT_TABLES) as KeptTableName[]) all.push(...(await rowsOf(db, table)))
  return all
}

/** One row as it stands now; null where there is none. */
export async function keptRow(db: Executor, table: KeptTableName, key: string): Promise<ToldRow | null> {
  const [row] = await rowsOf(db, table, sql`and ${KEPT_TABLES[table].key} = ${key}`)
  return row ?? null
}
