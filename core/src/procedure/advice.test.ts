import { describe, expect, test } from 'vitest'
import { adviceFor } from './advice.ts'
import { bufferByPH, bufferProblem, phResult } from '../family/ph/buffer-check.ts'
import { carefulAnswer } from './careful-answer.ts'
import { applyProcedureEvent } from './engine.ts'
import type { ProcedureRun } from './run.ts'
import type { ProcedureEventBody, ProcedureStarted } from './events.ts'
import { usualRelay } from '../signal/relay-plan.ts'
import { nozzleFlow } from '../family/thermal/nozzle.ts'
import type { ProcedureContext, Step } from './step.ts'

const CONTEXT = {
  tag: 'PDT-201',
  range: { low: 0, high: 200, unit: 'mbar' },
  limits: { low: -400, high: 400 },
  kind: 'differential' as const,
  tolerance_pct: 0.5,
  tau_s: 1,
  manifold: 'three-valve' as const,
}
type Values = Record<string, number>
/** Goes on, as told by the answers, until a decision is next. */
function upToDecision(
  procedure: string,
  answers: (step: Step) => Values,
  more: Partial<ProcedureContext> = {},
  choices: Readonly<Record<string, string>> = {},
): ProcedureRun {
  let run: ProcedureRun | null = null
  const happen = (body: ProcedureEventBody) => {
    const next = applyProcedureEvent(run, { body, by: 'wren', at: '2026-11-25T10:00:00.000Z' })
    if (next.kind === 'refused') throw new Error(next.says)
    run = next.run
    return next.run
  }
  let now = happen({
    type: 'procedure.started',
    payload: {
      procedure,
      revision: 1,
      context: { ...CONTEXT, ...more } as ProcedureStarted['context'],
      withDevice: false,
      equipment: [],
      rules: 3,
    },
  })
  while (now.left[0] && now.left[0].id !== 'decide') {
    const step = now.left[0]
    const choice = choices[step.id]
    now = happen(
      carefulAnswer(
        step,
        {},
        {
          values: step.fields ? answers(step) : {},
          ...(choice === undefined ? {} : { choice }),
        },
      ),
    )
  }
  return now
}
const reading = (pv: (x: number) => number, mA: (pv: number) => number) => (step: Step) => {
  const x = step.apply ?? 0
  return {
    applied: x,
    pv: pv(x),
    mA: mA(step.holdCurrent_mA == null ? pv(x) : (200 * (step.holdCurrent_mA - 4)) / 16),
  }
}
const ideal = (pv: number) => 4 + (16 * pv) / 200

describe('advice at the decision', () => {
  const cases: [string, (x: number) => number, (pv: number) => number, 'adjust' | 'leave', RegExp][] = [
    ['zero-trim', (x) => x + 2.4, ideal, 'adjust', /Zero trim/],
    ['zero-trim', (x) => x + 0.1, ideal, 'leave', /Leave it alone/],
    ['output-trim', (x) => x + 2.4, ideal, 'leave', /if the reading is wrong, it is the sensor/i],
    ['output-trim', (x) => x, (pv) => ideal(pv) + 0.2, 'adjust', /output trim/],
    ['zero-trim', (x) => x, (pv) => ideal(pv) + 0.2, 'leave', /do output trim/],
    ['zero-trim', (x) => x + 3, (pv) => ideal(pv) - 0.24, 'adjust', /trimmed to hide a sensor error/],
  ]
  test.each(cases)('%s with its readings', (procedure, pv, mA, choice, says) => {
    const advice = adviceFor(upToDecision(procedure, reading(pv, mA)))
    expect(advice?.choice).toBe(choice)
    expect(advice?.says.join(' ')).toMatch(says)
  })
  test('a range other than the documented one comes first', () => {
    const found = (URV: number) => adviceFor(upToDecision('re-range', () => ({ LRV: 0, URV })))
    expect(found(180)).toMatchObject({
      choice: 'adjust',
      says: ['It has 0 to 180 mbar; documented is 0 to 200 mbar.'],
    })
    expect(found(200)?.choice).toBe('leave')
    const run = upToDecision(
      'zero-trim',
      reading((x) => x, ideal),
    )
    const seen = {
      ...{ t_s: 0, n: 0, window_s: 0, least_s: 0, pv: 0, pvScatter: 0, pvSlope: 0, mA: 4, mAScatter: 0 },
      ...{ mASlope: 0, standard: 0, held_mA: null, range: { LRV: 0, URV: 180 } },
    }
    const done = run.done.map((d) => (d.step.kind === 'read' ? { ...d, seen } : d))
    expect(adviceFor({ ...run, done })?.says.join(' ')).toMatch(/re-range/)
  })
  test('a flow zero is worth it only above its noise', () => {
    const at = (pv: number) => adviceFor(upToDecision('flow-zero', () => ({ pv, noise: 0.05 })))?.choice
    expect(at(0.2)).toBe('adjust')
    expect(at(-0.2)).toBe('adjust')
    expect(at(0.04)).toBe('leave')
  })
  test('pH: a good electrode is taken, a dead one is not', () => {
    const two = (mV7: number, mV4: number) =>
      adviceFor(
        upToDecision('ph-buffers', (s): Values =>
          s.id === 'buffer-1'
            ? { buffer: 7, mV: mV7, t: 25, pv: 7 }
            : s.id === 'buffer-2'
              ? { buffer: 4.01, mV: mV4, t: 25, pv: 4 }
              : { pv: 7.1 },
        ),
      )
    expect(two(-3, 172)?.choice).toBe('adjust')
    expect(two(28, 152)?.choice).toBe('leave')
    expect(two(28, 152)?.says.join(' ')).toMatch(/clean it/)
  })
})

