import { createWriteStream, readdirSync, renameSync, rmSync, statSync } from 'node:fs'
import { dirname, join } from 'node:path'
import { createInterface } from 'node:readline'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { createGunzip, createGzip } from 'node:zlib'
import type pg from 'pg'
import type { Tell } from './backup-lines.ts'
import { dumpPlant } from './dump.ts'
import { beginningOf, opened, sealed } from './seal.ts'

export interface BackupOptions {
  readonly folder: string
  /** Seals the file; null leaves it readable for who may read the folder. */
  readonly passphrase: string | null
}

/** Daily files that are kept; older ones go. */
export const KEPT_DAILY = 30
const DAILY = /^daily-(\d{4}-\d{2}-\d{2})\.(zip|jsonl\.gz|calm)$/

/** How a backup's file ends. */
export const endingOf = (passphrase: string | null): string => (passphrase === null ? 'jsonl.gz' : 'calm')

/**
 * Backs the plant up to a file of its own, whole or not at all, readable by its owner only; what is in memory does
 * not grow with the plant.
 * @returns the file. @throws Error when it cannot be written, or whatever the signal was given up with
 */
export async function backUpTo(
  client: pg.ClientBase,
  file: string,
  passphrase: string | null,
  madeAt = new Date(),
  { tell, signal }: { readonly tell?: Tell; readonly signal?: AbortSignal } = {},
): Promise<string> {
  const half = `${file}.half`
  rmSync(half, { force: true })
  const seal = (source: AsyncIterable<Buffer>) => (passphrase === null ? source : sealed(source, passphrase))
  const plant = dumpPlant(client, madeAt, tell, signal)
  try {
    await pipeline(
      Readable.from(plant),
      createGzip(),
      seal,
      createWriteStream(half, { flags: 'wx', mode: 0o600, flush: true }),
    )
    renameSync(half, file)
  } finally {
    // Its transaction is over before the connection is used for anything else.
    await plant.return(undefined).catch(() => undefined)
    rmSync(half, { force: true })
  }
  return file
}

const OLDER = /^(PK|CALM-BACKUP-1)/

/** The lines of a backup as they come, opened where it is sealed. @throws Error with a sentence */
export async function* readBackup(file: string, passphrase: string | null): AsyncGenerator<string> {
  if (OLDER.test(await beginningOf(file)))
    throw new Error('This backup was made by version 0.1.0. Restore it with that version, then update.')
  const bytes = createGunzip()
  const coming = pipeline(opened(file, passphrase), bytes)
  // Told where the lines are read.
  coming.catch(() => undefined)
  try {
    yield* createInterface({ input: bytes, crlfDelay: Infinity })
    await coming
  } catch (error) {
    const { code = '' } = error as { code?: string }
    throw code.startsWith('Z_')
      ? new Error('This file is not a backup of a plant, or it was cut off.')
      : error
  }
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
  signal?: AbortSignal,
): Promise<string> {
  const file = join(folder, `daily-${now.toISOString().slice(0, 10)}.${endingOf(passphrase)}`)
  await backUpTo(client, file, passphrase, now, signal ? { signal } : {})
  const all = dailyBackups(dirname(file))
  for (const old of all.slice(0, Math.max(0, all.length - KEPT_DAILY))) rmSync(old.file, { force: true })
  return file
}

/** Size of a file in megabytes, for a sentence. */
export const megabytes = (file: string): string => (statSync(file).size / 1e6).toFixed(1)
