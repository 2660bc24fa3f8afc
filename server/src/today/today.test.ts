import { randomUUID } from 'node:crypto'
import type { JobTold, PlanTold } from '@calm/contract/today'
import type { LoopDetail } from '@calm/contract/loops'
import { factsOf } from '@calm/core/loop/facts'
import { judgeSetUp } from '@calm/core/loop/set-up-findings'
import type { PlantAtWork } from '@calm/core/today/plant-at-work'
import type TestAgent from 'supertest/lib/agent.js'
import { afterAll, beforeAll, describe, expect, test } from 'vitest'
import { provePlant } from '../proof/prove.ts'
import { asBuffer } from '../test/as-buffer.ts'
import { stationery } from '../test/stationery.ts'
import { daySheetOf } from './outward.ts'
import { readCalendar } from '../test/calendar.ts'
import { testApp, type TestApp } from '../test/app.ts'
import { asLeft, close, events, read, send, starter } from '../test/verification.ts'

let app: TestApp
let wren: TestAgent
let dunlin: TestAgent
beforeAll(async () => {
  app = await testApp()
  wren = await app.as('wren')
  dunlin = await app.as('dunlin')
})
afterAll(() => app.stop())

// A Tuesday; all tests take place on the Friday before.
const DAY = '2026-12-01'
const look = async (day = DAY, days = 1) =>
  (await wren.get(`/api/today/plan?day=${day}&days=${days}`).expect(200)).body as PlanTold
const make = (base: string | null, more: object = {}, who = wren) =>
  who
    .post('/api/today/plan')
    .send({ id: randomUUID(), day: DAY, days: 1, how: 'planned', base, milliseconds: 200, ...more })
const place = (p: PlanTold, job: string, to: object | null, more: object = {}) =>
  wren
    .put('/api/today/plan/placing')
    .send({ id: randomUUID(), day: p.day, days: p.days, base: p.made?.id ?? null, job, to, ...more })
const keyOf = (p: PlanTold, title: string) => {
  const found = p.jobs.find((j) => j.title === title)
  if (!found) throw new Error(`no job ${title}: ${p.jobs.map((j) => j.title).join(', ')}`)
  return found.key
}
/** Off whatever other day has it. */
async function free(key: string, from: PlanTold): Promise<void> {
  const there = from.elsewhere.find((e) => e.job === key)
  if (there) await place(await look(there.day), key, null).expect(200)
}
const paths = (res: { body: unknown }) =>
  ((res.body as { errors?: { path: string }[] }).errors ?? []).map((e) => e.path)
const title = (res: { body: unknown }) => (res.body as { title: string }).title
const person = (p: PlanTold, name: string) => p.people.find((x) => x.name.startsWith(name))?.id ?? ''

