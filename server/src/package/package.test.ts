import type { LoopPackage, PackageTaken } from '@calm/contract/loop-package'
import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { testApp } from '../test/app.ts'
import { provePackage } from './prove.ts'

const TAG = 'PT-202'
const NOW = '2026-11-27T13:00:00.000Z'
const EMPTY = 'truncate loops, loop_revisions, runs, events, stand_ins cascade'
let here: Awaited<ReturnType<typeof testApp>>
let elsewhere: Awaited<ReturnType<typeof testApp>>
let wren: TestAgent
let bytes: Buffer
beforeAll(async () => {
  here = await testApp()
  elsewhere = await testApp({ own: true })
  // Another plant: its own people, none of these loops.
  await elsewhere.tamper(EMPTY)
  wren = await elsewhere.as('wren')
  const answer = await (
    await here.as('tern')
  )
    .get(`/api/loops/${TAG}/package.zip`)
    .buffer()
    .parse(binary)
    .expect(200)
  bytes = answer.body as Buffer
})
afterAll(async () => {
  await here.stop()
  await elsewhere.stop()
})

function binary(res: unknown, done: (error: Error | null, body: Buffer) => void): void {
  const stream = res as NodeJS.ReadableStream
  const chunks: Buffer[] = []
  stream.on('data', (c: Buffer) => chunks.push(c))
  stream.on('end', () => done(null, Buffer.concat(chunks)))
}
const send = (body: Uint8Array, who = wren) =>
  who.post('/api/packages').set('Content-Type', 'application/zip').send(Buffer.from(body))
/** The package with one file changed by hand. */
function forged(name: string, change: (text: string) => string): Uint8Array {
  const files = unzipSync(bytes)
  return zipSync({ ...files, [name]: strToU8(change(strFromU8(files[name] ?? new Uint8Array()))) })
}
const forgedLoop = (change: (p: LoopPackage) => void) =>
  forged('loop.json', (text) => {
    const p = JSON.parse(text) as LoopPackage
    change(p)
    return JSON.stringify(p)
  })
const problem = (body: unknown) => (body as { errors: { path: string; says: string }[] }).errors[0]

describe('a package', () => {
  test('holds the loop in open formats, each file with its hash', () => {
    const names = Object.keys(unzipSync(bytes))
    for (const wanted of ['manifest.json', 'loop.json', 'loop.schema.json', 'events.csv', 'README.txt'])
      expect(names).toContain(wanted)
    for (const kind of [/^certificates\/.*\.pdf$/, /^readings\/.*\.csv$/, /^plots\/.*\.svg$/])
      expect(names.filter((n) => kind.test(n)).length).toBeGreaterThanOrEqual(4)
    const proof = provePackage(bytes, NOW)
    expect(proof).toMatchObject({ kind: 'whole', contents: { loop: { tag: TAG } } })
  })
  test('a reading changed by hand is told by its event', () => {
    const at = { seq: 0 }
    const forgery = forgedLoop((p) => {
      const e = p.events.find((x) => x.type === 'reading.recorded')
      if (!e) throw new Error('no reading')
      at.seq = e.seq
      ;(e.payload as { index: number }).index += 1
    })
    const proof = provePackage(forgery, NOW)
    expect(proof).toMatchObject({
      kind: 'refused',
      where: `loop.json.events.${at.seq - 1}`,
      says: `Event ${at.seq} (reading.recorded) was changed after it was recorded.`,
    })
  })
  test.each<[string, () => Uint8Array, RegExp]>([
    ['an event taken out', () => forgedLoop((p) => void p.events.splice(3, 1)), /Event 4 is missing/],
    [
      'a document changed',
      () => forgedLoop((p) => void ((p.revisions[0] as { document: object }).document = {})),
      /Revision 1 is not the document/,
    ],
    ['a person left out', () => forgedLoop((p) => void (p.people = [])), /Nobody in the package/],
    ['a list changed', () => forged('events.csv', (t) => `${t} `), /events\.csv was changed/],
    ['no manifest', () => zipSync({ 'loop.json': strToU8('{}') }), /no manifest\.json/],
    ['something else', () => strToU8('PK, but not really'), /not a ZIP archive/],
    ['cut off', () => bytes.subarray(0, bytes.length / 2), /not a ZIP archive/],
  ])('%s is refused and stores nothing', async (_why, make, says) => {
    const { body } = await send(make()).expect(422)
    expect(problem(body)?.says).toMatch(says)
    expect((await wren.get('/api/loops').expect(200)).body).toEqual([])
  })
  test('taken in elsewhere it is the same loop, once however often it is sent', async () => {
    const both = await Promise.all([send(bytes), send(bytes)])
    expect(both.map((a) => a.status)).toEqual([200, 200])
    expect(both.filter((a) => (a.body as PackageTaken).stored)).toHaveLength(1)
    await send(bytes).expect(200)
    const there = await here.as('wren')
    const same = async (path: string) => {
      const [a, b] = await Promise.all([there.get(path).expect(200), wren.get(path).expect(200)])
      expect(b.body).toEqual(a.body)
    }
    const chains = await Promise.all([
      there.get(`/api/loops/${TAG}/chain`).expect(200),
      wren.get(`/api/loops/${TAG}/chain`).expect(200),
    ])
    const [before, after] = chains.map((c) => c.body as { kind: string; events: number })
    // One more: that it was taken in, by whom and when.
    expect(after).toMatchObject({ kind: 'whole', events: (before?.events ?? 0) + 1 })
    await same(`/api/loops/${TAG}/drift`)
    const { body: runs } = await there.get(`/api/loops/${TAG}/runs`).expect(200)
    const { body: taken } = await wren.get(`/api/loops/${TAG}/runs`).expect(200)
    const bare = (list: unknown) =>
      (list as { id: string; state: string; verdict: string }[]).map((r) => [r.id, r.state, r.verdict])
    expect(bare(taken)).toEqual(bare(runs))
    const first = (runs as { id: string }[])[0]?.id ?? ''
    await wren.get(`/api/runs/${first}/certificate.pdf`).expect(200)
  })
  test('where the tag is in use by another loop it is refused', async () => {
    const { body } = await send(bytes, await here.as('wren')).expect(200)
    expect(body).toMatchObject({ stored: false })
    const third = await testApp({ own: true })
    const answer = await send(bytes, await third.as('wren')).expect(409)
    expect((answer.body as { title: string }).title).toMatch(/tag PT-202 is in use/)
    await third.stop()
  })
  test('a viewer takes nothing in; JSON is no package', async () => {
    await send(bytes, await elsewhere.as('tern')).expect(403)
    await wren.post('/api/packages').send({ loop: 1 }).expect(422)
  })
})
