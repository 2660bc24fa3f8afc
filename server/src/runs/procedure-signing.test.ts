import { randomUUID } from 'node:crypto'
import type { StoredEvent } from '@calm/contract/events'
import type { Signing } from '@calm/core/signing/signing'
import { sql } from 'drizzle-orm'
import pg from 'pg'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, onTestFinished, test } from 'vitest'
import { provePlant } from '../proof/prove.ts'
import { runRow } from '../record/runs.ts'
import { foundAfter, rehash } from '../test/cheat.ts'
import { procedureData } from '../reports/procedure-data.ts'
import { testApp, type TestApp } from '../test/app.ts'
import { AT, worked } from '../test/procedure.ts'
import { signedAsPageDoes } from '../test/signing.ts'

let app: TestApp
let wren: TestAgent
let heron: TestAgent
let dunlin: TestAgent
let tern: TestAgent
beforeAll(async () => {
  app = await testApp({ own: true })
  wren = await app.as('wren')
  heron = await app.as('heron')
  dunlin = await app.as('dunlin')
  tern = await app.as('tern')
})
afterAll(() => app.stop())

type Signed = { body: { payload: Signing } }[]
const event = (runId: string, as: Signing['as'], statement = 'As recorded.') => [
  { id: randomUUID(), runId, at: AT, body: { type: 'procedure.signed', payload: { as, statement } } },
]
/** Signed as a page does, changed on the way where the test says so, and sent. */
async function sign(
  who: TestAgent,
  list: unknown[],
  change: (s: Signing) => void = () => undefined,
): Promise<{ status: number; says: string; path: string | undefined }> {
  const signed = (await signedAsPageDoes(who, list, 'PT-103')) as Signed
  for (const e of signed) change(e.body.payload)
  const res = await who.post('/api/loops/PT-103/events').send({ events: signed })
  const { title = '', errors } = res.body as { title?: string; errors?: { path: string; says: string }[] }
  return { status: res.status, says: `${title} ${errors?.[0]?.says ?? ''}`, path: errors?.[0]?.path }
}
const signaturesOf = async (run: string) =>
  (await procedureData(app.connection.db, run)).signatures.map((s) => `${s.name}: ${s.signature?.meaning}`)

