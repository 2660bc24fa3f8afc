import { lookedOf } from '@calm/contract/device-looked'
import type { NewEvent } from '@calm/contract/events'
import { allowedOf } from '@calm/core/procedure/allowed'
import { commandOf } from '@calm/core/procedure/command'
import { gatesAt, shutGates } from '@calm/core/procedure/engine'
import { sayShut } from '@calm/core/procedure/gates'
import { seenOf, type Seen } from '@calm/core/procedure/seen'
import type { Executor } from '../db/connection.ts'
import type { DeviceLink } from '../devices/link.ts'
import { conflict } from '../http/problems.ts'
import type { AnyRun } from '../record/fold.ts'

/** Where a step is done that a device has a part in. */
interface Act {
  readonly link: DeviceLink
  readonly event: NewEvent
  /** Place of the event in what was sent. */
  readonly path: string
  readonly loopId: string
  readonly now: Date
}

/** What the window says it saw and what stands at the device may differ by so many standard errors, and by so much. */
const ERRORS = 8
const LEAST_SHARE = 0.1
/** Whether the window looked at the device that is there; between its look and this one the reading goes on. */
function agrees(told: Seen, here: Seen, allowed: number): boolean {
  const scatter = Math.max(told.pvScatter, here.pvScatter) / Math.sqrt(Math.max(1, Math.min(told.n, here.n)))
  return Math.abs(told.pv - here.pv) <= LEAST_SHARE * allowed + ERRORS * scatter && told.t_s <= here.t_s + 1
}

/**
 * A step of a linked procedure, in the record's own transaction: its gates are looked at at the device itself, and
 * what it tells the device is done, or nothing of it happened. A device is never changed without its event, and never
 * twice for one.
 * @throws HttpProblem 409 with what the gate waits for, or the device's own words
 */
export async function actAtDevice(tx: Executor, act: Act, before: AnyRun | null): Promise<void> {
  const { link, event, path, loopId, now } = act
  const { body } = event
  if (body.type !== 'procedure.step' || before?.kind !== 'procedure') return
  const { run } = before
  const step = run.left[0]
  const { withDevice, rules, context } = run.started
  // What is out of turn is told by the fold; an older record had its own rules.
  if (!withDevice || rules === undefined || step?.id !== body.payload.step) return
  const refuse = (says: string) =>
    conflict(says, { errors: [{ path: `${path}.body`, says }], eventId: event.id })
  const p = body.payload
  const gated = (step.gates ?? []).length > 0
  if (gated || p.seen) {
    const seen = seenOf(lookedOf(await link.lookIn(tx, loopId, now.getTime()), run.started))
    const gates = gatesAt(
      run,
      step,
      { values: p.values, again: p.again, ...(seen ? { seen } : {}) },
      event.at,
    )
    const shut = shutGates(gates, p)
    if (shut.length > 0) throw refuse(sayShut(shut))
    if (p.seen && !p.overruled && (!seen || !agrees(p.seen, seen, allowedOf(context).pv)))
      throw refuse('What was sent is not what stands at the device now. Look again and repeat the step.')
  }
  const command = commandOf(run, step, { values: p.values, choice: p.choice })
  if (!command) return
  const { answer } = await link.askIn(tx, loopId, { id: event.id, command }, now.getTime())
  if (!answer.ok) throw refuse(answer.says)
}
