import { describe, expect, test } from 'vitest'
import { proceduresOf } from '../family/procedures.ts'
import { applyProcedureEvent, foldProcedure } from './engine.ts'
import { handOverProblem, rightOnes, standingWork } from './hand-over.ts'
import { keepProcedure, procedureFromKept } from './kept.ts'
import { contextFor, deviceFor, loopOf, LOOPS, waysOf } from './test/loops.ts'
import { beginJob, doStep, happen, perform, type Job } from './test/technician.ts'

const [FIRST, NEXT] = ['018f3c1e-7b1a-4c3e-9a52-0f6f3f0a0001', '018f3c1e-7b1a-4c3e-9a52-0f6f3f0a0002']

/** Works until a step; false where it never comes. */
function upTo(job: Job, here: (job: Job) => boolean): boolean {
  for (let i = 0; i < 120 && job.run.left[0]; i++) {
    if (here(job)) return true
    if (!doStep(job)) return false
  }
  return false
}
const atDecision = (job: Job) => job.run.left[0]?.judged === true
/** The job that goes on from another one, at the device as it stands. */
function goOn(job: Job, to: string): Job {
  const did = standingWork(job.run)
  const { context, withDevice } = job.run.started
  if (!happen(job, { type: 'procedure.handedOver', payload: { to, run: NEXT } }))
    throw new Error(job.refused.at(-1))
  const next = beginJob(to, context, job.device, {
    withDevice,
    after: { run: FIRST, did, held: job.run.fixedCurrent },
  })
  next.t_s = job.t_s
  return next
}
const works = (job: Job) => job.run.done.flatMap((d) => d.step.work ?? [])

const GAUGE = proceduresOf(loopOf('gauge').family)
describe('the readings ask for another procedure', () => {
  test('a span error found in a zero trim: the sensor trim goes on where it stands, and ends it all', () => {
    const job = beginJob('zero-trim', contextFor('gauge'), deviceFor('gauge', 7, { g: 0.02 }))
    expect(upTo(job, atDecision)).toBe(true)
    expect(rightOnes(job.run, GAUGE)).toEqual(['sensor-trim'])
    const next = goOn(job, 'sensor-trim')
    expect(job.run).toMatchObject({ state: 'handedOver', left: [], handed: { to: 'sensor-trim' } })
    expect(next.run.work).toBe('CONNECTED')
    perform(next)
    expect([next.run.state, next.run.work, next.refused]).toEqual(['done', 'CLOSED', []])
    // Nobody was called, nothing isolated again; all of it is undone.
    expect(works(next).filter((w) => ['notify', 'manual', 'bypassTrips', 'isolate', 'vent', 'connect'].includes(w))).toEqual([])
    expect(works(next)).toEqual(expect.arrayContaining(['disconnect', 'restore', 'check', 'unbypass', 'auto', 'close']))
  }) // prettier-ignore
  test('an output that is off, found in a sensor trim: the standard comes off at the end of the output trim', () => {
    const job = beginJob('sensor-trim', contextFor('gauge'), deviceFor('gauge', 7, { zo: 0.2 }))
    upTo(job, atDecision)
    expect(rightOnes(job.run, GAUGE)).toEqual(['output-trim'])
    const next = perform(goOn(job, 'output-trim'))
    expect([next.run.state, next.run.work, next.run.fixedCurrent]).toEqual(['done', 'CLOSED', false])
    expect(works(next)).toEqual(expect.arrayContaining(['disconnect', 'restore']))
  })
  test('an output that is right and held: it is released before anything is read', () => {
    const job = beginJob('output-trim', contextFor('gauge'), deviceFor('gauge', 7))
    upTo(job, atDecision)
    expect([job.run.fixedCurrent, rightOnes(job.run, GAUGE)]).toEqual([true, ['sensor-trim']])
    const next = goOn(job, 'sensor-trim')
    expect([next.run.fixedCurrent, next.run.left[0]?.id]).toEqual([true, 'release-before'])
    perform(next)
    expect([next.run.state, next.run.fixedCurrent, next.refused]).toEqual(['done', false, []])
  })
  test('a flow meter has no sensor that is trimmed with a pump: nothing is offered', () => {
    const job = beginJob('output-trim', contextFor('coriolis'), deviceFor('coriolis', 7))
    expect(upTo(job, atDecision)).toBe(true)
    expect(rightOnes(job.run, GAUGE)).toEqual(['sensor-trim'])
    expect(rightOnes(job.run, proceduresOf(loopOf('coriolis').family))).toEqual([])
  })
  test.each([
    ['pt100', 'temperature-trim'],
    ['couple', 'temperature-trim'],
    ['level', 'sensor-trim'],
  ])('a %s is led to its own trim, and brought back by it', (name, own) => {
    const job = beginJob('output-trim', contextFor(name), deviceFor(name, 7))
    expect(upTo(job, atDecision)).toBe(true)
    expect(rightOnes(job.run, proceduresOf(loopOf(name).family))).toEqual([own])
    const next = perform(goOn(job, own))
    expect([next.run.state, next.run.work, next.run.fixedCurrent, next.refused]).toEqual([
      'done',
      'CLOSED',
      false,
      [],
    ])
  })
  test('of a good device nothing is asked', () => {
    const job = beginJob('zero-trim', contextFor('gauge'), deviceFor('gauge', 7))
    upTo(job, atDecision)
    expect(rightOnes(job.run, GAUGE)).toEqual([])
  })
})

