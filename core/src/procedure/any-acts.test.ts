import { describe, expect, test } from 'vitest'
import { proceduresOf } from '../family/procedures.ts'
import { Generator } from '../statistics/generator.ts'
import { outcomeOf } from './closing.ts'
import { foldProcedure, gatesAt } from './engine.ts'
import { keepProcedure } from './kept.ts'
import { RESULT_STATE } from './outcome.ts'
import type { Step } from './step.ts'
import { answerNow, beginJob, doStep, happen, isoAt, perform, type Job } from './test/technician.ts'
import { contextFor, deviceFor, loopOf, LOOPS, waysOf } from './test/loops.ts'
import { trueError_pct } from './test/true-error.ts'

/** Every procedure that fits a family, over the link and typed. */
const EVERY = Object.keys(LOOPS).flatMap((name) =>
  proceduresOf(loopOf(name).family).flatMap((p) =>
    p.unfit?.(contextFor(name))
      ? []
      : waysOf(name).map((linked): [string, string, boolean] => [name, p.id, linked]),
  ),
)
const BARE = { ticks: 20, values: {}, choice: null, confirmed: false, note: '', confirmedBy: '' }

/** On without looking, and without waiting. */
const hastily = (job: Job) => void doStep(job, { patience_s: 0, pace_s: 0.1 })
const acts: readonly ((job: Job, step: Step, g: Generator) => void)[] = [
  hastily,
  hastily,
  // A step that is not the next one.
  (job, _step, g) => {
    const later = job.run.left[1 + Math.floor(g.uniform() * 5)]
    if (later) happen(job, { type: 'procedure.step', payload: { ...BARE, step: later.id } })
  },
  // Numbers from nowhere.
  (job, _step, g) => void doStep(job, { knows: () => (g.uniform() - 0.5) * 1e4, patience_s: 0 }),
  // The other choice, with and without a reason.
  (job, step, g) => {
    const choice = step.choices?.[Math.floor(g.uniform() * (step.choices.length || 1))]?.value
    if (choice) void doStep(job, { chooses: { [step.id]: choice } })
  },
  // Against the gates, with a reason and a name.
  (job, step) => {
    const p = answerNow(job, step, {}, null)
    const shut = p ? gatesAt(job.run, step, p, isoAt(job.t_s)).filter((x) => !x.holds) : []
    if (p && shut.length > 0 && step.kind === 'read')
      happen(job, {
        type: 'procedure.step',
        payload: { ...p, overruled: { gates: shut.map((x) => x.id), reason: 'no time for that' } },
      })
  },
  // Somebody else takes it over, and it is taken back.
  (job) => {
    happen(job, { type: 'procedure.takenOver', payload: { from: 'wren' } }, 'dunlin')
    happen(job, { type: 'procedure.step', payload: { ...BARE, step: job.run.left[0]?.id ?? '' } })
    happen(job, { type: 'procedure.takenOver', payload: { from: 'dunlin' } }, 'wren')
  },
  (job, _step, g) => {
    if (g.uniform() < 0.15) happen(job, { type: 'procedure.abortAsked', payload: { reason: 'called away' } })
  },
]

/** Right and wrong acts in any order, then carefully to the end; whoever is stuck gives up. */
function anyhow(name: string, id: string, linked: boolean, seed: number): Job {
  const g = new Generator(seed)
  const fault = () => (g.uniform() < 0.5 ? 0 : (g.uniform() - 0.5) * 0.06)
  const job = beginJob(id, contextFor(name), deviceFor(name, seed, { z: fault(), g: fault() }), {
    withDevice: linked,
  })
  for (let i = 0; i < 90 && job.run.left[0] && job.run.state === 'running'; i++) {
    const act = g.uniform() < 0.4 ? acts[Math.floor(g.uniform() * acts.length)] : undefined
    if (act) act(job, job.run.left[0], g)
    else doStep(job)
  }
  perform(job)
  if (job.run.left[0] && job.run.state === 'running') {
    happen(job, { type: 'procedure.abortAsked', payload: { reason: 'given up' } })
    perform(job)
  }
  return job
}

describe('stopped right after it wrote', () => {
  const writing = EVERY.filter(([, , linked]) => linked).flatMap(([name, id]) => {
    const job = beginJob(id, contextFor(name), deviceFor(name, 7))
    return job.run.left.some((s) => s.kind === 'write') ? [[name, id] as const] : []
  })
  const trims = (job: Job) => ({ ...job.device.transmitter.state, fixed_mA: null })
  test.each(writing)('%s, %s: it is led back to what was found', (name, id) => {
    const errors = { z: 0.008, zo: 0.1 }
    const device = deviceFor(name, 7, errors)
    // What an older procedure kept is not what was found this time.
    const old = { ...device.transmitter.state, LRV: device.transmitter.state.LRV - 1 }
    const job = beginJob(id, contextFor(name), { ...device, asFound: old })
    const before = trims(job)
    for (let i = 0; i < 90 && job.run.left[0]?.kind !== 'write'; i++)
      if (!doStep(job, { chooses: { decide: 'adjust' } })) break
    expect([job.run.left[0]?.kind, job.refused.at(-1)]).toEqual(['write', undefined])
    expect(doStep(job)).toBe(true)
    happen(job, { type: 'procedure.abortAsked', payload: { reason: 'storm' } })
    perform(job, { chooses: { 'abort-keep': 'revert' } })
    expect([job.run.state, job.refused.at(-1)]).toEqual(['aborted', undefined])
    expect(trims(job)).toEqual(before)
  })
})

describe('any acts in any order, at every procedure of every family', () => {
  test.each(EVERY.map((row, i) => [...row, 7919 * (i + 1)] as const))(
    '%s, %s, over the link: %s',
    (name, id, linked, seed) => {
      const job = anyhow(name, id, linked, seed)
      const { run } = job
      // Never stuck, never left with a held current.
      expect([run.left[0]?.title, run.fixedCurrent, run.left[0] && job.refused.at(-1)]).toEqual([
        undefined,
        false,
        undefined,
      ])
      expect(['done', 'aborted', 'outOfService']).toContain(run.state)
      // Never on a reading that was not looked at for long enough, unless somebody stands for it.
      const unproved = run.done.filter((d) => {
        if (!d.step.gates?.includes('still') || d.overruled) return false
        if (!d.seen) return d.again === undefined
        const signal = d.step.fields?.find((f) => f.name === d.step.steady)?.readsFrom
        const trend = typeof signal === 'object' ? d.seen.signals?.[signal.signal] : undefined
        return trend ? trend.over_s < 9.5 : d.seen.window_s < d.seen.least_s - 0.5
      })
      expect(unproved.map((d) => d.step.id)).toEqual([])
      // Never good by a reading that was taken against its gate, and over the link never of a device that is not.
      const outcome = outcomeOf(run)
      const isGood = outcome !== null && RESULT_STATE[outcome.result] === 'good'
      const last = run.done.findLast((d) => d.step.kind === 'read' && d.step.phase !== undefined)
      expect([isGood && last?.overruled !== undefined, outcome?.says]).toEqual([false, outcome?.says])
      const judged = isGood && linked && ['sensor-trim', 'zero-trim', 'temperature-trim'].includes(id)
      expect(judged ? trueError_pct(job.device, run) : 0).toBeLessThanOrEqual(
        1.15 * run.started.context.tolerance_pct,
      )
      // What is stored folds to the same again.
      const folded = foldProcedure(job.events)
      expect(folded && keepProcedure(folded)).toEqual(keepProcedure(run))
    },
  )
})
