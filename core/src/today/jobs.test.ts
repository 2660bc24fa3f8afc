import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { factsOf } from '../loop/facts.ts'
import { contextOf } from '../loop/procedure-context.ts'
import { PARTS } from '../loop/parts.ts'
import { dayAfter, jobOfInstrument, jobsOfLoop, type LoopAtWork } from './from-loop.ts'
import { VERIFY, VISIT, type Does } from './does.ts'
import { toldApart } from './job.ts'
import { progressOf, foundBad, type MarkRow, type RunRow } from './progress.ts'
import type { ProcedureContext } from '../procedure/step.ts'
import { procedureWork, verificationWork } from './usual-work.ts'
import { atWork, pressureLoop } from './test/at-work.ts'

const TODAY = '2026-11-24'
const HORIZON = '2026-12-08'
const jobs = (over: Partial<LoopAtWork>) => jobsOfLoop(atWork(over), TODAY, HORIZON)
const short = (over: Partial<LoopAtWork>) =>
  jobs(over).map((j) => `${j.kind} ${j.title} ${j.due} ${j.importance} ${j.to ?? ''}`)

describe('what the record asks for', () => {
  test.each<[string, Partial<LoopAtWork>, string[]]>([
    ['nothing', { due: '2027-05-01' }, []],
    ['no interval and no drift', {}, []],
    ['due behind the horizon', { due: '2026-12-09' }, []],
    ['due on its last day', { due: '2026-12-08' }, ['verify PT-1 verify 2026-12-08 2 /loops/PT-1/verify']],
    ['due today', { due: TODAY }, ['verify PT-1 verify 2026-11-24 3 /loops/PT-1/verify']],
    ['overdue by 30 days', { due: '2026-10-25' }, ['verify PT-1 verify 2026-10-25 3 /loops/PT-1/verify']],
    ['overdue by 31 days', { due: '2026-10-24' }, ['verify PT-1 verify 2026-10-24 4 /loops/PT-1/verify']],
    [
      'out of tolerance comes first of all, on Trim',
      { due: '2026-10-24', dueNow: { on: '2026-11-20', why: 'out of tolerance' } },
      ['again PT-1 put right 2026-11-20 5 /loops/PT-1/trim'],
    ],
    [
      'adjusted and not verified',
      { dueNow: { on: '2026-11-20', why: 'adjusted, not verified' } },
      ['again PT-1 verify 2026-11-20 4 /loops/PT-1/verify'],
    ],
    [
      'drift before the interval ends',
      { due: '2027-03-01', leavesOn: '2026-12-01' },
      ['drift PT-1 verify 2026-12-01 3 /loops/PT-1/verify'],
    ],
    [
      'drift after it is due',
      { due: '2026-11-30', leavesOn: '2026-12-01' },
      ['verify PT-1 verify 2026-11-30 2 /loops/PT-1/verify'],
    ],
    [
      'a run left open is gone on with, whatever is due',
      {
        due: '2026-10-24',
        open: { procedure: null, title: 'Verification', on: '2026-11-23', byName: 'Wren' },
      },
      ['goOn PT-1 go on 2026-11-24 4 /loops/PT-1/verify'],
    ],
    [
      'a procedure left open is on Trim',
      {
        open: {
          procedure: { id: 'zero-trim', minutes: 35 },
          title: 'Zero trim',
          on: '2026-11-23',
          byName: 'Wren',
        },
      },
      ['goOn PT-1 go on 2026-11-24 4 /loops/PT-1/trim?procedure=zero-trim'],
    ],
    ['settings to key in', { toKeyIn: 2 }, ['sheet PT-1 settings 2026-11-24 3 /loops/PT-1/scale']],
    [
      'settings to read back',
      { readBack: { why: 'Set up on 2026-11-20 and never read back.', since: '2026-11-20' } },
      ['sheet PT-1 read back 2026-11-20 3 /loops/PT-1/set-up?view=sheet'],
    ],
    [
      'wiring that is wrong comes before what is measured through it',
      { due: TODAY, parts: { ...PARTS_GOOD(), wire: 'stop', scale: 'stop' } },
      [
        'stop PT-1 wiring 2026-11-24 4 /loops/PT-1/wire',
        'stop PT-1 ranges 2026-11-24 4 /loops/PT-1/scale',
        'verify PT-1 verify 2026-11-24 3 /loops/PT-1/verify',
      ],
    ],
  ])('%s', (_, over, expected) => {
    expect(short(over)).toEqual(expected)
  })
  test('the reason names its evidence', () => {
    expect(jobs({ due: '2026-11-20', lastCalibrated: '2025-11-20' })[0]?.why).toBe(
      'Due since 2026-11-20, 4 days; last verified 2025-11-20.',
    )
    expect(jobs({ due: '2026-11-23' })[0]?.why).toBe('Due since 2026-11-23, 1 day; last verified never.')
  })
  test('a visit has one key, whatever the reason for it', () => {
    const reasons: Partial<LoopAtWork>[] = [
      { due: TODAY },
      { dueNow: { on: TODAY, why: 'out of tolerance' } },
      { open: { procedure: null, title: 'Verification', on: TODAY, byName: 'Wren' } },
      { leavesOn: TODAY },
    ]
    expect(new Set(reasons.flatMap((r) => jobs(r).map((j) => j.key))).size).toBe(1)
  })
  test('nothing is measured before its wiring is right, and only then', () => {
    const wrong = jobs({ due: TODAY, parts: { ...PARTS_GOOD(), wire: 'stop' } })
    expect(wrong.at(-1)?.after).toEqual([wrong[0]?.key])
    expect(jobs({ due: TODAY, parts: { ...PARTS_GOOD(), setUp: 'stop' } }).at(-1)?.after).toEqual([])
  })
  test.each([
    ['2026-12-08', '2026-12-08 GS-1 certificate'],
    ['2026-12-09', undefined],
    ['2026-10-30', '2026-10-30 GS-1 certificate'],
  ])('a certificate to %s', (dueOn, expected) => {
    const told = jobOfInstrument({ id: 'i', name: 'Pump', serial: 'GS-1', dueOn }, 'Workshop', TODAY, HORIZON)
    expect(told ? `${told.due} ${told.title}` : undefined).toBe(expected)
  })
})

