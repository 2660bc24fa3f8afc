import { existsSync, readFileSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { fileURLToPath } from 'node:url'
import { drizzle } from 'drizzle-orm/node-postgres'
import { migrate as run } from 'drizzle-orm/node-postgres/migrator'
import type pg from 'pg'
import { z } from 'zod'

/** The migrations folder beside the sources or beside the bundle. */
function migrationsFolder(): string {
  let at = dirname(fileURLToPath(import.meta.url))
  while (!existsSync(join(at, 'migrations'))) {
    const up = dirname(at)
    if (up === at) throw new Error('migrations folder not found')
    at = up
  }
  return join(at, 'migrations')
}

const Journal = z.object({ entries: z.array(z.object({ when: z.number(), tag: z.string() })) })
const journal = () =>
  Journal.parse(JSON.parse(readFileSync(join(migrationsFolder(), 'meta/_journal.json'), 'utf8'))).entries

export interface Shape {
  /** How many changes of its shape the database has had, and how many this program knows. */
  readonly here: number
  readonly known: number
  readonly is: 'empty' | 'older' | 'same' | 'newer'
}

/** Where the database's shape stands against the one that this program needs. */
export async function shapeOf(client: pg.ClientBase | pg.Pool): Promise<Shape> {
  const entries = journal()
  const { rows: there } = await client.query<{ t: string | null }>(
    `select to_regclass('drizzle.__drizzle_migrations')::text as t`,
  )
  if (!there[0]?.t) return { here: 0, known: entries.length, is: 'empty' }
  const { rows } = await client.query<{ n: number; newest: string | null }>(
    'select count(*)::int as n, max(created_at)::text as newest from drizzle.__drizzle_migrations',
  )
  const here = rows[0]?.n ?? 0
  const newest = Number(rows[0]?.newest ?? 0)
  const wanted = entries.at(-1)?.when ?? 0
  return {
    here,
    known: entries.length,
    is: here === 0 ? 'empty' : newest > wanted ? 'newer' : newest < wanted ? 'older' : 'same',
  }
}

/** Brings the database to the newest shape, by a role that owns it. */
export const migrate = (client: pg.Client): Promise<void> =>
  run(drizzle(client), { migrationsFolder: migrationsFolder() })
