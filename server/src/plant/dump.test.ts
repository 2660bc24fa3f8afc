import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import pg from 'pg'
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest'
import { testApp } from '../test/app.ts'
import { freshDatabase } from '../test/database.ts'
import { sha256Bytes } from '../record/digest.ts'
import { backUpDaily, backUpTo, dailyBackups, readBackup } from './backup-file.ts'
import { dumpPlant, restorePlant } from './dump.ts'

const AT = new Date('2026-11-26T10:00:00.000Z')
let app: Awaited<ReturnType<typeof testApp>>
let client: pg.Client
let bytes: Uint8Array
beforeAll(async () => {
  app = await testApp()
  client = new pg.Client({ connectionString: app.ownerUrl })
  await client.connect()
  bytes = await dumpPlant(client, AT)
})
afterAll(async () => {
  await client.end()
  await app.stop()
})
async function empty(): Promise<pg.Client> {
  const other = new pg.Client({ connectionString: await freshDatabase(inject('databaseUrl')) })
  await other.connect()
  return other
}

describe('a plant backed up', () => {
  test('and restored into an empty database is the same, byte for byte', async () => {
    const other = await empty()
    const rows = await restorePlant(other, bytes)
    expect(rows['loops']).toBeGreaterThan(20)
    expect(rows['events']).toBeGreaterThan(500)
    expect(await dumpPlant(other, AT)).toEqual(bytes)
    // It goes on where it was: the next loop gets the next place.
    const { rows: next } = await other.query<{ n: string }>(
      `select nextval(pg_get_serial_sequence('loops', 'position')) > (select max(position) from loops) as n`,
    )
    expect(next[0]?.n).toBe(true)
    await other.end()
  })
  test('is never put over another one', async () => {
    await expect(restorePlant(client, bytes)).rejects.toThrow(/not empty/)
    expect(await dumpPlant(client, AT)).toEqual(bytes)
  })
  const forged = (name: string, change: (t: string) => string) => {
    const files = unzipSync(bytes)
    return zipSync({ ...files, [name]: strToU8(change(strFromU8(files[name] ?? new Uint8Array()))) })
  }
  test.each<[string, () => Uint8Array, RegExp]>([
    [
      'a changed row',
      () => forged('events.jsonl', (t) => t.replace('"seq": 2', '"seq": 3')),
      /events\.jsonl was changed/,
    ],
    [
      'another version',
      () => forged('manifest.json', (t) => t.replace(/"shape": "\w+"/, '"shape": "x"')),
      /another version/,
    ],
    ['something else', () => zipSync({ 'a.txt': strToU8('a') }), /no backup of a plant/],
    ['cut off', () => bytes.subarray(0, 1000), /no ZIP archive/],
  ])('%s is refused and leaves the database empty', async (_why, make, says) => {
    const other = await empty()
    await expect(restorePlant(other, make())).rejects.toThrow(says)
    expect((await other.query('select 1 from people')).rowCount).toBe(0)
    await other.end()
  })
  test('holds no secret that signs cookies, and no session', async () => {
    const files = unzipSync(bytes)
    const { rows } = await client.query<{ value: string }>(
      `select value #>> '{}' as value from settings where key = 'session secret'`,
    )
    const secret = rows[0]?.value ?? ''
    expect(secret.length).toBeGreaterThan(20)
    for (const [name, file] of Object.entries(files))
      expect([name, strFromU8(file).includes(secret)]).toEqual([name, false])
    expect(Object.keys(files)).not.toContain('sessions.jsonl')
  })
  /** As somebody makes it who knows the manifest: each file's hash is made again. */
  const remade = (name: string, change: (t: string) => string) => {
    const files = unzipSync(bytes)
    const file = strToU8(change(strFromU8(files[name] ?? new Uint8Array())))
    const manifest = JSON.parse(strFromU8(files['manifest.json'] ?? new Uint8Array())) as {
      tables: Record<string, { sha256: string }>
    }
    const table = manifest.tables[name.replace('.jsonl', '')]
    if (table) table.sha256 = sha256Bytes(file)
    return zipSync({ ...files, [name]: file, 'manifest.json': strToU8(JSON.stringify(manifest)) })
  }
  test.each<[string, () => Uint8Array, RegExp]>([
    [
      'a reading',
      () => remade('events.jsonl', (t) => t.replace(/"value": [\d.]+/, '"value": 99')),
      /The record of .* is not whole: Event \d+ .*was changed/,
    ],
    [
      'a document',
      () => remade('loop_revisions.jsonl', (t) => t.replace('"remark": ""', '"remark": "x"')),
      /is not whole: Revision \d+ is not the document/,
    ],
    [
      'an event left out',
      () => remade('events.jsonl', (t) => t.split('\n').slice(1).join('\n')),
      /is not whole: Event 1 is missing/,
    ],
    [
      'a record cut short',
      () => remade('events.jsonl', (t) => t.trimEnd().split('\n').slice(0, -1).join('\n')),
      /is not whole: The record ends at event/,
    ],
    [
      'a loop of another’s record',
      () => remade('loops.jsonl', (t) => t.split('\n').slice(1).join('\n')),
      /holds a record of no loop/,
    ],
  ])(
    'with %s changed and every hash of the file made again it is refused before anything is written',
    async (_why, make, says) => {
      const other = await empty()
      await expect(restorePlant(other, make())).rejects.toThrow(says)
      expect((await other.query('select 1 from people')).rowCount).toBe(0)
      await other.end()
    },
  )
})

describe('a backup as a file', () => {
  let folder = ''
  beforeAll(() => {
    folder = mkdtempSync(join(tmpdir(), 'calm-backups-'))
  })
  afterAll(() => rmSync(folder, { recursive: true, force: true }))
  test('is readable by its owner only, and whole or not there', async () => {
    const file = await backUpTo(client, join(folder, 'a.zip'), null, AT)
    expect(statSync(file).mode & 0o777).toBe(0o600)
    expect(new Uint8Array(readBackup(file, null))).toEqual(bytes)
    expect(readdirSync(folder).filter((n) => n.endsWith('.half'))).toEqual([])
  })
  test('sealed it opens with its passphrase alone', async () => {
    const file = await backUpTo(client, join(folder, 'b.calm'), 'sea salt and brine', AT)
    expect(readFileSync(file).includes(Buffer.from('people.jsonl'))).toBe(false)
    expect(new Uint8Array(readBackup(file, 'sea salt and brine'))).toEqual(bytes)
    expect(() => readBackup(file, null)).toThrow(/sealed/)
    expect(() => readBackup(file, 'sea salt')).toThrow(/passphrase is another one/)
    const flipped = readFileSync(file)
    flipped[flipped.length - 5] = (flipped[flipped.length - 5] ?? 0) ^ 1
    writeFileSync(file, flipped)
    expect(() => readBackup(file, 'sea salt and brine')).toThrow(/or the file was changed/)
  })
  test('thirty days are kept, and nothing else in the folder is touched', async () => {
    writeFileSync(join(folder, 'daily-notes.txt'), 'mine')
    for (let d = 1; d <= 33; d++)
      writeFileSync(
        join(
          folder,
          `daily-2026-${d < 31 ? '09' : '10'}-${String(d < 31 ? d : d - 30).padStart(2, '0')}.zip`,
        ),
        'x',
      )
    await backUpDaily(client, { folder, passphrase: null }, AT)
    const days = dailyBackups(folder)
    expect(days).toHaveLength(30)
    expect(days.at(-1)?.day).toBe('2026-11-26')
    expect(readdirSync(folder)).toEqual(expect.arrayContaining(['daily-notes.txt', 'a.zip']))
  })
})