describe('it is handed over only where nothing is left half done', () => {
  const job = (procedure: string, here: (job: Job) => boolean, errors = {}) => {
    const j = beginJob(procedure, contextFor('gauge'), deviceFor('gauge', 7, errors))
    upTo(j, here)
    return j.run
  }
  const next = (id: string) => (j: Job) => j.run.left[0]?.id === id
  test.each<[why: string, run: ReturnType<typeof job>, to: string, says: RegExp]>([
    ['before as found is closed', job('zero-trim', next('asFound-2-read')), 'sensor-trim', /as-found readings first/],
    ['after a write, before as left', job('zero-trim', next('adjusted'), { z: 0.02 }), 'sensor-trim', /read it as left/],
    ['on the way back', job('zero-trim', next('check')), 'sensor-trim', /way back has begun/],
    ['to itself', job('zero-trim', atDecision), 'zero-trim', /under way/],
    ['to one that is no trim', job('zero-trim', atDecision), 'health-check', /one trim to another/],
    ['to one that is not there', job('zero-trim', atDecision), 'polish', /no procedure/],
  ])('%s', (_, run, to, says) => {
    expect(handOverProblem(run, to)).toMatch(says)
    const told = applyProcedureEvent(run, {
      body: { type: 'procedure.handedOver', payload: { to, run: NEXT } },
      by: 'wren',
      at: '2026-11-25T08:00:00.000Z',
    })
    expect(told.kind).toBe('refused')
  }) // prettier-ignore
  test('where the flow was shut for a zero: the valves would stay shut', () => {
    const j = beginJob('flow-zero', contextFor('coriolis'), deviceFor('coriolis', 7))
    upTo(j, atDecision)
    expect(j.run.done.some((d) => d.step.stopsFlow)).toBe(true)
    expect(handOverProblem(j.run, 'output-trim')).toMatch(/one trim to another/)
  })
  test('by who works at it, and by nobody else; after that it has ended', () => {
    const j = beginJob('zero-trim', contextFor('gauge'), deviceFor('gauge', 7))
    upTo(j, atDecision)
    const to = { type: 'procedure.handedOver' as const, payload: { to: 'sensor-trim', run: NEXT } }
    expect(happen(j, to, 'dunlin')).toBe(false)
    expect(happen(j, to)).toBe(true)
    expect(happen(j, { type: 'procedure.abortAsked', payload: { reason: 'storm' } })).toBe(false)
  })
  test('stopped at any step after it, the way back takes off what the one before put on', () => {
    for (let n = 0; n < 30; n++) {
      const j = beginJob('zero-trim', contextFor('gauge'), deviceFor('gauge', 7, { g: 0.02 }))
      upTo(j, atDecision)
      const on = goOn(j, 'sensor-trim')
      for (let i = 0; i < n && on.run.left[0]; i++) doStep(on)
      if (on.run.state !== 'running') break
      const before = new Set(works(on))
      happen(on, { type: 'procedure.abortAsked', payload: { reason: 'storm' } })
      const back = on.run.left.flatMap((s) => s.work ?? [])
      const undone = (['disconnect', 'restore', 'unbypass', 'auto', 'close'] as const).filter((w) => !before.has(w))
      expect([n, back]).toEqual([n, expect.arrayContaining(undone)])
      perform(on)
      expect([n, on.run.state, on.run.left]).toEqual([n, 'aborted', []])
    }
  }) // prettier-ignore
})

describe('every pair of procedures of every kind', () => {
  const pairs = Object.keys(LOOPS).flatMap((name) =>
    proceduresOf(loopOf(name).family).map((p): [string, string] => [name, p.id]),
  )
  test.each(pairs)('%s, from %s: whatever may go on ends with the loop as it was', (name, from) => {
    const unfit = proceduresOf(loopOf(name).family)
      .find((p) => p.id === from)
      ?.unfit?.(contextFor(name))
    const withDevice = waysOf(name).includes(true)
    const begin = () => beginJob(from, contextFor(name), deviceFor(name, 7), { withDevice })
    const job = unfit ? null : begin()
    const there =
      job !== null &&
      upTo(job, (j) => atDecision(j) || j.run.done.some((d) => d.step.work === 'finishAsFound'))
    for (const to of there ? proceduresOf(loopOf(name).family) : []) {
      if (!job || handOverProblem(job.run, to.id) !== null) continue
      const here = foldProcedure(job.events)
      if (!here) throw new Error('no run')
      const copy: Job = { ...job, run: here, events: [...job.events], refused: [] }
      const on = perform(goOn(copy, to.id))
      expect([to.id, on.run.left[0]?.title, on.refused.at(-1)]).toEqual([to.id, undefined, on.refused.at(-1)])
      expect([to.id, on.run.work]).toEqual([to.id, 'CLOSED'])
      const kept = procedureFromKept(keepProcedure(on.run))
      expect(kept?.done.length).toBe(on.run.done.length)
    }
  })
})
