import fc from 'fast-check'
import { describe, expect, test } from 'vitest'
import { isRefused } from '../refused.ts'
import { brokenRules } from '../plan/check.ts'
import { dayOf, type Placing } from '../plan/problem.ts'
import { sightedOf } from '../plan/sight.ts'
import { solvePlan } from '../plan/solve.ts'
import { moveInPlan, weighPlan } from '../plan/weigh.ts'
import { dayProblem, keptOf, placingsOf, type DayFacts } from './day-problem.ts'
import { kitsOf, missingOf, substitutesOf } from './kit-list.ts'
import { readJobs, sayDoes } from './jobs-list.ts'
import { ClockSpan, shiftOn, Shift, weekdayOf } from './plant-at-work.ts'
import { instantOf, spanOf, wallOf } from './wall-time.ts'
import { DUNLIN, facts, PLANT, planned, WREN } from './test/at-work.ts'

const iso = (ms: number) => new Date(ms).toISOString().slice(0, 16)

describe('clock times of a plant', () => {
  test.each([
    // Clocks go forward at 01:00Z on 28 March 2027 in Berlin, back on 25 October 2026.
    ['2026-11-24', '07:00', 'UTC', '2026-11-24T07:00'],
    ['2026-11-24', '07:00', 'Europe/Berlin', '2026-11-24T06:00'],
    ['2026-07-24', '07:00', 'Europe/Berlin', '2026-07-24T05:00'],
    ['2027-03-28', '02:30', 'Europe/Berlin', '2027-03-28T01:30'],
    ['2026-10-25', '02:30', 'Europe/Berlin', '2026-10-25T00:30'],
    ['2026-11-24', '07:00', 'Asia/Kolkata', '2026-11-24T01:30'],
  ])('%s %s in %s is %s', (day, time, zone, expected) => {
    expect(iso(instantOf(day, time, zone))).toBe(expected)
  })
  test.each([
    ['an ordinary night', '2026-11-24', 8],
    ['clocks go forward in it', '2027-03-27', 7],
    ['clocks go back in it', '2026-10-24', 9],
  ])('a shift from 22:00 to 06:00, %s', (_, day, hours) => {
    const s = spanOf(day, { from: '22:00', to: '06:00' }, 'Europe/Berlin')
    expect((s.to - s.from) / 3_600_000).toBe(hours)
  })
  test('an instant comes back as it was', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 3000 }),
        fc.integer({ min: 3 * 60, max: 1439 }),
        fc.constantFrom('UTC', 'Europe/Berlin', 'America/St_Johns', 'Australia/Lord_Howe'),
        (n, minute, zone) => {
          const day = new Date(Date.UTC(2022, 0, 1) + n * 86_400_000).toISOString().slice(0, 10)
          const time = `${String(Math.floor(minute / 60)).padStart(2, '0')}:${String(minute % 60).padStart(2, '0')}`
          expect(wallOf(instantOf(day, time, zone), zone)).toEqual({ day, time })
        },
      ),
      { seed: 20_317 },
    )
  })
  test.each([
    ['7:00', '15:00'],
    ['24:00', '06:00'],
    ['07:00', '07:00'],
    ['07:60', '08:00'],
  ])('%s to %s is no stretch', (from, to) => {
    expect(ClockSpan.safeParse({ from, to }).success).toBe(false)
  })
  test('who is there: as usual on a working day, as it was said where it was said', () => {
    const shift = Shift.parse({ from: '10:00', to: '12:00' })
    const said = [
      { person: WREN.id, day: '2026-11-24', shift: null },
      { person: WREN.id, day: '2026-11-29', shift },
    ]
    expect(weekdayOf('2026-11-29')).toBe(7)
    expect(shiftOn(PLANT, said, DUNLIN.id, '2026-11-24')).toEqual(PLANT.shift)
    expect(shiftOn(PLANT, said, WREN.id, '2026-11-24')).toBeNull()
    expect(shiftOn(PLANT, said, WREN.id, '2026-11-29')).toEqual(shift)
    expect(shiftOn(PLANT, said, DUNLIN.id, '2026-11-29')).toBeNull()
  })
})

