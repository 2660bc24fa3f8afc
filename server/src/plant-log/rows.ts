import { sql, type SQL } from 'drizzle-orm'
import type { Executor } from '../db/connection.ts'

const instant = (column: string) => `to_char(${column} at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS.MS"Z"')`

/** A table outside the loops whose rows must be what the plant's record says, and how a row is told. */
interface KeptTable {
  readonly key: string
  /** The row as JSON, the same on every machine. */
  readonly is: string
  /** Which rows are kept; all where it is silent. */
  readonly only?: string
  /** What a row is called in a sentence. */
  readonly name: string
}

/** By name. Preferences, held rows and sessions are nobody's evidence and are not among them. */
export const KEPT_TABLES = {
  people: {
    key: 'id::text',
    is: `jsonb_build_object('name', name, 'shownName', shown_name, 'role', role, 'state', state, 'areas', areas,
      'until', until::text, 'demo', demo,
      'password', encode(sha256(convert_to(password_hash, 'UTF8')), 'hex'))`,
    name: `'the person ' || shown_name`,
  },
  person_keys: {
    key: 'fingerprint',
    is: `jsonb_build_object('person', person_id, 'publicKey', public_key, 'salt', salt, 'iv', iv, 'wrapped', wrapped,
      'rounds', rounds, 'from', ${instant('"from"')}, 'until', ${instant('until')}, 'ended', ended)`,
    name: `'the signing key ' || left(fingerprint, 16)`,
  },
  equipment: {
    key: 'id::text',
    is: `jsonb_build_object('name', name, 'serial', serial, 'range', range, 'uncertainty', uncertainty, 'drift', drift,
      'resolution', resolution, 'certificate', certificate, 'certifiedOn', certified_on::text, 'dueOn', due_on::text,
      'foreign', "foreign", 'retired', retired)`,
    name: `'the instrument ' || name || ', serial ' || serial`,
  },
  sensor_revisions: {
    key: `sensor_id || '/' || revision`,
    is: `jsonb_build_object('description', description, 'at', ${instant('at')}, 'by', by, 'reason', reason)`,
    name: `'description ' || revision || ' of a sensor'`,
  },
  settings: {
    key: 'key',
    is: 'value',
    only: `key in ('rules of the plant', 'own parts', 'plant')`,
    name: `'the setting ' || key`,
  },
  imports: {
    key: 'id::text',
    is: `jsonb_build_object('by', by, 'at', ${instant('at')}, 'result', result)`,
    name: `'an import'`,
  },
} as const satisfies Readonly<Record<string, KeptTable>>
export type KeptTableName = keyof typeof KEPT_TABLES

export interface ToldRow {
  readonly table: string
  readonly key: string
  readonly name: string
  readonly is: unknown
}

async function rowsOf(db: Executor, table: KeptTableName, also: SQL = sql``): Promise<ToldRow[]> {
  const { key, is, name, only = 'true' }: KeptTable = KEPT_TABLES[table]
  const { rows } = await db.execute<{ key: string; name: string; is: unknown }>(
    sql`select ${sql.raw(key)} as key, ${sql.raw(name)} as name, ${sql.raw(is)} as is
        from ${sql.identifier(table)} where ${sql.raw(only)} ${also} order by 1`,
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
  const [row] = await rowsOf(db, table, sql`and ${sql.raw(KEPT_TABLES[table].key)} = ${key}`)
  return row ?? null
}