function PARTS_GOOD() {
  return Object.fromEntries(PARTS.map((p) => [p, 'good'])) as LoopAtWork['parts']
}

describe('what it takes', () => {
  test('a pressure transmitter needs a standard over its range and a meter for its current', () => {
    const work = verificationWork(factsOf(pressureLoop(0, 10, 'bar(g)', 0.5)))
    expect(work.needs).toEqual([
      { what: 'standard', low: 0, high: 10, unit: 'bar(g)', allowed: 0.05 },
      { what: 'mA meter', low: 4, high: 20, unit: 'mA', allowed: 0.08 },
    ])
    expect([work.kit, work.procedure]).toEqual(['pressure', 'verify pressure'])
  })
  test('a range the wrong way round is covered the right way round', () => {
    expect(verificationWork(factsOf(pressureLoop(10, 0, 'bar(g)', 0.5))).needs[0]).toMatchObject({
      low: 0,
      high: 10,
    })
  })
  test.each<[string, string[], string, number]>([
    ['loop-check', ['mA 4..20'], 'none', 0],
    ['output-trim', ['mA 4..20'], 'none', 0],
    ['sensor-trim', ['bar(g) 0..10', 'mA 4..20'], 'none', 0],
    ['zero-trim', ['bar(g) 0..10', 'mA 4..20'], 'none', 0],
    ['field-zero', [], 'none', 0],
    ['probe-insert', [], 'throughout', 0],
  ])('%s asks for what it is done with, and for nobody it does not need', (id, needs, helper, uses) => {
    const document = pressureLoop(0, 10, 'bar(g)', 0.5)
    const visit = verificationWork(factsOf(document))
    const work = procedureWork({ id, minutes: null }, visit, contextOf(document))
    expect(work.needs.map((n) => `${n.unit} ${n.low}..${n.high}`)).toEqual(needs)
    expect([work.helper, Object.keys(work.uses).length]).toEqual([helper, uses])
    expect([work.procedure, work.setup_min]).toEqual([`run ${id}`, visit.setup_min])
  })
  test.each<[string, string, Partial<ProcedureContext>, Record<string, number>]>([
    // Two sensors of 12 cm² under 0.5 mm, a tenth squeezed out, half as much again for a second try.
    ['clamp-on-start-up', 'clamp-on', {}, { couplant_g: 2 }],
    // A beaker of 50 ml and one to rinse; the second buffer once more for the check; 100 ml of water a change.
    [
      'ph-buffers',
      'ph',
      { range: { low: 2, high: 12, unit: 'pH' } },
      { buffer_7_ml: 100, buffer_4_ml: 150, rinse_water_ml: 300 },
    ],
    [
      'ph-buffers',
      'ph',
      { range: { low: 7, high: 11, unit: 'pH' } },
      { buffer_7_ml: 100, buffer_9_ml: 150, rinse_water_ml: 300 },
    ],
    // 20 kg/h for 4 minutes: 1.333 kg of 1.2505 g/l, a fifth lost in hoses.
    ['gas-verification', 'thermal', {}, { nitrogen_nl: 1280 }],
    // 1 mm: 0.54, 0.90, 1.26 and 1.62 g/s at 300, 500, 700 and 900 kPa, two minutes each.
    ['gas-verification', 'thermal', { told: { throat_mm: 1 } }, { nitrogen_nl: 499 }],
    ['loop-check', 'ph', {}, {}],
  ])('%s of %s uses up what it says', (id, _, over, uses) => {
    const document = pressureLoop(0, 10, 'bar(g)', 0.5)
    const context = contextOf(document)
    if (!context) throw new Error('It has a range.')
    const visit = verificationWork(factsOf(document))
    expect(procedureWork({ id, minutes: null }, visit, { ...context, ...over }).uses).toEqual(uses)
  })
  test('a range in percent asks for the current alone', () => {
    expect(verificationWork(factsOf(pressureLoop(0, 100, '%', 1))).needs.map((n) => n.unit)).toEqual(['mA'])
  })
})