const solved = (f: DayFacts) => {
  const n = dayProblem(f)
  const told = solvePlan(n.problem, 1, 'exact', 1e9, () => 0)
  if (isRefused(told)) throw new Error(told.says)
  return { n, told }
}
const laid = (f: DayFacts) =>
  solved(f).told.placings.map((p) => `${p.job} ${p.person} ${p.start.slice(11, 16)}`)

describe('the planner’s problem', () => {
  test.each<[string, Partial<DayFacts>, string[]]>([
    ['a job and the way to it', {}, ['A Wren 07:06']],
    ['by the clock of the plant', { zone: 'Europe/Berlin' }, ['A Wren 06:06']],
    [
      'who works elsewhere does not',
      { people: [{ ...WREN, areas: ['Intake'] }, DUNLIN] },
      ['A Dunlin 07:06'],
    ],
    [
      'who only looks on in this area does not',
      { people: [{ ...WREN, areaRoles: { Membranes: 'viewer' } }, DUNLIN] },
      ['A Dunlin 07:06'],
    ],
    [
      'who works in this area alone does',
      { people: [{ ...WREN, role: 'viewer', areaRoles: { Membranes: 'technician' } }] },
      ['A Wren 07:06'],
    ],
    ['nobody is there', { day: '2026-11-29', now: Date.parse('2026-11-29T04:00Z') }, []],
    [
      'the window that was agreed',
      {
        jobs: [planned('A', { wish: { windows: [{ from: '2026-11-24T09:00Z', to: '2026-11-24T10:00Z' }] } })],
      },
      ['A Wren 09:00'],
    ],
    [
      'what must be done before',
      { people: [WREN], jobs: [planned('A', { after: ['key of B'], importance: 5 }), planned('B')] },
      ['A Wren 07:36', 'B Wren 07:06'],
    ],
    [
      'a hold point waits for who releases it',
      {
        plant: { ...PLANT, holders: [{ role: 'shift lead', name: 'Turnstone', from: '10:00', to: '14:00' }] },
        jobs: [planned('A', { wish: { holds: [{ at: 10, minutes: 5, role: 'shift lead' }] } })],
      },
      ['A Wren 09:50'],
    ],
    [
      'a role that nobody has is never there: what waits for it is not planned as if it needed none',
      {
        jobs: [planned('A', { wish: { holds: [{ at: 0, minutes: 5, role: 'fire watch' }] } }), planned('B')],
      },
      ['B Wren 07:06'],
    ],
    [
      'of two who have a role either will do, also one after the other',
      {
        plant: {
          ...PLANT,
          holders: [
            { role: 'shift lead', name: 'Turnstone', from: '05:00', to: '07:00' },
            { role: 'shift lead', name: 'Knot', from: '09:00', to: '14:00' },
          ],
        },
        jobs: [planned('A', { wish: { holds: [{ at: 10, minutes: 5, role: 'shift lead' }] } })],
      },
      ['A Wren 08:50'],
    ],
    [
      'who releases hold points is there on working days only',
      {
        day: '2026-11-29',
        now: Date.parse('2026-11-29T04:00Z'),
        presences: [
          { person: WREN.id, day: '2026-11-29', shift: { from: '07:00', to: '15:00', breaks: [] } },
        ],
        plant: { ...PLANT, holders: [{ role: 'shift lead', name: 'Turnstone', from: '06:00', to: '14:00' }] },
        jobs: [planned('A', { wish: { holds: [{ at: 10, minutes: 5, role: 'shift lead' }] } })],
      },
      [],
    ],
    [
      'who is at something begins after it',
      { people: [WREN], busy: [{ person: WREN.id, until: Date.parse('2026-11-24T08:10:30Z') }] },
      ['A Wren 08:17'],
    ],
    [
      'a longer job than a stretch between breaks has no place',
      { jobs: [planned('A', { minutes: 400 })] },
      [],
    ],
    [
      'what nobody counts holds nothing up',
      { jobs: [planned('A', { work: { ...planned('A').work, uses: { couplant_g: 1e6 } } })] },
      ['A Wren 07:06'],
    ],
    [
      'what is counted and short does',
      {
        plant: { ...PLANT, stock: { couplant_g: 3 } },
        jobs: [planned('A', { work: { ...planned('A').work, uses: { couplant_g: 4 } } })],
      },
      [],
    ],
    [
      'what was agreed stays',
      { locked: [{ job: 'key of A', person: DUNLIN.id, start: '2026-11-24T13:00Z' }] },
      ['A Dunlin 13:00'],
    ],
  ])('%s', (_, over, expected) => {
    expect(laid(facts(over))).toEqual(expected)
  })
  const gauge = {
    id: 'cccccccc-cccc-4ccc-8ccc-cccccccccccc',
    label: 'Calibrator',
    dueOn: '2027-01-01',
    functions: [
      {
        low: 0,
        high: 20,
        unit: 'bar',
        uncertainty: { pctReading: 0, pctRange: 0, absolute: 0.004 },
        drift: null,
        resolution: 0,
      },
    ],
  }
  const needs = (allowed: number, high = 1000, unit = 'kPa') =>
    planned('A', {
      work: { ...planned('A').work, needs: [{ what: 'standard', low: 0, high, unit, allowed }] },
    })
  test.each<[string, Partial<DayFacts>, string[]]>([
    ['an instrument in another unit serves', { instruments: [gauge], jobs: [needs(1.2)] }, ['A Wren 07:06']],
    ['one not three times better does not', { instruments: [gauge], jobs: [needs(1.1)] }, []],
    ['one too short does not', { instruments: [gauge], jobs: [needs(50, 2001)] }, []],
    [
      'one whose certificate ended does not',
      { instruments: [{ ...gauge, dueOn: '2026-11-23' }], jobs: [needs(5)] },
      [],
    ],
    [
      'on the last day of its certificate it does',
      { instruments: [{ ...gauge, dueOn: '2026-11-24' }], jobs: [needs(5)] },
      ['A Wren 07:06'],
    ],
    ['none of its kind', { instruments: [gauge], jobs: [needs(1, 20, 'mA')] }, []],
    [
      'instruments that come from elsewhere are not asked for',
      { jobs: [{ ...needs(1), wish: { borrowed: true } }] },
      ['A Wren 07:06'],
    ],
    [
      'one pump for two jobs',
      { instruments: [gauge], jobs: [needs(5), { ...needs(5), key: 'key of B', title: 'B' }] },
      ['A Wren 07:06', 'B Wren 07:36'],
    ],
  ])('%s', (_, over, expected) => {
    expect(laid(facts(over))).toEqual(expected)
  })
  test('what nothing serves is told with the nearest', () => {
    const f = facts({ instruments: [gauge], jobs: [needs(1.1)] })
    expect(missingOf(dayProblem(f), f.jobs, '2026-11-24T18:00Z')).toEqual([
      'A: nothing serves 0 to 1000 kPa, ±1.1. Nearest is Calibrator, but it is not known well enough.',
    ])
    const other = facts({ instruments: [gauge], jobs: [needs(1, 20, 'mA')] })
    expect(missingOf(dayProblem(other), other.jobs, '2026-11-24T18:00Z')).toEqual([
      'A: nothing in the register measures 0 to 20 mA.',
    ])
  })
  const spare = { ...gauge, id: 'dddddddd-dddd-4ddd-8ddd-dddddddddddd', label: 'Spare gauge' }
  const best = { ...spare, id: 'eeeeeeee-eeee-4eee-8eee-eeeeeeeeeeee', label: 'Deadweight tester' }
  best.functions = gauge.functions.map((x) => ({
    ...x,
    uncertainty: { pctReading: 0, pctRange: 0, absolute: 0.0004 },
  }))
  const ended = { ...gauge, dueOn: '2026-11-23' }
  const use = (job: string, start: string, ...instruments: string[]) => ({
    ...{ job: `key of ${job}`, person: WREN.id, helper: null, instruments, day: '2026-11-24' },
    start: `2026-11-24T${start}Z`,
  })
  const two = [needs(5), { ...needs(5), key: 'key of B', title: 'B' }]
  test.each<
    [says: string, instruments: DayFacts['instruments'], kept: ReturnType<typeof use>[], told: string[]]
  >([
    ['what serves needs nothing in its place', [gauge, spare], [use('A', '08:00', gauge.id)], []],
    [
      'a certificate that ended: the least good one that serves, not the best',
      [ended, best, spare],
      [use('A', '08:00', gauge.id)],
      ['A: Calibrator does not serve, its certificate has ended. Spare gauge serves in its place.'],
    ],
    [
      'nothing else serves',
      [ended],
      [use('A', '08:00', gauge.id)],
      ['A: Calibrator does not serve, its certificate has ended. Nothing else that is free serves.'],
    ],
    [
      'what stands in its place is in use then',
      [ended, spare],
      [use('B', '08:10', spare.id), use('A', '08:00', gauge.id)],
      ['A: Calibrator does not serve, its certificate has ended. Nothing else that is free serves.'],
    ],
    [
      'and free an hour later',
      [ended, spare],
      [use('B', '09:10', spare.id), use('A', '08:00', gauge.id)],
      ['A: Calibrator does not serve, its certificate has ended. Spare gauge serves in its place.'],
    ],
    [
      'one that is in no register any more',
      [spare],
      [use('A', '08:00', gauge.id)],
      ['A: what was planned for it is no more. Spare gauge serves in its place.'],
    ],
    [
      'one for two at once: who begins first has it',
      [gauge, spare],
      [use('B', '08:10', gauge.id), use('A', '08:00', gauge.id)],
      ['B: Calibrator is at A then. Spare gauge serves in its place.'],
    ],
    ['one after the other', [gauge], [use('B', '08:30', gauge.id), use('A', '08:00', gauge.id)], []],
  ])('in its place: %s', (_, instruments, kept, told) => {
    const f = facts({ instruments, jobs: two })
    expect(substitutesOf(dayProblem(f), kept)).toEqual(told)
  })
  test('names go to keys and back', () => {
    const { n, told } = solved(facts({ instruments: [gauge], jobs: [needs(5), planned('B')] }))
    const kept = keptOf(n, told.placings)
    expect(kept.find((k) => k.job === 'key of A')?.instruments).toEqual([gauge.id])
    expect(placingsOf(n, kept)).toEqual(told.placings)
    expect(
      placingsOf(n, [
        {
          job: 'gone',
          person: WREN.id,
          helper: null,
          instruments: [],
          start: '2026-11-24T08:00Z',
          day: '2026-11-24',
        },
      ]),
    ).toEqual([])
  })
  test('a kit is packed by who needs it, and says who needs it too', () => {
    const f = facts({
      instruments: [gauge],
      jobs: [needs(5), { ...needs(5), key: 'key of B', title: 'B' }],
    })
    const place = (job: string, person: string, start: string) => ({
      ...{ job, person, helper: null, instruments: [gauge.id] },
      start: `2026-11-24T${start}Z`,
      day: '2026-11-24',
    })
    const kits = kitsOf(
      [place('key of A', WREN.id, '08:00'), place('key of B', DUNLIN.id, '10:00')],
      f.jobs,
      f.instruments,
    )
    expect(kits.map((k) => k.instruments[0])).toEqual([
      {
        what: 'Calibrator',
        for: ['A'],
        instrument: gauge.id,
        certificateEnds: '2027-01-01',
        shared: [DUNLIN.id],
      },
      {
        what: 'Calibrator',
        for: ['B'],
        instrument: gauge.id,
        certificateEnds: '2027-01-01',
        shared: [WREN.id],
      },
    ])
  })
})

