import type { Result } from '../procedure/outcome.ts'
import { describe, expect, test } from 'vitest'
import { foreignAuthor } from '../signing/authors.ts'
import { applyRunEvent, type Run } from '../record/run.ts'
import type { RunEventBody } from '../record/kinds/verification.ts'
import { defaultPath } from './default-path.ts'
import type { LoopDocument } from './document.ts'
import { byRanges } from './line-steps.ts'
import { summarise, type ProcedureStands } from './summary.ts'
import { familyOf } from '../family/index.ts'
import { valuesOf, type Typed } from '../quantity/setting.ts'

/** Every entry of a set-up typed as it stands. */
const everyEntry = (id: string, typed: Typed): Typed => valuesOf(familyOf(id)?.settings ?? [], typed) as Typed

const range = { low: 0, high: 80, unit: 'bar(g)' }
const path = (high = 80) =>
  defaultPath({ transmitter: range, squareRoot: false, receiver: { ...range, high } }) as LoopDocument['path']
const loop = (change: Partial<LoopDocument> = {}): LoopDocument => ({
  version: 4,
  trips: [],
  toKeyIn: [],
  family: null,
  wiring: null,
  setUp: null,
  tag: 'PT-1',
  service: '',
  area: '',
  type: 'pressure',
  signal: '4-20 mA',
  path: path(),
  tolerance: { mode: 'max', pctSpan: 0.25, pctReading: 0, abs: 0 },
  interval_months: 12,
  lastCalibrated: '2025-11-23',
  remark: '',
  asTyped: {},
  unconfirmed: [],
  ...change,
})

const typed = (value: number) => ({ value, typed: String(value) })
const begin: RunEventBody = {
  type: 'run.started',
  payload: {
    plan: 'P3',
    revision: 1,
    tolerance: { mode: 'max', pctSpan: 0.25, pctReading: 0, abs: 0 },
    inputRange: range,
    outputRange: range,
    equipment: [],
    U_pct: 0,
  },
}
/** A reading with the error of sensor and output in percent of span. */
const read = (phase: 'asFound' | 'asLeft', index: number, sensor: number, output = 0): RunEventBody => {
  const applied = 40 * index
  const pv = applied + 0.8 * sensor
  return {
    type: 'reading.recorded',
    payload: {
      phase,
      index,
      values: { applied: typed(applied), pv: typed(pv), loopCurrent_mA: typed(4 + 0.2 * pv + 0.16 * output) },
    },
  }
}
const all = (phase: 'asFound' | 'asLeft', sensor: number, output = 0) =>
  [0, 1, 2].map((i) => read(phase, i, sensor, output))
const close = (phase: 'asFound' | 'asLeft'): RunEventBody => ({ type: 'phase.closed', payload: { phase } })
const run = (...events: RunEventBody[]): Run => {
  let r: Run | null = null
  for (const body of [begin, ...events]) {
    const next = applyRunEvent(r, { body, by: 'wren', at: '2026-11-20T08:00:00.000Z' })
    if (next.kind === 'refused') throw new Error(next.says)
    r = next.run
  }
  if (!r) throw new Error('no run')
  return r
}
const adjusted: RunEventBody = { type: 'adjusted', payload: { note: 'zero trim' } }
const untouched: RunEventBody = { type: 'left.asFound', payload: {} }

const stands = (
  procedure: string,
  result: Result | null,
  state: ProcedureStands['state'] = 'done',
  hour = 1,
): ProcedureStands => ({
  procedure,
  result,
  state,
  startedAt: `2026-11-20T0${hour}:00:00.000Z`,
  foreign: false,
})