describe('jobs', () => {
  test('come from the record by themselves, each with its reason and what it takes', async () => {
    const { body } = await wren.get(`/api/today/jobs?day=${DAY}`).expect(200)
    const jobs = body as JobTold[]
    const told = (t: string) => jobs.find((j) => j.title === t)
    expect(told('FT-402 put right')).toMatchObject({
      kind: 'again',
      importance: 5,
      why: 'Found on 2025-10-30: out of tolerance.',
      to: '/loops/FT-402/trim',
      work: { helper: 'throughout', kit: 'nitrogen', uses: { nitrogen_nl: 1280 } },
    })
    expect(told('GS-MM-007 certificate')).toMatchObject({ kind: 'certificate', area: 'Workshop' })
    expect(told('LI-303 wiring')).toMatchObject({ kind: 'stop', to: '/loops/LI-303/wire' })
    const pdt = told('PDT-201 verify')
    expect(pdt?.work.needs.map((n) => n.unit)).toEqual(['mbar', 'mA'])
    // Learnt from the plant's own runs, not the standard's 45 minutes.
    expect(pdt?.learntFrom).toBeGreaterThan(3)
    expect(pdt?.minutes).toBeLessThan(pdt?.work.standard_min ?? 0)
    expect(new Set(jobs.map((j) => j.title)).size).toBe(jobs.length)
  })
  test('are entered, agreed about, put off and let go, once each, under the name of who did it', async () => {
    const id = randomUUID()
    const job = {
      id,
      title: 'Tray cleaned',
      loop: 'PT-202',
      area: '200 Membranes',
      why: '',
      due: DAY,
      minutes: 20,
      importance: 2,
    }
    expect((await wren.post('/api/today/jobs').send(job).expect(200)).body).toEqual({ stored: true })
    expect((await wren.post('/api/today/jobs').send(job).expect(200)).body).toEqual({ stored: false })
    expect((await wren.post('/api/today/jobs').send({ ...job, minutes: 25 })).status).toBe(409)
    const key = `${id} hand`
    const wish = { order: 'WO-7', agreed: 'with the shift lead', minutes: 35 }
    const at = `/api/today/jobs/${encodeURIComponent(key)}`
    await wren.put(at).send({ id: randomUUID(), wish }).expect(200)
    const found = async () => (await look()).jobs.find((j) => j.key === key)
    expect(await found()).toMatchObject({ minutes: 35, wish, why: 'Entered by Wren (technician).' })
    await wren
      .put(at)
      .send({ id: randomUUID(), wish: { ...wish, notBefore: '2026-12-02' } })
      .expect(200)
    expect(await found()).toBeUndefined()
    await wren.put(at).send({ id: randomUUID(), wish }).expect(200)
    expect(paths(await wren.post(`${at}/let-go`).send({ id: randomUUID(), reason: ' ' }))).toEqual(['reason'])
    await wren.post(`${at}/let-go`).send({ id: randomUUID(), reason: 'done by others' }).expect(200)
    expect(await found()).toBeUndefined()
    const log = (await (await app.as('heron')).get('/api/log?group=plans').expect(200)).body as {
      entries: { title: string; reason: string; byName: string }[]
    }
    expect(log.entries[0]).toMatchObject({ reason: 'done by others', byName: 'Wren (technician)' })
  })
  test('what the record asks for is not let go of', async () => {
    const key = keyOf(await look(), 'FT-402 put right')
    const res = await wren
      .post(`/api/today/jobs/${encodeURIComponent(key)}/let-go`)
      .send({ id: randomUUID(), reason: 'no' })
    expect([res.status, title(res)]).toEqual([409, expect.stringContaining('The record asks for this job')])
  })
  test.each([
    ['no title', { title: ' ' }, 'title'],
    ['a loop that is not there', { loop: 'PT-999' }, 'loop'],
    ['no day', { due: '2026-02-30' }, 'due'],
    ['no time', { minutes: 0 }, 'minutes'],
    ['more than a day', { minutes: 2000 }, 'minutes'],
    ['importance out of range', { importance: 6 }, 'importance'],
    ['no area', { area: '' }, 'area'],
  ])('%s is refused at its field', async (_, over, path) => {
    const job = { title: 'x', loop: null, area: '400', why: '', due: DAY, minutes: 20, importance: 2 }
    const res = await wren.post('/api/today/jobs').send({ id: randomUUID(), ...job, ...over })
    expect([res.status, paths(res)]).toEqual([422, [path]])
  })
  test('a list goes in and comes out; an order that is here is not entered twice', async () => {
    const text =
      'Work order;Text;Tag;Area;Due;Min;Prio;Done by\nWO-31;Sun shade;TT-407;;1.12.2026;25;3;verification\nWO-32;;;;;;;\nWO-33;Lamp;;100 Intake;;15;1;\n'
    const bring = () => wren.post('/api/today/jobs/import').send({ text }).expect(200)
    expect((await bring()).body).toMatchObject({ created: 2, same: 0, wrong: [{ row: 3 }] })
    expect((await bring()).body).toMatchObject({ created: 0, same: 2 })
    const csv = (await wren.get(`/api/today/jobs.csv?day=${DAY}`).expect(200)).text
    expect(csv).toContain('WO-31,Sun shade,TT-407,400 Utilities,2026-12-01,25,3,verification')
  })
  test('a list of a hundred thousand different words is read, and asks for no more than it may', async () => {
    const words = Array.from({ length: 100_000 }, (_, i) => i.toString(36).padStart(4, '0')).join(';')
    const text = `Text;Area\nLamp of many words;100 Intake;${words}\n`
    const res = await wren.post('/api/today/jobs/import').send({ text })
    expect([res.status, res.body]).toMatchObject([200, { created: 1 }])
  })
})