describe('a plan by hand', () => {
  const three = facts({
    people: [WREN, DUNLIN],
    jobs: [planned('A'), planned('B'), planned('C', { area: 'Intake' })],
  })
  const { problem } = dayProblem(three)
  const at = (job: string, person: string, start: string): Placing => ({
    ...{ job, person, helper: null, instruments: [] },
    start: `2026-11-24T${start}Z`,
  })
  const plan = [at('A', 'Wren', '07:06'), at('B', 'Wren', '07:36'), at('C', 'Dunlin', '07:14')]
  const moved = (job: string, to: { person: string; after: string | null }) => {
    const now = plan.find((p) => p.job === job) ?? at(job, to.person, '07:00')
    const told = moveInPlan(problem, plan, now, { ...to, from: '2026-11-24T00:00Z' })
    if (isRefused(told)) return told.says
    return [...told]
      .sort((a, b) => a.job.localeCompare(b.job))
      .map((p) => `${p.job} ${p.person} ${p.start.slice(11, 16)}`)
  }
  test.each<[string, string, { person: string; after: string | null }, string[]]>([
    [
      'before another: that one is pushed',
      'B',
      { person: 'Wren', after: null },
      ['A Wren 07:36', 'B Wren 07:06', 'C Dunlin 07:14'],
    ],
    [
      'behind one of another person',
      'A',
      { person: 'Dunlin', after: 'C' },
      ['A Dunlin 07:52', 'B Wren 07:36', 'C Dunlin 07:14'],
    ],
    [
      'between two: who comes after has a longer way',
      'C',
      { person: 'Wren', after: 'A' },
      ['A Wren 07:06', 'B Wren 08:22', 'C Wren 07:44'],
    ],
  ])('%s', (_, job, to, expected) => {
    // From Membranes to Intake it is 8 minutes, the usual way; nobody said another.
    expect(moved(job, to)).toEqual(expected)
  })
  test('to somebody who is not there is refused in a sentence', () => {
    const away = { ...three, presences: [{ person: DUNLIN.id, day: '2026-11-24', shift: null }] }
    const told = moveInPlan(dayProblem(away).problem, plan.slice(0, 2), at('A', 'Dunlin', '07:00'), {
      person: 'Dunlin',
      after: null,
      from: '2026-11-24T00:00Z',
    })
    expect(isRefused(told) && told.where).toBe('to.person')
  })
  test.each<[string, Placing[], string[]]>([
    ['nothing', plan, []],
    ['two at once', [at('A', 'Wren', '07:06'), at('B', 'Wren', '07:20')], ['Two jobs at once: B and A.']],
    ['before the shift', [at('A', 'Wren', '06:30')], ['Wren is not there for all of A.']],
    [
      'no time for the way',
      [at('A', 'Wren', '07:05')],
      ['Wren needs time to get to Membranes and set up before A.'],
    ],
    ['in the break', [at('A', 'Wren', '11:45')], ['A, with the way to it, falls into Wren’s break.']],
    ['home too late', [at('A', 'Wren', '14:55')], ['After A Wren would be back after the shift.']],
    ['twice', [at('A', 'Wren', '07:06'), at('A', 'Dunlin', '09:00')], ['A is planned twice.']],
  ])('%s is told', (_, placings, expected) => {
    const told = weighPlan(problem, placings, String)
    expect(isRefused(told) ? told.says : told.broken.map((b) => b.says)).toEqual(expected)
  })
  test('a job that was taken off is told where there is room for it', () => {
    const told = weighPlan(problem, plan.slice(0, 2), (m) => new Date(m * 60_000).toISOString().slice(11, 16))
    expect(isRefused(told) ? [] : told.reasons.filter((r) => !r.placed).map((r) => r.says)).toEqual([
      'There is room for it: Wren at 08:14.',
    ])
  })
  test('where there is room is told first, though the time for other reasons is over', () => {
    let asked = 0
    const told = weighPlan(problem, plan.slice(0, 2), String, true, () => ++asked > 1)
    expect(isRefused(told) ? [] : told.reasons.map((r) => r.why.code)).toEqual([
      'NOT_LOOKED_AT',
      'NOT_LOOKED_AT',
      'ROOM',
    ])
  })
  test('whatever is moved wherever: nothing is lost, nothing doubled, and what is told as right breaks no rule', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            job: fc.constantFrom('A', 'B', 'C'),
            person: fc.constantFrom('Wren', 'Dunlin'),
            after: fc.constantFrom('A', 'B', 'C', null),
          }),
          { maxLength: 6 },
        ),
        (moves) => {
          let now: readonly Placing[] = plan
          for (const m of moves) {
            const p = now.find((x) => x.job === m.job) ?? at(m.job, m.person, '07:00')
            const told = moveInPlan(problem, now, p, {
              person: m.person,
              after: m.after === m.job ? null : m.after,
              from: '2026-11-24T00:00Z',
            })
            expect(isRefused(told)).toBe(false)
            now = isRefused(told) ? now : told
          }
          expect(now.map((p) => p.job).sort()).toEqual(['A', 'B', 'C'])
          const d = dayOf(problem)
          const rules = isRefused(d) ? [] : brokenRules(d, sightedOf(d, now))
          const told = weighPlan(problem, now, String)
          expect(isRefused(told) ? -1 : told.broken.length).toBe(rules.length)
          // Room enough for three jobs in any order: moving alone breaks nothing.
          expect(rules).toEqual([])
        },
      ),
      { seed: 20_317, numRuns: 200 },
    )
  })
})

