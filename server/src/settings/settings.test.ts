import type { Preview } from '@calm/contract/loop-list'
import type { LoopDetail } from '@calm/contract/loops'
import { NO_RULES, type RulesRevision } from '@calm/contract/settings'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { testApp } from '../test/app.ts'

let app: Awaited<ReturnType<typeof testApp>>
let wren: TestAgent
let tern: TestAgent
let plover: TestAgent
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
  tern = await app.as('tern')
  plover = await app.as('plover')
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

describe('what the plant decides of its papers, and what stands in the log of it', () => {
  const put = (rules: object) => plover.put('/api/plant/rules').send(rules)
  test('each decision is a revision: who, why, from what to what; the same again is none', async () => {
    const before = ((await tern.get('/api/plant/rules/revisions').expect(200)).body as RulesRevision[]).length
    await put({ paper: 'letter', reason: 'the printer of the shop' }).expect(200)
    await put({ paper: 'letter' }).expect(200)
    await put({ dates: { form: 'dots', timeZone: 'Europe/Berlin' } }).expect(200)
    const { body } = await tern.get('/api/plant/rules/revisions').expect(200)
    const [newest, older] = body as RulesRevision[]
    expect((body as RulesRevision[]).length).toBe(before + 2)
    expect(newest?.changes).toEqual([
      { path: 'dates.form', before: 'iso', after: 'dots' },
      { path: 'dates.timeZone', before: 'UTC', after: 'Europe/Berlin' },
    ])
    expect(older).toMatchObject({
      reason: 'the printer of the shop',
      changes: [{ path: 'paper', before: 'A4', after: 'letter' }],
    })
    await put({ paper: 'A4', dates: { form: 'iso', timeZone: 'UTC' } }).expect(200)
  })
  test.each<[string, object, string]>([
    ['a time zone that is none', { dates: { form: 'iso', timeZone: 'Mars/Olympus' } }, 'dates.timeZone'],
    [
      'a kind that is none',
      { byKind: { kettle: { tolerance_pct: 1, interval_months: 1, signatures: 1 } } },
      'byKind.kettle',
    ],
    [
      'a tolerance of 0',
      { byKind: { any: { tolerance_pct: 0, interval_months: 1, signatures: 1 } } },
      'byKind.any.tolerance_pct',
    ],
    [
      'half a month',
      { byKind: { any: { tolerance_pct: 1, interval_months: 0.5, signatures: 1 } } },
      'byKind.any.interval_months',
    ],
    [
      'four signatures',
      { byKind: { any: { tolerance_pct: 1, interval_months: 1, signatures: 4 } } },
      'byKind.any.signatures',
    ],
    ['no year', { retention_years: 0 }, 'retention_years'],
  ])('%s is told at its place', async (_what, change, path) => {
    const res = await put(change).expect(422)
    expect((res.body as { errors: { path: string }[] }).errors[0]?.path).toBe(path)
  })
  test('a picture stands on papers once it is one, and goes again', async () => {
    const image =
      'data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg=='
    const logo = (x: unknown) => wren.put('/api/plant/logo').send({ image: x })
    await logo('data:image/svg+xml;base64,AAAA').expect(422)
    await logo(`data:image/png;base64,${'A'.repeat(120_000)}`).expect(422)
    await tern.put('/api/plant/logo').send({ image }).expect(403)
    await logo(image).expect(200)
    const { body: runs } = await wren.get('/api/loops/PT-202/runs').expect(200)
    const run = (runs as { id: string; kind: string }[]).find((r) => r.kind === 'verification')
    const pdf = async () =>
      ((await wren.get(`/api/runs/${run?.id}/certificate.pdf`).buffer().expect(200)).body as Buffer).toString(
        'latin1',
      )
    expect(await pdf()).toContain('/Subtype /Image')
    await logo(null).expect(200)
    expect(await pdf()).not.toContain('/Subtype /Image')
  })
})

