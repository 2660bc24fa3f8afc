import { describe, expect, test } from 'vitest'
import { foldProcedure } from './engine.ts'
import { USUAL_GATES } from './gate-numbers.ts'
import { outcomeOf } from './closing.ts'
import { restGate, restRate_KPerMin } from './rest-gate.ts'
import type { ProcedureRun } from './run.ts'
import { contextFor, deviceFor } from './test/loops.ts'
import { answerNow, beginJob, doStep, happen, perform } from './test/technician.ts'

const AT = '2026-11-25T10:00:00.000Z'
const before = (s: number) => new Date(Date.parse(AT) - s * 1000).toISOString()
const run = (last: string, rate_KPerMin = 0.5) =>
  ({ started: { gates: { ...USUAL_GATES, rate_KPerMin } }, done: [{ at: last }] }) as unknown as ProcedureRun

describe('a temperature at rest, by two readings', () => {
  test.each<[string, number, number, number, boolean, RegExp]>([
    // told, first °C, second °C, s apart, holds, says
    ['as it was', 18.4, 18.4, 60, true, /^0 K a minute/],
    ['half a kelvin in a minute is the limit itself', 18.0, 18.5, 60, true, /^0.5 K/],
    ['a tenth more is not at rest', 18.0, 18.6, 60, false, /less than 0.5 K a minute: it was 0.6/],
    ['cooling counts as warming does', 60.0, 57.0, 120, false, /it was 1.5/],
    ['a kelvin in four minutes', 18.0, 19.0, 240, true, /^0.25 K/],
    ['too soon', 18.4, 18.4, 31, false, /waits for 29 s/],
    ['so late that it may have gone up and down', 18.4, 18.4, 901, false, /within 15 minutes/],
  ])('%s', (_, first, second, apart_s, holds, says) => {
    const again = { at: before(apart_s), values: { temperature: first } }
    const told = restGate(run(before(2000)), { values: { temperature: second }, seen: null, again, at: AT })
    expect(told).toEqual([holds, expect.stringMatching(says)])
  })
  test('one reading, or one from before the valves were shut, is none', () => {
    const e = { values: { temperature: 18.4 }, seen: null, at: AT }
    expect(restGate(run(before(300)), { ...e, again: null })[1]).toMatch(/waits for a first reading/)
    const early = { at: before(400), values: e.values }
    expect(restGate(run(before(300)), { ...e, again: early })[1]).toMatch(/that one was noted before it/)
  })
  test('the plant may ask for less', () => {
    const again = { at: before(60), values: { temperature: 18 } }
    const e = { values: { temperature: 18.3 }, seen: null, again, at: AT }
    expect([restGate(run(before(90)), e)[0], restGate(run(before(90), 0.2), e)[0]]).toEqual([true, false])
  })
  test('the rate has a sign and a minute in it', () => {
    expect(restRate_KPerMin(20, 19, 30)).toBe(-2)
  })
})

describe.each([
  ['flow-zero', 'coriolis', true],
  ['flow-zero', 'coriolis', false],
  ['flow-zero', 'clamp-on', true],
  ['health-check', 'coriolis', true],
] as const)('%s of a %s, over the link: %s', (procedure, family, withDevice) => {
  const begin = (rules: 2 | 3 | 4) =>
    beginJob(procedure, contextFor(family), deviceFor(family, 7), { withDevice, rules })
  test('the temperature is read before the residual; what was begun by older rules has no such step', () => {
    const ids = (rules: 3 | 4) => begin(rules).run.left.map((s) => s.id)
    expect(ids(4).slice(ids(4).indexOf('stopped'))[1]).toBe('atRest')
    expect(ids(3)).toEqual(ids(4).filter((id) => id !== 'atRest'))
  })
  test('a pipe that still cools is told, and nobody gets past it without a reason', () => {
    const job = begin(4)
    while (job.run.left[0] && job.run.left[0].id !== 'atRest') doStep(job)
    const cooling = {
      knows: (_: unknown, f: { name: string }) => (f.name === 'temperature' ? 80 - job.t_s / 60 : undefined),
    }
    expect(doStep(job, { ...cooling, patience_s: 200 })).toBe(false)
    expect(job.refused.at(-1)).toMatch(/less than 0.5 K a minute: it was 1/)
    const step = job.run.left[0]
    const p = step && answerNow(job, step, cooling, { temperature: 81 - job.t_s / 60 })
    expect(p && happen(job, { type: 'procedure.step', payload: p })).toBe(false)
    expect(doStep(job)).toBe(true)
    perform(job)
    expect(foldProcedure(job.events)).toEqual(job.run)
  })
})

test('a zero says at which temperature it was looked at', () => {
  const job = perform(beginJob('flow-zero', contextFor('coriolis'), deviceFor('coriolis', 7)))
  expect(outcomeOf(job.run)?.says[0]).toMatch(/with the flow stopped at 18.4 °C, noise/)
})
