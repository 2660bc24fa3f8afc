import { Generator } from '../statistics/generator.ts'
import { REFUSALS, trimPlausible } from './plausible.ts'
import {
  adjust,
  idealCurrent_mA,
  pvOf,
  rawReading,
  trueCurrent_mA,
  type Adjustment,
  type Transmitter,
  type TransmitterState,
} from './transmitter.ts'

/** Settings besides trims; what is edited, what works, and what survives a power cycle. */
export interface DeviceSettings {
  readonly damping_s: number
  readonly alarm: 'low' | 'high'
  readonly descriptor: string
  /** Belongs to this sensor alone and is never copied to another. */
  readonly characterization: string
}

/** A device that is not there: it behaves like one, from a seed and a clock that is given. */
export interface StandIn {
  readonly seed: number
  /** Device seconds for one real second. */
  readonly speed: number
  readonly transmitter: Transmitter
  /** Trims, range and settings as they were stored last. */
  readonly stored: { readonly state: TransmitterState; readonly settings: DeviceSettings }
  readonly applied: DeviceSettings
  readonly working: DeviceSettings
  /** The process, as long as no standard is applied. */
  readonly process: number
  /** Input of the moment: since when it moves to where, and from where. */
  readonly motion: {
    readonly at_s: number
    readonly from: number
    readonly to: number
    readonly raw: number
    readonly dir: -1 | 0 | 1
  }
  readonly standard: number | null
  readonly temperature_C: number
  /** Scatter of the raw reading, standard deviation. */
  readonly noise: number
  readonly powered: boolean
  /** Resistance of the loop; a digital link needs 230 Ω or more. */
  readonly loop_ohm: number
  /** Where the link is really plugged in; it changes when somebody replugs it. */
  readonly port: string
  readonly connected: boolean
  readonly unlocked: boolean
  readonly wrongPasscodes: number
  readonly lockedUntil_s: number
  readonly reading: { readonly from_s: number; readonly takes_s: number } | null
  readonly audit: readonly { readonly at_s: number; readonly says: string }[]
  /** Commands that were carried out: one that comes twice is done once. */
  readonly recent: readonly string[]
}

export type DeviceCommand =
  | { readonly kind: 'connect'; readonly port: string }
  | { readonly kind: 'disconnect' }
  | { readonly kind: 'unlock'; readonly passcode: string }
  | { readonly kind: 'lock' }
  | { readonly kind: 'apply'; readonly value: number | null }
  | { readonly kind: 'adjust'; readonly adjustment: Adjustment }
  | { readonly kind: 'write'; readonly settings: Partial<DeviceSettings> }
  | { readonly kind: 'applySettings' }
  | { readonly kind: 'store' }
  | { readonly kind: 'power'; readonly on: boolean }
  | { readonly kind: 'readAll' }
  | { readonly kind: 'replug'; readonly port: string }
  | { readonly kind: 'loopResistance'; readonly ohm: number }

export interface DeviceReading {
  readonly t_s: number
  readonly PV: number
  readonly percent: number
  readonly mA: number
}
export type Answer =
  { readonly ok: true; readonly says: string } | { readonly ok: false; readonly says: string }

export const PASSCODE = '2580'
const LEAST_LINK_OHM = 230
const LOCKOUT_S = 60
const MOST_WRONG = 3
const FULL_READ_S = 120
const AUDIT_KEPT = 100
const RECENT_KEPT = 40
const DEAD_S = 0.2
/** A pump goes through the whole range in so many seconds. */
const STROKE_S = 4

export function standIn(seed: number, transmitter: Transmitter, more: Partial<StandIn> = {}): StandIn {
  const span = Math.abs(transmitter.state.URV - transmitter.state.LRV)
  const process = Math.min(transmitter.state.LRV, transmitter.state.URV) + 0.55 * span
  const settings: DeviceSettings = {
    damping_s: 0.8,
    alarm: 'low',
    descriptor: '',
    characterization: String(100_000 + (seed % 900_000)),
  }
  return {
    seed,
    speed: 1,
    transmitter,
    stored: { state: transmitter.state, settings },
    applied: settings,
    working: settings,
    process,
    motion: { at_s: -1e6, from: process, to: process, raw: rawReading(transmitter, process), dir: 0 },
    standard: null,
    temperature_C: 20,
    noise: span * 5e-5,
    powered: true,
    loop_ohm: 250,
    port: 'A',
    connected: false,
    unlocked: false,
    wrongPasscodes: 0,
    lockedUntil_s: -1,
    reading: null,
    audit: [],
    recent: [],
    ...more,
  }
}

