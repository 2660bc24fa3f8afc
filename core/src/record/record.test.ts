import { createHash } from 'node:crypto'
import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { refused } from '../refused.ts'
import { fieldAt, withField } from '../loop/field-path.ts'
import { authorOf, isForeign, maybeSamePerson, nameOfAuthor } from '../signing/authors.ts'
import { canonicalJson } from './canonical-json.ts'
import { eventTimeProblem } from './event-time.ts'
import { CHAIN_START, eventHash, proveChain, type ChainedEvent } from './hash-chain.ts'
import { differences, mergeDocuments } from './revision-difference.ts'
import { readings } from './readings.ts'
import { applyRunEvent, type Folded, type Happened, type Run } from './run.ts'
import { foldRun } from './test/fold-run.ts'
import type { RunEventBody } from './kinds/verification.ts'

const digest = (text: string) => createHash('sha256').update(text).digest('hex')

describe('canonical JSON', () => {
  test('is the same whatever the order of the keys', () => {
    expect(canonicalJson({ b: [1, { d: 1, c: undefined }], a: 'ä"' })).toBe('{"a":"ä\\"","b":[1,{"d":1}]}')
  })
  test('what JSON cannot say has none', () => {
    for (const x of [NaN, Infinity, -Infinity, 'a\ud800', { k: ['\udc00'] }])
      expect(() => canonicalJson(x)).toThrow(RangeError)
    expect(canonicalJson('\u{1f9c2}')).toBe('"\u{1f9c2}"')
  })
  test('is what JSON reads back', () => {
    fc.assert(
      fc.property(fc.jsonValue(), (x) => {
        expect(JSON.parse(canonicalJson(x))).toEqual(JSON.parse(JSON.stringify(x)))
      }),
    )
  })
})

describe('the chain of a loop', () => {
  const chain: ChainedEvent[] = []
  for (let i = 1; i <= 4; i++) {
    const e = {
      id: `e${i}`,
      loopId: 'l',
      runId: null,
      seq: i,
      type: 'reading.recorded',
      at: '2026-11-23T10:00:00.000Z',
      recordedAt: '2026-11-23T10:00:02.000Z',
      // A record of before the server's time went in goes on in the form of today.
      form: i === 1 ? 1 : 2,
      by: 'p',
      payload: { value: i },
      previous: chain.at(-1)?.hash ?? CHAIN_START,
    } as const
    chain.push({ ...e, hash: eventHash(e, digest) })
  }
  test('untouched it is whole', () => {
    expect(proveChain(chain, digest)).toEqual({ kind: 'whole', events: 4, head: chain[3]?.hash })
    expect(proveChain([], digest)).toMatchObject({ kind: 'whole', events: 0 })
  })
  const edits: readonly [why: string, edit: (c: ChainedEvent[]) => ChainedEvent[], seq: number][] = [
    ['a value changed', (c) => c.map((e) => (e.seq === 2 ? { ...e, payload: { value: 9 } } : e)), 2],
    ['an author changed', (c) => c.map((e) => (e.seq === 3 ? { ...e, by: 'q' } : e)), 3],
    [
      'the server’s time changed',
      (c) => c.map((e) => (e.seq === 3 ? { ...e, recordedAt: '2026-11-22T10:00:00.000Z' } : e)),
      3,
    ],
    [
      'the server’s time taken out of the hash',
      (c) => {
        const at = { ...c[3], form: 1 } as ChainedEvent
        return [...c.slice(0, 3), { ...at, hash: eventHash(at, digest) }]
      },
      4,
    ],
    ['an event taken out', (c) => c.filter((e) => e.seq !== 2), 3],
    [
      'two events swapped',
      (c) => [c[1], c[0], c[2], c[3]].flatMap((e, i) => (e ? [{ ...e, seq: i + 1 }] : [])),
      1,
    ],
    [
      'changed and hashed again',
      (c) =>
        c.map((e) => (e.seq === 2 ? { ...e, payload: 0, hash: eventHash({ ...e, payload: 0 }, digest) } : e)),
      3,
    ],
  ]
  test.each(edits)('%s is named', (_why, edit, seq) => {
    expect(proveChain(edit(structuredClone(chain)), digest)).toMatchObject({ kind: 'broken', seq })
  })
})

