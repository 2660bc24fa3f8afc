import { describe, expect, test } from 'vitest'
import { proceduresOf } from '../family/procedures.ts'
import { outcomeOf } from './closing.ts'
import { foldProcedure } from './engine.ts'
import { gatesOf } from './gates.ts'
import { keepProcedure } from './kept.ts'
import { beginJob, isoAt, lookAt, perform } from './test/technician.ts'
import { contextFor, deviceFor, loopOf, LOOPS, waysOf } from './test/loops.ts'

const names = Object.keys(LOOPS)
const everyOne = names.flatMap((name) =>
  proceduresOf(loopOf(name).family).flatMap((p) => {
    const unfit = p.unfit?.(contextFor(name))
    return unfit ? [] : waysOf(name).map((linked): [string, string, boolean] => [name, p.id, linked])
  }),
)

describe('every procedure of every family, at a device that is as it should be', () => {
  test.each(everyOne)('%s, %s, over the link: %s', (name, procedure, linked) => {
    const job = beginJob(procedure, contextFor(name), deviceFor(name, 7), { withDevice: linked })
    perform(job)
    expect([job.run.left[0]?.title, job.refused.at(-1)]).toEqual([undefined, job.refused.at(-1)])
    expect(job.run.state).toBe('done')
    expect(job.run.work).toBe('CLOSED')
    expect(job.run.fixedCurrent).toBe(false)
    const outcome = outcomeOf(job.run)
    expect([outcome?.result === 'out', outcome?.says]).toEqual([false, outcome?.says])
    const folded = foldProcedure(job.events)
    expect(folded && keepProcedure(folded)).toEqual(keepProcedure(job.run))
  })
})

describe('at a device that measures nothing, a nought is no reading', () => {
  const silent = (name: string) => ({ ...deviceFor(name, 7), started: false })
  test.each([
    ['clamp-on', 'flow-zero'],
    ['coriolis', 'flow-zero'],
    ['thermal', 'flow-zero'],
    ['gauge', 'zero-trim'],
    ['differential', 'field-zero'],
  ])('%s, %s: it waits, and nothing is judged', (name, procedure) => {
    const job = beginJob(procedure, contextFor(name), silent(name), { withDevice: true })
    perform(job, { patience_s: 120 })
    expect(job.run.state).not.toBe('done')
    expect(job.run.done.some((d) => d.step.kind === 'write')).toBe(false)
    const [step] = job.run.left
    const shut =
      step &&
      gatesOf(job.run, step, {
        values: {},
        seen: lookAt(job.device, job.t_s, job.run.started.context),
        again: null,
        at: isoAt(job.t_s),
      }).filter((g) => !g.holds)
    expect(shut?.map((g) => g.says)).toContain('waits for a reading: the device measures nothing yet')
  })
  test('its current is held and read all the same', () => {
    const job = beginJob('output-trim', contextFor('gauge'), silent('gauge'), { withDevice: true })
    perform(job)
    expect(job.run.state).toBe('done')
  })
})
