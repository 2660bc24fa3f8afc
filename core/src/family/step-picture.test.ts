import { describe, expect, test } from 'vitest'
import { contextMadeFor } from '../procedure/made-for.ts'
import { beginJob, doStep } from '../procedure/test/technician.ts'
import { contextFor, deviceFor } from '../procedure/test/loops.ts'
import { stepPicture } from './step-picture.ts'

const told = { inserted_mm: 414, clear_mm: 153 }
/** What the picture says of every step, by the step's id. */
function pictures(name: string, procedure: string, more: object = {}): Record<string, string> {
  const context = { ...contextFor(name), ...more }
  const job = beginJob(procedure, context, deviceFor(name, 7), {
    withDevice: context.discrete !== true,
    way: 'commissioning',
    notInServiceBy: 'Sandpiper',
  })
  const says: Record<string, string> = {}
  for (let i = 0; i < 90; i++) {
    const step = job.run.left[0]
    if (!step) break
    says[step.id] = stepPicture(job.run, step, contextMadeFor(job.run.started))?.says ?? ''
    if (!doStep(job)) break
  }
  return says
}

describe('the picture of a step', () => {
  const retract = pictures('thermal', 'probe-retract', { told })
  const insert = pictures('thermal', 'probe-insert', { told })
  test.each([
    ['drawn back: first clear, only then the valve', retract, 'loosened', /inserted, mark at 414 mm; the valve is open/],
    ['', retract, 'drawn', /clear of the valve, mark at 153 mm; the valve is open/],
    ['', retract, 'closed', /clear of the valve, mark at 153 mm; the valve is shut/],
    ['in: first the valve, then the mark', insert, 'packed', /clear of the valve, .*; the valve is shut/],
    ['', insert, 'opened', /clear of the valve, .*; the valve is open/],
    ['', insert, 'pushed', /inserted, mark at 414 mm; the valve is open/],
  ])('%s %#', (_why, all, id, says) => expect(all[id]).toMatch(says)) // prettier-ignore
  test.each([
    ['hand', /in the hand, before it is mounted/],
    ['mounted', /at its place, by the real thing/],
    ['cautions', /^$/],
  ])('switch, %s', (id, says) => expect(pictures('switch', 'discrete-input')[id] ?? '').toMatch(says))
  test('a stack nobody entered has no marks, and no picture of them', () => {
    expect(pictures('thermal', 'probe-retract', { told: {} })['drawn']).toBe('')
  })
  test.each([
    ['gauge', 'output-trim', 'asFound-20-read', /holds 20 mA/],
    ['pt100', 'temperature-trim', 'asFound-1-read', /decade stands at the terminals/],
    ['couple', 'temperature-trim', 'asFound-1-read', /source stands at the terminals/],
    ['gauge', 'zero-trim', 'asFound-1-read', /pump and standard stand at the test port/],
    ['gauge', 'zero-trim', 'restore', /^$/],
    ['differential', 'zero-trim', 'asFound-1-read', /^$/],
    ['coriolis', 'flow-zero', 'asFound-1-read', /^$/],
    ['level', 'sensor-trim', 'asFound-2-apply', /stands at 2 m, 50 % of the range; the tape/],
    ['level', 'sensor-trim', 'cautions', /^$/],
  ])('%s, %s, %s', (name, procedure, id, says) => expect(pictures(name, procedure)[id]).toMatch(says))
})