describe('fields by path', () => {
  const doc = { tag: 'A', path: [{ kind: 'process' }, { kind: 'shunt', resistance_ohm: 250 }], list: [1, 2] }
  test('a stage is found by its kind', () => {
    expect(fieldAt(doc, 'path.shunt.resistance_ohm')).toBe(250)
    expect(fieldAt(doc, 'path.display.decimals')).toBeUndefined()
  })
  test('setting copies and leaves the original alone', () => {
    const changed = withField(doc, 'path.shunt.resistance_ohm', 249)
    expect(fieldAt(changed, 'path.shunt.resistance_ohm')).toBe(249)
    expect(doc.path[1]).toEqual({ kind: 'shunt', resistance_ohm: 250 })
  })
})

describe('two people change one loop', () => {
  const base = { service: 'Feed', remark: '', path: [{ kind: 'shunt', resistance_ohm: 250 }] }
  test('different fields are joined without asking', () => {
    const m = mergeDocuments(
      base,
      { ...base, service: 'Feed pump' },
      withField(base, 'path.shunt.resistance_ohm', 249),
    )
    expect(m.conflicts).toEqual([])
    expect(m.merged).toEqual({
      service: 'Feed pump',
      remark: '',
      path: [{ kind: 'shunt', resistance_ohm: 249 }],
    })
  })
  test('the same field is asked about, theirs stands until chosen', () => {
    const m = mergeDocuments(base, { ...base, remark: 'mine' }, { ...base, remark: 'theirs' })
    expect(m.conflicts).toMatchObject([{ path: 'remark', base: '', mine: 'mine', theirs: 'theirs' }])
    expect(m.merged.remark).toBe('theirs')
  })
  const stages: { kind: string; failTo?: string; ohm?: number }[] = [
    { kind: 'output', failTo: 'low' },
    { kind: 'shunt', ohm: 250 },
  ]
  const loop = {
    family: 'clamp-on' as string | null,
    setUp: null as { values: Record<string, number> } | null,
    tolerance: null as { pctSpan: number } | null,
    path: stages,
    unconfirmed: ['path.shunt.ohm', 'setUp.values.a'],
    remark: '',
  }
  const setUp = (values: Record<string, number>) => ({ values })
  const stage = (kind: string) => ({ kind })
  const joins: [string, object, object, object][] = [
    [
      'one begins the set-up, the other writes',
      { setUp: setUp({ a: 1 }) },
      { remark: 'x' },
      { setUp: setUp({ a: 1 }), remark: 'x' },
    ],
    [
      'both begin it with other entries',
      { setUp: setUp({ a: 1 }) },
      { setUp: setUp({ b: 2 }) },
      { setUp: setUp({ a: 1, b: 2 }) },
    ],
    [
      'one gives a tolerance, the other a set-up',
      { tolerance: { pctSpan: 1 } },
      { setUp: setUp({ b: 2 }) },
      { tolerance: { pctSpan: 1 }, setUp: setUp({ b: 2 }) },
    ],
    [
      'each adds a stage',
      { path: [...loop.path, stage('display')] },
      { path: [stage('sensor'), ...loop.path] },
      { path: [stage('sensor'), ...loop.path, stage('display')] },
    ],
    [
      'one takes a stage out, the other changes another',
      { path: loop.path.slice(0, 1) },
      { path: [{ kind: 'output', failTo: 'high' }, loop.path[1]] },
      { path: [{ kind: 'output', failTo: 'high' }] },
    ],
    [
      'one moves a stage, the other changes one',
      { path: loop.path.toReversed() },
      { path: [loop.path[0], { kind: 'shunt', ohm: 249 }] },
      { path: [{ kind: 'shunt', ohm: 249 }, loop.path[0]] },
    ],
    [
      'both confirm, each something else',
      { unconfirmed: ['path.shunt.ohm'] },
      { unconfirmed: ['setUp.values.a'] },
      { unconfirmed: [] },
    ],
    [
      'one says what the loop is, the other writes',
      { family: 'thermal', setUp: setUp({ t: 3 }) },
      { remark: 'x' },
      { family: 'thermal', setUp: setUp({ t: 3 }), remark: 'x' },
    ],
  ]
  test.each(joins)('joined: %s', (_why, mine, theirs, expected) => {
    for (const [m, t] of [
      [mine, theirs],
      [theirs, mine],
    ] as const) {
      const { merged, conflicts } = mergeDocuments(loop, { ...loop, ...m }, { ...loop, ...t })
      expect([merged, conflicts]).toEqual([{ ...loop, ...expected }, []])
    }
  })
  test('a set-up entered for one kind of meter is asked about as a whole where the other made it another kind', () => {
    const mine = { ...loop, setUp: setUp({ od: 114.3 }) }
    const theirs = { ...loop, family: 'thermal', setUp: setUp({ stem: 20 }), remark: 'x' }
    const { merged, conflicts } = mergeDocuments(loop, mine, theirs)
    expect(merged).toEqual(theirs)
    expect(conflicts).toMatchObject([{ path: 'family', mine: 'clamp-on', theirs: 'thermal' }])
    const chosen = (conflicts[0]?.takes ?? []).reduce(
      (doc, { path, value }) => withField(doc, path, value),
      merged,
    )
    expect(chosen).toEqual({ ...mine, remark: 'x' })
  })
  test('a stage that one takes out and the other changes is asked about', () => {
    const { merged, conflicts } = mergeDocuments(
      loop,
      { ...loop, path: loop.path.slice(0, 1) },
      { ...loop, path: [loop.path[0], { kind: 'shunt', ohm: 249 }] },
    )
    expect(conflicts).toMatchObject([{ path: 'path.shunt', theirs: { ohm: 249 } }])
    expect(merged.path).toHaveLength(2)
  })
  test('the same change twice is no conflict', () => {
    expect(mergeDocuments(base, { ...base, remark: 'x' }, { ...base, remark: 'x' }).conflicts).toEqual([])
  })
  test('differences are named as technicians name the fields', () => {
    expect(differences(base, withField(base, 'path.shunt.resistance_ohm', 249))).toEqual([
      { path: 'path.shunt.resistance_ohm', name: 'Shunt, Ω', before: 250, after: 249 },
    ])
  })
})

