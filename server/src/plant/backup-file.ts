import {
  closeSync,
  fsyncSync,
  openSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  statSync,
  writeSync,
} from 'node:fs'
import { dirname, join } from 'node:path'
import type pg from 'pg'
import { dumpPlant } from './dump.ts'
import { isSealed, seal, unseal } from './seal.ts'

export interface BackupOptions {
  readonly folder: string
  /** Seals the file; null leaves it readable for who may read the folder. */
  readonly passphrase: string | null
}

/** Daily files that are kept; older ones go. */
export const KEPT_DAILY = 30
const DAILY = /^daily-(\d{4}-\d{2}-\d{2})\.(zip|calm)$/

/** Writes a whole file or none, readable by its owner only. */
function writeWhole(file: string, bytes: Uint8Array): void {
  const half = `${file}.half`
  rmSync(half, { force: true })
  const fd = openSync(half, 'wx', 0o600)
  try {
    let at = 0
    while (at < bytes.length) at += writeSync(fd, bytes, at)
    fsyncSync(fd)
  } finally {
    closeSync(fd)
  }
  renameSync(half, file)
}

/** Backs the plant up to a file of its own. @returns the file. @throws Error when it cannot be written */
export async function backUpTo(
  client: pg.ClientBase,
  file: string,
  passphrase: string | null,
  madeAt = new Date(),
): Promise<string> {
  const bytes = await dumpPlant(client, madeAt)
  writeWhole(file, passphrase === null ? bytes : seal(bytes, passphrase))
  return file
}

/** The bytes of a backup, opened where it is sealed. @throws Error with a sentence */
export function readBackup(file: string, passphrase: string | null): Uint8Array {
  const bytes = readFileSync(file)
  if (!isSealed(bytes)) return bytes
  if (passphrase === null)
    throw new Error('This backup is sealed. Give its passphrase in CALM_BACKUP_PASSPHRASE.')
  return unseal(bytes, passphrase)
}

/** The daily backups in a folder, oldest first. */
export function dailyBackups(folder: string): { readonly day: string; readonly file: string }[] {
  try {
    return readdirSync(folder)
      .flatMap((name) => {
        const day = DAILY.exec(name)?.[1]
        return day === undefined ? [] : [{ day, file: join(folder, name) }]
      })
      .sort((a, b) => (a.day < b.day ? -1 : 1))
  } catch {
    return []
  }
}

/** Today's backup, once, and no more than the kept ones. @returns the file that is there now */
export async function backUpDaily(
  client: pg.ClientBase,
  { folder, passphrase }: BackupOptions,
  now: Date,
): Promise<string> {
  const file = join(folder, `daily-${now.toISOString().slice(0, 10)}.${passphrase === null ? 'zip' : 'calm'}`)
  await backUpTo(client, file, passphrase, now)
  const all = dailyBackups(dirname(file))
  for (const old of all.slice(0, Math.max(0, all.length - KEPT_DAILY))) rmSync(old.file, { force: true })
  return file
}

/** Size of a file in megabytes, for a sentence. */
export const megabytes = (file: string): string => (statSync(file).size / 1e6).toFixed(1)
