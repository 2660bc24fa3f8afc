import { describe, expect, test } from 'vitest'
import { adjustmentProblem, applyProcedureEvent, foldProcedure, type ProcedureHappened } from './engine.ts'
import { readingsOf, type ProcedureRun } from './run.ts'
import { carefulAnswer } from './careful-answer.ts'
import type { ProcedureEventBody, ProcedureStarted } from './events.ts'
import { proceduresOf } from '../family/procedures.ts'
import { PROCEDURES } from './catalogue.ts'
import { GATE_IDS } from './gate.ts'
import { keepProcedure } from './kept.ts'
import type { ProcedureContext, Step } from './step.ts'

const CONTEXT: ProcedureContext = {
  tag: 'PDT-201',
  range: { low: 0, high: 200, unit: 'mbar' },
  limits: { low: -400, high: 400 },
  kind: 'differential',
  tolerance_pct: 0.5,
  tau_s: 1,
  manifold: 'three-valve',
  told: { sensor: 'pt100', r0_ohm: 100 },
}
const WREN = 'wren'
const AT = '2026-11-25T10:00:00.000Z'
const begin = (procedure: string, context: Partial<ProcedureContext> = {}): ProcedureEventBody => ({
  type: 'procedure.started',
  payload: {
    procedure,
    revision: 1,
    context: { ...CONTEXT, ...context } as ProcedureStarted['context'],
    withDevice: false,
    equipment: [],
    rules: 3,
  },
})
type Payload = Extract<ProcedureEventBody, { type: 'procedure.step' }>['payload']
/** What a careful technician answers to a step. */
function answer(step: Step, change: Partial<Payload> = {}): ProcedureEventBody {
  const good: Record<string, number> = {
    applied: step.apply ?? 0,
    pv: step.gates?.includes('quiet') ? 2 : (step.apply ?? 0) + 2,
    mA: 4 + (16 * ((step.apply ?? 0) + 2)) / 200,
    measured: step.holdCurrent_mA ?? 4,
    LRV: 0,
    URV: 200,
    shown: 50,
    noise: 0.1,
    buffer: step.id === 'buffer-1' ? 7 : 4,
    mV: step.id === 'buffer-1' ? -3 : 172,
    t: 25,
    trip: 100,
    reset: 95,
    // Every pressure of the nozzle is set as its step asks for it.
    p0: Number(/: (\d+) kPa/.exec(step.title)?.[1] ?? 0),
    t0_C: 20,
    after: 101,
  }
  return carefulAnswer(step, good, change)
}
function go(run: ProcedureRun | null, body: ProcedureEventBody, by = WREN): ProcedureRun {
  const next = applyProcedureEvent(run, { body, by, at: AT })
  if (next.kind === 'refused') throw new Error(next.says)
  return next.run
}
const refusal = (run: ProcedureRun | null, body: ProcedureEventBody, by = WREN) => {
  const next = applyProcedureEvent(run, { body, by, at: AT })
  return next.kind === 'refused' ? next.says : null
}
/** Steps until one with this identifier comes next. */
function until(run: ProcedureRun, id: string): ProcedureRun {
  let r = run
  for (let i = 0; i < 100 && r.left[0] && r.left[0].id !== id; i++) r = go(r, answer(r.left[0]))
  expect(r.left[0]?.id).toBe(id)
  return r
}
const ids = PROCEDURES.map((p) => [p.id] as const)