describe('a verification as its events tell it', () => {
  const range = { low: 0, high: 85, unit: 'bar(g)' }
  const begin: RunEventBody = {
    type: 'run.started',
    payload: {
      plan: 'P3',
      revision: 1,
      tolerance: { mode: 'max', pctSpan: 0.2, pctReading: 0, abs: 0 },
      inputRange: range,
      outputRange: range,
      equipment: [],
      U_pct: 0,
    },
  }
  const read = (phase: 'asFound' | 'asLeft', index: number, value: number): RunEventBody => ({
    type: 'reading.recorded',
    payload: {
      phase,
      index,
      values: { applied: { value, typed: String(value) }, pv: { value, typed: String(value) } },
    },
  })
  const close = (phase: 'asFound' | 'asLeft'): RunEventBody => ({ type: 'phase.closed', payload: { phase } })
  const sign = (as: 'technician' | 'reviewer'): RunEventBody => ({
    type: 'signed',
    payload: { as, statement: 'done' },
  })
  const at = '2026-11-23T10:00:00.000Z'
  const happen = (...bodies: (RunEventBody | [RunEventBody, string])[]): Happened[] =>
    bodies.map((b) => (Array.isArray(b) ? { body: b[0], by: b[1], at } : { body: b, by: 'wren', at }))
  const tell = (events: Happened[]): Folded => {
    let run: Run | null = null
    let last: Folded = refused('nothing happened')
    for (const e of events) {
      last = applyRunEvent(run, e)
      if (last.kind === 'refused') return last
      run = last.run
    }
    return last
  }
  const adjusted: RunEventBody = { type: 'adjusted', payload: { note: 'zero trim' } }
  const whole = happen(
    begin,
    read('asFound', 0, 0),
    close('asFound'),
    adjusted,
    read('asLeft', 0, 0),
    close('asLeft'),
    sign('technician'),
    [sign('reviewer'), 'heron'],
  )

  test('from start to countersignature', () => {
    const states = whole.map((_, i) => foldRun(whole.slice(0, i + 1))?.state)
    expect(states).toEqual([
      'asFound',
      'asFound',
      'adjust',
      'adjust',
      'asLeft',
      'ready',
      'signed',
      'countersigned',
    ])
  })
  const refusals: readonly [why: string, events: Happened[], says: RegExp][] = [
    ['as-left before as-found is closed', happen(begin, read('asLeft', 0, 1)), /Close the as-found/],
    [
      'as-found after it was closed',
      happen(begin, read('asFound', 0, 1), close('asFound'), read('asFound', 0, 2)),
      /closed and stay/,
    ],
    ['adjusting before as-found is closed', happen(begin, adjusted), /before anything is adjusted/],
    ['closing with nothing read', happen(begin, close('asFound')), /Nothing has been read/],
    [
      'saying nothing was adjusted after an adjustment',
      happen(begin, read('asFound', 0, 1), close('asFound'), adjusted, { type: 'left.asFound', payload: {} }),
      /has to be read/,
    ],
    ['signing too early', happen(begin, sign('technician')), /before signing/],
    ['reviewing one’s own record', [...whole.slice(0, 7), ...happen(sign('reviewer'))], /second person/],
    ['a point the plan has not', happen(begin, read('asFound', 3, 1)), /no point 4/],
    ['beginning twice', happen(begin, begin), /already begun/],
    [
      'readings after the signature',
      [...whole.slice(0, 7), ...happen(read('asLeft', 0, 3))],
      /closed and stay/,
    ],
  ]
  test.each(refusals)('%s is refused in a sentence', (_why, events, says) => {
    const told = tell(events)
    expect(told.kind).toBe('refused')
    expect(told.kind === 'refused' && told.says).toMatch(says)
  })
  test('a reading typed again replaces the row, a returned record can be corrected and signed again', () => {
    const back: RunEventBody = { type: 'returned', payload: { reason: 'point 1 is a slip' } }
    const again = [
      ...whole.slice(0, 7),
      ...happen([back, 'heron'], read('asLeft', 0, 5), close('asLeft'), sign('technician')),
    ]
    const run = foldRun(again)
    expect(run?.state).toBe('signed')
    expect(run && readings(run, 'asLeft')[0]?.pv).toBe(5)
    expect(run?.returned).toHaveLength(1)
  })
  test('with nothing adjusted as-left is as-found by reference', () => {
    const run = foldRun(
      happen(begin, read('asFound', 1, 42), close('asFound'), { type: 'left.asFound', payload: {} }),
    )
    expect(run?.asLeft).toEqual({})
    expect(run && readings(run, 'asLeft')[1]?.applied).toBe(42)
  })
  test('stored events that break the rules are a programming error', () => {
    expect(() => foldRun(happen(sign('technician')))).toThrow(/stored event/)
  })
})