describe('advice of procedures that are no trims', () => {
  const advice = (procedure: string, answers: (s: Step) => Values, more: Partial<ProcedureContext> = {}) =>
    adviceFor(upToDecision(procedure, answers, more))
  test.each([
    [
      'sound: the zero is worth it',
      { signal_pct: 82, soundSpeed_m_s: 1480, expected_m_s: 1482 },
      'adjust',
      /worth it/,
    ],
    ['a weak signal', { signal_pct: 22, soundSpeed_m_s: 1480, expected_m_s: 1482 }, 'leave', /below 60 %/],
    [
      'another liquid',
      { signal_pct: 82, soundSpeed_m_s: 1560, expected_m_s: 1482 },
      'leave',
      /5\.26 % off 1482/,
    ],
  ] as const)('clamp-on, %s', (_why, scan, choice, says) => {
    const a = advice('clamp-on-start-up', (s) => (s.id.startsWith('scan') ? scan : { pv: 1, noise: 0.1 }))
    expect(a?.choice).toBe(choice)
    expect(a?.says.join(' ')).toMatch(says)
  })
  const gas = (factor: number, after = 101.3) =>
    advice(
      'gas-verification',
      (s): Values => {
        if (s.id === 'nozzle') return { throat_mm: 3.2, Cd: 0 }
        if (s.id === 'limits') return { ofReading_pct: 1, ofFs_pct: 0.2, checkFs_kgh: 60 }
        const p0 = Number(/: (\d+) kPa/.exec(s.title)?.[1] ?? 0)
        const flow = nozzleFlow(3.2, p0, 22, after, null)
        return { p0, t0_C: 22, after, pv: (flow?.massFlow_g_s ?? 0) * 3.6 * factor }
      },
      { told: { checkFs_kgh: 60 } },
    )
  const KG: ProcedureContext['range'] = { low: 0, high: 60, unit: 'kg/h' }
  test('nitrogen: the meter agrees, reads 5 % low, or the nozzle was not sonic', () => {
    const range = { ...CONTEXT.range }
    Object.assign(CONTEXT.range, KG)
    try {
      expect(gas(1)?.choice).toBe('accept')
      expect(gas(0.95)?.choice).toBe('report')
      expect(gas(0.95)?.says.join(' ')).toMatch(/-5 %; allowed ±1.6 %, too much/)
      expect(gas(1.06)?.choice).toBe('report')
      expect(() => gas(1, 200)).toThrow(/not sonic: 200 behind 300 kPa/)
    } finally {
      Object.assign(CONTEXT.range, range)
    }
  })
  test.each([
    [78, 0.5, 'accept', /Trips at 78\.02 bar g|Trips at 78\.02 mbar/],
    [77, 0.5, 'report', /1\.02 above its setpoint/],
  ] as const)('a relay at %d, allowed %d: %s', (setpoint, allowed, choice, says) => {
    const a = advice('relay-trip', (s): Values =>
      s.id === 'point' ? { setpoint, allowed, rate: 0.1, latency_s: 0.2 } : { trip: 78.04, reset: 77.1 },
    )
    expect(a?.choice).toBe(choice)
    expect(a?.says.join(' ')).toMatch(says)
  })
  test.each<[string, Values, Readonly<Record<string, string>>, string, RegExp]>([
    [
      'both points as planned',
      { on: 60.02, off: 58.02 },
      {},
      'accept',
      /High, on at 60 mbar: Trips at 60 mbar/,
    ],
    ['the on point off', { on: 62, off: 58 }, {}, 'report', /High, on at 60 mbar: Trips at 61\.98 mbar/],
    ['the off point off', { on: 60, off: 55 }, {}, 'report', /High, off at 58 mbar/],
    [
      'what it acts on stands',
      { on: 60, off: 58 },
      { 'seen-1': 'not' },
      'report',
      /did not follow its contact/,
    ],
    [
      'it stays closed without a signal',
      { on: 60, off: 58 },
      { 'lost-1': 'stays' },
      'report',
      /the plan says it opens/,
    ],
  ])('a planned relay, %s', (_what, values, choices, choice, says) => {
    const plan = {
      ...usualRelay('High', 0, 200),
      trip: { kind: 'points', onAt: 60, offAt: 58, same: 'rising' },
    } as const
    const run = upToDecision(
      'relay-trip',
      (s) => (s.id === 'point' ? { allowed: 0.5, rate: 0.1, latency_s: 0.2 } : values),
      { relays: [plan] },
      { 'seen-1': 'follows', 'lost-1': 'opens', ...choices },
    )
    const a = adviceFor(run)
    expect(a?.choice).toBe(choice)
    expect(a?.says.join(' ')).toMatch(says)
  })
  test.each([
    [0.6, 0, 'accept'],
    [8, 0, 'report'],
    [0.6, 1, 'report'],
  ] as const)('health: %d %% and %d alerts: %s', (change_pct, alerts, choice) => {
    expect(advice('health-check', () => ({ before: 1, change_pct, alerts, pv: 0, noise: 0 }))?.choice).toBe(
      choice,
    )
  })
  test.each([
    [100, 104, 60, 'adjust', /off the tape/],
    [100, 100.2, 60, 'leave', /off the tape/],
    [100, 104, 12, 'leave', /surface echo is weak/],
  ] as const)('guided wave: tape %d reads %d, surface %d %%', (applied, pv, surface_pct, choice, says) => {
    const a = advice('guided-wave-set-up', (s): Values =>
      s.id === 'echoes'
        ? { mark_pct: 95, surface_pct, end_pct: 12 }
        : { applied, pv, probe_m: 3, zone_m: 0.2 },
    )
    expect(a?.choice).toBe(choice)
    expect(a?.says.join(' ')).toMatch(says)
  })
})

