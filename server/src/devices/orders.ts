import type { DeviceOrder, DeviceView, Ports } from '@calm/contract/devices'
import type { DeviceCommand } from '@calm/core/device/command'
import { command, type Answer } from '@calm/core/device/commands'
import { PORTS } from '@calm/core/device/link-parts'
import type { StandIn } from '@calm/core/device/stand-in'
import type { Database, Executor } from '../db/connection.ts'
import { view } from './view.ts'

/** With an answer comes what was just now; the rest is on screen. */
const ANSWER_S = 10

/** A stand-in at a moment, by its own clock. */
export interface Held {
  readonly device: StandIn
  readonly t_s: number
}
/** Where a stand-in hangs: on a loop, or on the link of the workshop. */
export interface Stand {
  /** @param lock - held until the transaction ends */
  readonly held: (tx: Executor, now: number, lock: boolean) => Promise<Held>
  readonly keep: (tx: Executor, change: { readonly state: StandIn; readonly since?: Date }) => Promise<void>
}
/** Ports of the computer, and the one that the adaptor is plugged into. */
export const portsOf = (device: StandIn): Ports =>
  PORTS.map((name) => ({ name, adaptor: name === device.port }))

/** Lets the device's time run faster, for practice; its clock goes on from where it is. */
async function paced(tx: Executor, stand: Stand, before: Held, speed: number, now: number) {
  const device = { ...before.device, speed }
  const since = new Date(now - (before.t_s / speed) * 1000)
  await stand.keep(tx, { state: device, since })
  const says = speed === 1 ? 'Time runs as it does.' : `Time runs ${speed} times as fast.`
  return { answer: { ok: true, says } as const, device: view({ device, t_s: before.t_s }) }
}

/** Carries out a command; a second send of the same one changes nothing. */
export async function orderTo(
  db: Database,
  stand: Stand,
  order: DeviceOrder,
  now: number,
): Promise<{ answer: Answer; device: DeviceView }> {
  return db.transaction(async (tx) => {
    const before = await stand.held(tx, now, true)
    const { id, command: asked } = order
    if (asked.kind === 'speed') return paced(tx, stand, before, asked.factor, now)
    const part = ofProcedures(asked, before.device)
    if (part !== null)
      return { answer: { ok: false, says: part }, device: view(before, before.t_s - ANSWER_S) }
    const { device, answer } = await carryOut(tx, stand, before, { id, command: asked })
    return { answer, device: view({ device, t_s: before.t_s }, before.t_s - ANSWER_S) }
  })
}

export async function carryOut(
  tx: Executor,
  stand: Stand,
  before: Held,
  order: { readonly id: string; readonly command: DeviceCommand },
) {
  const done = command(before.device, before.t_s, order.command, order.id)
  await stand.keep(tx, { state: done.device })
  return done
}

/** Why a command is not given outside a procedure, or null: what adjusts a device stands in the record. */
function ofProcedures(asked: DeviceOrder['command'], { own, applied }: StandIn): string | null {
  switch (asked.kind) {
    case 'keyIn': {
      // A constant that it measures by is not changed under a verdict that was given with it.
      const changed = Object.entries(asked.lines).find(
        ([line, value]) => own.includes(line) && (applied.keyed[line] ?? value) !== value,
      )
      return changed
        ? `${changed[0]} is a constant that it measures by, and it holds ${applied.keyed[changed[0]] ?? ''}. Changing it is a step of the procedure for a lost memory, where it is read back, zeroed and compared.`
        : null
    }
    case 'adjust':
    case 'revert':
    case 'markAsFound':
    case 'healthCheck':
      return 'This is a step of a procedure, so that it stands in the record: begin one.'
    default:
      return null
  }
}