describe('where a job stands', () => {
  const run = (over: Partial<RunRow>): RunRow => ({
    kind: 'verification',
    title: 'Verification',
    procedure: null,
    state: 'ready',
    verdict: 'PASS',
    startedAt: '2026-11-24T09:00:00.000Z',
    byName: 'Wren',
    reason: null,
    ...over,
  })
  const mark = (m: MarkRow['mark'], at: string, reason = ''): MarkRow => ({
    mark: m,
    reason,
    at,
    byName: 'Dunlin',
  })
  const at = (h: number) => `2026-11-24T${String(h).padStart(2, '0')}:00:00.000Z`
  test.each<[string, RunRow[], MarkRow[], boolean, string, string]>([
    ['nothing happened', [], [], false, 'open', ''],
    [
      'the record asks no more: that is no proof that it was done',
      [],
      [],
      true,
      'gone',
      'The record asks for it no more.',
    ],
    [
      'a verification begun',
      [run({ state: 'asFound', verdict: null })],
      [],
      false,
      'begun',
      'Verification is under way.',
    ],
    ['closed and passed', [run({})], [], false, 'done', 'Verification: in tolerance.'],
    ['closed and failed', [run({ verdict: 'FAIL' })], [], false, 'done', 'Verification: out of tolerance.'],
    [
      'closed and not judged, and asked for still',
      [run({ verdict: null })],
      [],
      false,
      'open',
      'Verification: not judged, so it is asked for still.',
    ],
    [
      'closed and not judged, and asked for no more',
      [run({ verdict: null })],
      [],
      true,
      'done',
      'Verification: not judged.',
    ],
    [
      'a zero that was set is no verification',
      [run({ kind: 'procedure', title: 'Zero trim', state: 'done', verdict: 'adjusted' })],
      [],
      false,
      'open',
      'Zero trim: adjusted, good. A verification is asked for still.',
    ],
    [
      'what was left open is done once the record asks for nothing more',
      [run({ kind: 'procedure', title: 'Zero trim', state: 'done', verdict: 'untouched' })],
      [],
      true,
      'done',
      'Zero trim: good, untouched.',
    ],
    [
      'a verification, and a trim after it',
      [
        run({ startedAt: at(9) }),
        run({ kind: 'procedure', title: 'Zero trim', state: 'done', verdict: 'adjusted', startedAt: at(11) }),
      ],
      [],
      false,
      'open',
      'Zero trim: adjusted, good. A verification is asked for still.',
    ],
    [
      'a procedure given up says why',
      [
        run({
          kind: 'procedure',
          title: 'Zero trim',
          state: 'aborted',
          verdict: null,
          reason: 'pump seized',
        }),
      ],
      [],
      false,
      'stopped',
      'Zero trim was given up: pump seized.',
    ],
    [
      'a procedure that ended out of limits is done, and bad',
      [run({ kind: 'procedure', title: 'Zero trim', state: 'done', verdict: 'out' })],
      [],
      false,
      'done',
      'Zero trim: out of its limits.',
    ],
    ['stopped by hand', [], [mark('stopped', at(8), 'rain')], false, 'stopped', 'Stopped: rain.'],
    [
      'a mark before the run gives way',
      [run({})],
      [mark('impossible', at(8), 'rain')],
      false,
      'done',
      'Verification: in tolerance.',
    ],
    [
      'a mark after the run stands',
      [run({ state: 'asFound', verdict: null })],
      [mark('stopped', at(11), 'rain')],
      false,
      'stopped',
      'Stopped: rain.',
    ],
    ['to do again', [], [mark('stopped', at(8), 'rain'), mark('open', at(9))], false, 'open', ''],
    [
      'the newest run counts',
      [run({ startedAt: at(12), verdict: 'FAIL' }), run({ startedAt: at(9) })],
      [],
      false,
      'done',
      'Verification: out of tolerance.',
    ],
  ])('%s', (_, runs, marks, gone, state, says) => {
    expect(progressOf(runs, marks, gone, { does: VISIT, since: null })).toMatchObject({ state, says })
  })
  const zero = run({
    kind: 'procedure',
    procedure: 'zero-trim',
    title: 'Zero trim',
    state: 'done',
    verdict: 'untouched',
  })
  const span = { ...zero, procedure: 'sensor-trim', title: 'Sensor trim' }
  test.each<[says: string, runs: RunRow[], does: Does, state: string, told: string]>([
    ['a job that nothing proves is open, whatever was done at its loop', [run({}), zero], null, 'open', ''],
    ['a verification is proved by one', [run({})], VERIFY, 'done', 'Verification: in tolerance.'],
    ['not by one of before it was entered', [run({ startedAt: at(6) })], VERIFY, 'open', ''],
    ['not by a trim', [zero], VERIFY, 'open', ''],
    [
      'and not by one without a verdict',
      [run({ verdict: null })],
      VERIFY,
      'open',
      'Verification: not judged, so it is asked for still.',
    ],
    ['a procedure is proved by itself', [zero], 'zero-trim', 'done', 'Zero trim: good, untouched.'],
    [
      'not where it was not done',
      [{ ...zero, verdict: 'notDone' }],
      'zero-trim',
      'stopped',
      'Zero trim: not done.',
    ],
    ['not by another one', [span], 'zero-trim', 'open', ''],
    ['not by a verification', [run({})], 'zero-trim', 'open', ''],
    [
      'the other one after it takes nothing back',
      [zero, { ...span, startedAt: at(12) }],
      'zero-trim',
      'done',
      'Zero trim: good, untouched.',
    ],
  ])('%s', (_, runs, does, state, told) => {
    expect(progressOf(runs, [], false, { does, since: at(7) })).toMatchObject({ state, says: told })
  })
  test.each<[Partial<RunRow>, boolean]>([
    [{}, false],
    [{ verdict: 'CONDITIONAL_PASS' }, false],
    [{ verdict: 'CONDITIONAL_FAIL' }, true],
    [{ verdict: 'FAIL' }, true],
    [{ verdict: 'FAIL', state: 'asFound' }, false],
    [{ kind: 'procedure', verdict: 'out' }, true],
    [{ kind: 'procedure', verdict: 'adjusted' }, false],
    [{ kind: 'procedure', verdict: null }, false],
  ])('%j is bad: %s', (over, bad) => {
    expect(foundBad(run(over))).toBe(bad)
  })
})