describe('a day', () => {
  test('is planned without breaking a rule, with a reason for every job', async () => {
    const before = await look()
    expect(before.made).toBeNull()
    const p = (await make(null).expect(200)).body as PlanTold
    expect(p.placings.length).toBeGreaterThan(10)
    expect(p.broken).toEqual([])
    expect(p.placings.every((x) => x.says !== '')).toBe(true)
    const placed = new Set(p.placings.map((x) => x.job))
    const open = p.jobs.filter((j) => !placed.has(j.key)).map((j) => j.key)
    expect(p.left.map((l) => l.job).sort()).toEqual(open.sort())
    expect(p.made).toMatchObject({ how: 'planned', byName: 'Wren (technician)', worked: { seed: 20_317 } })
    // Two people, one valve: who helps is at no other job meanwhile.
    const both = p.placings.find((x) => x.job === keyOf(p, 'FT-402 put right'))
    expect(both?.helper).not.toBeNull()
    expect(await look()).toMatchObject({ made: { id: p.made?.id }, placings: p.placings })
    expect((await provePlant(app.connection.db)).mismatches).toEqual([])
  })
  test('moved by hand is told what it breaks; undone it is as before', async () => {
    const p = await look()
    const [a, b] = p.placings
    if (!a || !b) throw new Error('nothing is planned')
    const moved = (await place(p, a.job, { person: b.person, start: b.start }).expect(200)).body as PlanTold
    expect(moved.broken.length).toBeGreaterThan(0)
    expect(moved.broken.map((x) => x.says).join(' ')).toMatch(/Two jobs at once|needs time to get/)
    expect(moved.made).toMatchObject({ how: 'moved', worked: null })
    const undo = { id: randomUUID(), day: DAY, days: 1, base: moved.made?.id }
    const back = (await wren.post('/api/today/plan/undo').send(undo).expect(200)).body as PlanTold
    expect(back.placings).toEqual(p.placings)
    // A press that came twice goes back once.
    expect(
      ((await wren.post('/api/today/plan/undo').send(undo).expect(200)).body as PlanTold).placings,
    ).toEqual(p.placings)
    const further = { id: randomUUID(), day: DAY, days: 1, base: back.made?.id }
    const first = (await wren.post('/api/today/plan/undo').send(further).expect(200)).body as PlanTold
    expect([first.placings, first.made?.mayUndo]).toEqual([[], false])
    expect(
      (await wren.post('/api/today/plan/undo').send({ ...further, id: randomUUID(), base: first.made?.id }))
        .status,
    ).toBe(409)
    await make(first.made?.id ?? null).expect(200)
  })
  test('moved behind another job it is laid where it can begin, and who comes after is pushed', async () => {
    const p = await look()
    const who = person(p, 'Wren')
    const own = p.placings.filter((x) => x.person === who).sort((x, y) => x.start.localeCompare(y.start))
    const [first, second] = own
    if (!first || !second) throw new Error('too little is planned')
    const told = (await place(p, second.job, { person: who, after: null, day: DAY }).expect(200))
      .body as PlanTold
    const at = (job: string) => told.placings.find((x) => x.job === job)?.start ?? ''
    expect(at(second.job) < at(first.job)).toBe(true)
    expect(told.placings.map((x) => x.job).sort()).toEqual(p.placings.map((x) => x.job).sort())
  })
  test('taken off it is told where there is room; what was agreed stays when all is planned anew', async () => {
    const p = await look()
    const off = p.placings.at(-1)
    if (!off) throw new Error('nothing is planned')
    const without = (await place(p, off.job, null).expect(200)).body as PlanTold
    expect(without.left.map((l) => l.job)).toContain(off.job)
    const key = keyOf(without, 'FT-101 verify')
    const fixed = { person: person(without, 'Dunlin'), start: `${DAY}T13:30Z` }
    const locked = (await place(without, key, fixed, { locked: true }).expect(200)).body as PlanTold
    expect(locked.placings.find((x) => x.job === key)).toMatchObject({ ...fixed, locked: true })
    const anew = (await make(locked.made?.id ?? null, { how: 'from now' }).expect(200)).body as PlanTold
    expect(anew.placings.find((x) => x.job === key)).toMatchObject({ ...fixed, locked: true })
    expect(anew.broken).toEqual([])
  })
  test('a job that one day has is no other day’s, however far away', async () => {
    const day = '2027-02-09'
    const here = new Set((await look()).placings.map((x) => x.job))
    const there = (await make(null, { day }).expect(200)).body as PlanTold
    expect(there.placings.length).toBeGreaterThan(0)
    expect(there.placings.filter((x) => here.has(x.job))).toEqual([])
    expect(new Set(there.elsewhere.map((e) => e.job))).toEqual(here)
  })
  test('looked at again it is never worse: a plan is given up for a better one only', async () => {
    const day = '2026-12-10'
    let last = (await make(null, { day }).expect(200)).body as PlanTold
    for (let i = 0; i < 3; i++) {
      const next = (await make(last.made?.id ?? null, { day }).expect(200)).body as PlanTold
      const cost = (p: PlanTold) => [p.made?.worked?.unplaced ?? NaN, p.made?.worked?.points ?? NaN] as const
      const [a, b] = [cost(last), cost(next)]
      expect(b[0] < a[0] || (b[0] === a[0] && b[1] <= a[1])).toBe(true)
      expect(next.made?.id === last.made?.id).toBe(b[0] === a[0] && b[1] === a[1])
      last = next
    }
  })
  test('nothing is planned into the past', async () => {
    const res = await make(null, { day: '2026-11-24' })
    expect([res.status, title(res)]).toEqual([409, expect.stringContaining('These days are over')])
  })
  test('jobs that wait for each other in a circle are refused where it would begin', async () => {
    const p = await look()
    const [a, b] = [keyOf(p, 'FT-101 verify'), keyOf(p, 'FT-403 verify')]
    const wait = (key: string, after: string[]) =>
      wren.put(`/api/today/jobs/${encodeURIComponent(key)}`).send({ id: randomUUID(), wish: { after } })
    await wait(a, [b]).expect(200)
    expect(paths(await wait(b, [a]))).toEqual(['wish.after'])
    expect(paths(await wait(b, [b]))).toEqual(['wish.after'])
    await wait(a, []).expect(200)
  })
  test('two who plan at once: the second is told, and nothing is lost', async () => {
    const p = await look()
    const base = p.made?.id ?? null
    const again = { how: 'from now' }
    const both = await Promise.all([make(base, again), make(base, again, dunlin)])
    expect(both.map((r) => r.status).sort()).toEqual([200, 409])
    const lost = both.find((r) => r.status === 409)
    expect(title(lost ?? both[0])).toMatch(/planned these days in the meantime/)
  })
  test.each<[string, object, string]>([
    ['a start that is no instant', { person: 'wren', start: 'noon' }, 'to.start'],
    ['a day that is none', { person: 'wren', start: '2026-13-01T08:00Z' }, 'to.start'],
    ['somebody who is not planned', { person: randomUUID(), start: `${DAY}T08:00Z` }, 'to.person'],
  ])('%s is refused at its field', async (_, to, path) => {
    const p = await look()
    const named = { ...to, ...('person' in to && to.person === 'wren' ? { person: person(p, 'Wren') } : {}) }
    const res = await place(p, p.placings[0]?.job ?? '', named)
    expect([res.status, paths(res)]).toEqual([422, [path]])
  })
  test('who only looks plans nothing', async () => {
    const tern = await app.as('tern')
    expect((await make(null, {}, tern)).status).toBe(403)
    await tern.get(`/api/today/plan?day=${DAY}`).expect(200)
  })
})

