import { needsPasscode, type DeviceCommand } from './command.ts'
import { silentPart } from './link-parts.ts'
import { REFUSALS, trimPlausible } from '../trim/plausible.ts'
import { alarmsNow } from './alarms.ts'
import { estimate, notRemembered, restTakes_s, rowsGot, RESOLUTIONS } from './log.ts'
import { withPast } from './past.ts'
import { countedUnit, countedUp } from './totals.ts'
import {
  ALARM_mA,
  behaviourOf,
  inputAt,
  luck,
  measures,
  rawAt,
  readStandIn,
  settled,
  taskAt,
  toolOfDevice,
  type DeviceSettings,
  type StandIn,
  type Task,
} from './stand-in.ts'
import { adjust, type Adjustment } from '../trim/adjust.ts'

export type Answer =
  { readonly ok: true; readonly says: string } | { readonly ok: false; readonly says: string }

export const PASSCODE = '2580'
const LOCKOUT_S = 60
const MOST_WRONG = 3
const MOST_ADDRESS = 15
const AUDIT_KEPT = 100
const RECENT_KEPT = 40
const OUTAGES_KEPT = 40
const MOST_SOURCED_mA = 24

/** Adjustments that take what it measures for their measure. */
const BY_INPUT: ReadonlySet<Adjustment['kind']> = new Set([
  'zeroTrim',
  'lowerTrim',
  'upperTrim',
  'points',
  'rangeLowByInput',
  'rangeHighByInput',
])

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
  const silent = silentPart(d, port)
  return silent && `Nothing answers. ${silent.part}: ${silent.says}`
}

/**
 * Carries out a command at a time. A refusal changes nothing but the count of wrong passcodes.
 * @param id - made by who asks; a command that comes twice is carried out once.
 */