describe('buffers', () => {
  test.each([
    [7, 'T7.00'],
    [4.01, '4.005'],
    [9.18, '9.180'],
    [5.2, null],
  ])('a bottle that says %s', (pH, buffer) => expect(bufferByPH(pH)).toBe(buffer))
  test.each<[Values, Values[], RegExp | null]>([
    [{ buffer: 7, mV: -4, t: 24 }, [], null],
    [{ buffer: 4.01, mV: -4, t: 24 }, [], /near pH 7/],
    [{ buffer: 4.01, mV: -172, t: 24 }, [], /the sign/],
    [{ buffer: 5.2, mV: 100, t: 24 }, [], /not a buffer of the set/],
    [{ buffer: 7, mV: -4, t: 61 }, [], /0 to 50/],
    [{ buffer: 6.865, mV: 5, t: 25 }, [{ buffer: 7, mV: -4, t: 25 }], /closer than/],
  ])('%j after %j', (values, earlier, says) => {
    const told = bufferProblem(values, earlier)
    expect(told).toEqual(says ? expect.stringMatching(says) : null)
  })
  test('two ideal readings give slope 100 % and no offset', () => {
    const r = phResult([
      { buffer: 7, mV: 0, t: 25 },
      { buffer: 4, mV: 177.48, t: 25 },
    ])
    expect(r?.electrode.slope_pct).toBeCloseTo(100, 1)
    expect(r?.electrode.offset_mV).toBeCloseTo(0, 6)
  })
})
