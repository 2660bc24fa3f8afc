import { describe, expect, test } from 'vitest'
import { gatesOf } from './gates.ts'
import { contextFor, deviceFor } from './test/loops.ts'
import { answerNow, beginJob, doStep, happen, isoAt, type Habits, type Job } from './test/technician.ts'

const CASES: readonly (readonly [procedure: string, family: string, step: string])[] = [
  ['ph-buffers', 'pH', 'buffer-1'],
  ['ph-buffers', 'pH', 'asLeft-1-read'],
  ['gas-verification', 'thermal', 'gas-1'],
]
const p0 = { 'gas-1': 300, 'gas-2': 500, 'gas-3': 700, 'gas-4': 900 } as Readonly<Record<string, number>>
const typed: Habits = { knows: (step, f) => (f.name === 'p0' ? p0[step.id] : undefined) }
/** At a step, with the tool away from the sensor. */
function at(procedure: string, family: string, id: string, rules: 3 | 4 = 4): Job {
  const job = beginJob(procedure, contextFor(family), deviceFor(family, 7), { rules })
  for (let i = 0; i < 60 && job.run.left[0]?.id !== id; i++) if (!doStep(job, typed)) break
  expect(job.run.left[0]?.id).toBe(id)
  job.device = { ...job.device, standard: null, motion: { ...job.device.motion, to: job.device.process } }
  job.t_s += 60
  return job
}
const gate = (job: Job, values?: Readonly<Record<string, number>>) => {
  const step = job.run.left[0]
  const p = step && answerNow(job, step, typed, null)
  if (!step || !p) throw new Error('no step')
  const evidence = { values: values ?? p.values, seen: p.seen ?? null, again: null, at: isoAt(job.t_s) }
  return { p, gate: gatesOf(job.run, step, evidence).find((g) => g.id === 'tool') }
}

describe.each(CASES)('%s of a %s, %s', (procedure, family, id) => {
  test('while the process is on the sensor it is closed, whatever is typed', () => {
    const job = at(procedure, family, id)
    const { p, gate: now } = gate(job)
    expect(now).toMatchObject({ holds: false, says: expect.stringMatching(/still on the sensor/) as string })
    expect(happen(job, { type: 'procedure.step', payload: p })).toBe(false)
    expect(job.refused.at(-1)).toMatch(/At the sensor: waits for|not what any healthy electrode/)
  })
  test('once the tool has done it, it is open', () => {
    const job = at(procedure, family, id)
    expect(doStep(job, typed)).toBe(true)
  })
  test('what was begun by older rules goes on by them', () => {
    expect(gate(at(procedure, family, id, 3)).gate).toBeUndefined()
  })
})

test('another bottle than the one that is typed is told; nothing typed proves nothing', () => {
  const job = at('ph-buffers', 'pH', 'buffer-1')
  const step = job.run.left[0]
  const to = step?.before?.({ buffer: 7 }, job.run)
  expect(to?.says).toMatch(/^Into the 7.* bottle$/)
  job.device = { ...job.device, standard: 7, motion: { ...job.device.motion, at_s: job.t_s, from: 7, to: 7 } }
  job.t_s += 60
  expect(gate(job, { buffer: 7 }).gate?.holds).toBe(true)
  expect(gate(job, { buffer: 4 }).gate?.says).toMatch(/waits for “Into the 4.* bottle”: 7 stands there/)
  expect(gate(job, {}).gate?.says).toMatch(/typed first/)
})