describe('every procedure', () => {
  test.each(ids)('%s: goes from radio call to radio call, and its events fold to the same', (id) => {
    const events: ProcedureHappened[] = []
    let run: ProcedureRun | null = null
    const happen = (body: ProcedureEventBody) => {
      events.push({ body, by: WREN, at: AT })
      run = go(run, body)
    }
    happen(begin(id))
    for (let i = 0; i < 100; i++) {
      const step: Step | undefined = (run as ProcedureRun | null)?.left[0]
      if (!step) break
      happen(answer(step))
    }
    const end = run as ProcedureRun | null
    expect(end?.state).toBe('done')
    expect(end?.work).toBe('CLOSED')
    expect(end?.fixedCurrent).toBe(false)
    const folded = foldProcedure(events)
    expect(folded && end && keepProcedure(folded)).toEqual(end && keepProcedure(end))
  })
  test.each(ids)('%s: identifiers stand once, as-found comes before any adjustment', (id) => {
    const steps = PROCEDURES.find((p) => p.id === id)?.steps(CONTEXT) ?? []
    expect(new Set(steps.map((s) => s.id)).size).toBe(steps.length)
    const write = steps.findIndex((s) => s.kind === 'write')
    const found = steps.findIndex((s) => s.phase === 'asFound')
    expect(write < 0 || (found >= 0 && found < write)).toBe(true)
  })
  test.each(ids)('%s: can be given up at every step, and always ends with the operators told', (id) => {
    let run = go(null, begin(id))
    for (let i = 0; i < 100 && run.left[0]; i++) {
      let back = go(run, { type: 'procedure.abortAsked', payload: { reason: 'storm' } })
      expect(run.work === 'IDLE' || back.left.at(-1)?.id === 'abort-close').toBe(true)
      expect(!run.fixedCurrent || back.left[0]?.id === 'abort-releaseFixed').toBe(true)
      for (let k = 0; k < 20 && back.left[0]; k++) back = go(back, answer(back.left[0]))
      expect(back.state).toBe('aborted')
      expect(back.fixedCurrent).toBe(false)
      run = go(run, answer(run.left[0]))
    }
    expect(run.state).toBe('done')
  })
})

/** All gates passed over: what is looked at is what comes behind them. */
const AGAINST = { overruled: { gates: [...GATE_IDS], reason: 'for the test' } }

