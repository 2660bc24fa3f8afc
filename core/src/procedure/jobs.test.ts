import { describe, expect, test, vi } from 'vitest'
import { proceduresOf } from '../family/procedures.ts'
import { outcomeOf } from './closing.ts'
import { foldProcedure } from './engine.ts'
import { keepProcedure } from './kept.ts'
import { beginJob, perform } from './test/technician.ts'
import { contextFor, deviceFor, loopOf, LOOPS } from './test/loops.ts'

// From radio call to radio call with every wait in it: longer than a usual test on a busy machine.
vi.setConfig({ testTimeout: 60_000 })

const names = Object.keys(LOOPS)
const everyOne = names.flatMap((name) =>
  proceduresOf(loopOf(name).family).flatMap((p) => {
    const unfit = p.unfit?.(contextFor(name))
    return unfit ? [] : [true, false].map((linked): [string, string, boolean] => [name, p.id, linked])
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