describe('whose word an event is', () => {
  const taken = [
    { events: 10, by: 'x', names: { a: 'Ann', x: 'Xena' } },
    { events: 13, by: 'y', names: { a: 'Ann', x: 'Xena' } },
  ]
  test.each<[why: string, seq: number, by: string, foreign: boolean]>([
    ['from the first package', 3, 'a', true],
    ['by who took in the first, which came with the second', 11, 'x', true],
    ['by who took in the second', 12, 'y', false],
    ['recorded here', 14, 'a', false],
  ])('%s', (_why, seq, by, foreign) => {
    expect(isForeign(seq, by, taken)).toBe(foreign)
    const author = authorOf(seq, by, taken)
    expect(maybeSamePerson(author, by)).toBe(true)
    expect(author === by).toBe(!foreign)
    const name = nameOfAuthor(
      author,
      new Map([
        ['a', 'Ann of here'],
        ['y', 'Yves'],
      ]),
      taken,
    )
    expect(name.includes('foreign')).toBe(foreign)
    expect(name).toMatch(foreign ? /^(Ann|Xena) \(/ : /^(Ann of here|Yves)$/)
  })
})

describe('the time of an event', () => {
  const now = '2026-11-27T12:00:00.000Z'
  test.each<[why: string, at: string, began: string | undefined, says: RegExp | null]>([
    ['now', now, undefined, null],
    ['waited for a week', '2026-11-20T12:00:00.000Z', undefined, null],
    ['a clock five minutes ahead', '2026-11-27T12:05:00.000Z', undefined, null],
    ['a second more', '2026-11-27T12:05:01.000Z', undefined, /future/],
    ['the year 1', '0001-01-01T00:00:00.000Z', undefined, /year/],
    ['2090', '2090-01-01T00:00:00.000Z', undefined, /future/],
    ['2200', '2200-01-01T00:00:00.000Z', undefined, /year/],
    ['no time at all', 'soon', undefined, /year/],
    ['more than a year ago', '2025-11-20T12:00:00.000Z', undefined, /year ago/],
    ['at the beginning of its run', '2026-11-27T10:00:00.000Z', '2026-11-27T10:00:00.000Z', null],
    ['before its run began', '2026-11-27T09:59:59.000Z', '2026-11-27T10:00:00.000Z', /before this run began/],
  ])('%s', (_why, at, runBegan, says) => {
    const told = eventTimeProblem({ at, recordedAt: now, runBegan })
    expect(told).toEqual(says === null ? null : expect.stringMatching(says))
  })
})