describe('who is there', () => {
  const say = (day: string, who: string, shift: object | null) =>
    wren.put('/api/today/presence').send({ id: randomUUID(), person: who, day, shift })
  test('on a Sunday nobody; said otherwise somebody; over midnight it is one turn', async () => {
    const sunday = '2026-12-06'
    const p = await look(sunday)
    expect(p.people.every((x) => x.turns.length === 0)).toBe(true)
    const res = await make(null, { day: sunday })
    expect([res.status, title(res)]).toEqual([409, expect.stringContaining('Nobody is there')])
    await say(sunday, person(p, 'Wren'), {
      from: '22:00',
      to: '06:00',
      breaks: [{ from: '02:00', to: '02:30' }],
    }).expect(200)
    const turns = (await look(sunday)).people.find((x) => x.name.startsWith('Wren'))?.turns
    expect(turns).toMatchObject([
      {
        from: '2026-12-06T22:00Z',
        to: '2026-12-07T06:00Z',
        breaks: [{ from: '2026-12-07T02:00Z', to: '2026-12-07T02:30Z' }],
      },
    ])
  })
  test('what is planned after midnight is of the night’s day, and of no other', async () => {
    const sunday = '2026-12-06'
    const rows = Array.from({ length: 8 }, (_, i) => `Lamp ${i};100 Intake;45`).join('\n')
    const text = `Text;Area;Min\n${rows}`
    await wren.post('/api/today/jobs/import').send({ text }).expect(200)
    const told = (await make(null, { day: sunday }).expect(200)).body as PlanTold
    const late = told.placings.filter((x) => x.start.startsWith('2026-12-07'))
    expect(late.length).toBeGreaterThan(0)
    expect(new Set(told.placings.map((x) => x.day))).toEqual(new Set([sunday]))
    expect((await look(sunday)).placings).toEqual(told.placings)
    expect((await look('2026-12-07')).placings).toEqual([])
    expect(told.broken).toEqual([])
  })
  test('a start on another day is refused: nothing goes lost', async () => {
    const p = await look()
    const job = p.placings[0]?.job ?? ''
    const res = await place(p, job, { person: person(p, 'Wren'), start: '2029-01-01T08:00Z' })
    expect([res.status, paths(res)]).toEqual([422, ['to.start']])
    expect((await look()).placings.map((x) => x.job)).toContain(job)
  })
  test.each(['0000-01-01', '9999-12-31', '1999-12-31'])('%s is no day of a plan', async (day) => {
    expect(paths(await wren.get(`/api/today/plan?day=${day}`))).toEqual(['day'])
  })
  test('away: nothing is planned for them, and what was is told as a conflict', async () => {
    const p = await look()
    await say(DAY, person(p, 'Dunlin'), null).expect(200)
    const now = await look()
    expect(now.broken.some((b) => b.says.startsWith('Dunlin (technician) is not there'))).toBe(true)
    const anew = (await make(now.made?.id ?? null, { how: 'from now' })).body as { title?: string }
    // What was agreed with Dunlin cannot be kept: it is said, not dropped.
    expect(anew.title).toContain('What was agreed for FT-101 verify cannot be kept')
    await wren
      .put('/api/today/presence')
      .send({ id: randomUUID(), person: person(p, 'Dunlin'), day: DAY, shift: null, usual: true })
      .expect(200)
    expect((await look()).people.find((x) => x.name.startsWith('Dunlin'))?.turns).toHaveLength(1)
  })
  test.each([
    [{ from: '7:00', to: '15:00' }, 'shift.from'],
    [{ from: '07:00', to: '07:00' }, undefined],
  ])('%j', async (shift, path) => {
    const res = await say(DAY, person(await look(), 'Wren'), shift)
    expect(paths(res)[0]).toBe(path)
  })
})

