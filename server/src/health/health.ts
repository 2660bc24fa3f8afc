import type { Health, HealthPart } from '@calm/contract/health'
import { settings } from '../db/schema.ts'
import type { Connection } from '../db/connection.ts'
import { dailyBackups } from '../plant/backup-file.ts'
import { freeOf, LOW_DISK_MB } from './disk.ts'
import type { Pool } from '../work/pool.ts'

/** Asked by anybody and often: what costs something is looked at so often at most. */
const KEEP_MS = 1_000
const WRITE_EVERY_MS = 10_000
const DAY_MS = 86_400_000
/** A daily backup may be late by this much before anybody is told. */
const LATE_MS = 2 * DAY_MS

export interface HealthParts {
  readonly connection: Connection
  readonly pool: Pool
  readonly dataFolder: string
  readonly backupFolder: string | null
}

/** Looks at everything that work rests on. */
export function healthOf({ connection, pool, dataFolder, backupFolder }: HealthParts): () => Promise<Health> {
  let newest: { at: number; health: Promise<Health> } | null = null
  let wrote = { at: 0, ok: false }

  async function database(): Promise<HealthPart> {
    try {
      await connection.pool.query('select 1')
      return { ok: true, says: 'answers' }
    } catch {
      return { ok: false, says: 'does not answer' }
    }
  }
  async function writing(now: number): Promise<HealthPart> {
    if (!wrote.ok || now - wrote.at > WRITE_EVERY_MS)
      try {
        const value = new Date(now).toISOString()
        await connection.db
          .insert(settings)
          .values({ key: 'last write', value })
          .onConflictDoUpdate({ target: settings.key, set: { value } })
        wrote = { at: now, ok: true }
      } catch {
        wrote = { at: now, ok: false }
      }
    return wrote.ok ? { ok: true, says: 'stores' } : { ok: false, says: 'does not store' }
  }
  async function disk(): Promise<HealthPart> {
    const free_MB = await freeOf(dataFolder)
    return free_MB === null
      ? { ok: false, says: 'its free space cannot be read' }
      : { ok: free_MB >= LOW_DISK_MB, says: `${free_MB} MB free` }
  }
  function backup(now: number): HealthPart {
    if (backupFolder === null) return { ok: false, says: 'none is scheduled' }
    const last = dailyBackups(backupFolder).at(-1)
    if (!last) return { ok: false, says: 'none yet' }
    return { ok: now - Date.parse(last.day) < LATE_MS, says: `the last of ${last.day}` }
  }
  async function look(now: number): Promise<Health> {
    const base = await database()
    const [write, free] = await Promise.all([
      base.ok ? writing(now) : Promise.resolve({ ok: false, says: 'does not store' }),
      disk(),
    ])
    const { threads, busy, waiting } = pool.state()
    return {
      ok: base.ok && write.ok,
      database: base,
      writing: write,
      disk: free,
      backup: backup(now),
      calculations: { ok: waiting === 0, says: `${busy} of ${threads} threads at work, ${waiting} waiting` },
    }
  }
  return () => {
    const now = Date.now()
    if (!newest || now - newest.at > KEEP_MS) newest = { at: now, health: look(now) }
    return newest.health
  }
}