test.each([
  ['2026-02-28', 1, '2026-03-01'],
  ['2024-02-28', 1, '2024-02-29'],
  ['2026-12-31', 1, '2027-01-01'],
  ['2026-03-29', -1, '2026-03-28'],
])('%s and %i days', (day, n, expected) => {
  expect(dayAfter(day, n)).toBe(expected)
})

test.each([
  [
    ['A', 'B'],
    ['A', 'B'],
  ],
  [
    ['A', 'A', 'A'],
    ['A', 'A (2)', 'A (3)'],
  ],
  // Somebody called one as we would have.
  [
    ['A', 'A', 'A (2)'],
    ['A', 'A (3)', 'A (2)'],
  ],
  [
    ['A (2)', 'A', 'A'],
    ['A (2)', 'A', 'A (3)'],
  ],
])('%j are told apart as %j', (names, expected) => {
  expect(
    toldApart(
      names,
      (n) => n,
      (_, n) => n,
    ),
  ).toEqual(expected)
})
test('any names at all are told apart, and who was alone keeps the name', () => {
  const name = fc.constantFrom('A', 'B', 'A (2)', 'A (3)', 'B (2)')
  fc.assert(
    fc.property(fc.array(name, { maxLength: 12 }), (names: string[]) => {
      const told = toldApart(
        names,
        (n) => n,
        (_, n) => n,
      )
      expect(new Set(told).size).toBe(names.length)
      names.forEach((n, i) => {
        const isAlone = names.filter((x) => x === n).length === 1
        expect([n, told[i]]).toEqual([n, isAlone ? n : told[i]])
      })
    }),
    { seed: 20_317 },
  )
})
