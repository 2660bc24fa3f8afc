import { randomUUID } from 'node:crypto'
import { unzipSync } from 'fflate'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import type TestAgent from 'supertest/lib/agent.js'
import { demoFiles } from '../demo/load.ts'
import { asBuffer } from '../test/as-buffer.ts'
import { testApp, type TestApp } from '../test/app.ts'

let app: TestApp
let wren: TestAgent
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
})
afterAll(() => app.stop())

const HEAD = 'Tag;Service;Area;Type;LRV;URV;Unit;Signal;Tolerance (% span);Colour'
const row = (tag: string, urv = '10') => `${tag};Spare;500 Test;pressure;0;${urv};bar g;4-20 mA;0,5;blue`
const preview = (text: string, mapping?: unknown) =>
  wren.post('/api/loop-list/preview').send({ text, ...(mapping ? { mapping } : {}) })
const bring = (text: string, update: number[] = [], id = randomUUID()) =>
  wren.post('/api/loop-list/import').send({ id, text, update })

test('the plant’s own list, imported into the demo plant, is the same but for its five bad rows', async () => {
  const { body } = await preview(demoFiles().list).expect(200)
  const by = (s: string) =>
    body.rows
      .filter((r: { standing: string }) => r.standing === s)
      .map((r: { row: number }) => r.row) as number[]
  expect(by('bad')).toEqual([24, 25, 26, 27, 28])
  expect(by('same')).toHaveLength(22)
  const codes = body.rows.flatMap((r: { findings: { code: string }[] }) =>
    r.findings.map((f) => f.code),
  ) as string[]
  expect(codes).toEqual(['IMPOSSIBLE_DATE', 'MISSING_RANGE', 'DUPLICATE_TAG', 'NO_TAG', 'UNKNOWN_UNIT'])
})

test('exported it gives back the rows it came from, to the letter', async () => {
  const { text } = await wren.get('/api/loop-list.csv').expect(200)
  const cells = (list: string) => list.replace(/^\ufeff/, '').replace(/\r/g, '')
  const exported = cells(text)
  for (const line of cells(demoFiles().list)
    .split(/\n(?=[A-Z]{2,3}-|Tag;)/)
    .slice(0, 23))
    expect(exported).toContain(line.trimEnd())
})

describe('lists as people have them', () => {
  test.each([
    ['semicolons', HEAD, row('A-1')],
    ['commas', HEAD.replaceAll(';', ','), row('A-1').replaceAll('0,5', '0.5').replaceAll(';', ',')],
    ['tabs', HEAD.replaceAll(';', '\t'), row('A-1').replaceAll(';', '\t')],
    ['a byte-order mark', `\ufeff${HEAD}`, row('A-1')],
    ['a quoted line break', HEAD, row('A-1').replace('Spare', '"Spare\nof two"')],
    ['line ends of another system', `${HEAD}\r`, `${row('A-1')}\r`],
  ])('%s', async (_why, head, line) => {
    const { body } = await preview(`${head}\n${line}\n`).expect(200)
    expect(body.rows).toHaveLength(1)
    expect(body.rows[0]).toMatchObject({
      standing: 'new',
      cells: { tag: 'A-1', tolerance: expect.stringMatching(/^0[.,]5$/) as string },
    })
  })
  test.each([
    ['nothing', ''],
    ['one word', 'hello'],
    ['an open quotation mark', `${HEAD}\nA-1;"Spare`],
    ['more rows than can be', `${HEAD}\n${'A;b\n'.repeat(20_001)}`],
  ])('%s is told in a sentence', async (_why, text) => {
    const res = await preview(text)
    expect(res.status).toBe(422)
    expect(res.body.errors[0]).toMatchObject({ path: 'text', says: expect.stringMatching(/\.$/) as string })
  })
  test('a column nobody recognised can be mapped', async () => {
    const first = await preview(`Bez;Service;LRV;URV;Unit\nB-1;x;0;1;bar g`)
    expect(first.body.rows[0].findings[0].code).toBe('NO_TAG')
    const again = await preview(`Bez;Service;LRV;URV;Unit\nB-1;x;0;1;bar g`, [
      'tag',
      'service',
      'lrv',
      'urv',
      'unit',
    ])
    expect(again.body.rows[0].standing).toBe('new')
  })
})