describe('in the day', () => {
  test('begun, done and found bad show in the record of its loop; the rest is planned anew around it', async () => {
    const { begin } = await starter(wren)
    const day = '2026-11-27'
    /** The same, this morning. */
    const today = (...bodies: Parameters<typeof events> extends [string, ...infer B] ? B : never) =>
      events(run, ...bodies).map((e) => ({
        ...e,
        at: new Date(Date.parse(e.at) + 4 * 86_400_000).toISOString(),
      }))
    const run = randomUUID()
    const ofPt202 = async () => {
      const p = await look(day)
      const job = p.jobs.find((j) => j.loop?.tag === 'PT-202')
      return { p, job, progress: p.progress.find((x) => x.job === job?.key) }
    }
    await send(wren, today(begin(), read(0, 0, 3))).expect(200)
    const begun = await ofPt202()
    expect(begun.job).toMatchObject({ kind: 'goOn', title: 'PT-202 go on' })
    expect(begun.progress).toMatchObject({ state: 'begun', says: 'Verification is under way.', bad: false })
    const to = { person: person(begun.p, 'Wren'), start: `${day}T09:00Z` }
    const key = begun.job?.key ?? ''
    await free(key, begun.p)
    await place(await look(day), key, to).expect(200)
    await send(wren, today(read(1, 42.5, 3), read(2, 85, 3), close, asLeft)).expect(200)
    const done = await ofPt202()
    expect(done.progress).toMatchObject({
      state: 'done',
      says: 'Verification: out of tolerance.',
      byName: 'Wren (technician)',
      bad: true,
    })
    // It happened: a new plan leaves it where it was.
    const anew = (await make(done.p.made?.id ?? null, { day, how: 'from now' }).expect(200)).body as PlanTold
    expect(anew.placings).toContainEqual(expect.objectContaining({ job: done.job?.key, start: to.start }))
  })
  test('a procedure at a loop is no verification of it, and proves no other job there', async () => {
    const day = '2026-11-27'
    const hand = async (title: string, does: string | null) => {
      const id = randomUUID()
      const job = { title, loop: 'PT-405', area: '400', why: '', due: day, minutes: 30, importance: 3, does }
      await wren
        .post('/api/today/jobs')
        .send({ id, ...job })
        .expect(200)
      return `${id} hand`
    }
    const jobs = {
      gasket: await hand('Gasket', null),
      verify: await hand('Verify it', 'verify'),
      trim: await hand('Trim it', 'zero-trim'),
    }
    const { id: loop } = (await wren.get('/api/loops/PT-405').expect(200)).body as { id: string }
    const stands = async () => {
      const p = await look(day)
      const of = (key: string) => p.progress.find((x) => x.job === key)?.state
      return [of(jobs.gasket), of(jobs.verify), of(jobs.trim), of(`${loop} visit`) ?? 'not asked for']
    }
    const before = await stands()
    expect(before).toEqual(['open', 'open', 'open', before[3]])
    const run = randomUUID()
    await app.tamper(
      `insert into runs (id, loop_id, kind, procedure, state, verdict, revision, started_at, started_by)
       select '${run}', '${loop}', 'procedure', 'zero-trim', 'done', 'adjusted', 1, '2026-11-27T12:30:00Z', started_by
       from runs limit 1`,
    )
    expect(await stands()).toEqual(['open', 'open', 'done', before[3]])
    const p = await look(day)
    expect(p.jobs.find((j) => j.key === jobs.trim)).toMatchObject({
      to: '/loops/PT-405/trim?procedure=zero-trim',
      does: 'zero-trim',
      work: { procedure: 'run zero-trim' },
    })
    // One of before somebody asked for it proves nothing.
    const began = (at: string) => app.tamper(`update runs set started_at = '${at}' where id = '${run}'`)
    await began('2026-11-27T03:00:00Z')
    expect((await stands())[2]).toBe('open')
    await app.tamper(`delete from runs where id = '${run}'`)
  })
  test('what the record proved is gone the next day; what is entered again asks for another one', async () => {
    let now = new Date('2026-11-24T08:00:00Z')
    const other = await testApp({ clock: () => now })
    const agent = await other.as('wren')
    const job = {
      loop: 'PT-405',
      area: '400',
      why: '',
      due: DAY,
      minutes: 30,
      importance: 3,
      does: 'zero-trim',
    }
    const enter = (title: string) =>
      agent
        .post('/api/today/jobs')
        .send({ id: randomUUID(), title, ...job })
        .expect(200)
    const titles = async () =>
      ((await agent.get(`/api/today/jobs?day=${DAY}`).expect(200)).body as { title: string }[])
        .map((j) => j.title)
        .filter((t) => t.startsWith('Zero'))
    await enter('Zero of November')
    await other.tamper(
      `insert into runs (id, loop_id, kind, procedure, state, verdict, revision, started_at, started_by)
       select '${randomUUID()}', l.id, 'procedure', 'zero-trim', 'done', 'untouched', 1, '2026-11-24T09:00:00Z', r.started_by
       from runs r, loops l where l.tag = 'PT-405' limit 1`,
    )
    expect(await titles()).toEqual(['Zero of November'])
    now = new Date('2026-11-25T08:00:00Z')
    expect(await titles()).toEqual([])
    await enter('Zero again')
    expect(await titles()).toEqual(['Zero again'])
    await other.stop()
  })
  test('a row of a list is one job, in whichever file it comes; without a day it is asked for again once it is done', async () => {
    let now = new Date('2026-11-24T08:00:00Z')
    const other = await testApp({ clock: () => now })
    const agent = await other.as('wren')
    const bring = async (...rows: string[]) =>
      (
        await agent
          .post('/api/today/jobs/import')
          .send({ text: ['Text;Area;Due', ...rows].join('\n') })
          .expect(200)
      ).body as { created: number; same: number }
    const jobs = async () =>
      ((await agent.get(`/api/today/jobs?day=2026-11-26`).expect(200)).body as JobTold[]).filter(
        (j) => j.kind === 'byHand',
      )
    const count = async (title: string) => (await jobs()).filter((j) => j.title.startsWith(title)).length
    const [lamp, mats, dated] = [
      'Lamp 9;400 Utilities;',
      'Mats;400 Utilities;',
      'Sign;400 Utilities;30.11.2026',
    ]
    expect(await bring(lamp, mats, dated)).toMatchObject({ created: 3, same: 0 })
    // One row more, another order, the next day: what is open is here already.
    now = new Date('2026-11-25T08:00:00Z')
    expect(await bring(dated, 'Hinge;400 Utilities;', mats, lamp)).toMatchObject({ created: 1, same: 3 })
    // Somebody else brings it: it is here.
    const heron = await other.as('heron')
    const sent = await heron.post('/api/today/jobs/import').send({ text: `Text;Area;Due\n${lamp}` })
    expect(sent.body).toMatchObject({ created: 0, same: 1 })
    // A row that stands twice is two jobs.
    expect(await bring(lamp, lamp)).toMatchObject({ created: 1, same: 1 })
    expect(await count('Lamp 9')).toBe(2)
    const [first, second] = (await jobs()).filter((j) => j.title.startsWith('Lamp 9'))
    const [sign] = (await jobs()).filter((j) => j.title === 'Sign')
    const mark = (job: JobTold | undefined) =>
      agent
        .post('/api/today/marks')
        .send({ id: randomUUID(), day: '2026-11-25', job: job?.key, mark: 'done', reason: '' })
        .expect(200)
    await mark(first)
    await mark(sign)
    now = new Date('2026-11-26T08:00:00Z')
    // The lamp is out once more; the sign of the 30th hangs.
    expect(await bring(lamp, lamp, dated)).toMatchObject({ created: 1, same: 2 })
    await agent
      .post(`/api/today/jobs/${encodeURIComponent(second?.key ?? '')}/let-go`)
      .send({ id: randomUUID(), reason: 'twice' })
      .expect(200)
    expect(await bring(lamp)).toMatchObject({ created: 0, same: 1 })
    expect(await count('Lamp 9')).toBe(1)
    await other.stop()
  })
  test.each([
    ['a procedure of another kind of meter', { loop: 'PT-405', does: 'flow-zero' }, 'does'],
    ['one that there is not', { loop: 'PT-405', does: 'polish' }, 'does'],
    ['one without a loop', { loop: null, does: 'verify' }, 'loop'],
  ])('%s is refused at its field', async (_, over, path) => {
    const job = { title: 'x', area: '400', why: '', due: DAY, minutes: 30, importance: 3, ...over }
    const res = await wren
      .post('/api/today/jobs')
      .send({ id: randomUUID(), ...job })
      .expect(422)
    expect(paths(res)).toEqual([path])
  })
  test('a device that showed something else is to be read back again, until it shows what its sheet says', async () => {
    const tag = 'LT-302'
    const loop = (await wren.get(`/api/loops/${tag}`).expect(200)).body as LoopDetail
    const sheet = judgeSetUp(factsOf(loop.document))?.sheet.filter((l) => l.act !== true) ?? []
    const waits = async () => (await look()).jobs.find((j) => j.title === `${tag} read back`)?.why
    const readBack = (last: string | undefined) =>
      wren
        .post(`/api/loops/${tag}/read-backs`)
        .send({
          id: randomUUID(),
          at: '2026-11-26T10:00:00.000Z',
          revision: loop.revision,
          lines: sheet.map((l, i) => ({
            says: l.says,
            read: i === 0 && last !== undefined ? last : l.value,
          })),
        })
        .expect(201)
    // Nobody ever read it back: nothing is known, and nothing is asked.
    expect(await waits()).toBeUndefined()
    await readBack('999 m')
    expect(await waits()).toBe(`Its device showed another “${sheet[0]?.says ?? ''}” on 2026-11-26.`)
    await readBack(undefined)
    expect(await waits()).toBeUndefined()
  })
  test('a full day says how likely it ends in time, and gets likelier as jobs come off', async () => {
    const day = '2026-12-08'
    const first = await look(day)
    await make(first.made?.id ?? null, { day }).expect(200)
    const full = await look(day)
    const whose = full.people.find((x) => x.turns.some((t) => t.chance !== null))
    const chance = (p: PlanTold) => p.people.find((x) => x.id === whose?.id)?.turns[0]?.chance
    expect(chance(full)?.says).toMatch(/^(about (\d times|once) in 10|nearly always|hardly ever)$/)
    const own = full.placings.filter((x) => x.person === whose?.id)
    for (const x of own) await place(await look(day), x.job, null).expect(200)
    expect(chance(await look(day))).toBeNull()
    // What Wren has done before takes as long as it took Wren.
    const wrens = full.people.find((x) => x.name.startsWith('Wren'))?.usual ?? []
    expect(wrens.length).toBeGreaterThan(0)
    for (const u of wrens) expect(u.slow).toBeGreaterThanOrEqual(u.minutes - 5)
  })
  test('stopped says why and is open again when somebody says so; done by hand is gone tomorrow', async () => {
    const p = await look()
    const key = keyOf(p, 'Cable gland of LT-302 renewed')
    const mark = (kind: string, reason = '', day = DAY) =>
      wren.post('/api/today/marks').send({ id: randomUUID(), day, job: key, mark: kind, reason })
    expect(paths(await mark('stopped'))).toEqual(['reason'])
    await mark('stopped', 'rain').expect(200)
    const state = async () => (await look()).progress.find((x) => x.job === key)
    expect(await state()).toMatchObject({
      state: 'stopped',
      says: 'Stopped: rain.',
      byName: 'Wren (technician)',
    })
    await mark('open').expect(200)
    expect(await state()).toMatchObject({ state: 'open' })
    await mark('done', '', '2026-11-26').expect(200)
    expect((await look()).jobs.find((j) => j.key === key)).toBeUndefined()
  })
  test('what is packed is ticked for whoever looks, and leaves no trace in the log', async () => {
    const p = await look()
    const who = person(p, 'Wren')
    const count = async () => (await app.connection.pool.query('select 1 from plant_events')).rowCount
    const before = await count()
    const tick = (packed: boolean) =>
      wren
        .put('/api/today/packed')
        .send({ id: randomUUID(), day: DAY, person: who, what: 'oxygen meter', packed })
    const packed = async () => (await look()).kits.find((k) => k.person === who)?.packed
    await tick(true).expect(200)
    expect(await packed()).toEqual(['oxygen meter'])
    await tick(false).expect(200)
    expect(await packed()).toEqual([])
    expect(await count()).toBe(before)
  })
  test('what is used up leaves the stock as it is packed, and comes back; the log tells it', async () => {
    const plant = async () => (await wren.get('/api/today/plant').expect(200)).body as PlantAtWork
    const was = await plant()
    const who = person(await look(), 'Wren')
    const left = async () => (await plant()).stock['couplant_g']
    const tick = (packed: boolean, takes: number, more: object = {}) =>
      wren
        .put('/api/today/packed')
        .send({ id: randomUUID(), day: DAY, person: who, what: 'couplant_g', packed, takes, ...more })
    const full = was.stock['couplant_g'] ?? 0
    const id = randomUUID()
    await tick(true, 12, { id }).expect(200)
    await tick(true, 12, { id }).expect(200)
    expect(await left()).toBe(full - 12)
    // A plan that needs more since takes the rest.
    await tick(true, 20).expect(200)
    expect(await left()).toBe(full - 20)
    const short = await tick(true, full + 1).expect(422)
    expect(JSON.stringify(short.body)).toContain(`Only ${full - 20} of it`)
    expect(await left()).toBe(full - 20)
    await tick(false, 20).expect(200)
    await tick(false, 20).expect(200)
    expect(await left()).toBe(full)
    for (const what of ['__proto__', 'constructor', 'what nobody counts'])
      await tick(true, 12, { what }).expect(200)
    expect(await left()).toBe(full)
    const two = await Promise.all([tick(true, 12), tick(true, 12)])
    expect(two.map((r) => r.status)).toEqual([200, 200])
    expect(await left()).toBe(full - 12)
    await tick(false, 12).expect(200)
    expect((await provePlant(app.connection.db)).mismatches).toEqual([])
  })
  test('a word to the next shift is read for three days', async () => {
    const note = { id: randomUUID(), day: DAY, says: 'Valve 3 sticks.' }
    await wren.post('/api/today/notes').send(note).expect(200)
    await wren.post('/api/today/notes').send(note).expect(200)
    expect((await look()).notes).toMatchObject([{ says: 'Valve 3 sticks.', byName: 'Wren (technician)' }])
    expect((await look('2026-12-04')).notes).toHaveLength(1)
    expect((await look('2026-12-05')).notes).toHaveLength(0)
    expect(paths(await wren.post('/api/today/notes').send({ ...note, id: randomUUID(), says: ' ' }))).toEqual(
      ['says'],
    )
  })
})