describe('jobs out of a list', () => {
  const LOOPS = new Map([['PT-202', { area: '200 Membranes', family: 'pressure' }]])
  const read = (...rows: string[][]) => readJobs(rows, LOOPS, '2026-11-24')
  const HEAD = ['Work order', 'Text', 'Tag', 'Area', 'Due', 'Min', 'Prio']
  test('columns by the names that people give them; the area of a loop is known', () => {
    expect(read(HEAD, ['WO-1', 'Flush lines', 'pt-202', '', '24.11.2026', '45', '4']).jobs).toEqual([
      {
        row: 2,
        order: 'WO-1',
        job: {
          title: 'Flush lines',
          loop: 'pt-202',
          area: '200 Membranes',
          why: '',
          due: '2026-11-24',
          minutes: 45,
          importance: 4,
        },
        dated: true,
      },
    ])
  })
  test.each<[string, string[], string]>([
    ['no title', ['', '', 'PT-202', '', '', '', ''], 'title: Say in a few words what is to be done.'],
    ['a loop that is not there', ['', 'x', 'PT-9', '300', '', '', ''], 'There is no loop PT-9.'],
    ['no area', ['', 'x', '', '', '', '', ''], 'area: Give the area.'],
    [
      'a day that can be two',
      ['', 'x', '', '300', '03/04/2026', '', ''],
      'due “03/04/2026” is no day. Write it as 2026-11-23.',
    ],
    ['a day of no calendar', ['', 'x', '', '300', '2026-02-30', '', ''], 'due: '],
    ['minutes in words', ['', 'x', '', '300', '', 'an hour', ''], 'minutes “an hour” is no whole number.'],
    ['half a minute', ['', 'x', '', '300', '', '0.5', ''], 'minutes “0.5” is no whole number.'],
    ['more than a day', ['', 'x', '', '300', '', '2000', ''], 'minutes: At most a day.'],
    ['importance out of its range', ['', 'x', '', '300', '', '', '9'], 'importance: From 1 to 5.'],
  ])('%s is told with its row', (_, cells, says) => {
    const told = read(HEAD, cells, ['', 'good', '', '300', '', '', ''])
    expect(told.wrong).toHaveLength(1)
    expect(told.wrong[0]?.row).toBe(2)
    expect(told.wrong[0]?.says).toContain(says)
    expect(told.jobs.map((j) => j.row)).toEqual([3])
  })
  test.each([
    ['13/02/2026', '2026-02-13'],
    ['02/13/2026', '2026-02-13'],
    ['3.4.2026', '2026-04-03'],
    ['', '2026-11-24'],
  ])('“%s” is %s', (text, day) => {
    expect(read(HEAD, ['', 'x', '', '300', text, '', '']).jobs[0]?.job.due).toBe(day)
  })
  test.each<[text: string, tag: string, does: string | null | undefined, says: string]>([
    ['', 'PT-202', undefined, ''],
    ['verification', 'PT-202', 'verify', ''],
    ['Zero trim', 'pt-202', 'zero-trim', ''],
    ['ZERO-TRIM', 'PT-202', 'zero-trim', ''],
    ['Flow zero', 'PT-202', null, '“Flow zero” is nothing that is done at PT-202.'],
    ['verification', '', null, 'What proves it needs a loop.'],
  ])('“%s” at “%s” proves it by %s', (text, tag, does, says) => {
    const told = read([...HEAD, 'Done by'], ['', 'x', tag, '300', '', '', '', text])
    expect(told.jobs.map((j) => j.job.does)).toEqual(does === null ? [] : [does])
    expect(told.wrong.map((w) => w.says).join()).toContain(says)
    expect(sayDoes(does ?? null).toLowerCase()).toBe(does ? text.toLowerCase().replace('-', ' ') : '')
  })
  test('without a column for the title nothing is guessed', () => {
    expect(read(['a', 'b'], ['1', '2'])).toMatchObject({ jobs: [], wrong: [{ row: 1 }] })
  })
})