describe('importing', () => {
  test('takes the good rows, holds the bad ones, and a second send of the same import does nothing', async () => {
    const id = randomUUID()
    const text = `${HEAD}\n${row('C-1')}\n${row('C-2', 'ten')}`
    const first = await bring(text, [], id).expect(200)
    expect(first.body).toEqual({ created: 1, updated: 0, same: 0, held: 1 })
    expect((await bring(text, [], id)).body).toEqual(first.body)
    const held = (await wren.get('/api/loop-list/held')).body as {
      id: string
      cells: { tag: string; urv: string }
    }[]
    expect(held.filter((h) => h.cells.tag === 'C-2')).toHaveLength(1)
  })
  test('changes a loop only where the row was ticked, and keeps the rest of it', async () => {
    await bring(`${HEAD}\n${row('D-1')}\n${row('D-2')}`)
    const { body } = await bring(`${HEAD}\n${row('D-1', '16')}\n${row('D-2', '25')}`, [2])
    expect(body).toMatchObject({ created: 0, updated: 1 })
    const d1 = (await wren.get('/api/loops/D-1')).body
    expect(d1.revision).toBe(2)
    expect(d1.document.path.find((s: { kind: string }) => s.kind === 'transmitter').range.high).toBe(16)
    expect((await wren.get('/api/loops/D-2')).body.revision).toBe(1)
  })
  test('two sends of one import at the same time do it once and say the same', async () => {
    const id = randomUUID()
    const text = `${HEAD}\n${row('G-1')}\n${row('G-2', 'ten')}`
    const both = await Promise.all([bring(text, [], id), bring(text, [], id), bring(text, [], id)])
    expect(both.map((b): [number, unknown] => [b.status, b.body as unknown])).toEqual(
      [1, 2, 3].map(() => [200, { created: 1, updated: 0, same: 0, held: 1 }]),
    )
  })
  test('what cannot be done whole is not done at all, and the result says only what was done', async () => {
    await bring(`${HEAD}\n${row('H-1')}\n${row('H-2')}`)
    // A colleague renames one of the loops between the look at the list and its import: its tag is new again, and
    // that of another row is taken.
    const { body: h1 } = await wren.get('/api/loops/H-1')
    const id = randomUUID()
    const text = `${HEAD}\n${row('H-1', '16')}\n${row('H-2', '25')}\n${row('H-3')}`
    await app.tamper(`create or replace function fail_h2() returns trigger language plpgsql as $$ begin
      if new.tag = 'H-2' then raise exception 'held up' using errcode = '57014'; end if; return new; end $$;
      create trigger fail_h2 before update on loops for each row execute function fail_h2();
      alter table loops enable always trigger fail_h2`)
    expect((await bring(text, [2, 3], id)).status).toBe(503)
    expect((await wren.get('/api/loops/H-1')).body.revision).toBe(h1.revision)
    await wren.get('/api/loops/H-3').expect(404)
    await app.tamper('drop trigger fail_h2 on loops')
    const { body } = await bring(text, [2, 3], id).expect(200)
    expect(body).toEqual({ created: 1, updated: 2, same: 0, held: 0 })
    expect((await bring(text, [2, 3], id)).body).toEqual(body)
  })
  test('a cell comes back as it was, though it was guarded on its way out', async () => {
    await bring(`${HEAD}\n${row('K-1').replace('Spare', '-1+1')}`)
    const { text } = await wren.get('/api/loop-list.csv').expect(200)
    expect(text).toContain("K-1;'-1+1;")
    const again = await preview(text).expect(200)
    const k1 = (again.body.rows as { cells: { tag: string; service: string }; standing: string }[]).find(
      (r) => r.cells.tag === 'K-1',
    )
    expect([k1?.standing, k1?.cells.service]).toEqual(['same', '-1+1'])
  })
  test('a held row is mended step by step and then is a loop', async () => {
    await bring(`${HEAD}\n${row('E-1', 'ten')}`)
    const held = (
      (await wren.get('/api/loop-list/held')).body as { id: string; cells: Record<string, string> }[]
    ).find((h) => h.cells['tag'] === 'E-1')
    const mend = (cells: Record<string, string>) =>
      wren.put(`/api/loop-list/held/${held?.id}`).send({ cells: { ...held?.cells, ...cells } })
    const still = await mend({ urv: '0' })
    expect(still.body.still.findings[0].code).toBe('MISSING_RANGE')
    expect(still.body.still.cells.urv).toBe('0')
    expect((await mend({ urv: '10', tag: 'PT-202' })).body.still.findings[0].code).toBe('DUPLICATE_TAG')
    expect((await mend({ urv: '10' })).body).toEqual({ still: null })
    await wren.get('/api/loops/E-1').expect(200)
    await wren.delete(`/api/loop-list/held/${held?.id}`).expect(409)
  })
  test('a cell that a spreadsheet would run is exported as text', async () => {
    await bring(`${HEAD}\n${row('F-1').replace('Spare', '=1+1')}`)
    expect((await wren.get('/api/loop-list.csv')).text).toContain("F-1;'=1+1;")
  })
})

