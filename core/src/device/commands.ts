import type { DeviceCommand } from './command.ts'
import { REFUSALS, trimPlausible } from '../trim/plausible.ts'
import {
  behaviourOf,
  inputAt,
  luck,
  rawAt,
  readStandIn,
  settled,
  taskAt,
  toolOfDevice,
  type DeviceSettings,
  type StandIn,
} from './stand-in.ts'
import { adjust } from '../trim/adjust.ts'

export type Answer =
  { readonly ok: true; readonly says: string } | { readonly ok: false; readonly says: string }

export const PASSCODE = '2580'
const LEAST_LINK_OHM = 230
const LOCKOUT_S = 60
const MOST_WRONG = 3
const MOST_ADDRESS = 15
const AUDIT_KEPT = 100
const RECENT_KEPT = 40
const ALARM_mA = { low: 3.6, high: 21.5 } as const

interface Done {
  readonly device: StandIn
  readonly answer: Answer
}
const say = (d: StandIn, t_s: number, says: string, change: Partial<StandIn> = {}): Done => ({
  device: { ...d, ...change, audit: [...d.audit, { at_s: t_s, says }].slice(-AUDIT_KEPT) },
  answer: { ok: true, says },
})
const refuse = (d: StandIn, says: string, change: Partial<StandIn> = {}): Done => ({
  device: { ...d, ...change },
  answer: { ok: false, says },
})

/** Why the link does not answer, or null. */
export function linkProblem(d: StandIn, port: string): string | null {
  if (!d.powered) return 'Nothing answers: the loop has no supply.'
  if (d.loop_ohm < LEAST_LINK_OHM)
    return `Nothing answers: the loop has ${d.loop_ohm.toFixed(0)} Ω and the link needs ${LEAST_LINK_OHM} Ω or more in it.`
  if (port !== d.port)
    return `Nothing answers on port ${port}: the modem was plugged elsewhere. Look for the port that is new.`
  return null
}

/**
 * Carries out a command at a time. A refusal changes nothing but the count of wrong passcodes.
 * @param id - made by who asks; a command that comes twice is carried out once.
 */
export function command(before: StandIn, t_s: number, c: DeviceCommand, id: string): Done {
  if (before.recent.includes(id)) return { device: before, answer: { ok: true, says: 'Done already.' } }
  const d = settled(before, t_s)
  const done = atBench(d, t_s, c) ?? overLink(d, t_s, c)
  return { ...done, device: { ...done.device, recent: [...done.device.recent, id].slice(-RECENT_KEPT) } }
}

function apply(d: StandIn, t_s: number, value: number | null, over_s: number | null): Done {
  const { LSL, USL } = d.transmitter.make
  const { LRV, URV } = d.transmitter.state
  const range = { low: Math.min(LRV, URV), high: Math.max(LRV, URV) }
  const tool = toolOfDevice(d)
  const room = 0.2 * (USL - LSL)
  if (value !== null && (value < LSL - room || value > USL + room))
    return refuse(d, 'That would damage the sensor: it is far outside its limits.')
  const says = value === null ? null : tool.refuses(value, range)
  if (says !== null) return refuse(d, says)
  const from = inputAt(d, t_s)
  const to =
    value === null ? d.process : tool.gives(value, range, luck(d, `${tool.id} ${String(Math.floor(t_s))}`))
  const dir = to > from ? 1 : to < from ? -1 : d.motion.dir
  return {
    device: {
      ...d,
      standard: value,
      motion: { at_s: t_s, from, to, raw: rawAt(d, t_s), dir, over_s },
      history: {
        ...d.history,
        lowest: Math.min(d.history.lowest, to),
        highest: Math.max(d.history.highest, to),
      },
    },
    answer: {
      ok: true,
      says: value === null ? 'The process is back on the sensor.' : `${value} applied. ${tool.title}.`,
    },
  }
}

/** What is done by hand at the device and needs no link; null for everything else. */
function atBench(d: StandIn, t_s: number, c: DeviceCommand): Done | null {
  switch (c.kind) {
    case 'apply':
      return apply(d, t_s, c.value, c.over_s ?? null)
    case 'power': {
      if (c.on === d.powered) return refuse(d, c.on ? 'It is on.' : 'It is off.')
      if (c.on)
        return say(d, t_s, 'Power on.', {
          powered: true,
          history: { ...d.history, powerCycles: d.history.powerCycles + 1 },
        })
      // What was not stored is gone.
      return say(d, t_s, 'Power off.', {
        powered: false,
        connected: false,
        unlocked: false,
        task: null,
        transmitter: { ...d.transmitter, state: { ...d.stored.state, fixed_mA: null } },
        applied: d.stored.settings,
        working: d.stored.settings,
      })
    }
    case 'replug':
      return {
        device: { ...d, port: c.port, connected: false },
        answer: { ok: true, says: `Plugged into ${c.port}.` },
      }
    case 'loopResistance':
      return { device: { ...d, loop_ohm: c.ohm }, answer: { ok: true, says: `${c.ohm} Ω in the loop.` } }
    case 'meter':
      return { device: { ...d, meter: c.meter }, answer: { ok: true, says: 'The meter was changed.' } }
    case 'connect': {
      const problem = linkProblem(d, c.port)
      return problem ? refuse(d, problem) : say(d, t_s, 'Connected.', { connected: true })
    }
    case 'disconnect':
      return say(d, t_s, 'Disconnected.', { connected: false, unlocked: false, task: null })
    default:
      return null
  }
}

