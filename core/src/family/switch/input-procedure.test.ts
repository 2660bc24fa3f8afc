import { describe, expect, test } from 'vitest'
import { outcomeOf } from '../../procedure/closing.ts'
import { applyProcedureEvent } from '../../procedure/engine.ts'
import { RULES } from '../../procedure/events.ts'
import { gatesOf } from '../../procedure/gates.ts'
import { missingInstruments, type NamedInstrument } from '../../procedure/instruments.ts'
import type { Result } from '../../procedure/outcome.ts'
import type { ProcedureContext, Way } from '../../procedure/step.ts'
import { contextFor, deviceFor } from '../../procedure/test/loops.ts'
import { beginJob, doStep, type Job } from '../../procedure/test/technician.ts'
import { DISCRETE_INPUT } from './input-procedure.ts'

type Found = Readonly<Record<string, number | string>>
/** What a technician finds at a good input. */
const GOOD: Found = {
  ...{ mounted: 'follows', lamp: 'follows', words: 'follows', alarm: 'follows', limits: 'follows' },
  ...{ supply_V: 24, one_V: 22.8, zero_V: 0.4, whileSensing: 1, whileNot: 0, cut: 0, hand: 10, counted: 10 },
}
const told = contextFor('switch')

/** Works the procedure with what is found; what nobody asks for is not looked at. */
function worked(found: Found, context: ProcedureContext = told, way: Way = 'inService'): Job {
  const job = beginJob('discrete-input', context, deviceFor('gauge', 1), {
    withDevice: false,
    way,
    ...(way === 'inService' ? {} : { notInServiceBy: 'Heron' }),
  })
  for (let i = 0; i < 40 && job.run.left[0]; i++) {
    const { id } = job.run.left[0]
    const choice = found[id]
    const done = doStep(job, {
      knows: (_, f) => (typeof found[f.name] === 'number' ? Number(found[f.name]) : undefined),
      chooses: typeof choice === 'string' ? { [id]: choice } : {},
    })
    if (!done) break
  }
  return job
}
const without = (...names: readonly string[]): ProcedureContext => ({
  ...told,
  told: Object.fromEntries(Object.entries(told.told ?? {}).filter(([n]) => !names.includes(n))),
})
const resultOf = (job: Job) => outcomeOf(job.run)?.result
const saysOf = (job: Job) => outcomeOf(job.run)?.says.join(' ') ?? ''

