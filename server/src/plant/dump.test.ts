import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { createHash } from 'node:crypto'
import { Readable } from 'node:stream'
import { gzipSync } from 'node:zlib'
import pg from 'pg'
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest'
import { testApp } from '../test/app.ts'
import { freshDatabase } from '../test/database.ts'
import { backUpDaily, backUpTo, dailyBackups, readBackup } from './backup-file.ts'
import type { FirstLine } from './backup-lines.ts'
import { dumpPlant } from './dump.ts'
import { restorePlant } from './restore.ts'

const AT = new Date('2026-11-26T10:00:00.000Z')
let app: Awaited<ReturnType<typeof testApp>>
let client: pg.Client
let lines: readonly string[]
/** A plant in memory: these are small. */
async function dumped(from: pg.ClientBase): Promise<string[]> {
  let text = ''
  for await (const piece of dumpPlant(from, AT)) text += piece
  return text.trimEnd().split('\n')
}
const restored = (to: pg.Client, from: readonly string[]) => restorePlant(to, Readable.from(from))
const first = (all: readonly string[]) => JSON.parse(all[0] ?? '') as FirstLine
/** Where a table's lines are. */
function placeOf(table: string): { readonly from: number; readonly to: number } {
  let from = 1
  for (const [name, rows] of Object.entries(first(lines).rows)) {
    if (name === table) return { from, to: from + rows }
    from += rows
  }
  throw new RangeError(table)
}
beforeAll(async () => {
  app = await testApp()
  client = new pg.Client({ connectionString: app.ownerUrl })
  await client.connect()
  lines = await dumped(client)
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
  test('and restored into an empty database is the same, letter for letter', async () => {
    const other = await empty()
    const { rows } = await restored(other, lines)
    expect(rows['loops']).toBeGreaterThan(20)
    expect(rows['events']).toBeGreaterThan(500)
    expect(await dumped(other)).toEqual(lines)
    // It goes on where it was: the next loop gets the next place.
    const { rows: next } = await other.query<{ n: string }>(
      `select nextval(pg_get_serial_sequence('loops', 'position')) > (select max(position) from loops) as n`,
    )
    expect(next[0]?.n).toBe(true)
    // What is folded from the record is in no backup and stands beside every run again.
    expect(lines.some((l) => l.includes('"folded"'))).toBe(false)
    const unfolded = await other.query('select 1 from runs where folded is null')
    expect(unfolded.rowCount).toBe(0)
    await other.end()
  })
  test('is never put over another one', async () => {
    await expect(restored(client, lines)).rejects.toThrow(/not empty/)
    expect(await dumped(client)).toEqual(lines)
  })
  test.each(['loop_revisions', 'records proved'])(
    'tells how far it is, and given up at %s leaves nothing',
    async (when) => {
      const other = await empty()
      const given = new AbortController()
      const told: string[] = []
      const restoring = restorePlant(
        other,
        Readable.from(lines),
        ({ does, done, of }) => {
          told.push(`${does} ${done} of ${of}`)
          if (does === when) given.abort(new Error('given up'))
        },
        given.signal,
      )
      await expect(restoring).rejects.toThrow('given up')
      const { loops = 0 } = first(lines).rows
      expect(told).toContain(`loops ${loops} of ${loops}`)
      expect((await other.query('select 1 from loops')).rowCount).toBe(0)
      await other.end()
    },
  )
  test('holds no secret that signs cookies, and no session', async () => {
    const { rows } = await client.query<{ value: string }>(
      `select value #>> '{}' as value from settings where key = 'session secret'`,
    )
    const secret = rows[0]?.value ?? ''
    expect(secret.length).toBeGreaterThan(20)
    expect(lines.filter((l) => l.includes(secret))).toEqual([])
    expect(Object.keys(first(lines).rows)).not.toContain('sessions')
  })
  /** As somebody makes it who knows the form: the count of lines and the hash are made again. */
  const remade = (table: string, change: (all: string[]) => string[]): string[] => {
    const { from, to } = placeOf(table)
    const mine = change(lines.slice(from, to))
    const head = first(lines)
    const all = [
      JSON.stringify({ ...head, rows: { ...head.rows, [table]: mine.length } }),
      ...lines.slice(1, from),
      ...mine,
      ...lines.slice(to, -1),
    ]
    const sha256 = createHash('sha256')
      .update(all.map((l) => `${l}\n`).join(''))
      .digest('hex')
    return [...all, JSON.stringify({ sha256 })]
  }
  const inOne = (all: string[], from: RegExp | string, to: string) => {
    const at = all.findIndex((l) => (typeof from === 'string' ? l.includes(from) : from.test(l)))
    return all.map((l, i) => (i === at ? l.replace(from, to) : l))
  }
  test('with a verdict that its readings do not give is told anew from them', async () => {
    const other = await empty()
    const forged = remade('runs', (all) =>
      all.map((l) => l.replace('"verdict": "FAIL"', '"verdict": "PASS"')),
    )
    expect(forged.slice(1)).not.toEqual(lines.slice(1))
    await restored(other, forged)
    expect(await dumped(other)).toEqual(lines)
    await other.end()
  })
  test('with a list that says another verdict than its record is told anew from it', async () => {
    const other = await empty()
    const forged = remade('loops', (all) =>
      all.map((l) => l.replace('"verdict": "FAIL"', '"verdict": "PASS"')),
    )
    expect(forged.slice(1)).not.toEqual(lines.slice(1))
    await restored(other, forged)
    expect(await dumped(other)).toEqual(lines)
    await other.end()
  })
  const changed = (i: number, change: (l: string) => string) => lines.map((l, k) => (k === i ? change(l) : l))
  test.each<[string, () => string[], RegExp]>([
    [
      'a changed row',
      () => changed(placeOf('events').from, (l) => l.replace('"seq": 1', '"seq": 3')),
      /was changed after the backup was made/,
    ],
    [
      'another version',
      () => changed(0, (l) => l.replace(/"shape":"\w+"/, '"shape":"x"')),
      /another version/,
    ],
    ['something else', () => ['{"a":"a"}'], /not a backup of a plant/],
    ['no JSON', () => ['PK'], /not a backup of a plant/],
    ['nothing', () => [], /not a backup of a plant/],
    ['cut off among the rows', () => lines.slice(0, 400), /it was cut off/],
    ['cut off at its last line', () => lines.slice(0, -1), /it was cut off/],
    ['with a line too many', () => [...lines, '{}'], /was changed after/],
    [
      'a row that is none',
      () => remade('events', (all) => ['[', ...all.slice(1)]),
      /A row of events does not fit/,
    ],
    [
      'with a reading changed and every hash of the file made again',
      () => remade('events', (all) => inOne(all, /"value": [\d.]+/, '"value": 99')),
      /The record of .* is not whole: Event \d+ .*was changed/,
    ],
    [
      'with a document changed',
      () => remade('loop_revisions', (all) => inOne(all, '"remark": ""', '"remark": "x"')),
      /is not whole: Revision \d+ is not the document/,
    ],
    [
      'with an event left out',
      () => remade('events', (all) => all.slice(1)),
      /is not whole: Event 1 is missing/,
    ],
    [
      'with a record cut short',
      () => remade('events', (all) => all.slice(0, -1)),
      /is not whole: The record ends at event/,
    ],
    [
      'without the loop of a record',
      () => remade('loops', (all) => all.slice(1)),
      /holds a record of no loop/,
    ],
  ])('%s is refused and leaves the database empty', async (_why, make, says) => {
    const other = await empty()
    await expect(restored(other, make())).rejects.toThrow(says)
    expect((await other.query('select 1 from people')).rowCount).toBe(0)
    await other.end()
  })
})

