import { randomUUID } from 'node:crypto'
import type { RunInfo, StoredEvent } from '@calm/contract/events'
import type { LoopPackage, PackageTaken } from '@calm/contract/loop-package'
import type { LoopDetail, Revision } from '@calm/contract/loops'
import { strToU8, zipSync } from 'fflate'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { testApp } from '../test/app.ts'
import { forged } from '../test/forge.ts'

const TAG = 'PT-202'
let here: Awaited<ReturnType<typeof testApp>>
let elsewhere: Awaited<ReturnType<typeof testApp>>
let dunlin: TestAgent
let bytes: Buffer
beforeAll(async () => {
  here = await testApp()
  elsewhere = await testApp({ own: true })
  await elsewhere.tamper('truncate loops, loop_revisions, runs, events, stand_ins cascade')
  dunlin = await elsewhere.as('dunlin')
  bytes = await packageOf(await here.as('tern'), TAG)
})
afterAll(async () => {
  await here.stop()
  await elsewhere.stop()
})

async function packageOf(who: TestAgent, tag: string): Promise<Buffer> {
  const answer = await who
    .get(`/api/loops/${tag}/package.zip`)
    .buffer()
    .parse((res, done) => {
      const stream = res as unknown as NodeJS.ReadableStream
      const chunks: Buffer[] = []
      stream.on('data', (c: Buffer) => chunks.push(c))
      stream.on('end', () => done(null, Buffer.concat(chunks)))
    })
    .expect(200)
  return answer.body as Buffer
}
const send = (body: Uint8Array, who = dunlin) =>
  who.post('/api/packages').set('Content-Type', 'application/zip').send(Buffer.from(body))
const get = async <T>(path: string, who = dunlin) => (await who.get(path).expect(200)).body as T
const problems = (body: unknown) => (body as { errors: { path: string; says: string }[] }).errors

/** The same loop under another identity, so that each attack meets an empty place. */
function another(p: LoopPackage, tag: string): void {
  const id = randomUUID()
  const runs = new Map(p.runs.map((r) => [r.id, randomUUID()]))
  p.loop = { id, tag }
  for (const r of p.runs) r.id = runs.get(r.id) ?? r.id
  for (const e of p.events)
    Object.assign(e, { id: randomUUID(), loopId: id, runId: e.runId && (runs.get(e.runId) ?? e.runId) })
  for (const r of p.revisions) Object.assign(r.document, { tag })
}
const eventOf = (p: LoopPackage, type: string) => {
  const e = p.events.find((x) => x.type === type)
  if (!e) throw new Error(`no ${type}`)
  return e
}

