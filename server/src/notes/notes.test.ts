import { randomBytes, randomUUID } from 'node:crypto'
import { Readable } from 'node:stream'
import type { StoredEvent } from '@calm/contract/events'
import type { Log } from '@calm/contract/logs'
import { noteKept } from '@calm/core/record/kinds/note-kept'
import { strToU8, unzipSync, zipSync } from 'fflate'
import pg from 'pg'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, inject, test } from 'vitest'
import { provePackage } from '../package/prove.ts'
import { dumpPlant } from '../plant/dump.ts'
import { restorePlant } from '../plant/restore.ts'
import { provePlant } from '../proof/prove.ts'
import { sha256Bytes } from '../record/digest.ts'
import { testApp, testClock, type TestApp } from '../test/app.ts'
import { asBuffer } from '../test/as-buffer.ts'
import { freshDatabase } from '../test/database.ts'

let app: TestApp
let wren: TestAgent
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
})
afterAll(() => app.stop())
/** Bytes that begin as a JPEG does, more than one part of them. */
const photograph = () => Buffer.concat([Buffer.from([0xff, 0xd8, 0xff, 0xe0]), randomBytes(150_000)])
const address = (data: Buffer, type = 'image/jpeg') => `data:${type};base64,${data.toString('base64')}`
const note = (more: object = {}) => ({
  id: randomUUID(),
  at: testClock().toISOString(),
  text: 'Gland loose at the junction box.',
  pictures: [] as string[],
  ...more,
})
const keep = (body: object, tag = 'PT-202', who = wren) => who.post(`/api/loops/${tag}/notes`).send(body)
const says = (res: { body: unknown }) => JSON.stringify(res.body)
const picture = (sha256: string, tag = 'PT-202') => wren.get(`/api/loops/${tag}/pictures/${sha256}`)

describe('a note with photographs', () => {
  const photo = photograph()
  test('stands in the record with the hash of each picture, once however often it is sent', async () => {
    const told = note({ pictures: [address(photo)], where: 'junction box' })
    expect((await keep(told).expect(201)).body).toEqual({ stored: true })
    expect((await keep(told).expect(201)).body).toEqual({ stored: false })
    const all = (await wren.get('/api/loops/PT-202/events').expect(200)).body as StoredEvent[]
    const mine = all.filter((e) => e.type === noteKept.type)
    expect(mine).toHaveLength(1)
    expect(noteKept.says(noteKept.payload.parse(mine[0]?.payload))).toBe(
      'junction box: Gland loose at the junction box. (1 picture)',
    )
    const res = await picture(sha256Bytes(photo)).buffer(true).parse(asBuffer).expect(200)
    expect((res.body as Buffer).equals(photo)).toBe(true)
    expect(res.headers['content-type']).toBe('image/jpeg')
  })
  test('the same identifier with other words is refused', async () => {
    const told = note()
    await keep(told).expect(201)
    await keep({ ...told, text: 'something else' }).expect(409)
  })
  test('a picture is of the loop whose record tells of it, and of no other', async () => {
    await picture(sha256Bytes(photo), 'FT-206').expect(404)
    await picture('0'.repeat(64)).expect(404)
    await wren.get('/api/loops/PT-202/pictures/none').expect(422)
  })
  test('belongs to work on this loop, or to none', async () => {
    const { body: runs } = await wren.get('/api/loops/PT-202/runs').expect(200)
    const run = (runs as { id: string }[])[0]?.id
    await keep(note({ run })).expect(201)
    expect(says(await keep(note({ run }), 'FT-206').expect(422))).toContain('not on this loop')
  })
  test.each<[string, object, string]>([
    ['nothing at all', { text: ' ' }, 'text'],
    ['five pictures', { pictures: Array.from({ length: 5 }, () => address(photograph())) }, 'pictures'],
    ['what is no picture', { pictures: [address(Buffer.from('MZ, a program'))] }, 'pictures.0'],
    ['a JPEG that says it is a PNG', { pictures: [address(photograph(), 'image/png')] }, 'pictures.0'],
    ['a drawing with scripts in it', { pictures: ['data:image/svg+xml;base64,AAAA'] }, 'pictures.0'],
    [
      'a picture far too large',
      { pictures: [`data:image/jpeg;base64,${'A'.repeat(900_001)}`] },
      'pictures.0',
    ],
  ])('%s is told at its place', async (_what, change, path) => {
    const res = await keep(note(change)).expect(422)
    expect((res.body as { errors: { path: string }[] }).errors.map((e) => e.path)).toContain(path)
  })
  test('marks a moment of a log, and none that is not in it', async () => {
    const all = (await wren.get('/api/logs').expect(200)).body as Log[]
    const log = all.find((l) => l.tag === 'PT-405')
    const at = Math.round(((log?.from ?? 0) + (log?.to ?? 0)) / 2)
    const marked = note({ mark: { log: log?.id, at } })
    await keep(marked, 'PT-405').expect(201)
    const events = (await wren.get('/api/loops/PT-405/events').expect(200)).body as StoredEvent[]
    expect(noteKept.payload.parse(events.find((e) => e.id === marked.id)?.payload).mark).toEqual({
      log: log?.id,
      at,
    })
    const late = await keep(note({ mark: { log: log?.id, at: (log?.to ?? 0) + 1 } }), 'PT-405').expect(422)
    expect(says(late)).toContain('mark.at')
    await keep(note({ mark: { log: log?.id, at } }), 'PT-202').expect(404)
  })
  test('a viewer keeps none; on a loop out of use nobody does', async () => {
    await keep(note(), 'PT-202', await app.as('tern')).expect(403)
    await wren.post('/api/loops/TT-407/archive').send({ reason: 'x' }).expect(200)
    const [row] = (await wren.get('/api/loops?archived=yes').expect(200)).body as { id: string }[]
    expect(says(await keep(note(), row?.id).expect(409))).toContain('out of use')
  })
})

