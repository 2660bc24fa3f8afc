import { NO_RULES } from '@calm/contract/settings'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { testApp } from '../test/app.ts'

let app: Awaited<ReturnType<typeof testApp>>
let wren: TestAgent
let tern: TestAgent
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
  tern = await app.as('tern')
})
afterAll(() => app.stop())

describe('preferences', () => {
  test('are each person’s own, and there at the next device', async () => {
    await wren
      .put('/api/preferences')
      .send({ smallPath: { wire: false } })
      .expect(200)
    const elsewhere = await app.as('wren')
    expect((await elsewhere.get('/api/preferences').expect(200)).body).toEqual({ smallPath: { wire: false } })
    expect((await tern.get('/api/preferences').expect(200)).body).toEqual({ smallPath: {} })
  })
  test.each<[string, unknown, string]>([
    ['a bench that is none', { smallPath: { 'Wire!': true } }, 'smallPath.Wire!'],
    ['a size that is none', { smallPath: { wire: 'large' } }, 'smallPath.wire'],
    ['nothing', {}, 'smallPath'],
    ['more than that', { smallPath: {}, colour: 'red' }, ''],
  ])('%s: told at its place', async (_what, body, path) => {
    const answer = await wren.put('/api/preferences').send(body as object)
    expect(answer.status).toBe(422)
    expect((answer.body as { errors: { path: string }[] }).errors.map((e) => e.path)).toContain(path)
  })
})

describe('whose papers they are', () => {
  test('name and address stay when something else is decided', async () => {
    const letterhead = { name: 'Brine Works', address: 'Salt Road 1' }
    await wren.put('/api/plant/rules').send({ letterhead }).expect(200)
    await wren.put('/api/plant/rules').send({ water: null }).expect(200)
    expect((await tern.get('/api/plant/rules').expect(200)).body).toMatchObject({ letterhead })
    await wren
      .put('/api/plant/rules')
      .send({ letterhead: { name: '', address: '' } })
      .expect(200)
  })
  test('a name that no paper has room for is told at its place', async () => {
    const res = await wren
      .put('/api/plant/rules')
      .send({ letterhead: { name: 'x'.repeat(200), address: '' } })
    expect((res.body as { errors: { path: string }[] }).errors[0]?.path).toBe('letterhead.name')
  })
})

describe('plans of the plant', () => {
  const plan = { levels_pct: [5, 50, 95], way: 'both', repeats: 2, seed: 7 }
  const put = (plans: object) => wren.put('/api/plant/rules').send({ plans })
  test('are kept by their names, beside each other, and one goes alone', async () => {
    await put({ 'Flow meters': plan }).expect(200)
    await put({ Switches: { ...plan, way: 'random' } }).expect(200)
    const both = (await tern.get('/api/plant/rules').expect(200)).body as { plans: object }
    expect(both.plans).toEqual({ 'Flow meters': plan, Switches: { ...plan, way: 'random' } })
    await put({ Switches: null, 'never kept': null }).expect(200)
    expect((await tern.get('/api/plant/rules').expect(200)).body).toMatchObject({
      plans: { 'Flow meters': plan },
    })
    await put({ 'Flow meters': null }).expect(200)
    expect((await tern.get('/api/plant/rules').expect(200)).body).toMatchObject({ plans: {} })
  })
  test.each<[string, object, string]>([
    ['one level alone', { levels_pct: [50] }, 'plans.x.levels_pct'],
    ['a level far outside', { levels_pct: [0, 300] }, 'plans.x.levels_pct.1'],
    [
      'more readings than a day has room for',
      { levels_pct: [0, 25, 50, 75, 100], repeats: 10 },
      'plans.x.levels_pct',
    ],
    ['an order that is none', { way: 'zigzag' }, 'plans.x.way'],
  ])('%s: told at its place', async (_what, change, path) => {
    const answer = await put({ x: { ...plan, ...change } })
    expect(answer.status).toBe(422)
    expect((answer.body as { errors: { path: string }[] }).errors.map((e) => e.path)).toContain(path)
  })
  test('a viewer keeps none', async () => {
    await tern
      .put('/api/plant/rules')
      .send({ plans: { mine: plan } })
      .expect(403)
  })
})

describe('how the plant counts its water columns', () => {
  const list = 'Tag;Type;LRV;URV;Unit\nPT-901;pressure;0;100;in WC\n'
  const preview = async () => {
    const { body } = (await wren.post('/api/loop-list/preview').send({ text: list }).expect(200)) as {
      body: { rows: { standing: string; findings: { says: string }[] }[] }
    }
    return body.rows[0]
  }
  test('is asked for until it is said; then a list that leaves it out is read by it', async () => {
    expect((await wren.get('/api/plant/rules').expect(200)).body).toEqual(NO_RULES)
    const before = await preview()
    expect(before?.standing).toBe('bad')
    expect(before?.findings[0]?.says).toMatch(/does not say at which temperature/)
    await wren.put('/api/plant/rules').send({ water: '60F' }).expect(200)
    expect((await preview())?.standing).toBe('new')
    await wren
      .post('/api/loop-list/import')
      .send({
        id: crypto.randomUUID(),
        text: list,
        mapping: (await wren.post('/api/loop-list/preview').send({ text: list })).body.mapping,
        update: [],
      })
      .expect(200)
    const loop = (await wren.get('/api/loops/PT-901').expect(200)).body as {
      document: { path: { kind: string; range?: { unit: string } }[] }
    }
    expect(loop.document.path.find((s) => s.kind === 'transmitter')?.range?.unit).toBe('inH2O@60F')
  })
  test('a viewer does not decide it; another temperature is told', async () => {
    await tern.put('/api/plant/rules').send({ water: '4C' }).expect(403)
    const answer = await wren.put('/api/plant/rules').send({ water: '25C' }).expect(422)
    expect((answer.body as { errors: { path: string }[] }).errors[0]?.path).toBe('water')
    expect((await wren.get('/api/plant/rules')).body).toEqual({ ...NO_RULES, water: '60F' })
  })
})

describe('the order of a settings sheet', () => {
  const rules = async () => (await wren.get('/api/plant/rules').expect(200)).body as Record<string, unknown>
  const put = (body: object) => wren.put('/api/plant/rules').send(body)
  test('is kept by kind of meter, and one rule leaves the others as they are', async () => {
    await put({ sheetOrder: { ph: ['Slope', 'Offset'] } }).expect(200)
    await put({ sheetOrder: { coriolis: ['Tube bore'] } }).expect(200)
    await put({ water: '4C' }).expect(200)
    expect(await rules()).toEqual({
      ...NO_RULES,
      water: '4C',
      sheetOrder: { ph: ['Slope', 'Offset'], coriolis: ['Tube bore'] },
    })
  })
  test('of several who decide at once all have theirs', async () => {
    await Promise.all(['a', 'b', 'c'].map((kind) => put({ sheetOrder: { [kind]: ['x'] } }).expect(200)))
    expect(Object.keys((await rules())['sheetOrder'] as object)).toEqual(
      expect.arrayContaining(['a', 'b', 'c', 'ph']),
    )
  })
  test('a line that is no text is told at its place', async () => {
    const answer = await put({ sheetOrder: { ph: [7] } }).expect(422)
    expect((answer.body as { errors: { path: string }[] }).errors[0]?.path).toBe('sheetOrder.ph.0')
  })
})