describe('the parts of a loop at a glance', () => {
  const rows: readonly [why: string, doc: LoopDocument, scale: string][] = [
    ['ranges that agree', loop(), 'good'],
    [
      'ranges that agree but rest on assumptions',
      loop({ unconfirmed: ['path.shunt.resistance_ohm'] }),
      'look',
    ],
    ['a receiver left behind', loop({ path: path(100) }), 'stop'],
    ['a switch', loop({ path: [] }), 'notYet'],
  ]
  test.each([
    ['running', null, 'look'],
    ['done', 'adjusted', 'good'],
    ['done', 'untouched', 'good'],
    ['done', 'notVerified', 'look'],
    ['done', 'notJudged', 'look'],
    ['done', 'out', 'stop'],
    ['aborted', 'notDone', 'look'],
    ['aborted', 'adjusted', 'good'],
    ['outOfService', 'out', 'stop'],
  ] as const)('trim: a procedure that is %s and came to %s shows %s', (state, result, shows) =>
    expect(summarise(loop(), null, [], [stands('zero-trim', result, state)]).parts.trim).toBe(shows),
  )
  test.each<[string, ProcedureStands[], string]>([
    [
      'a sensor that is out is not mended by a good wire',
      [stands('zero-trim', 'out', 'done', 1), stands('loop-check', 'untouched', 'done', 2)],
      'stop',
    ],
    [
      'it is by a later trim that was proved',
      [stands('zero-trim', 'out', 'done', 1), stands('sensor-trim', 'adjusted', 'done', 2)],
      'good',
    ],
    [
      'nor by one that was stopped before anything was read',
      [
        stands('zero-trim', 'out', 'done', 1),
        stands('loop-check', 'untouched', 'done', 2),
        stands('sensor-trim', 'notDone', 'aborted', 3),
      ],
      'stop',
    ],
    [
      'a field zero stays to be verified',
      [stands('field-zero', 'notVerified', 'done', 1), stands('loop-check', 'untouched', 'done', 2)],
      'look',
    ],
    [
      'what was stored proves nothing and hides nothing',
      [stands('configuration', 'notJudged', 'done', 1), stands('sensor-trim', 'adjusted', 'done', 2)],
      'good',
    ],
  ])('trim: %s', (_why, procedures, shows) =>
    expect(summarise(loop(), null, [], procedures).parts.trim).toBe(shows),
  )
  test('trim: no procedure yet', () => expect(summarise(loop(), null, []).parts.trim).toBe('notYet'))
  test.each<[string, ProcedureStands[], string | null]>([
    ['nothing done', [], null],
    ['adjusted and proved', [stands('sensor-trim', 'adjusted', 'done', 1)], null],
    ['adjusted, not verified', [stands('field-zero', 'notVerified', 'done', 2)], 'adjusted, not verified'],
    ['out', [stands('zero-trim', 'out', 'done', 3)], 'out of its limits'],
    [
      'out, and put right later by a trim that was proved',
      [stands('zero-trim', 'out', 'done', 1), stands('sensor-trim', 'adjusted', 'done', 2)],
      null,
    ],
    [
      'out at the sensor, whatever a wire came to later',
      [stands('zero-trim', 'out', 'done', 1), stands('loop-check', 'untouched', 'done', 2)],
      'out of its limits',
    ],
  ])('due now, by its procedures: %s', (_why, procedures, due) => {
    expect(summarise(loop(), null, [], procedures).dueNow?.why ?? null).toBe(due)
  })
  test('due now, by a failed verification; a good one that was closed later takes a procedure’s away', () => {
    const failed = run(...all('asFound', 5), close('asFound'), untouched)
    expect(summarise(loop(), failed, path()).dueNow).toEqual({
      on: failed?.startedAt.slice(0, 10),
      why: 'out of tolerance',
    })
    const good = run(...all('asFound', 0.1), close('asFound'), untouched)
    const before = {
      ...stands('field-zero', 'notVerified', 'done', 1),
      startedAt: '2020-01-01T00:00:00.000Z',
    }
    const after = { ...before, startedAt: '2099-01-01T00:00:00.000Z' }
    expect(summarise(loop(), good, path(), [before]).dueNow).toBeNull()
    expect(summarise(loop(), good, path(), [after]).dueNow).toMatchObject({ on: '2099-01-01' })
  })
  test('a verification from before the device was adjusted says so, and is not good by that', () => {
    const r = run(...all('asFound', 0.1), close('asFound'), untouched)
    const at = (adjustedAt: string) => summarise(loop(), r, path(), [], null, adjustedAt)
    expect(at('2020-01-01T00:00:00.000Z')).toMatchObject({ parts: { verify: 'good' } })
    expect(at('2020-01-01T00:00:00.000Z')).not.toHaveProperty('olderThanTrim')
    expect(at('2099-01-01T00:00:00.000Z')).toMatchObject({ parts: { verify: 'look' }, olderThanTrim: true })
  })
  test('a verification from before the memory was lost says nothing of a device that measures by nothing', () => {
    const r = run(...all('asFound', 0.1), close('asFound'), untouched)
    const lost = (memoryLost: boolean) => loop({ family: 'coriolis', setUp: { values: { memoryLost } } })
    const at = (now: LoopDocument, then: LoopDocument) => summarise(now, r, path(), [], null, null, then)
    expect(at(lost(true), lost(false))).toMatchObject({ parts: { verify: 'look' }, olderThanLoss: true })
    // Verified after it was keyed in again, it stands; and where nothing was lost, too.
    for (const [now, then] of [
      [lost(true), lost(true)],
      [lost(false), lost(false)],
      [lost(false), lost(true)],
    ] as const)
      expect(at(now, then)).not.toHaveProperty('olderThanLoss')
  })
  test.each([
    ['nothing entered', 'pressure', {}, 'notYet'],
    ['judged, and resting on what nobody confirmed', 'pressure', { lrv_kPa: 0, urv_kPa: 80 }, 'look'],
    ['every entry somebody’s word', 'pressure', everyEntry('pressure', { lrv_kPa: 0, urv_kPa: 80 }), 'good'],
    ['entered, nothing complains, nothing is judged', 'switch', { kind: 'magnetic' }, 'notYet'],
    ['entered and impossible', 'pressure', { lrv_kPa: 100, urv_kPa: 100 }, 'stop'],
  ])('a set-up: %s', (_why, family, values, state) => {
    expect(summarise(loop({ family, setUp: { values }, path: [] }), null, []).parts.setUp).toBe(state)
  })
  test('what came with a package is nobody’s proof here: its verdict stands, no part is good by it', () => {
    const r = run(...all('asFound', 0.1), close('asFound'), untouched)
    const foreign = { ...r, startedBy: foreignAuthor(r.startedBy) }
    const { parts, verdict } = summarise(loop(), foreign, path())
    expect([verdict, parts.verify]).toEqual(['PASS', 'look'])
    expect(
      summarise(loop(), null, [], [{ ...stands('zero-trim', 'adjusted'), foreign: true }]).parts.trim,
    ).toBe('look')
  })
  test.each(rows)('scale: %s', (_why, doc, scale) => expect(summarise(doc, null, []).parts.scale).toBe(scale))

  const runs: readonly [why: string, r: Run | null, verify: string, trim: string, verdict: string | null][] =
    [
      ['never verified', null, 'notYet', 'notYet', null],
      ['begun, nothing read', run(), 'notYet', 'notYet', null],
      ['being read, good so far', run(...all('asFound', 0.1)), 'look', 'notYet', 'PASS'],
      ['good and closed', run(...all('asFound', 0.1), close('asFound'), untouched), 'good', 'notYet', 'PASS'],
      [
        'out of tolerance as found, still open',
        run(...all('asFound', 0.4), close('asFound')),
        'stop',
        'notYet',
        'FAIL',
      ],
      [
        'mended: as left counts',
        run(...all('asFound', 0.4), close('asFound'), adjusted, ...all('asLeft', 0.05), close('asLeft')),
        'good',
        'good',
        'PASS',
      ],
      [
        'adjusted for the worse',
        run(...all('asFound', 0.1), close('asFound'), adjusted, ...all('asLeft', 0.5), close('asLeft')),
        'stop',
        'good',
        'FAIL',
      ],
    ]
  test.each(runs)('verify: %s', (_why, r, verify, trim, verdict) => {
    const s = summarise(loop(), r, path())
    expect([s.parts.verify, s.parts.trim, s.verdict]).toEqual([verify, trim, verdict])
  })
})