describe('the pictures are evidence', () => {
  test('they are in a backup, and there after it was restored', async () => {
    const from = new pg.Client({ connectionString: app.ownerUrl })
    await from.connect()
    let text = ''
    for await (const piece of dumpPlant(from, new Date())) text += piece
    const to = new pg.Client({ connectionString: await freshDatabase(inject('databaseUrl')) })
    await to.connect()
    await restorePlant(to, Readable.from(text.trimEnd().split('\n')))
    const whole = `select sha256 from picture_parts group by sha256
      having encode(sha256(string_agg(data, ''::bytea order by part)), 'hex') = sha256`
    const { rows } = await to.query<{ sha256: string }>(whole)
    expect(rows.length).toBeGreaterThan(0)
    expect(rows).toEqual((await from.query(whole)).rows)
    await to.end()
    await from.end()
  })
  test('changed or gone it is found, and named by its event', async () => {
    const photo = photograph()
    await keep(note({ pictures: [address(photo)] }), 'FT-206').expect(201)
    const found = async () =>
      (await provePlant(app.connection.db)).mismatches.map((m) => `${m.where}: ${m.says}`)
    expect(await found()).toEqual([])
    const hash = sha256Bytes(photo)
    await app.tamper(
      `update picture_parts set data = set_byte(data, 9, get_byte(data, 9) # 1) where sha256 = '${hash}' and part = 1`,
    )
    expect(await found()).toEqual([expect.stringMatching(/^FT-206, event \d+: The picture/)])
    await app.tamper(`delete from picture_parts where sha256 = '${hash}'`)
    expect(await found()).toEqual([expect.stringMatching(/is gone, or was changed/)])
    await expect(app.connection.pool.query('delete from picture_parts')).rejects.toMatchObject({
      code: '42501',
    })
  })
  test('they go along in a package, and one without them, or with others, is refused', async () => {
    const { body } = await wren.get('/api/loops/PT-202/package.zip').buffer(true).parse(asBuffer).expect(200)
    const bytes = new Uint8Array(body as Buffer)
    const now = testClock().toISOString()
    const files = unzipSync(bytes)
    const name = Object.keys(files).find((n) => n.startsWith('pictures/')) ?? ''
    expect(provePackage(bytes, now)).toMatchObject({ kind: 'whole' })
    const without = Object.fromEntries(Object.entries(files).filter(([n]) => n !== name))
    expect(provePackage(zipSync(without), now)).toMatchObject({ kind: 'refused', where: name })
    expect(provePackage(zipSync({ ...files, [name]: strToU8('other') }), now)).toMatchObject({
      kind: 'refused',
      where: name,
    })
    // Taken in by another plant they are there.
    const other = await testApp({ own: true })
    await other.tamper('truncate loops, loop_revisions, runs, events, stand_ins cascade')
    const there = await other.as('wren')
    await there
      .post('/api/packages')
      .set('Content-Type', 'application/zip')
      .send(body as Buffer)
      .expect(200)
    const sha256 = name.slice('pictures/'.length, -'.jpg'.length)
    await there.get(`/api/loops/PT-202/pictures/${sha256}`).expect(200)
    await other.stop()
  })
})