const spanOf = (d: StandIn) => Math.abs(d.transmitter.make.USL - d.transmitter.make.LSL)

/** The true input at a time: it moves at a pump's speed. */
function inputAt(d: StandIn, t_s: number): number {
  const { at_s, from, to } = d.motion
  const way = Math.max(0, t_s - at_s) * (spanOf(d) / STROKE_S)
  return Math.abs(to - from) <= way ? to : from + Math.sign(to - from) * way
}
/** Raw value behind the sensor's lag, without noise. */
function rawAt(d: StandIn, t_s: number): number {
  const { at_s, to, raw, dir } = d.motion
  const end = rawReading(d.transmitter, inputAt(d, t_s), dir, d.temperature_C)
  const tau = Math.max(0.05, d.applied.damping_s)
  const moving = Math.abs(to - d.motion.from) / (spanOf(d) / STROKE_S)
  const since = t_s - at_s - DEAD_S - moving
  return since <= 0
    ? raw + (end - raw) * Math.min(1, Math.max(0, (t_s - at_s) / Math.max(0.05, moving + DEAD_S))) * 0.9
    : end + (raw - end) * 0.1 * Math.exp(-since / tau)
}
/** Scatter of a moment: the same moment has the same scatter, however often it is looked at. */
const scatterAt = (d: StandIn, t_s: number): number =>
  d.noise * new Generator((d.seed * 7919 + Math.floor(t_s * 8) + 2 ** 31) >>> 0).normal()

/** What the device shows and sends at a time; a dead one sends nothing. */
export function readStandIn(d: StandIn, t_s: number): DeviceReading {
  const t = d.transmitter
  const PV = pvOf(t, rawAt(d, t_s) + scatterAt(d, t_s))
  if (!d.powered) return { t_s, PV: 0, percent: 0, mA: 0 }
  const ideal = t.state.fixed_mA ?? idealCurrent_mA(t, PV)
  return {
    t_s,
    PV,
    percent: (100 * (PV - t.state.LRV)) / (t.state.URV - t.state.LRV),
    mA: trueCurrent_mA(t, ideal),
  }
}
/** Readings four a second, oldest first, up to a time. */
export const samplesOf = (d: StandIn, t_s: number, n: number): DeviceReading[] =>
  Array.from({ length: n }, (_, i) => readStandIn(d, t_s - (n - 1 - i) / 4))

/** Share of a full read that is done; null when none runs. */
export const readProgress = (d: StandIn, t_s: number): number | null =>
  d.reading ? Math.min(1, (t_s - d.reading.from_s) / d.reading.takes_s) : null

/** Whether something was changed that a power cycle would take away. */
export const isStored = (d: StandIn): boolean =>
  JSON.stringify([{ ...d.transmitter.state, fixed_mA: null }, d.applied]) ===
  JSON.stringify([{ ...d.stored.state, fixed_mA: null }, d.stored.settings])