describe('outward', () => {
  test('a calendar with an alarm before somebody has to leave', async () => {
    const p = await look()
    const { text } = await wren.get(`/api/today/plan.ics?day=${DAY}`).expect(200)
    const events = readCalendar(text)
    const minute = (iso: string) => iso.replace(/:00\.000Z$/, ':00Z')
    expect(events.map((e) => e.starts).sort()).toEqual(
      p.placings.map((x) => minute(new Date(x.start).toISOString())).sort(),
    )
    expect(events.every((e) => e.ends !== null)).toBe(true)
    // A quarter of an hour before somebody has to leave, so at least that before it begins.
    expect(events.map((e) => e.alarms_min.length)).toEqual(events.map(() => 1))
    expect(events.every((e) => (e.alarms_min[0] ?? -1) >= 15)).toBe(true)
    const who = person(p, 'Wren')
    const mine = p.placings.filter((x) => x.person === who || x.helper === who)
    const own = await wren.get(`/api/today/plan.ics?day=${DAY}&person=${who}`).expect(200)
    expect(readCalendar(own.text)).toHaveLength(mine.length)
  })
  test('a day sheet says what to mind at what its person comes to, and whom to call', async () => {
    const p = await look()
    const [one, two] = p.people
    const placing = p.placings[0]
    const job = p.jobs.find((j) => j.key === placing?.job)
    if (!one || !two || !placing || !job) throw new Error('The day is planned.')
    const does = (procedure: string) => ({
      ...{ ...p, placings: [{ ...placing, person: one.id, helper: null }] },
      jobs: [{ ...job, work: { ...job.work, procedure } }],
    })
    const sheet = (procedure: string) =>
      daySheetOf(does(procedure), undefined, stationery('A4'), [
        { role: 'shift lead', name: 'Turnstone', from: '06:00', to: '14:00' },
        { role: 'shift lead', name: 'Sanderling', from: '14:00', to: '22:00' },
      ])
    const cautions = (procedure: string) => sheet(procedure).people.map((x) => x.cautions.join(' '))
    expect(cautions('verify ph')).toEqual([expect.stringMatching(/[Aa]cid|acid/), ''])
    expect(cautions('run gas-verification')).toEqual([expect.stringContaining('Nitrogen suffocates'), ''])
    expect(cautions('by hand lamp')).toEqual(['', ''])
    expect(sheet('verify ph').callFor).toEqual({
      'shift lead': 'Turnstone, 06:00 to 14:00 or Sanderling, 14:00 to 22:00',
    })
  })
  test('a day sheet of a page a person', async () => {
    const { body } = await wren
      .get(`/api/today/day-sheet.pdf?day=${DAY}`)
      .buffer(true)
      .parse(asBuffer)
      .expect(200)
    expect((body as Buffer).subarray(0, 5).toString()).toBe('%PDF-')
    expect((await wren.get('/api/today/day-sheet.pdf?day=2026-12-05')).status).toBe(409)
  })
})