describe('what was found at an input, and what it comes to', () => {
  test.each<[string, Found, Result, RegExp]>([
    ['all as it should be', {}, 'untouched', /22.8 V for 1 and 0.4 V for 0: both sure/],
    ['the lamp on the card stays dark', { lamp: 'not' }, 'out', /PNP on an input for NPN/],
    ['the same both ways', { whileSensing: 1, whileNot: 1 }, 'out', /reads 1 both ways/],
    ['the other contact', { whileSensing: 0, whileNot: 1 }, 'out', /the other contact is wired/],
    ['a wire out and still 1', { cut: 1 }, 'out', /comes from somewhere else/],
    ['the words turned round', { words: 'not' }, 'out', /the other way round/],
    ['no alarm', { alarm: 'not' }, 'out', /does not come/],
    ['one lost of ten', { counted: 9 }, 'out', /strokes are lost/],
    ['one too many', { counted: 11 }, 'out', /bounces come through/],
    ['each counted twice', { counted: 20 }, 'out', /both of its edges/],
    ['too few by hand', { hand: 3, counted: 3 }, 'out', /10 at least prove it/],
    ['a long thin wire', { one_V: 9.2 }, 'out', /below 11 V/],
    ['a leaking two-wire sensor', { zero_V: 7.5 }, 'out', /above 5 V/],
    ['enough for types 2 and 3 only', { one_V: 12.5 }, 'notJudged', /not of type 1/],
    ['another supply', { supply_V: 110, one_V: 104, zero_V: 2 }, 'notJudged', /data sheet decides/],
    ['its common is plus', { one_V: -22.8, zero_V: -0.4 }, 'untouched', /both sure/],
    ['measured to 0 V instead', { one_V: 0.4, zero_V: 23.9 }, 'notJudged', /Measure to its common/],
    ['at the limit', { one_V: 15, zero_V: 5 }, 'untouched', /15 V for 1 and 5 V for 0/],
    ['does not follow at its place', { mounted: 'not' }, 'out', /gap, target or mounting/],
  ])('%s', (_, found, result, says) => {
    const job = worked({ ...GOOD, ...found })
    expect([job.run.state, resultOf(job)]).toEqual(['done', result])
    expect(saysOf(job)).toMatch(says)
  })
  test('whether its contact is NO or NC has to be told', () => {
    const job = worked(GOOD, without('contact'))
    expect(resultOf(job)).toBe('notJudged')
    expect(saysOf(job)).toContain('nobody has told on Set up')
    // The same both ways is wrong whatever it is.
    expect(resultOf(worked({ ...GOOD, whileSensing: 0 }, without('contact')))).toBe('out')
  })
  test('an NC contact is 0 while it senses', () => {
    const nc = { ...told, told: { ...told.told, contact: 'nc' } }
    expect(resultOf(worked(GOOD, nc))).toBe('out')
    expect(resultOf(worked({ ...GOOD, whileSensing: 0, whileNot: 1 }, nc))).toBe('untouched')
  })
  test('what the set-up does not ask for is not asked', () => {
    const ids = worked(GOOD, without('counts', 'most_s', 'alarmOn')).run.done.map((d) => d.step.id)
    expect(ids.filter((id) => ['ten', 'limits', 'alarm', 'hand'].includes(id))).toEqual([])
  })
  test('half a bit, and half a stroke, are not taken', () => {
    expect(worked({ ...GOOD, cut: 0.5 }).refused.at(-1)).toBe('A bit is 0 or 1.')
    expect(worked({ ...GOOD, counted: 9.5 }).refused.at(-1)).toBe('Counts are whole numbers.')
  })
  test('in the workshop it is tried in the hand, and that proves no input', () => {
    const job = worked({ ...GOOD, hand: 'follows' }, told, 'bench')
    expect([job.run.state, resultOf(job)]).toEqual(['done', 'notJudged'])
    expect(saysOf(job)).toContain('In the hand only')
    expect(job.run.done.map((d) => d.step.id)).toEqual(['cautions', 'hand', 'decide'])
  })
  test('before it is in service it is tried in the hand too, where it is not mounted yet', () => {
    expect(saysOf(worked({ ...GOOD, hand: 'not' }, told, 'commissioning'))).toMatch(/^In the hand it did not/)
    expect(resultOf(worked({ ...GOOD, hand: 'mounted' }, told, 'commissioning'))).toBe('untouched')
  })
  test('accepted against what was found changes nothing of it', () => {
    expect(resultOf(worked({ ...GOOD, cut: 1, decide: 'accept' }))).not.toBe('untouched')
  })
  test('a meter for its volts is asked for, and its certificate; in the workshop there is no input', () => {
    const needs = (way: Way) => DISCRETE_INPUT.needs?.({ ...told, way }).map((n) => [n.low, n.high, n.unit])
    expect([needs('inService'), needs('bench')]).toEqual([[[0, 30, 'V']], []])
    const meter = (U: number): NamedInstrument => ({
      name: 'Meter',
      functions: [
        {
          low: 0,
          high: 300,
          unit: 'V',
          uncertainty: { pctReading: 0, pctRange: 0, absolute: U },
          drift: null,
          resolution: 0.001,
        },
      ],
    })
    const missing = (U: number) => missingInstruments(DISCRETE_INPUT.needs?.(told) ?? [], [meter(U)])
    expect(missing(0.03)).toEqual([])
    expect(missing(0.5)[0]).toMatch(/only 2 times as much/)
    const { run } = worked(GOOD)
    const volts = run.done.find((d) => d.step.id === 'levels')
    const gates = (dueOn: string[]) =>
      volts &&
      gatesOf(run, volts.step, {
        ...{ values: volts.values, seen: null, again: null, at: '2026-11-25T06:00:00.000Z' },
        instruments: dueOn.map((d) => ({ name: 'Meter', dueOn: d })),
      }).map((g) => [g.id, g.holds])
    expect(gates(['2026-11-24'])).toEqual([['equipment', false]])
    expect([gates(['2026-11-25']), gates([])]).toEqual([[['equipment', true]], [['equipment', true]]])
  })
  test('there is no device on a link', () => {
    const begun = applyProcedureEvent(null, {
      body: {
        type: 'procedure.started',
        payload: {
          ...{ procedure: 'discrete-input', revision: 1, context: told, withDevice: true },
          ...{ equipment: [], rules: RULES },
        },
      },
      ...{ by: 'wren', at: '2026-11-25T06:00:00.000Z' },
    })
    expect(begun).toMatchObject({ kind: 'refused', says: /no device on a link/ })
  })
})