describe('malformed packages, each made by somebody who can reckon a hash', () => {
  const attacks: readonly [why: string, place: RegExp, change: (p: LoopPackage) => void][] = [
    [
      'an unknown kind of event',
      /^loop\.json\.events\.\d+\.type$/,
      (p) => (eventOf(p, 'adjusted').type = 'paid'),
    ],
    [
      'a reading that is no number',
      /^loop\.json\.events\.\d+\.payload\.values\.pv\.value$/,
      (p) =>
        Object.assign((eventOf(p, 'reading.recorded').payload as { values: { pv: object } }).values.pv, {
          value: 'x',
        }),
    ],
    [
      'an event of a run that belongs to none',
      /^loop\.json\.events\.\d+\.runId$/,
      (p) => (eventOf(p, 'signed').runId = null),
    ],
    [
      'an event of a run that is not there',
      /^loop\.json\.events\.\d+\.runId$/,
      (p) => (eventOf(p, 'signed').runId = randomUUID()),
    ],
    [
      'the same event twice',
      /^loop\.json\.events\.\d+\.id$/,
      (p) => (eventOf(p, 'signed').id = p.events[0]?.id ?? ''),
    ],
    [
      'an event in 2090',
      /^loop\.json\.events\.\d+\.at$/,
      (p) => (eventOf(p, 'adjusted').at = '2090-01-01T00:00:00.000Z'),
    ],
    [
      'an event in the year 1',
      /^loop\.json\.events\.\d+\.at$/,
      (p) =>
        Object.assign(eventOf(p, 'adjusted'), {
          at: '0001-01-01T00:00:00.000Z',
          recordedAt: '0001-01-01T00:00:00.000Z',
        }),
    ],
    [
      'a signature before anything was read',
      /^loop\.json\.events\.\d+$/,
      (p) => {
        const i = p.events.findIndex((e) => e.type === 'reading.recorded')
        const j = p.events.findIndex((e) => e.type === 'signed')
        const [signed] = p.events.splice(j, 1)
        if (signed) p.events.splice(i, 0, signed)
      },
    ],
    [
      'a run that its events do not tell',
      /^loop\.json\.runs\.0$/,
      (p) => p.runs[0] && (p.runs[0].startedBy = randomUUID()),
    ],
    [
      'a run without events',
      /^loop\.json\.runs\.\d+$/,
      (p) => void p.runs.push({ ...structuredClone(p.runs[0]), id: randomUUID() } as never),
    ],
    [
      'a document of another kind',
      /^loop\.json\.revisions\.0\.document/,
      (p) => p.revisions[0] && (p.revisions[0].document = { version: 'constructor' }),
    ],
    [
      'a document of the future',
      /^loop\.json\.revisions\.0\.document/,
      (p) => p.revisions[0] && (p.revisions[0].document = { version: 99 }),
    ],
    [
      'a revision saved by another than told',
      /^loop\.json\.revisions\.0$/,
      (p) => p.revisions[0] && (p.revisions[0].by = randomUUID()),
    ],
    ['a tag that is no tag', /^manifest\.json\.tag$/, (p) => (p.loop.tag = `X'; drop table events; --`)],
    ['a tag that its document does not have', /^loop\.json\.loop\.tag$/, (p) => (p.loop.tag = 'XX-9')],
    [
      'a NUL in a document',
      /^loop\.json\.revisions\.0\.document\.remark$/,
      (p) => Object.assign(p.revisions[0]?.document ?? {}, { remark: 'a\0b' }),
    ],
    [
      'half a character in a name',
      /^loop\.json\.people\.0\.shownName$/,
      (p) => p.people[0] && (p.people[0].shownName = 'a\ud800'),
    ],
    [
      'an instrument that ends before it begins',
      /^loop\.json\.equipment\.0/,
      (p) => p.equipment[0] && (p.equipment[0].dueOn = '1999-01-01'),
    ],
  ]
  test.each(attacks)('%s: 422 with its place, nothing stored', async (_why, place, change) => {
    const attack = forged(bytes, (p) => {
      another(p, 'AT-900')
      change(p)
    })
    const res = await send(attack)
    expect([res.status, problems(res.body)[0]?.path]).toEqual([422, expect.stringMatching(place)])
    expect(problems(res.body)[0]?.says).toMatch(/\S/)
    await dunlin.get('/api/loops/AT-900').expect(404)
  })
  test.each<[string, (m: Record<string, unknown>) => unknown, string]>([
    ['another tag in the manifest', (m) => ({ ...m, tag: 'YY-1' }), 'manifest.json.tag'],
    ['a manifest that names nothing', (m) => ({ ...m, files: {} }), 'README.txt'],
    ['a manifest of a newer version', (m) => ({ ...m, version: 4 }), 'manifest.json.version'],
  ])('%s', async (_why, manifest, place) => {
    const res = await send(forged(bytes, (p) => another(p, 'AT-901'), { manifest }))
    expect([res.status, problems(res.body)[0]?.path]).toEqual([422, place])
  })
  test('nesting without end and numbers without end', async () => {
    const deep = '['.repeat(100_000) + ']'.repeat(100_000)
    for (const raw of [
      (t: string) => t.replace('"runs":[', `"runs":[${deep},`),
      (t: string) => t.replace(/"value":-?[\d.]+/, '"value":1e400'),
    ])
      expect((await send(forged(bytes, (p) => another(p, 'AT-902'), { raw }))).status).toBe(422)
  })
  test('a small file that grows without end is refused, and others are answered meanwhile', async () => {
    const bomb = zipSync({ 'manifest.json': new Uint8Array(110_000_000) }, { level: 6 })
    expect(bomb.length).toBeLessThan(400_000)
    const [res, ...asked] = await Promise.all([
      send(bomb),
      ...Array.from({ length: 20 }, () => dunlin.get('/api/health')),
    ])
    expect([res.status, problems(res.body)[0]?.says]).toEqual([422, expect.stringMatching(/too large/)])
    expect(asked.every((a) => a.status === 200)).toBe(true)
  })
  test('files that would leave their folder', async () => {
    for (const name of ['../loop.json', 'a/../../b', '/etc/passwd'])
      expect((await send(zipSync({ [name]: strToU8('x') }))).status).toBe(422)
  })
  test('a tag that is a pattern of replacements is a text like any other', async () => {
    // Live news of it is told with the tag bound, not put together.
    const res = await send(forged(bytes, (p) => another(p, "A-$'")))
    expect([res.status, problems(res.body)[0]?.path]).toEqual([422, 'manifest.json.tag'])
  })
})