describe('a backup as a file', () => {
  let folder = ''
  beforeAll(() => {
    folder = mkdtempSync(join(tmpdir(), 'calm-backups-'))
  })
  afterAll(() => rmSync(folder, { recursive: true, force: true }))
  const halves = () => readdirSync(folder).filter((n) => n.endsWith('.half'))
  async function read(file: string, passphrase: string | null = null): Promise<string[]> {
    const all: string[] = []
    for await (const line of readBackup(file, passphrase)) all.push(line)
    return all
  }
  test('is readable by its owner only, and whole or not there', async () => {
    const file = await backUpTo(client, join(folder, 'a.jsonl.gz'), null, AT)
    expect(statSync(file).mode & 0o777).toBe(0o600)
    expect(await read(file)).toEqual(lines)
    expect(halves()).toEqual([])
  })
  test('that is given up, or that no disk takes, leaves nothing', async () => {
    const given = new AbortController()
    const giveUp = { tell: () => given.abort(new Error('given up')), signal: given.signal }
    const file = join(folder, 'given-up.jsonl.gz')
    await expect(backUpTo(client, file, null, AT, giveUp)).rejects.toThrow('given up')
    expect(readdirSync(folder)).not.toContain('given-up.jsonl.gz')
    await expect(backUpTo(client, join(folder, 'nowhere/a.jsonl.gz'), null, AT)).rejects.toThrow(/ENOENT/)
    expect(halves()).toEqual([])
    // The connection is of use afterwards.
    expect(await dumped(client)).toEqual(lines)
  })
  test('sealed it opens with its passphrase alone', async () => {
    const file = await backUpTo(client, join(folder, 'b.calm'), 'sea salt and brine', AT)
    expect(
      readFileSync(file)
        .subarray(0, 40)
        .includes(Buffer.from([0x1f, 0x8b])),
    ).toBe(false)
    expect(await read(file, 'sea salt and brine')).toEqual(lines)
    await expect(read(file)).rejects.toThrow(/sealed/)
    await expect(read(file, 'sea salt')).rejects.toThrow(/passphrase is another one/)
    const flipped = readFileSync(file)
    flipped[flipped.length - 5] = (flipped[flipped.length - 5] ?? 0) ^ 1
    writeFileSync(file, flipped)
    await expect(read(file, 'sea salt and brine')).rejects.toThrow(/or the file was changed/)
  })
  test.each<[string, (whole: Buffer) => Buffer]>([
    ['cut off', (whole) => whole.subarray(0, whole.length / 2)],
    ['not one of ours', () => gzipSync('a\n').subarray(2)],
    ['a picture', () => Buffer.from('\x89PNG nothing')],
  ])('%s is told in a sentence', async (_why, make) => {
    const whole = readFileSync(await backUpTo(client, join(folder, 'c.jsonl.gz'), null, AT))
    const file = join(folder, 'wrong.jsonl.gz')
    writeFileSync(file, make(whole))
    await expect(read(file)).rejects.toThrow(/not a backup of a plant, or it was cut off/)
  })
  test.each(['PK\x03\x04', 'CALM-BACKUP-1\n'])('of an older form (%j) is told as that', async (begins) => {
    const file = join(folder, 'older')
    writeFileSync(file, `${begins} and more`)
    await expect(read(file, 'sea salt and brine')).rejects.toThrow(/made by version 0\.1\.0/)
  })
  test('that is not there is told as that', async () => {
    await expect(read(join(folder, 'nowhere.calm'))).rejects.toThrow(/ENOENT/)
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
    expect(readdirSync(folder)).toEqual(expect.arrayContaining(['daily-notes.txt', 'a.jsonl.gz']))
  })
})
