import { describe, expect, test } from 'vitest'
import { carefulAnswer } from './careful-answer.ts'
import { PROCEDURES } from './catalogue.ts'
import { applyProcedureEvent } from './engine.ts'
import type { ProcedureEventBody, ProcedureStarted } from './events.ts'
import { keepProcedure, procedureFromKept, type KeptProcedure } from './kept.ts'
import type { ProcedureRun } from './run.ts'
import type { ProcedureContext } from './step.ts'

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
const MANY = 100
/** As it comes back from where it was stored. */
const stored = (run: ProcedureRun): KeptProcedure =>
  JSON.parse(JSON.stringify(keepProcedure(run))) as KeptProcedure

/** Every state of a procedure, from its beginning to its end, and of its way back from each. */
function* states(id: string): Generator<ProcedureRun> {
  const go = (run: ProcedureRun | null, body: ProcedureEventBody): ProcedureRun | null => {
    const next = applyProcedureEvent(run, { body, by: 'wren', at: '2026-11-25T10:00:00.000Z' })
    return next.kind === 'run' ? next.run : null
  }
  let run = go(null, {
    type: 'procedure.started',
    payload: {
      procedure: id,
      revision: 1,
      context: CONTEXT as ProcedureStarted['context'],
      withDevice: false,
      equipment: [],
      rules: 3,
    },
  })
  for (let i = 0; run && i < MANY; i++) {
    yield run
    const back = go(run, { type: 'procedure.abortAsked', payload: { reason: 'rain' } })
    if (back) yield back
    const [step] = run.left
    run = step
      ? go(
          run,
          carefulAnswer(step, {
            ...{ pv: step.apply ?? 0, applied: step.apply ?? 0, LRV: 0, URV: 200, t0_C: 20, after: 101 },
            ...{ buffer: step.id === 'buffer-2' ? 4 : 7, mV: step.id === 'buffer-2' ? 172 : -3, t: 25 },
            ...{ measured: step.holdCurrent_mA ?? 4, p0: Number(/: (\d+) kPa/.exec(step.title)?.[1] ?? 0) },
          }),
        )
      : null
  }
}

describe('a procedure kept beside its row is the one that its events tell', () => {
  test.each(PROCEDURES.map((p) => [p.id]))('%s, at every step and on every way back', (id) => {
    let seen = 0
    for (const run of states(id)) {
      const again = procedureFromKept(stored(run))
      expect(again && keepProcedure(again)).toEqual(keepProcedure(run))
      expect(again?.left.map((s) => s.title)).toEqual(run.left.map((s) => s.title))
      seen++
    }
    expect(seen).toBeGreaterThan(3)
  })
  test('a step, or a procedure, that is no longer known is folded anew', () => {
    const [run] = states('zero-trim')
    expect(run?.started.procedure).toBe('zero-trim')
    const kept = stored(run as ProcedureRun)
    expect(procedureFromKept({ ...kept, left: ['no such step'] })).toBeNull()
    expect(procedureFromKept({ ...kept, started: { ...kept.started, procedure: 'none' } })).toBeNull()
  })
})