describe('a loop from elsewhere', () => {
  let loop: LoopDetail
  beforeAll(async () => {
    expect((await send(bytes).expect(200)).body as PackageTaken).toMatchObject({ stored: true })
    loop = await get<LoopDetail>(`/api/loops/${TAG}`)
  })
  test('its authors are foreign in the record, in lists, on papers; who took it in is told, with the time', async () => {
    const events = await get<StoredEvent[]>(`/api/loops/${TAG}/events`)
    const taken = events.at(-1)
    expect(taken).toMatchObject({
      type: 'package.taken',
      foreign: false,
      byName: expect.stringMatching(/^Dunlin/) as string,
    })
    expect(taken?.payload).toMatchObject({ events: events.length - 1, head: events.at(-2)?.hash })
    for (const e of events.slice(0, -1)) {
      expect(e.foreign).toBe(true)
      expect(e.byName).toMatch(/\(foreign, by package\)$/)
    }
    for (const r of await get<RunInfo[]>(`/api/loops/${TAG}/runs`))
      expect(r).toMatchObject({ foreign: true, startedBy: expect.stringMatching(/foreign/) as string })
    for (const r of await get<Revision[]>(`/api/loops/${TAG}/revisions`)) expect(r.by).toMatch(/foreign/)
    expect(loop.revisedBy).toMatch(/foreign/)
  })
  test('nobody here has proved it: no part of it is good by a foreign word', async () => {
    const home = (await (await here.as('tern')).get(`/api/loops/${TAG}`).expect(200)).body as LoopDetail
    expect([home.summary.verdict, home.summary.parts.verify]).toEqual(['PASS', 'good'])
    expect([loop.summary.verdict, loop.summary.parts.verify]).toEqual(['PASS', 'look'])
    expect(loop.summary.parts.trim).not.toBe('good')
  })
  test('it adds no person and no instrument that could be used here', async () => {
    const people = await get<{ name: string }[]>('/api/people')
    expect(people.map((p) => p.name).sort()).toEqual(['dunlin', 'heron', 'plover', 'tern', 'wren'])
    const { rows } = await elsewhere.connection.pool.query<{ id: string }>(
      'select id from equipment where "foreign"',
    )
    expect(rows.length).toBeGreaterThan(0)
    const list = await get<{ id: string }[]>('/api/equipment')
    expect(list.some((e) => rows.some((r) => r.id === e.id))).toBe(false)
  })
  test('an identifier of a person here proves nothing: the event stays foreign', async () => {
    const people = await get<{ id: string; name: string }[]>('/api/people')
    const heron = people.find((p) => p.name === 'heron')?.id ?? ''
    const attack = forged(bytes, (p) => {
      another(p, 'AT-903')
      const was = p.people[0]?.id
      for (const x of [...p.events, ...p.revisions]) if (x.by === was) x.by = heron
      for (const r of p.runs) if (r.startedBy === was) r.startedBy = heron
      if (p.people[0]) p.people[0].id = heron
    })
    await send(attack).expect(200)
    const mine = (await get<StoredEvent[]>('/api/loops/AT-903/events')).filter((e) => e.by === heron)
    expect(mine.length).toBeGreaterThan(3)
    for (const e of mine) expect([e.foreign, e.byName]).toEqual([true, expect.stringMatching(/foreign/)])
  })
  test('the record is whole, and goes on to a third plant with both packages told', async () => {
    const proof = await get<{ kind: string; events: number; foreign: number }>(`/api/loops/${TAG}/chain`)
    expect(proof).toMatchObject({ kind: 'whole', foreign: proof.events - 1 })
    const third = await testApp({ own: true })
    await third.tamper('truncate loops, loop_revisions, runs, events, stand_ins cascade')
    const wren = await third.as('wren')
    await send(await packageOf(dunlin, TAG), wren).expect(200)
    const events = await get<StoredEvent[]>(`/api/loops/${TAG}/events`, wren)
    expect(events.filter((e) => e.type === 'package.taken').map((e) => e.foreign)).toEqual([true, false])
    expect(events.slice(0, -1).every((e) => e.foreign)).toBe(true)
    expect(await get(`/api/loops/${TAG}/chain`, wren)).toMatchObject({ kind: 'whole' })
    await third.stop()
  })
  test('sent again it is there once; an event of it at another loop is told as what it is', async () => {
    expect((await send(bytes).expect(200)).body).toMatchObject({ stored: false })
    const clash = forged(bytes, (p) => {
      const ids = p.events.map((e) => e.id)
      another(p, 'AT-904')
      p.events.forEach((e, i) => (e.id = ids[i] ?? e.id))
    })
    const res = await send(clash)
    expect([res.status, problems(res.body)[0]?.says]).toEqual([
      422,
      expect.stringMatching(/another loop here/),
    ])
  })
  test('what stands under the taker’s own name is the taker’s, and told to be looked at', async () => {
    const people = await get<{ id: string; name: string }[]>('/api/people')
    const me = people.find((p) => p.name === 'dunlin')?.id ?? ''
    const mine = forged(bytes, (p) => {
      another(p, 'AT-905')
      const was = p.people[0]?.id
      for (const x of [...p.events, ...p.revisions]) if (x.by === was) x.by = me
      for (const r of p.runs) if (r.startedBy === was) r.startedBy = me
      if (p.people[0]) p.people[0].id = me
    })
    const taken = (await send(mine).expect(200)).body as PackageTaken
    expect(taken.own).toBeGreaterThan(3)
    const events = await get<StoredEvent[]>('/api/loops/AT-905/events')
    expect(events.filter((e) => e.by === me && !e.foreign)).toHaveLength(taken.own + 1)
  })
  test('the mark cannot be taken off: it follows from the chain', async () => {
    await elsewhere.tamper(`update loops set taken = '[]' where tag = '${TAG}'`)
    expect(await get(`/api/loops/${TAG}/chain`)).toMatchObject({
      kind: 'broken',
      says: expect.stringMatching(/not what its events say/) as string,
    })
  })
})
