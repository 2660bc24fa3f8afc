import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import pg from 'pg'
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest'
import { testApp } from '../test/app.ts'
import { freshDatabase } from '../test/database.ts'
import { dumpPlant, restorePlant } from './dump.ts'

const AT = new Date('2026-11-26T10:00:00.000Z')
let app: Awaited<ReturnType<typeof testApp>>
let client: pg.PoolClient
let bytes: Uint8Array
beforeAll(async () => {
  app = await testApp()
  client = await app.connection.pool.connect()
  bytes = await dumpPlant(client, AT)
})
afterAll(async () => {
  client.release()
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
})