export function command(before: StandIn, t_s: number, c: DeviceCommand, id: string): Done {
  if (before.recent.includes(id)) return { device: before, answer: { ok: true, says: 'Done already.' } }
  const d = settled(before, t_s)
  const done = atBench(d, t_s, c) ?? overLink(d, t_s, c)
  return { ...done, device: kept(before, done.device, t_s, id) }
}
/** What a reading follows from: a change of it begins a new piece of the count. */
const READS = ['motion', 'transmitter', 'applied', 'powered', 'started'] as const
/** What every command leaves besides what it does: the count up to now, the alarms, what was fetched before a break. */
function kept(before: StandIn, after: StandIn, t_s: number, id: string): StandIn {
  const d = settled(before, t_s)
  const counts = READS.some((part) => d[part] !== after[part])
  const broken = d.task?.kind === 'history' && after.task?.kind !== 'history' && after.download
  return {
    ...after,
    ...(counts ? { totals: countedUp(d, t_s), past: withPast(d, after, t_s) } : {}),
    ...(broken ? { download: { ...broken, got: rowsGot(d, t_s) } } : {}),
    // What came before this command is noted by what stood then.
    alarms: alarmsNow({ ...after, alarms: alarmsNow(before, t_s), alarmsAt_s: t_s }, t_s),
    alarmsAt_s: t_s,
    recent: [...after.recent, id].slice(-RECENT_KEPT),
  }
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
          outages: d.outages.map((o) => (o.to_s === null ? { ...o, to_s: t_s } : o)),
          history: { ...d.history, powerCycles: d.history.powerCycles + 1 },
        })
      // What was not stored is gone.
      return say(d, t_s, 'Power off.', {
        powered: false,
        outages: [...d.outages, { from_s: t_s, to_s: null }].slice(-OUTAGES_KEPT),
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
        device: { ...d, port: c.port, connected: false, unlocked: false, task: null },
        answer: { ok: true, says: `Plugged into ${c.port}.` },
      }
    case 'loopResistance':
      return { device: { ...d, loop_ohm: c.ohm }, answer: { ok: true, says: `${c.ohm} Ω in the loop.` } }
    case 'meter':
      return d.sourced_mA !== null && c.meter !== 'calibrator'
        ? refuse(d, 'The calibrator gives the current: put the transmitter back into the loop first.')
        : { device: { ...d, meter: c.meter }, answer: { ok: true, says: 'The meter was changed.' } }
    case 'source':
      return source(d, t_s, c.mA)
    case 'place':
      return place(d, t_s, c.off_mm)
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

/** A calibrator in the transmitter’s place: it gives a current as well as it reads one. */
function source(d: StandIn, t_s: number, mA: number | null): Done {
  if (mA === null)
    return d.sourced_mA === null
      ? refuse(d, 'The transmitter is in the loop.')
      : say(d, t_s, 'The transmitter is back in the loop.', { sourced_mA: null })
  if (d.meter !== 'calibrator')
    return refuse(d, 'A multimeter only reads. Take the loop calibrator to give a current.')
  if (!(mA >= 0 && mA <= MOST_SOURCED_mA))
    return refuse(d, `The calibrator gives 0 to ${MOST_SOURCED_mA} mA.`)
  return say(d, t_s, `The calibrator gives ${mA} mA in the transmitter’s place.`, {
    sourced_mA: mA,
    connected: false,
    unlocked: false,
    task: null,
  })
}
/** A clamped sensor moved by hand: what the device had found of its signal is gone. */
function place(d: StandIn, t_s: number, off_mm: number): Done {
  const { startUp } = behaviourOf(d)
  if (!startUp) return refuse(d, 'It has no sensor that could be moved.')
  return Math.abs(off_mm) > startUp.most_mm
    ? refuse(d, `The rail ends ${startUp.most_mm} mm to either side.`)
    : say(d, t_s, `${startUp.moves} stands ${off_mm} mm from where the sheet has it.`, {
        place_mm: off_mm,
        adjustedAt_s: t_s,
      })
}
/** Searches its frequency and makes itself ready; until then it measures nothing. */
function start(d: StandIn, t_s: number): Done {
  const { startUp } = behaviourOf(d)
  if (!startUp) return refuse(d, 'It needs no start: it measures as soon as it has supply.')
  const takes_s = startUp.search_s + startUp.ready_s
  return say(
    d,
    t_s,
    `Searches its frequency, then makes itself ready: ${takes_s} s, no hand on the sensors.`,
    {
      started: false,
      adjustedAt_s: t_s,
      task: { kind: 'start', from_s: t_s, takes_s, output_mA: ALARM_mA[d.applied.alarm] },
    },
  )
}
const fetching = (t_s: number, takes_s: number): Task => ({
  kind: 'history',
  from_s: t_s,
  takes_s,
  output_mA: null,
})
/** What it remembers is fetched over the link: slowly, and from where it stopped. */
function history(d: StandIn, t_s: number, every_s: number, hours: number): Done {
  const says = notRemembered(every_s, hours)
  if (says !== null) return refuse(d, says)
  const { rows, takes_s } = estimate(every_s, hours, 1)
  if (rows < 1) return refuse(d, `That is less than one reading; take ${RESOLUTIONS[0].every_s} s or longer.`)
  return say(d, t_s, `Fetching ${rows} readings, about ${takes_s} s.`, {
    download: { every_s, to_s: t_s, rows, got: 0 },
    task: fetching(t_s, takes_s),
  })
}
function resume(d: StandIn, t_s: number): Done {
  if (!d.download || d.download.got >= d.download.rows)
    return refuse(d, 'Nothing is left of a download to go on with.')
  return say(d, t_s, `Going on behind reading ${d.download.got} of ${d.download.rows}.`, {
    task: fetching(t_s, restTakes_s(d.download)),
  })
}
function resetTotal(d: StandIn, t_s: number, which: 1 | 2): Done {
  if (!countedUnit(d.unit)) return refuse(d, 'It counts nothing: its reading is no rate.')
  const { counted } = countedUp(d, t_s)
  const stood = counted[which - 1] ?? 0
  return say(d, t_s, `Totalizer ${which} set to 0; it stood at ${stood.toPrecision(6)}.`, {
    totals: { at_s: t_s, counted: which === 1 ? [0, counted[1]] : [counted[0], 0] },
  })
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
  const { keyed = {}, ...others } = settings
  return say(d, t_s, 'Written to the working copy; not applied yet.', {
    working: { ...d.working, ...others, keyed: { ...d.working.keyed, ...keyed } },
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
    case 'history':
    case 'resume':
      if (busy) return refuse(d, 'It is busy; wait, or cancel that.')
      return c.kind === 'resume' ? resume(d, t_s) : history(d, t_s, c.every_s, c.hours)
  }
  if (needsPasscode(c) && !d.unlocked)
    return refuse(d, 'The device is locked: unlock it with its passcode first.')
  if (busy?.kind === 'healthCheck') return refuse(d, 'It is running its self-check; wait, or cancel it.')
  if (busy?.kind === 'start') return refuse(d, 'It searches its signal; wait, or cancel it.')
  switch (c.kind) {
    case 'lock':
      return say(d, t_s, 'Locked.', { unlocked: false })
    case 'write':
      return write(d, t_s, c.settings)
    case 'keyIn': {
      const keyed = { ...d.applied.keyed, ...c.lines }
      return say(d, t_s, `Keyed in: ${Object.keys(c.lines).join(', ')}. Not stored yet.`, {
        adjustedAt_s: t_s,
        applied: { ...d.applied, keyed },
        working: { ...d.working, keyed: { ...d.working.keyed, ...c.lines } },
      })
    }
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
    case 'start':
      return start(d, t_s)
    case 'resetTotal':
      return resetTotal(d, t_s, c.which)
    case 'healthCheck': {
      if (!measures(d))
        return refuse(d, 'It measures nothing now: there is nothing to check. Look at its alarms.')
      const takes_s = behaviourOf(d).healthCheck_s
      const output_mA = c.output === 'held' ? readStandIn(d, t_s).mA : ALARM_mA[d.applied.alarm]
      return say(d, t_s, `Checks itself for ${takes_s} s.`, {
        task: { kind: 'healthCheck', from_s: t_s, takes_s, output_mA },
      })
    }
    case 'adjust': {
      if (BY_INPUT.has(c.adjustment.kind) && !measures(d))
        return refuse(d, 'It measures nothing now: there is nothing to adjust. Look at its alarms.')
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