describe('nothing in the wrong order', () => {
  const zero = () => go(null, begin('zero-trim'))
  test('a step out of turn, a hold point not ticked, a value missing', () => {
    const run = until(zero(), 'isolate')
    const [isolate] = run.left
    if (!isolate) throw new Error('no step')
    expect(refusal(run, answer(isolate, { step: 'zero' }))).toMatch(
      /The next step is “Isolate from the process”/,
    )
    expect(refusal(run, answer(isolate, { ticks: 1 }))).toMatch(/Confirm all 4 points/)
    const read = until(run, 'asFound-1-read')
    const [step] = read.left
    expect(step && refusal(read, answer(step, { values: { applied: 0 } }))).toMatch(
      /Transmitter reads is missing/,
    )
  })
  test('an implausible trim is refused and changes nothing', () => {
    let run = until(go(null, begin('sensor-trim')), 'lower')
    const [lower] = run.left
    if (!lower) throw new Error('no step')
    expect(refusal(run, answer(lower, { values: { applied: 150, pv: 0 }, ...AGAINST }))).toMatch(
      /more than 10 % of the sensor’s range/,
    )
    expect(adjustmentProblem(run, lower, { applied: 0, pv: 1 }).refused).toBeNull()
    run = until(go(null, begin('output-trim')), 'four')
    const [four] = run.left
    expect(four && refusal(run, answer(four, { values: { measured: 0.004 }, ...AGAINST }))).toMatch(
      /too far from what was asked for/,
    )
  })
  test('an absolute device is not zeroed', () =>
    expect(refusal(null, begin('zero-trim', { kind: 'absolute', limits: { low: 0, high: 400 } }))).toMatch(
      /never zeroed in open air/,
    ))
  test('left alone: no adjustment and no as-left, straight to the end', () => {
    let run = until(zero(), 'decide')
    const [decide] = run.left
    if (!decide) throw new Error('no step')
    run = go(run, answer(decide, { choice: 'leave' }))
    expect(run.left[0]?.id).toBe('disconnect')
    expect(run.left.some((s) => s.kind === 'write' || s.phase === 'asLeft')).toBe(false)
    expect(readingsOf(run, 'asFound')).toHaveLength(5)
  })
  test('a reading that does not agree at the end: out of service, the bypass stays listed', () => {
    let run = until(zero(), 'check')
    const [check] = run.left
    if (!check) throw new Error('no step')
    run = go(run, answer(check, { choice: 'fails' }))
    expect(run.left.map((s) => s.id)).toEqual(['close'])
    run = go(run, answer(run.left[0] as Step))
    expect(run.state).toBe('outOfService')
  })
  test('one runner at a time, with a handover that is recorded', () => {
    const run = until(zero(), 'manual')
    const [step] = run.left
    if (!step) throw new Error('no step')
    expect(refusal(run, answer(step), 'dunlin')).toMatch(/Take it over first/)
    expect(refusal(run, { type: 'procedure.takenOver', payload: { from: 'heron' } }, 'dunlin')).toMatch(
      /meanwhile/,
    )
    const taken = go(run, { type: 'procedure.takenOver', payload: { from: WREN } }, 'dunlin')
    expect(refusal(taken, answer(step))).toMatch(/Take it over first/)
    expect(go(taken, answer(step), 'dunlin').done).toHaveLength(run.done.length + 1)
  })
  test('after its end nothing more comes', () => {
    let run = go(null, begin('loop-check'))
    while (run.left[0]) run = go(run, answer(run.left[0]))
    expect(refusal(run, { type: 'procedure.abortAsked', payload: { reason: 'x' } })).toMatch(/has ended/)
    expect(refusal(run, begin('loop-check'))).toMatch(/already begun/)
    expect(refusal(null, begin('no-such'))).toMatch(/no procedure/)
  })
  test('what an operator confirms carries a name', () => {
    const run = until(zero(), 'manual')
    const [manual] = run.left
    if (!manual) throw new Error('no step')
    expect(refusal(run, answer(manual, { confirmedBy: '' }))).toMatch(/Name the operator/)
    expect(go(run, answer(manual)).done.at(-1)?.confirmedBy).toBe('Curlew')
  })
  test('written and not closed yet: the way back begins with putting it back', () => {
    const run = until(zero(), 'zero')
    const ids = (r: ProcedureRun) =>
      go(r, { type: 'procedure.abortAsked', payload: { reason: 'storm' } }).left.map((s) => s.id)
    expect(ids(run)[0]).toBe('abort-ventStandard')
    const written = go(run, answer(run.left[0] as Step))
    expect(ids(written).slice(0, 2)).toEqual(['abort-revertTrim', 'abort-spotCheck'])
    // Stored, it is a choice; proved good, nothing is undone.
    const stored = until(written, 'asLeft-1-apply')
    expect(ids(stored).slice(0, 3)).toEqual(['abort-keep', 'abort-revertTrim', 'abort-spotCheck'])
  })
  describe('choices that leave steps out', () => {
    const choose = (run: ProcedureRun, id: string, choice: string) => {
      const r = until(run, id)
      return go(r, answer(r.left[0] as Step, { choice }))
    }
    test('one buffer, two, or all five', () => {
      const ph = () => go(null, begin('ph-buffers'))
      expect(choose(ph(), 'another-1', 'enough').left[0]?.id).toBe('decide')
      expect(choose(ph(), 'another-2', 'enough').left[0]?.id).toBe('decide')
      const third = choose(ph(), 'another-2', 'next')
      expect(third.left.slice(0, 3).map((s) => s.id)).toEqual(['rinse-3', 'buffer-3', 'another-3'])
      const ids = ph().left.map((s) => s.id)
      expect(ids).toContain('buffer-5')
      expect(ids).not.toContain('another-5')
    })
    test('clamp-on: one path or two; a flow that cannot be stopped keeps its zero', () => {
      const start = () => go(null, begin('clamp-on-start-up'))
      expect(choose(start(), 'paths', 'two').left[0]?.id).toBe('scan-2')
      expect(choose(start(), 'improve-1', 'again').left[0]?.id).toBe('scan-again-1')
      const one = choose(start(), 'paths', 'one')
      expect(one.left[0]?.id).toBe('canStop')
      const kept = choose(one, 'canStop', 'no')
      expect(kept.left[0]?.id).toBe('flowing')
      expect(kept.left.some((s) => s.kind === 'write')).toBe(false)
    })
  })
  test('a loop is offered what makes sense for it', () => {
    const of = (family: string) => proceduresOf(family).map((p) => p.id)
    expect(of('ph')).toContain('ph-buffers')
    expect(of('ph')).not.toContain('zero-trim')
    expect(of('clamp-on')).toEqual(expect.arrayContaining(['flow-zero', 'clamp-on-start-up']))
    expect(of('thermal')).toContain('gas-verification')
    expect(of('guided-wave')).toContain('guided-wave-set-up')
    expect(of('switch')).toEqual(['discrete-input'])
  })
})
