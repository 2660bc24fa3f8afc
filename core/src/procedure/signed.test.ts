import { describe, expect, test } from 'vitest'
import type { Signing } from '../signing/signing.ts'
import { foreignAuthor } from '../signing/authors.ts'
import { applyProcedureEvent } from './engine.ts'
import { keepProcedure, procedureFromKept } from './kept.ts'
import type { ProcedureRun } from './run.ts'
import { contextFor, deviceFor } from './test/loops.ts'
import { beginJob, doStep, perform } from './test/technician.ts'

const AT = '2026-11-25T12:00:00.000Z'
const of = 'ab'.repeat(32)
const signing = (as: Signing['as'], meaning: 'performed' | 'reviewed' | 'approved'): Required<Signing> => ({
  as,
  statement: 'As recorded.',
  signature: { meaning, of, key: of, value: 'cd'.repeat(64) } as NonNullable<Signing['signature']>,
})
const DONE = signing('technician', 'performed')
const REVIEWED = signing('reviewer', 'reviewed')
const APPROVED = signing('reviewer', 'approved')

function ended(): ProcedureRun {
  const job = beginJob('zero-trim', contextFor('gauge'), deviceFor('gauge', 7))
  perform(job)
  expect(job.run.state).toBe('done')
  return job.run
}
/** After signatures one after the other: who signed, or why the last one could not. */
function after(run: ProcedureRun, ...signed: readonly (readonly [by: string, Required<Signing>])[]) {
  let here = run
  for (const [by, payload] of signed) {
    const next = applyProcedureEvent(here, { body: { type: 'procedure.signed', payload }, by, at: AT })
    if (next.kind === 'refused') return next.says
    here = next.run
  }
  return (here.signatures ?? []).map((s) => `${s.by} ${s.signature?.meaning}`)
}

describe('who stands for a procedure', () => {
  const run = ended()
  const worker = run.runner
  test.each<[string, readonly (readonly [string, Required<Signing>])[], readonly string[] | string]>([
    ['who worked at it', [[worker, DONE]], [`${worker} performed`]],
    ['somebody who did not', [['heron', DONE]], 'Who worked at it signs it as done.'],
    [
      'the same again',
      [
        [worker, DONE],
        [worker, DONE],
      ],
      'This procedure is signed already. One technician signs; another person reviews it.',
    ],
    ['a reviewer first', [['heron', REVIEWED]], 'A reviewer signs after the technician has signed.'],
    [
      'a reviewer after',
      [
        [worker, DONE],
        ['heron', REVIEWED],
      ],
      [`${worker} performed`, 'heron reviewed'],
    ],
    [
      'who worked at it as reviewer',
      [
        [worker, DONE],
        [worker, REVIEWED],
      ],
      'The record needs a second person: who signed it cannot review it.',
    ],
    [
      'who may be the same person, come with a package',
      [
        [worker, DONE],
        [foreignAuthor(worker), REVIEWED],
      ],
      'The record needs a second person: who signed it cannot review it.',
    ],
    [
      'a third who says the same',
      [
        [worker, DONE],
        ['heron', REVIEWED],
        ['dunlin', REVIEWED],
      ],
      'This record is signed and reviewed already; one more signature means something else.',
    ],
    [
      'a third who says something else',
      [
        [worker, DONE],
        ['heron', REVIEWED],
        ['dunlin', APPROVED],
      ],
      [`${worker} performed`, 'heron reviewed', 'dunlin approved'],
    ],
    [
      'a fourth',
      [
        [worker, DONE],
        ['heron', REVIEWED],
        ['dunlin', APPROVED],
        ['plover', signing('reviewer', 'approved')],
      ],
      'This record is signed and reviewed already.',
    ],
  ])('%s', (_, signed, told) => {
    expect(after(run, ...signed)).toEqual(told)
  })
  test('not before it has ended, and nothing happens in it afterwards', () => {
    const job = beginJob('zero-trim', contextFor('gauge'), deviceFor('gauge', 7))
    doStep(job)
    expect(after(job.run, [job.run.runner, DONE])).toBe('It is signed once it has ended.')
    const signed = applyProcedureEvent(run, {
      body: { type: 'procedure.signed', payload: DONE },
      by: worker,
      at: AT,
    })
    expect(signed.kind).toBe('run')
    const further = applyProcedureEvent(signed.kind === 'run' ? signed.run : null, {
      body: { type: 'procedure.abortAsked', payload: { reason: 'too late' } },
      by: worker,
      at: AT,
    })
    expect(further).toMatchObject({ kind: 'refused', says: 'This procedure has ended.' })
  })
  test('what is kept beside its row has the signatures', () => {
    const signed = applyProcedureEvent(run, {
      body: { type: 'procedure.signed', payload: DONE },
      by: worker,
      at: AT,
    })
    if (signed.kind === 'refused') throw new Error(signed.says)
    expect(procedureFromKept(keepProcedure(signed.run))?.signatures).toHaveLength(1)
  })
})
