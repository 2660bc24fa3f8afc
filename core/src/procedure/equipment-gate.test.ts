import { describe, expect, test } from 'vitest'
import { gatesOf } from './gates.ts'
import { type Evidence } from './gate.ts'
import type { ProcedureRun } from './run.ts'
import type { Step } from './step.ts'

const run = (withDevice: boolean) =>
  ({
    started: {
      withDevice,
      context: { tolerance_pct: 0.5, tau_s: 1, range: { low: 0, high: 6, unit: 'bar(g)' } },
    },
    done: [],
    left: [],
  }) as unknown as ProcedureRun
const reading: Step = {
  id: 'read',
  kind: 'read',
  title: '',
  says: '',
  gates: ['process'],
  fields: [{ name: 'pv', label: 'Reads', unit: 'bar(g)' }],
}
const evidence = (at: string, instruments: Evidence['instruments']): Evidence => ({
  values: {},
  seen: null,
  again: null,
  at,
  instruments,
})
const METER = [{ name: 'Loop meter', dueOn: '2026-11-20' }]
const gate = (r: ProcedureRun, step: Step, e: Evidence) =>
  gatesOf(r, step, e).find((g) => g.id === 'equipment')

describe('an instrument whose certificate ends while the work goes on', () => {
  test.each([
    ['its last day', '2026-11-20T18:00:00.000Z', true],
    ['the day after', '2026-11-21T06:00:00.000Z', false],
  ])('%s', (_, at, holds) => expect(gate(run(false), reading, evidence(at, METER))?.holds).toBe(holds))
  test('it says which and since when', () => {
    const told = gate(run(false), reading, evidence('2026-12-01T00:00:00.000Z', METER))
    expect(told?.says).toBe(
      'waits for an instrument in date: the certificate of Loop meter ended on 2026-11-20',
    )
  })
  const none: readonly [string, ProcedureRun, Step, Evidence['instruments']][] = [
    ['a step without gates asks for none', run(false), { ...reading, gates: [] }, METER],
    ['over the link of a stand-in the tool is simulated', run(true), reading, METER],
    ['nothing was named', run(false), reading, []],
    ['a record that is read again was judged then', run(false), reading, undefined],
  ]
  test.each(none)('%s', (_, r, step, instruments) =>
    expect(gate(r, step, evidence('2026-12-01T00:00:00.000Z', instruments))).toBeUndefined(),
  )
})
