import type { RunInfo, StoredEvent } from '@calm/contract/events'
import type { Revision } from '@calm/contract/loops'
import { describe, expect, test } from 'vitest'
import { peopleIn, shownEntries, timeline } from './timeline.ts'

const ID = '00000000-0000-4000-8000-000000000001'
const document = (remark: string, tag = 'PT-1') => ({ tag, remark, asTyped: {} }) as Revision['document']
const revision = (number: number, at: string, remark: string): Revision => ({
  number,
  at,
  by: 'Heron',
  reason: `reason ${number}`,
  document: document(remark),
})
const run = (more: Partial<RunInfo>): RunInfo => ({
  id: ID,
  loopId: ID,
  kind: 'verification',
  procedure: null,
  state: 'signed',
  verdict: 'PASS',
  startedAt: '2026-11-02T08:00:00.000Z',
  startedBy: 'Wren',
  foreign: false,
  revision: 1,
  ...more,
})
const event = (more: Partial<StoredEvent>): StoredEvent => ({
  id: ID,
  loopId: ID,
  runId: null,
  seq: 1,
  type: 'revision.saved',
  at: '2026-11-02T08:00:00.000Z',
  recordedAt: '2026-11-02T08:00:00.000Z',
  form: 2,
  outOfOrder: false,
  by: ID,
  byName: 'Wren',
  foreign: false,
  payload: {},
  previous: '',
  hash: '',
  ...more,
})

describe('the record as one list', () => {
  test('newest first, whatever it is', () => {
    const all = timeline(
      [revision(2, '2026-11-03T08:00:00.000Z', 'b'), revision(1, '2026-11-01T08:00:00.000Z', 'a')],
      [run({})],
      [],
    )
    expect(all.map((e) => e.title)).toEqual(['Revision 2', 'Verification', 'Revision 1'])
  })
  test('a revision says what it changed; the first one changed nothing', () => {
    const [second, first] = timeline(
      [revision(2, '2026-11-03T08:00:00.000Z', 'b'), revision(1, '2026-11-01T08:00:00.000Z', 'a')],
      [],
      [],
    )
    expect(second?.revision?.changes).toEqual([
      { bench: 'Loop', changes: [{ name: 'Remark', before: 'a', after: 'b' }] },
    ])
    expect(first?.revision?.changes).toEqual([])
  })
  test('a procedure has its own name; one that this version does not know is a procedure', () => {
    const title = (procedure: string | null) =>
      timeline([], [run({ kind: 'procedure', procedure })], [])[0]?.title
    expect(title('zero-trim')).toMatch(/zero/i)
    expect(title('made-up')).toBe('Procedure')
  })
  test('what came with a package, or out of the order of times, is marked', () => {
    const events = [
      event({ runId: ID, type: 'run.started', outOfOrder: true }),
      event({ runId: ID, type: 'signed', outOfOrder: true, at: '2026-11-02T09:00:00.000Z' }),
      event({ runId: '00000000-0000-4000-8000-000000000002', type: 'signed', outOfOrder: true }),
    ]
    const [e] = timeline([], [run({ foreign: true })], events)
    expect(e?.marks).toEqual([
      'Foreign: it came with a package.',
      '2 recorded out of the order of their times.',
    ])
    expect(e?.run?.last).toBe('2026-11-02T09:00:00.000Z')
    expect(timeline([], [run({})], [])[0]?.marks).toEqual([])
  })
  test('what belongs to no run is told by its kind; a revision only once', () => {
    const diagnosis = event({
      type: 'diagnosis.recorded',
      payload: {
        revision: 1,
        levels: [{ values: { MA: 12 }, dir: 1 }],
        U: {},
        says: ['Look at the shunt.', 'It is 5 Ω low.'],
      },
    })
    const all = timeline([revision(1, '2026-11-01T08:00:00.000Z', '')], [], [event({}), diagnosis])
    expect(all).toHaveLength(2)
    expect(all[0]?.says).toEqual(['Look at the shunt.', 'It is 5 Ω low.'])
  })
  test('a note says to which work it belongs, and has its pictures', () => {
    const sha256 = 'ab'.repeat(32)
    const note = (more: object) =>
      event({ type: 'note.kept', payload: { text: 'Gland loose.', pictures: [], ...more } })
    const picture = { sha256, type: 'image/jpeg', bytes: 9 }
    const [of, alone] = [
      timeline([], [run({})], [note({ run: ID, pictures: [picture] })]).find((e) => e.kind === 'note'),
      timeline([], [run({})], [note({})]).find((e) => e.kind === 'note'),
    ]
    expect(of).toMatchObject({
      title: 'Note',
      says: ['On the verification of 2026-11-02.', 'Gland loose. (1 picture)'],
      pictures: [sha256],
    })
    expect(alone).toMatchObject({ says: ['Gland loose.'], pictures: [] })
  })
  test('what this version cannot read is not passed over', () => {
    const all = timeline([], [], [event({ type: 'weather.noted' }), event({ type: 'diagnosis.recorded' })])
    expect(all.map((e) => e.title)).toEqual(['Something newer', 'Something newer'])
    expect(all[1]?.says).toEqual(['This version does not know what this says.'])
  })
})

describe('what is asked for', () => {
  const all = timeline(
    [revision(1, '2026-11-01T08:00:00.000Z', 'a')],
    [run({ startedBy: 'Wren' })],
    [
      event({ runId: ID, type: 'signed', byName: 'Heron', payload: { as: 'reviewer', statement: 'seen' } }),
      event({ id: '00000000-0000-4000-8000-000000000009', type: 'something.new', byName: 'Tern' }),
    ],
  )
  test.each([
    ['everything', { kind: 'all', by: null }, 3],
    ['revisions', { kind: 'revision', by: null }, 1],
    ['verifications', { kind: 'verification', by: null }, 1],
    ['procedures', { kind: 'procedure', by: null }, 0],
    ['what one did, inside a run too', { kind: 'all', by: 'Heron' }, 2],
    ['of a kind by one', { kind: 'verification', by: 'Tern' }, 0],
  ] as const)('%s', (_what, asked, count) => expect(shownEntries(all, asked)).toHaveLength(count))
  test('everybody in it, each once', () => expect(peopleIn(all)).toEqual(['Heron', 'Tern', 'Wren']))
  test('a run opens to what happened in it, with names', () =>
    expect(all.find((e) => e.kind === 'verification')?.story).toMatchObject([
      { by: 'Heron', title: 'Signed', says: ['Signed as reviewer: seen'] },
    ]))
})
