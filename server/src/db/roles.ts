import { createHmac } from 'node:crypto'
import type pg from 'pg'

/**
 * What the application may do with each table. It owns nothing: it cannot change the database's shape, and what is
 * evidence it can read and add to, and no more. The owner migrates, backs up before it does, and restores.
 */
const MAY: Readonly<Record<string, string>> = {
  events: 'select, insert',
  loop_revisions: 'select, insert',
  sensor_revisions: 'select, insert',
  sign_ins: 'select, insert',
  plant_events: 'select, insert',
  leaves: 'select, insert',
  tree_nodes: 'select, insert',
  tree_heads: 'select, insert',
  unsealed: 'select, delete',
  person_keys: 'select, insert, update',
  second_factors: 'select, insert, update',
  invitations: 'select, insert, update',
  api_tokens: 'select, insert, update',
  webhooks: 'select, insert, update',
  webhook_sends: 'select, insert, update, delete',
  loops: 'select, insert, update',
  runs: 'select, insert, update',
  people: 'select, insert, update',
  equipment: 'select, insert, update',
  settings: 'select, insert, update',
  picture_parts: 'select, insert',
  logs: 'select, insert, update, delete',
  log_pieces: 'select, insert, delete',
  log_blocks: 'select, insert, delete',
  day_entries: 'select, insert',
  imports: 'select, insert, update',
  held_rows: 'select, insert, update, delete',
  stand_ins: 'select, insert, update',
  sensor_stand_ins: 'select, insert, update',
  sessions: 'select, insert, update, delete',
}

/** A password that every server with the same owner's address finds again, without keeping it anywhere. */
const passwordOf = (owner: URL): string =>
  createHmac('sha256', decodeURIComponent(owner.password))
    .update(`calm-loop application role of ${owner.host}${owner.pathname}`)
    .digest('hex')

async function quoted(client: pg.Client, format: string, ...values: string[]): Promise<string> {
  const { rows } = await client.query<{ text: string }>('select format($1, variadic $2::text[]) as text', [
    format,
    values,
  ])
  return rows[0]?.text ?? ''
}

/** PostgreSQL's word for "this role may not do that". */
const NOT_ALLOWED = '42501'

/** Whom the plant's other programs belong to that read the database: they see the views for them and nothing else. */
async function readers(client: pg.Client, role: string): Promise<void> {
  const { rowCount } = await client.query('select 1 from pg_roles where rolname = $1', [role])
  if (rowCount === 0) await client.query(await quoted(client, 'create role %I nologin', role))
  await client.query(await quoted(client, 'grant usage on schema reading to %I', role))
  await client.query(await quoted(client, 'grant select on all tables in schema reading to %I', role))
}

/**
 * Makes the role that the application works as, and gives it exactly what it needs.
 * @param client - connected as the owner
 * @param ownerUrl - its address
 * @returns the application's own address; null where the owner may not make roles or has no password to part from
 */
export async function applicationUrl(client: pg.Client, ownerUrl: string): Promise<string | null> {
  const url = new URL(ownerUrl)
  if (url.password === '') return null
  const { rows } = await client.query<{ database: string }>('select current_database() as database')
  const role = `${(rows[0]?.database ?? '').slice(0, 50)}_application`
  const password = passwordOf(url)
  try {
    const { rowCount } = await client.query('select 1 from pg_roles where rolname = $1', [role])
    if (rowCount === 0) await client.query(await quoted(client, 'create role %I', role))
    await client.query(
      await quoted(
        client,
        'alter role %I login nosuperuser nocreatedb nocreaterole noreplication nobypassrls password %L',
        role,
        password,
      ),
    )
  } catch (error) {
    if ((error as { code?: unknown }).code === NOT_ALLOWED) return null
    throw error
  }
  await client.query('begin')
  for (const [table, may] of Object.entries(MAY)) {
    await client.query(await quoted(client, 'revoke all on %I from %I', table, role))
    await client.query(await quoted(client, `grant ${may} on %I to %I`, table, role))
  }
  await client.query(await quoted(client, 'grant usage on schema public, drizzle to %I', role))
  await client.query(await quoted(client, 'grant select on drizzle.__drizzle_migrations to %I', role))
  await readers(client, `${(rows[0]?.database ?? '').slice(0, 50)}_readers`)
  await client.query('revoke create on schema public from public')
  await client.query('commit')
  url.username = role
  url.password = password
  return url.toString()
}