describe('the plant at work', () => {
  test('places, shift and stock are decided anew with what changed in the log; wrong values at their paths', async () => {
    const plant = (await wren.get('/api/today/plant').expect(200)).body as {
      usualWalk_min: number
      stock: object
    }
    expect(
      paths(await wren.put('/api/today/plant').send({ plant: { ...plant, usualWalk_min: -1 } })),
    ).toEqual(['plant.usualWalk_min'])
    const stock = { ...plant.stock, nitrogen_nl: 100 }
    await wren
      .put('/api/today/plant')
      .send({ plant: { ...plant, stock } })
      .expect(200)
    expect((await provePlant(app.connection.db)).mismatches).toEqual([])
    const key = keyOf(await look(), 'FT-402 put right')
    const day = (await look()).elsewhere.find((e) => e.job === key)?.day ?? DAY
    const there = await look(day)
    if (!there.placings.some((x) => x.job === key))
      await place(there, key, { person: person(there, 'Wren'), start: `${day}T08:00Z` }).expect(200)
    // What is on one day is put on no other.
    const other = await look('2027-03-16')
    expect(
      (await place(other, key, { person: person(other, 'Wren'), start: '2027-03-16T08:00Z' })).status,
    ).toBe(409)
    const p = await look(day)
    const kit = p.kits.find((k) => k.uses.some((u) => u.item === 'nitrogen_nl'))
    expect(kit?.uses.find((u) => u.item === 'nitrogen_nl')).toMatchObject({ amount: 1280, stock: 100 })
    expect(p.broken.map((b) => b.says)).toContain('More nitrogen_nl is needed than there is: 100 in stock.')
  })
  test('a quiet change of a plan in the database is found', async () => {
    await app.tamper(`update day_entries set at = at - interval '1 day' where kind = 'plan'`)
    const { mismatches } = await provePlant(app.connection.db)
    expect(JSON.stringify(mismatches)).toContain('kind plan')
  })
})