describe('an earlier decision is decided again', () => {
  const put = (rules: object) => plover.put('/api/plant/rules').send(rules).expect(200)
  const restore = (number: number, reason = 'that was better') =>
    plover.post('/api/plant/rules/restore').send({ number, reason })
  const revisions = async () =>
    (await tern.get('/api/plant/rules/revisions').expect(200)).body as RulesRevision[]
  const rules = async () => (await tern.get('/api/plant/rules').expect(200)).body as object
  test('all rules are as then, what was decided since stays in the list, and the log says which again', async () => {
    const plan = { levels_pct: [5, 50, 95], way: 'both', repeats: 2, seed: 7 }
    await put({ wireColours: 'na', plans: { Flow: plan }, units: { mm: 'in' } })
    const then = await rules()
    const number = (await revisions()).length
    await put({ wireColours: 'iec', plans: { Flow: null, Level: plan }, units: { mm: 'mm', m3: 'L' } })
    await put({ decision: 'guarded' })
    expect((await restore(number).expect(200)).body).toEqual(then)
    expect(await rules()).toEqual(then)
    const [newest] = await revisions()
    expect(newest).toMatchObject({
      number: number + 3,
      reason: `As decision ${number} again: that was better`,
    })
    const paths = new Set(newest?.changes.map((c) => c.path.split('.').slice(0, 2).join('.')))
    expect([...paths].sort()).toEqual([
      'decision',
      'plans.Flow',
      'plans.Level',
      'units.m3',
      'units.mm',
      'wireColours',
    ])
  })
  test('the same again is no decision', async () => {
    const before = await revisions()
    await restore(before.length).expect(200)
    expect(await revisions()).toHaveLength(before.length)
  })
  test('0 is as the program ships', async () => {
    expect((await restore(0).expect(200)).body).toEqual(NO_RULES)
    expect((await revisions())[0]?.reason).toBe('As the program ships: that was better')
  })
  test.each<[string, object, string]>([
    ['a decision that never was', { number: 9999, reason: 'x' }, 'number'],
    ['a number below', { number: -1, reason: 'x' }, 'number'],
    ['without a reason', { number: 0, reason: ' ' }, 'reason'],
  ])('%s is told at its place', async (_, body, path) => {
    const res = await plover.post('/api/plant/rules/restore').send(body).expect(422)
    expect((res.body as { errors: { path: string }[] }).errors[0]?.path).toBe(path)
  })
  test('who does the work does not take back what judges it', async () => {
    await wren.post('/api/plant/rules/restore').send({ number: 0, reason: 'x' }).expect(403)
  })
})

describe('what is usually asked of a kind of meter', () => {
  const list =
    'Tag;Type;LRV;URV;Unit;Signal;Tolerance (% span);Interval (months)\nPT-911;pressure;0;10;bar;4-20 mA;;\nPT-912;pressure;0;10;bar;4-20 mA;0,2;6\n'
  test('stands where a list leaves it out, and is told there; what is here already stays as it is', async () => {
    await plover
      .put('/api/plant/rules')
      .send({
        byKind: {
          any: { tolerance_pct: 1, interval_months: 24, signatures: null },
          pressure: { tolerance_pct: 0.5, interval_months: null, signatures: null },
        },
      })
      .expect(200)
    const preview = async () =>
      (await wren.post('/api/loop-list/preview').send({ text: list }).expect(200)).body as Preview
    const look = await preview()
    expect(
      look.rows.map((r) => r.findings.filter((f) => f.code === 'BY_RULE_OF_THE_PLANT').map((f) => f.says)),
    ).toEqual([
      [
        'Tolerance (% span): left empty, so the plant’s rule gives 0.5 % of span.',
        'Interval (months): left empty, so the plant’s rule gives 24 months.',
      ],
      [],
    ])
    await wren
      .post('/api/loop-list/import')
      .send({ id: crypto.randomUUID(), text: list, mapping: look.mapping, update: [] })
      .expect(200)
    const loop = (await wren.get('/api/loops/PT-911').expect(200)).body as LoopDetail
    expect(loop.document).toMatchObject({ tolerance: { pctSpan: 0.5 }, interval_months: 24 })
    await plover
      .put('/api/plant/rules')
      .send({ byKind: { any: null, pressure: { tolerance_pct: 2, interval_months: 3, signatures: null } } })
      .expect(200)
    const again = await preview()
    expect(again.rows[0]?.changes.map((c) => c.after)).not.toContain(2)
    await plover
      .put('/api/plant/rules')
      .send({ byKind: { pressure: null } })
      .expect(200)
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

describe('units that the plant wants', () => {
  const put = (units: object) => wren.put('/api/plant/rules').send({ units })
  const told = async () => ((await tern.get('/api/plant/rules').expect(200)).body as { units: object }).units
  test('each by itself; one said in itself is nobody’s wish any more', async () => {
    await put({ mm: 'in' }).expect(200)
    await put({ m3: 'L' }).expect(200)
    expect(await told()).toEqual({ mm: 'in', m3: 'L' })
    await put({ mm: 'mm', m3: 'm3' }).expect(200)
    expect(await told()).toEqual({})
  })
  test.each<[string, object, string]>([
    ['a unit of another kind', { mm: 'psi' }, 'units.mm'],
    ['a unit that is none', { mm: 'cubit' }, 'units.mm'],
    ['of a unit that has no others', { pH: 'mm' }, 'units.pH'],
  ])('%s is told at its place', async (_, units, path) => {
    const { body } = await put(units).expect(422)
    expect((body as { errors: { path: string }[] }).errors.map((e) => e.path)).toContain(path)
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