describe('an import is undone as a whole', () => {
  interface Done {
    readonly id: string
    readonly undone: { readonly byName: string; readonly reason: string } | null
  }
  const undo = (id: string, reason = 'the wrong file') =>
    wren.post(`/api/loop-list/imports/${id}/undo`).send({ reason })
  const says = (res: { body: unknown }) => JSON.stringify(res.body)
  test('what it made is archived and its tags are free, what it changed is as before, what it held is gone', async () => {
    await bring(`${HEAD}\n${row('PT-930')}`).expect(200)
    const id = randomUUID()
    const list = `${HEAD}\n${row('PT-930', '25')}\n${row('PT-931')}\n${row('PT-932')}\n${row('', '3')}`
    expect((await bring(list, [2], id).expect(200)).body).toEqual({
      created: 2,
      updated: 1,
      same: 0,
      held: 1,
    })
    const held = async () => ((await wren.get('/api/loop-list/held').expect(200)).body as unknown[]).length
    const before = await held()
    const all = (await undo(id).expect(200)).body as Done[]
    expect(all.find((i) => i.id === id)?.undone).toMatchObject({ reason: 'the wrong file' })
    expect(await held()).toBe(before - 1)
    await wren.get('/api/loops/PT-931').expect(404)
    const { document } = (await wren.get('/api/loops/PT-930').expect(200)).body as {
      document: { path: { kind: string; range?: { high: number } }[] }
    }
    expect(document.path.find((s) => s.kind === 'transmitter')?.range?.high).toBe(10)
    expect(says(await undo(id).expect(409))).toContain('undone already')
    // The same file, corrected, goes in again.
    expect((await bring(`${HEAD}\n${row('PT-931')}\n${row('PT-932')}`).expect(200)).body).toMatchObject({
      created: 2,
    })
  })
  test('not once somebody worked on one of its loops: all of it stays', async () => {
    const id = randomUUID()
    await bring(`${HEAD}\n${row('PT-933')}\n${row('PT-934')}`, [], id).expect(200)
    const loop = (await wren.get('/api/loops/PT-934').expect(200)).body as {
      revision: number
      document: object
    }
    await wren
      .put('/api/loops/PT-934/document')
      .send({ base: loop.revision, document: { ...loop.document, service: 'Reject' }, reason: 'named' })
      .expect(200)
    expect(says(await undo(id).expect(409))).toContain('Worked on since: PT-934. Nothing was undone.')
    await wren.get('/api/loops/PT-933').expect(200)
    await undo(randomUUID()).expect(404)
    await undo(id, ' ').expect(422)
  })
})

test('who works in one area brings no list into another', async () => {
  const plover = await app.as('plover')
  const people = (await plover.get('/api/people/register').expect(200)).body as {
    id: string
    name: string
    shownName: string
  }[]
  const dunlin = people.find((p) => p.name === 'dunlin')
  const areas = ['200 Membranes']
  await plover
    .put(`/api/people/${dunlin?.id}`)
    .send({ shownName: dunlin?.shownName, role: 'technician', areas, until: null, reason: 'test' })
    .expect(200)
  const narrow = await app.as('dunlin')
  const send = (text: string) =>
    narrow.post('/api/loop-list/import').send({ id: randomUUID(), text, update: [] })
  await send(`${HEAD}\n${row('PT-940')}`).expect(403)
  await wren.get('/api/loops/PT-940').expect(404)
  const id = randomUUID()
  await bring(`${HEAD}\n${row('PT-942')}`, [], id).expect(200)
  await narrow.post(`/api/loop-list/imports/${id}/undo`).send({ reason: 'not mine' }).expect(403)
  await wren.get('/api/loops/PT-942').expect(200)
  await send(`${HEAD}\n${row('PT-941').replace('500 Test', '200 Membranes')}`).expect(200)
})

test('as a spreadsheet it is the same list, cell by cell', async () => {
  const res = await wren.get('/api/loop-list.xlsx').buffer(true).parse(asBuffer).expect(200)
  const sheet = new TextDecoder().decode(
    unzipSync(new Uint8Array(res.body as Buffer))['xl/sharedStrings.xml'],
  )
  const { text } = await wren.get('/api/loop-list.csv').expect(200)
  for (const cell of [
    'Tolerance (% span)',
    'PT-202',
    '200 Membranes',
    ...(text.match(/FT-206;[^;]+/)?.[0].split(';') ?? []),
  ])
    expect(sheet).toContain(cell)
})
test('a list whose dates do not say their order is asked for it, and read by the answer', async () => {
  const list = 'Tag;Type;Signal;Last calibrated\nZS-950;switch;dry contact NO;3/4/2026\n'
  const look = async (dateOrder?: string) =>
    (
      await wren
        .post('/api/loop-list/preview')
        .send({ text: list, ...(dateOrder ? { dateOrder } : {}) })
        .expect(200)
    ).body as { rows: { standing: string; findings: { code: string }[] }[] }
  expect((await look()).rows[0]).toMatchObject({ standing: 'bad', findings: [{ code: 'DATE_ORDER_UNTOLD' }] })
  expect((await look('monthFirst')).rows[0]?.standing).toBe('new')
  await wren
    .post('/api/loop-list/import')
    .send({ id: randomUUID(), text: list, update: [], dateOrder: 'monthFirst' })
    .expect(200)
  expect((await wren.get('/api/loops/ZS-950').expect(200)).body).toMatchObject({
    lastCalibrated: '2026-03-04',
  })
})