describe('the day a loop was last calibrated', () => {
  test('is the list’s until a verification is closed', () => {
    expect(summarise(loop(), null, []).lastCalibrated).toBe('2025-11-23')
    expect(summarise(loop(), run(...all('asFound', 0.1)), path()).lastCalibrated).toBe('2025-11-23')
    expect(
      summarise(loop(), run(...all('asFound', 0.1), close('asFound'), untouched), path()).lastCalibrated,
    ).toBe('2026-11-20')
  })
})

describe('where the line steps', () => {
  const steps = (doc: LoopDocument, r: Run | null) =>
    summarise(doc, r, path()).line.map((s) => [s.station, Math.round(s.error_pct * 1000) / 1000])
  test('nowhere while every part is inside the tolerance', () => {
    expect(steps(loop(), run(...all('asFound', 0.2, 0.04)))).toEqual([])
  })
  test('at the sensor or at the output, by as much as it is off', () => {
    expect(steps(loop(), run(...all('asFound', 0.4)))).toEqual([['sensor', 0.4]])
    expect(steps(loop(), run(...all('asFound', 0, -0.5)))).toEqual([['output', -0.5]])
  })
  test('what the ranges of now say takes the place of what they said, and stands there once', () => {
    const steps = summarise(loop({ path: path(40) }), null, []).line
    expect(steps.filter(byRanges)).toEqual(steps)
    expect(steps).toHaveLength(1)
  })
  test('at the controller when its range disagrees, without any reading', () => {
    expect(steps(loop({ path: path(100) }), null)).toEqual([['controller', 25]])
  })
  test('errors that cancel still show both', () => {
    expect(steps(loop(), run(...all('asFound', 0.6, -0.6)))).toEqual([
      ['sensor', 0.6],
      ['output', -0.6],
    ])
  })
})