const say = (
  d: StandIn,
  t_s: number,
  says: string,
  change: Partial<StandIn> = {},
): { device: StandIn; answer: Answer } => ({
  device: { ...d, ...change, audit: [...d.audit, { at_s: t_s, says }].slice(-AUDIT_KEPT) },
  answer: { ok: true, says },
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
export function command(
  d: StandIn,
  t_s: number,
  c: DeviceCommand,
  id: string,
): { device: StandIn; answer: Answer } {
  if (d.recent.includes(id)) return { device: d, answer: { ok: true, says: 'Done already.' } }
  const done = carryOut(d, t_s, c)
  return { ...done, device: { ...done.device, recent: [...done.device.recent, id].slice(-RECENT_KEPT) } }
}

function carryOut(d: StandIn, t_s: number, c: DeviceCommand): { device: StandIn; answer: Answer } {
  const refuse = (says: string, change: Partial<StandIn> = {}) => ({
    device: { ...d, ...change },
    answer: { ok: false as const, says },
  })
  const raw = rawAt(d, t_s)
  switch (c.kind) {
    case 'apply': {
      const to = c.value ?? d.process
      const { LSL, USL } = d.transmitter.make
      const room = 0.2 * (USL - LSL)
      if (to < LSL - room || to > USL + room)
        return refuse('That would damage the sensor: it is far outside its limits.')
      const from = inputAt(d, t_s)
      const dir = to > from ? 1 : to < from ? -1 : d.motion.dir
      return {
        device: { ...d, standard: c.value, motion: { at_s: t_s, from, to, raw, dir } },
        answer: {
          ok: true,
          says: c.value === null ? 'The process is back on the sensor.' : `${to} applied.`,
        },
      }
    }
    case 'power': {
      if (c.on === d.powered) return refuse(c.on ? 'It is on.' : 'It is off.')
      if (c.on) return say(d, t_s, 'Power on.', { powered: true })
      // What was not stored is gone.
      return say(d, t_s, 'Power off.', {
        powered: false,
        connected: false,
        unlocked: false,
        reading: null,
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
    case 'connect': {
      const problem = linkProblem(d, c.port)
      return problem ? refuse(problem) : say(d, t_s, 'Connected.', { connected: true })
    }
    case 'disconnect':
      return say(d, t_s, 'Disconnected.', { connected: false, unlocked: false, reading: null })
  }
  const lost = d.connected ? linkProblem(d, d.port) : 'No link: connect first.'
  if (lost) return refuse(lost)
  switch (c.kind) {
    case 'unlock': {
      if (t_s < d.lockedUntil_s)
        return refuse(
          `Locked after ${MOST_WRONG} wrong passcodes: ${Math.ceil(d.lockedUntil_s - t_s)} s to wait.`,
        )
      if (c.passcode !== PASSCODE) {
        const wrong = d.wrongPasscodes + 1
        return wrong >= MOST_WRONG
          ? refuse(`Wrong for the third time: locked for ${LOCKOUT_S} s.`, {
              wrongPasscodes: 0,
              lockedUntil_s: t_s + LOCKOUT_S,
            })
          : refuse(`That is not the passcode; ${MOST_WRONG - wrong} more before it locks.`, {
              wrongPasscodes: wrong,
            })
      }
      return say(d, t_s, 'Unlocked.', { unlocked: true, wrongPasscodes: 0 })
    }
    case 'readAll':
      return say(d, t_s, 'Reading all.', { reading: { from_s: t_s, takes_s: FULL_READ_S } })
  }
  if (!d.unlocked) return refuse('The device is locked: unlock it with its passcode first.')
  switch (c.kind) {
    case 'lock':
      return say(d, t_s, 'Locked.', { unlocked: false })
    case 'write':
      return say(d, t_s, 'Written to the working copy; not applied yet.', {
        working: { ...d.working, ...c.settings },
      })
    case 'applySettings':
      return say(d, t_s, 'Applied; not stored yet.', { applied: d.working })
    case 'store':
      return say(d, t_s, 'Stored.', {
        stored: { state: { ...d.transmitter.state, fixed_mA: null }, settings: d.applied },
      })
    case 'adjust': {
      const verdict = trimPlausible(d.transmitter, c.adjustment, raw, {
        inManual: true,
        asFoundClosed: true,
        stable: true,
      })
      if (verdict.code !== 'OK') return refuse(REFUSALS[verdict.code])
      return say(d, t_s, `Adjusted: ${c.adjustment.kind}. Not stored yet.`, {
        transmitter: adjust(d.transmitter, c.adjustment, raw),
      })
    }
  }
}

/** A configuration as it is backed up; a copy for another device leaves the characterization out. */
export interface DeviceBackup {
  readonly kind: 'backup' | 'copy'
  readonly LRV: number
  readonly URV: number
  readonly settings: Partial<DeviceSettings>
}
export function backup(d: StandIn, kind: DeviceBackup['kind']): DeviceBackup {
  const { characterization, ...others } = d.applied
  const { LRV, URV } = d.transmitter.state
  return { kind, LRV, URV, settings: kind === 'backup' ? { ...others, characterization } : others }
}
/** What loading a backup would overwrite, and why it must not where it belongs to another sensor. */
export function loadDifferences(d: StandIn, b: DeviceBackup) {
  const { LRV, URV } = d.transmitter.state
  const now: Record<string, unknown> = { LRV, URV, ...d.applied }
  const wanted: Record<string, unknown> = { LRV: b.LRV, URV: b.URV, ...b.settings }
  const changed = Object.keys(wanted)
    .filter((k) => wanted[k] !== now[k])
    .map((key) => ({ key, from: now[key], to: wanted[key] }))
  return { changed, otherSensor: changed.some((c) => c.key === 'characterization') }
}