describe('a procedure is signed', () => {
  test('by who worked at it, then by a reviewer; both stand on its paper and hold in the proof', async () => {
    const run = await worked(wren, 'zero-trim')
    const before = (await provePlant(app.connection.db)).signatures
    expect(await sign(wren, event(run, 'technician'))).toMatchObject({ status: 200 })
    expect(await sign(heron, event(run, 'reviewer', 'reviewed'))).toMatchObject({ status: 200 })
    const names = await signaturesOf(run)
    expect(names.map((n) => n.split(': ')[1])).toEqual(['performed', 'reviewed'])
    const proof = await provePlant(app.connection.db)
    expect(proof.mismatches).toEqual([])
    expect(proof.signatures).toBe(before + 2)
    const pdf = (await wren.get(`/api/runs/${run}/certificate.pdf`).buffer().expect(200)).body as Buffer
    expect(pdf.length).toBeGreaterThan(10_000)
    const { events } = (await tern.get(`/api/runs/${run}`).expect(200)).body as { events: StoredEvent[] }
    expect(events.slice(-2).map((e) => e.type)).toEqual(['procedure.signed', 'procedure.signed'])
  })
  test('a step that is another one later is found by the signature, though all hashes were made anew', async () => {
    const run = await worked(wren, 'zero-trim')
    await sign(wren, event(run, 'technician'))
    const { loopId } = await runRow(app.connection.db, run)
    const client = new pg.Client({ connectionString: app.ownerUrl })
    await client.connect()
    const says = await foundAfter(client, async (db) => {
      await db.execute(
        sql`update events set payload = jsonb_set(payload, '{note}', '"nothing to see"') where run_id = ${run} and seq = (select min(seq) from events where run_id = ${run} and type = 'procedure.step')`,
      )
      await rehash(db, loopId)
    })
    await client.end()
    expect(says.filter((s) => /, signature: /.test(s))).toEqual([
      expect.stringMatching(/^PT-103, event \d+, signature: What was signed is not what stands here/),
    ])
  })
  test.each<[string, (s: Signing) => void, string]>([
    ['without a key', (s) => Reflect.deleteProperty(s, 'signature'), 'signature'],
    ['over something else', (s) => s.signature && (s.signature.of = '0'.repeat(64)), 'signature.of'],
    ['by nobody’s key', (s) => s.signature && (s.signature.key = '0'.repeat(64)), 'signature.key'],
    ['with another meaning', (s) => s.signature && (s.signature.meaning = 'reviewed'), 'signature.meaning'],
    ['saying nothing', (s) => (s.statement = ' '), 'statement'],
  ])('%s: refused at its place', async (_, change, path) => {
    const run = await worked(wren, 'zero-trim')
    const res = await sign(wren, event(run, 'technician'), change)
    expect([res.status, res.path]).toEqual([422, `events.0.body.payload.${path}`])
    expect(await signaturesOf(run)).toEqual([])
  })
  test.each<[string, () => Promise<string>, () => TestAgent, Signing['as'], number, RegExp]>([
    [
      'before it has ended',
      () => worked(wren, 'zero-trim', 3),
      () => wren,
      'technician',
      409,
      /once it has ended/,
    ],
    [
      'as done by who was not there',
      () => worked(wren, 'zero-trim'),
      () => dunlin,
      'technician',
      409,
      /Who worked/,
    ],
    [
      'as reviewed before it is signed',
      () => worked(wren, 'zero-trim'),
      () => heron,
      'reviewer',
      409,
      /after the tech/,
    ],
    [
      'as reviewed by a technician',
      () => worked(wren, 'zero-trim'),
      () => dunlin,
      'reviewer',
      403,
      /Only a reviewer/,
    ],
    ['by who only looks', () => worked(wren, 'zero-trim'), () => tern, 'technician', 403, /viewer/],
  ])('not %s', async (_, make, who, as, status, says) => {
    const run = await make()
    const res = await sign(who(), event(run, as))
    expect(res.status).toBe(status)
    expect(res.says).toMatch(says)
    expect(await signaturesOf(run)).toEqual([])
  })
  test('a procedure’s signature does not sign a verification, nor the other way round', async () => {
    const run = await worked(wren, 'zero-trim')
    const [e] = event(run, 'technician')
    const res = await sign(wren, [
      { ...e, body: { type: 'signed', payload: { as: 'technician', statement: 'x' } } },
    ])
    expect(res).toMatchObject({ status: 409 })
    expect(res.says).toMatch(/This run is a procedure/)
  })
})

test('with a package its signatures go along, and hold elsewhere', async () => {
  const run = await worked(wren, 'zero-trim')
  await sign(wren, event(run, 'technician'))
  const { body: bytes } = await wren
    .get('/api/loops/PT-103/package.zip')
    .buffer()
    .parse((res, done) => {
      const stream = res as unknown as NodeJS.ReadableStream
      const chunks: Buffer[] = []
      stream.on('data', (c: Buffer) => chunks.push(c))
      stream.on('end', () => done(null, Buffer.concat(chunks)))
    })
    .expect(200)
  const elsewhere = await testApp({ own: true })
  onTestFinished(() => elsewhere.stop())
  await elsewhere.tamper('truncate loops, loop_revisions, runs, events, stand_ins cascade')
  const there = await elsewhere.as('dunlin')
  await there
    .post('/api/packages')
    .set('Content-Type', 'application/zip')
    .send(bytes as Buffer)
    .expect(200)
  const { events } = (await there.get(`/api/runs/${run}`).expect(200)).body as { events: StoredEvent[] }
  expect(events.at(-1)?.type).toBe('procedure.signed')
  // Another plant's word is no work of anybody here.
  const res = await sign(there, event(run, 'technician'))
  expect(res.status).toBe(409)
})