function unlock(d: StandIn, t_s: number, passcode: string): Done {
  if (t_s < d.lockedUntil_s)
    return refuse(
      d,
      `Locked after ${MOST_WRONG} wrong passcodes: ${Math.ceil(d.lockedUntil_s - t_s)} s to wait.`,
    )
  if (passcode === PASSCODE) return say(d, t_s, 'Unlocked.', { unlocked: true, wrongPasscodes: 0 })
  const wrong = d.wrongPasscodes + 1
  return wrong >= MOST_WRONG
    ? refuse(d, `Wrong for the third time: locked for ${LOCKOUT_S} s.`, {
        wrongPasscodes: 0,
        lockedUntil_s: t_s + LOCKOUT_S,
      })
    : refuse(d, `That is not the passcode; ${MOST_WRONG - wrong} more before it locks.`, {
        wrongPasscodes: wrong,
      })
}

function write(d: StandIn, t_s: number, settings: Partial<DeviceSettings>): Done {
  const { address } = settings
  if (address !== undefined && d.neighbours.includes(address)) {
    const free = Array.from({ length: MOST_ADDRESS + 1 }, (_, i) => i).filter(
      (a) => !d.neighbours.includes(a),
    )
    return refuse(
      d,
      `Address ${address} is taken by another device on this link. Free: ${free.slice(0, 6).join(', ')} …`,
    )
  }
  return say(d, t_s, 'Written to the working copy; not applied yet.', {
    working: { ...d.working, ...settings },
  })
}

/** What needs the link, and all but the reading of it the passcode. */
function overLink(d: StandIn, t_s: number, c: DeviceCommand): Done {
  const lost = d.connected ? linkProblem(d, d.port) : 'No link: connect first.'
  if (lost) return refuse(d, lost)
  const busy = taskAt(d, t_s)
  switch (c.kind) {
    case 'unlock':
      return unlock(d, t_s, c.passcode)
    case 'markAsFound':
      return say(d, t_s, 'As found kept.', { asFound: { ...d.transmitter.state, fixed_mA: null } })
    case 'cancel':
      return busy ? say(d, t_s, 'Given up.', { task: null }) : refuse(d, 'Nothing is under way.')
    case 'readAll':
      return busy
        ? refuse(d, 'It is busy; wait, or cancel that.')
        : say(d, t_s, 'Reading all.', {
            task: {
              kind: 'readAll',
              from_s: t_s,
              takes_s: behaviourOf(d).fullRead_s,
              output_mA: null,
            },
          })
  }
  if (!d.unlocked) return refuse(d, 'The device is locked: unlock it with its passcode first.')
  if (busy?.kind === 'healthCheck') return refuse(d, 'It is running its self-check; wait, or cancel it.')
  switch (c.kind) {
    case 'lock':
      return say(d, t_s, 'Locked.', { unlocked: false })
    case 'write':
      return write(d, t_s, c.settings)
    case 'applySettings':
      return say(d, t_s, 'Applied; not stored yet.', { applied: d.working })
    case 'store':
      return say(d, t_s, 'Stored.', {
        stored: { state: { ...d.transmitter.state, fixed_mA: null }, settings: d.applied },
      })
    case 'revert': {
      if (!d.asFound) return refuse(d, 'No as-found state is kept in the device: put it back by hand.')
      const state = { ...d.asFound, fixed_mA: d.transmitter.state.fixed_mA }
      return say(d, t_s, 'As found written back and stored: not adjusted.', {
        transmitter: { ...d.transmitter, state },
        adjustedAt_s: t_s,
        stored: { state: d.asFound, settings: d.applied },
      })
    }
    case 'healthCheck': {
      const takes_s = behaviourOf(d).healthCheck_s
      const output_mA = c.output === 'held' ? readStandIn(d, t_s).mA : ALARM_mA[d.applied.alarm]
      return say(d, t_s, `Checks itself for ${takes_s} s.`, {
        task: { kind: 'healthCheck', from_s: t_s, takes_s, output_mA },
      })
    }
    case 'adjust': {
      const raw = rawAt(d, t_s)
      const verdict = trimPlausible(d.transmitter, c.adjustment, raw, {
        inManual: true,
        asFoundClosed: true,
        stable: true,
      })
      if (verdict.code !== 'OK') return refuse(d, REFUSALS[verdict.code])
      return say(d, t_s, `Adjusted: ${c.adjustment.kind}. Not stored yet.`, {
        transmitter: adjust(d.transmitter, c.adjustment, raw),
        adjustedAt_s: t_s,
        history: { ...d.history, trims: d.history.trims + (/trim/i.test(c.adjustment.kind) ? 1 : 0) },
      })
    }
    default:
      return refuse(d, 'The device does not know this command.')
  }
}
