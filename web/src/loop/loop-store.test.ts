import type { LoopDetail } from '@calm/contract/loops'
import { defaultPath } from '@calm/core/loop/default-path'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, test, vi } from 'vitest'
import { tell } from '../api/live.ts'
import { forgetAnswers } from '../api/live-cache.ts'
import { useLoop } from './loop-store.ts'

const range = { low: 0, high: 80, unit: 'bar(g)' }
const detail = (revision = 1, change: Partial<LoopDetail['document']> = {}): LoopDetail => ({
  id: '00000000-0000-4000-8000-000000000001',
  tag: 'PT-1',
  service: 'Feed',
  area: '',
  assignee: '',
  type: 'pressure',
  revision,
  demo: false,
  summary: {
    parts: { wire: 'notYet', setUp: 'notYet', scale: 'good', trim: 'notYet', verify: 'notYet' },
    verdict: null,
    dueNow: null,
    line: [],
  },
  lastCalibrated: null,
  archivedAt: null,
  due: null,
  revisedBy: 'Heron',
  revisedAt: '2026-11-23T10:00:00.000Z',
  document: {
    version: 4,
    trips: [],
    toKeyIn: [],
    family: 'pressure',
    wiring: null,
    setUp: null,
    tag: 'PT-1',
    service: 'Feed',
    area: '',
    type: 'pressure',
    signal: '4-20 mA',
    path: defaultPath({
      transmitter: range,
      squareRoot: false,
      receiver: range,
    }) as LoopDetail['document']['path'],
    tolerance: null,
    interval_months: 12,
    lastCalibrated: null,
    remark: '',
    asTyped: {},
    unconfirmed: ['path.shunt.resistance_ohm'],
    ...change,
  },
})
let answers: [status: number, body: unknown][] = []
const sent: { path: string; body: unknown }[] = []

beforeEach(() => {
  localStorage.clear()
  forgetAnswers()
  sent.length = 0
  setActivePinia(createPinia())
  vi.stubGlobal(
    'fetch',
    vi.fn((path: string, init: { body?: string }) => {
      sent.push({ path, body: init.body === undefined ? null : JSON.parse(init.body) })
      const [status, body] = answers.shift() ?? [500, {}]
      return Promise.resolve(new Response(JSON.stringify(body), { status }))
    }),
  )
})
afterEach(() => vi.unstubAllGlobals())

async function opened() {
  answers = [[200, detail()]]
  const loop = useLoop()
  await loop.open('PT-1')
  return loop
}

describe('changing a loop', () => {
  test('a change is told by its name, confirms an assumed value, and can be discarded', async () => {
    const loop = await opened()
    loop.setField('path.shunt.resistance_ohm', 249)
    expect(loop.changes.map((c) => [c.name, c.before, c.after])).toEqual([['Shunt, Ω', 250, 249]])
    expect(loop.draft?.unconfirmed).toEqual([])
    loop.discard()
    expect(loop.dirty).toBe(false)
    expect(localStorage.length).toBe(0)
  })
  // The checker is loaded when it is first needed: on a busy machine that takes its time.
  test('what is wrong is told at the stage’s field', { timeout: 25_000 }, async () => {
    const loop = await opened()
    loop.setField('path.controller.range.high', 0)
    await vi.waitFor(() => expect([...loop.wrong.keys()]).toEqual(['path.controller.range.high']), {
      timeout: 20_000,
    })
  })
  test('a draft survives a closed lid', async () => {
    const loop = await opened()
    loop.setField('remark', 'half done')
    setActivePinia(createPinia())
    forgetAnswers()
    const again = await opened()
    expect(again.draft?.remark).toBe('half done')
    expect(again.changes).toHaveLength(1)
  })
  test('saved, the draft is gone from the browser', async () => {
    const loop = await opened()
    loop.setField('remark', 'done')
    answers = [[200, detail(2, { remark: 'done' })]]
    expect(await loop.save('because')).toBe(true)
    expect(sent.at(-1)?.body).toMatchObject({ base: 1, reason: 'because', document: { remark: 'done' } })
    expect([loop.base, loop.dirty, localStorage.length]).toEqual([2, false, 0])
  })
  test('not saved, everything stays and the reason is told', async () => {
    const loop = await opened()
    loop.setField('remark', 'kept')
    answers = [[503, { title: 'The database does not answer.' }]]
    expect(await loop.save('')).toBe(false)
    expect([loop.problem?.message, loop.draft?.remark]).toEqual(['The database does not answer.', 'kept'])
  })
})

describe('when somebody was faster', () => {
  const theirs = detail(2, { remark: 'theirs', service: 'Feed pump' })
  const conflict = {
    title: 'Heron saved',
    base: { number: 1, document: detail().document },
    theirs: { number: 2, document: theirs.document, by: 'Heron', at: '2026-11-23T10:05:00.000Z' },
  }
  async function clashed() {
    const loop = await opened()
    loop.setField('remark', 'mine')
    loop.setField('path.shunt.resistance_ohm', 249)
    answers = [[409, conflict]]
    await loop.save('')
    return loop
  }
  test('what does not clash is joined, what does is asked', async () => {
    const loop = await clashed()
    expect(loop.clash?.merge.conflicts.map((c) => c.path)).toEqual(['remark'])
    expect(loop.clash?.merge.mine.map((c) => c.name)).toEqual(['Shunt, Ω'])
    expect(loop.clash?.merge.merged.service).toBe('Feed pump')
  })
  test.each([
    ['mine', ['remark'], 'mine'],
    ['theirs', [], 'theirs'],
  ] as const)('choosing %s saves on top of their revision', async (_who, mineAt, remark) => {
    const loop = await clashed()
    answers = [[200, detail(3, { remark })]]
    expect(await loop.resolve(mineAt, 'merged')).toBe(true)
    expect(sent.at(-1)?.body).toMatchObject({ base: 2, document: { remark, service: 'Feed pump' } })
  })
  test('another kind of meter is taken with its whole set-up, or not at all', async () => {
    const loop = await opened()
    loop.change((d) => ({ ...d, family: 'thermal', setUp: { values: { id_mm: 100 } } }))
    const made = detail(2, { family: 'coriolis', setUp: { values: { flowFactor: 1 } } })
    answers = [[409, { ...conflict, theirs: { ...conflict.theirs, document: made.document } }]]
    await loop.save('')
    expect(loop.clash?.merge.conflicts.map((c) => [c.path, c.mine, c.theirs])).toEqual([
      ['family', 'thermal', 'coriolis'],
    ])
    answers = [[200, detail(3)]]
    await loop.resolve(['family'], 'merged')
    expect(sent.at(-1)?.body).toMatchObject({
      document: { family: 'thermal', setUp: { values: { id_mm: 100 } } },
    })
  })
  test('news of another revision does not count as a change of mine', async () => {
    const loop = await opened()
    loop.setField('remark', 'mine')
    answers = [[200, theirs]]
    tell({ what: 'revision', loopId: detail().id })
    await vi.waitFor(() => expect(loop.detail?.revision).toBe(2))
    expect(loop.changes.map((c) => c.path)).toEqual(['remark'])
  })
})
