import { convertRangeEnd } from '../quantity/units.ts'
import { relayState, sayRelay, type RelayPlan } from '../signal/relay-plan.ts'
import { Generator } from '../statistics/generator.ts'
import { familyOf } from '../family/index.ts'
import type { Typed } from '../quantity/setting.ts'
import type { Alarm } from './alarms.ts'
import type { DeviceBehaviour, Offset, Signal, Situation } from './behaviour.ts'
import { backup, type DeviceBackup } from './configuration.ts'
import { missingLines, type Keyed } from './keyed.ts'
import type { Download } from './log.ts'
import { OTHER_DEVICE } from './other.ts'
import { withPast, type Past } from './past.ts'
import { meterShows_mA, type MeterId } from './tools/meter.ts'
import type { Tool } from './tools/tool.ts'
import {
  idealCurrent_mA,
  pvOf,
  rawReading,
  trueCurrent_mA,
  type Transmitter,
  type TransmitterState,
} from '../transmitter/transmitter.ts'

/** Settings besides trims; what is edited, what works, and what survives a power cycle. */
export interface DeviceSettings {
  readonly damping_s: number
  readonly alarm: 'low' | 'high'
  readonly descriptor: string
  /** On a link with several devices each has its own. */
  readonly address: number
  /** Belongs to this sensor alone and is never copied to another. */
  readonly characterization: string
  /** The settings sheet as it was keyed in, line by line. */
  readonly keyed: Keyed
}
/** A contact of a trip controller, acting on the reading; where it really acts is off by its own. */
export interface Relay {
  readonly plan: RelayPlan
  readonly off: number
}
/** A health check that was made, with what it found; the first one is the reference of the later ones. */
export interface HealthCheck {
  readonly at_s: number
  readonly signals: readonly Signal[]
  /** What it was told when it was checked; not known of checks from before it was kept. */
  readonly told?: DeviceBackup
}
/** What takes its time: all read, itself checked, its memory of readings fetched, its signal searched and made ready. */
export type TaskKind = 'readAll' | 'healthCheck' | 'history' | 'start'
export interface Task {
  readonly kind: TaskKind
  readonly from_s: number
  readonly takes_s: number
  readonly output_mA: number | null
}

/** A device that is not there: it behaves like one, from a seed and a clock that is given. */
export interface StandIn {
  readonly seed: number
  /** Its family, or nothing where nobody knows; and what it was told. */
  readonly family: string | null
  readonly told: Typed
  readonly unit: string
  /** Device seconds for one real second. */
  readonly speed: number
  readonly transmitter: Transmitter
  /** Trims, range and settings as they were stored last. */
  readonly stored: { readonly state: TransmitterState; readonly settings: DeviceSettings }
  /** Trims and range as they were when as-found was closed: what a way back puts back. */
  readonly asFound: TransmitterState | null
  readonly applied: DeviceSettings
  readonly working: DeviceSettings
  /** Lines of its sheet that belong to this sensor alone: constants of its plate. */
  readonly own: readonly string[]
  /** The process, as long as no standard is applied. */
  readonly process: number
  /** Input of the moment: since when it moves to where, and from where. */
  readonly motion: {
    readonly at_s: number
    readonly from: number
    readonly to: number
    readonly raw: number
    readonly dir: -1 | 0 | 1
    /** Seconds for the whole way where it is a ramp; the tool's own pace otherwise. */
    readonly over_s: number | null
  }
  /** When its trims, range or held current were changed last; what was read before tells nothing of it now. */
  readonly adjustedAt_s?: number
  /** What was asked of the tool; null with the process on the sensor. */
  readonly standard: number | null
  readonly meter: MeterId
  readonly relays: readonly Relay[]
  readonly temperature_C: number
  /** 0 as new, 1 worn out. */
  readonly wear: number
  /** Scatter of the raw reading, standard deviation. */
  readonly noise: number
  readonly powered: boolean
  /** Resistance of the loop; a digital link needs 230 Ω or more. */
  readonly loop_ohm: number
  /** Where the link is really plugged in; it changes when somebody replugs it. */
  readonly port: string
  /** Addresses that other devices on the same link have. */
  readonly neighbours: readonly number[]
  readonly connected: boolean
  readonly unlocked: boolean
  readonly wrongPasscodes: number
  readonly lockedUntil_s: number
  readonly task: Task | null
  readonly checks: readonly HealthCheck[]
  /** A clamped sensor: where it stands from where the sheet has it, mm; and whether the device was started since. */
  readonly place_mm: number
  readonly started: boolean
  /** The current that a calibrator gives in the transmitter's place; null with the transmitter in the loop. */
  readonly sourced_mA: number | null
  /** What its two totalizers had counted, and when that was written down last. */
  readonly totals: { readonly at_s: number; readonly counted: readonly [number, number] }
  readonly alarms: readonly Alarm[]
  /** When they were noted last; what came since then is found by looking back. */
  readonly alarmsAt_s?: number
  /** When it had no supply: nothing is remembered of that time. */
  readonly outages: readonly { readonly from_s: number; readonly to_s: number | null }[]
  readonly download: Download | null
  /** How it was before each change of what its readings follow from, oldest first. */
  readonly past?: readonly Past[]
  /** Of the device's whole life. */
  readonly history: {
    readonly lowest: number
    readonly highest: number
    readonly powerCycles: number
    readonly trims: number
  }
  readonly audit: readonly { readonly at_s: number; readonly says: string }[]
  /** Commands that were carried out: one that comes twice is done once. */
  readonly recent: readonly string[]
}

export interface DeviceReading {
  readonly t_s: number
  readonly PV: number
  readonly percent: number
  readonly mA: number
  /** False where it measures nothing: what stands for its reading then is no reading. */
  readonly measures?: false
}

const DEAD_S = 0.2

export function standIn(seed: number, transmitter: Transmitter, more: Partial<StandIn> = {}): StandIn {
  const { LRV, URV } = transmitter.state
  const span = Math.abs(URV - LRV)
  const behaviour = behaviourOf({ family: more.family ?? null })
  const process = Math.min(LRV, URV) + 0.55 * span
  const settings: DeviceSettings = {
    damping_s: behaviour.damping_s,
    alarm: 'low',
    descriptor: '',
    address: 0,
    characterization: String(100_000 + (seed % 900_000)),
    keyed: {},
  }
  return {
    seed,
    family: null,
    told: {},
    unit: '%',
    speed: 1,
    transmitter,
    stored: { state: transmitter.state, settings },
    asFound: null,
    applied: settings,
    working: settings,
    own: [],
    process,
    motion: {
      at_s: -1e6,
      from: process,
      to: process,
      raw: rawReading(transmitter, process),
      dir: 0,
      over_s: null,
    },
    standard: null,
    meter: 'calibrator',
    relays: [],
    temperature_C: 20,
    wear: 0.1,
    noise: span * behaviour.noise,
    powered: true,
    loop_ohm: 250,
    port: 'A',
    neighbours: [1, 2],
    connected: false,
    unlocked: false,
    wrongPasscodes: 0,
    lockedUntil_s: -1,
    task: null,
    checks: [],
    place_mm: 0,
    started: true,
    sourced_mA: null,
    totals: { at_s: 0, counted: [0, 0] },
    alarms: [],
    outages: [],
    download: null,
    history: { lowest: process, highest: process, powerCycles: 1, trims: 0 },
    audit: [],
    recent: [],
    ...more,
  }
}

const spanOf = (d: StandIn) => Math.abs(d.transmitter.make.USL - d.transmitter.make.LSL)
/** How a device of this family behaves; one of no known family is known by its current alone. */
export const behaviourOf = (d: Pick<StandIn, 'family'>): DeviceBehaviour<Typed> =>
  (d.family === null ? null : familyOf(d.family))?.device ?? OTHER_DEVICE
export function toolOfDevice(d: StandIn): Tool {
  const { tool, toolFor } = behaviourOf(d)
  return toolFor?.(d.told) ?? tool
}

/** When input or device were moved last, by its own clock. */
export const movedAt_s = (d: StandIn): number => Math.max(d.motion.at_s, d.adjustedAt_s ?? -Infinity)

/** Seconds that the present motion takes. */
const wayTime_s = (d: StandIn): number =>
  d.motion.over_s ?? (Math.abs(d.motion.to - d.motion.from) / spanOf(d)) * toolOfDevice(d).stroke_s

/** The true input at a time: it moves at the tool's pace and leaks a little afterwards. */
export function inputAt(d: StandIn, t_s: number): number {
  const { at_s, from, to } = d.motion
  const way = wayTime_s(d)
  const since = t_s - at_s
  if (since < way) return from + (to - from) * Math.max(0, since / way)
  if (d.standard === null) return to
  const { share, tau_s } = toolOfDevice(d).leak
  return to * (1 - share * (1 - Math.exp(-(since - way) / tau_s)))
}
/** Raw value behind the sensor's lag, without noise. */
export function rawAt(d: StandIn, t_s: number): number {
  const { at_s, raw, dir } = d.motion
  const now = rawReading(d.transmitter, inputAt(d, t_s), dir, d.temperature_C)
  const tau = Math.max(0.05, d.applied.damping_s)
  const moving = wayTime_s(d)
  // A slow ramp is followed with the lag of its own speed; a step comes to rest behind it.
  if (d.motion.over_s !== null && t_s - at_s < moving)
    return rawReading(d.transmitter, inputAt(d, Math.max(at_s, t_s - DEAD_S - tau)), dir, d.temperature_C)
  const since = t_s - at_s - DEAD_S - moving
  return since <= 0
    ? raw + (now - raw) * Math.min(1, Math.max(0, (t_s - at_s) / Math.max(0.05, moving + DEAD_S))) * 0.9
    : now + (raw - now) * 0.1 * Math.exp(-since / tau)
}

/** A number for a name: the same name always gives the same. */
const numbered = (name: string): number =>
  Array.from(name).reduce((h, c) => (h * 31 + c.charCodeAt(0)) | 0, 7) >>> 0
/** A number from 0 to 1 for a whole number, without any state: thousands of moments are looked at a second. */
function hashed(n: number): number {
  let h = n | 0
  h = Math.imul(h ^ (h >>> 16), 0x45d9f3b)
  h = Math.imul(h ^ (h >>> 16), 0x45d9f3b)
  return ((h ^ (h >>> 16)) >>> 0) / 2 ** 32
}
/** Scatter of a moment, standard normal: the same moment has the same scatter, however often it is looked at. */
function scatterAt(d: StandIn, t_s: number, name: string): number {
  const n = Math.imul(d.seed, 7919) ^ Math.imul(Math.floor(t_s * 8), 104_729) ^ numbered(name)
  return Math.sqrt(-2 * Math.log(1 - hashed(n))) * Math.cos(2 * Math.PI * hashed(n ^ 0x5bd1e995))
}
/** From -1 to 1, for the whole life of a device or a tool. */
export const luck = (d: StandIn, name: string): number =>
  2 * new Generator((d.seed + numbered(name)) >>> 0).uniform() - 1

export const ALARM_mA = { low: 3.6, high: 21.5 } as const
/** Lines that a lost memory still lacks; without them it measures nothing. */
export const missingOf = (d: StandIn): readonly string[] =>
  missingLines(d.applied.keyed, behaviourOf(d).lost?.(d.told) ?? null)
/** Whether it measures: it has what it needs to know, and found its signal. */
export const measures = (d: StandIn): boolean => d.started && missingOf(d).length === 0

/** What it shows of a raw reading, by its trims and by what was keyed in. */
function shown(d: StandIn, raw: number): number {
  const { gain, offset } = behaviourOf(d)
  const { keyed } = d.applied
  return withOffset(d, pvOf(d.transmitter, raw) * (gain?.(d.told, keyed) ?? 1), offset?.(d.told, keyed))
}
/** A reading with what it shows too much; one in percent is one of the span that was keyed in. */
function withOffset(d: StandIn, pv: number, offset: Offset | undefined): number {
  if (!offset || offset.value === 0) return pv
  const told = convertRangeEnd(offset.value, offset.unit, d.unit)
  if (told.kind === 'value') return pv + told.value
  const { span } = offset
  return d.unit === '%' && span !== undefined && span.became > 0
    ? (pv * span.is + 100 * offset.value) / span.became
    : pv
}

/** What the device shows and sends at a time; a dead one sends nothing, a held one what it was told. */
export function readStandIn(d: StandIn, t_s: number): DeviceReading {
  const t = d.transmitter
  const meter = (mA: number) => meterShows_mA(d.meter, mA, luck(d, d.meter))
  const sourced = d.sourced_mA === null ? null : meter(d.sourced_mA)
  if (!d.powered) return { t_s, PV: 0, percent: 0, mA: sourced ?? 0, measures: false }
  const able = measures(d)
  const PV = able ? shown(d, rawAt(d, t_s) + d.noise * scatterAt(d, t_s, '')) : 0
  const held = taskAt(d, t_s)?.output_mA ?? null
  const ideal = t.state.fixed_mA ?? held ?? (able ? idealCurrent_mA(t, PV) : ALARM_mA[d.applied.alarm])
  return {
    t_s,
    PV,
    percent: (100 * (PV - t.state.LRV)) / (t.state.URV - t.state.LRV),
    mA: sourced ?? meter(trueCurrent_mA(t, ideal)),
    ...(able ? {} : { measures: false as const }),
  }
}
/** What it shows of an input that has stood for long, with the scatter of the moment. */
export const shownOf = (d: StandIn, t_s: number, input: number): number =>
  measures(d)
    ? shown(d, rawReading(d.transmitter, input, 0, d.temperature_C) + d.noise * scatterAt(d, t_s, ''))
    : 0
/** What it shows at a time, without scatter. */
export const shownAt = (d: StandIn, t_s: number): number =>
  d.powered && measures(d) ? shown(d, rawAt(d, t_s)) : 0
/** Readings four a second, oldest first, up to a time. */
export const samplesOf = (d: StandIn, t_s: number, n: number): DeviceReading[] =>
  Array.from({ length: n }, (_, i) => readStandIn(d, t_s - (n - 1 - i) / 4))

/** What the tool's own display shows; null with the process on the sensor. */
export function standardShows(d: StandIn, t_s: number): number | null {
  if (d.standard === null) return null
  const { LRV: low, URV: high } = d.transmitter.state
  return toolOfDevice(d).shows(inputAt(d, t_s), { low, high })
}

/** The task that runs at a time, or null. */
export const taskAt = (d: StandIn, t_s: number): Task | null =>
  d.task && t_s < d.task.from_s + d.task.takes_s ? d.task : null
/** Where its sensor would hear best, from where the sheet has it; mm: no pair is quite as its rule says. */
const bestPlace_mm = (d: StandIn): number => (behaviourOf(d).startUp ? 1.5 * luck(d, 'place') : 0)
/** What the device says about itself besides its reading. @param input - true input, where it is not that of the moment */
export function signalsAt(d: StandIn, t_s: number, input = inputAt(d, t_s)): readonly Signal[] {
  const { LRV: low, URV: high } = d.transmitter.state
  const situation: Situation = {
    input,
    fraction: (input - low) / (high - low),
    range: { low, high, unit: d.unit },
    temperature_C: d.temperature_C,
    wear: d.wear,
    scatter: (name: string) => scatterAt(d, t_s, name),
    keyed: d.applied.keyed,
    offPlace_mm: d.place_mm - bestPlace_mm(d),
    started: d.started,
  }
  return behaviourOf(d).signals(situation, d.told)
}
/** Looks that a check is averaged over: one moment's scatter is no change of the device. */
const LOOKS = 40
function averagedSignals(d: StandIn, from_s: number, to_s: number): readonly Signal[] {
  const looks = Array.from({ length: LOOKS }, (_, i) =>
    signalsAt(d, from_s + ((to_s - from_s) * (i + 1)) / LOOKS),
  )
  return (looks.at(-1) ?? []).map((s, k) => ({
    ...s,
    value: looks.reduce((sum, look) => sum + (look[k]?.value ?? s.value), 0) / LOOKS,
  }))
}
/** The first one is the reference and is kept however many follow. */
const MOST_CHECKS = 20
const keptChecks = (checks: readonly HealthCheck[]): readonly HealthCheck[] =>
  checks.length <= MOST_CHECKS ? checks : [...checks.slice(0, 1), ...checks.slice(1 - MOST_CHECKS)]

/** A finished task leaves its result; nothing else changes. */
export function settled(d: StandIn, t_s: number): StandIn {
  if (!d.task || taskAt(d, t_s)) return d
  const end = d.task.from_s + d.task.takes_s
  const idle = { ...d, task: null }
  switch (d.task.kind) {
    case 'healthCheck':
      return {
        ...idle,
        checks: keptChecks([
          ...d.checks,
          { at_s: end, signals: averagedSignals(d, d.task.from_s, end), told: backup(d, 'backup') },
        ]),
      }
    case 'history':
      return { ...idle, download: d.download && { ...d.download, got: d.download.rows } }
    case 'start':
      // What it tells of itself is of now from here on.
      return {
        ...idle,
        started: true,
        adjustedAt_s: Math.max(end, movedAt_s(d)),
        past: withPast(d, idle, end),
      }
    case 'readAll':
      return idle
  }
}

/** Relays of the controller at a time: between its points a relay stays as it was before the motion. */
export function relaysAt(d: StandIn, t_s: number): { says: string; energised: boolean }[] {
  const now = inputAt(d, t_s)
  return d.relays.map(({ plan, off }) => {
    const before = relayState(plan, d.motion.from - off, plan.startUp)
    return { says: sayRelay(plan, ''), energised: relayState(plan, now - off, before) }
  })
}

/** Something wrong with the device: by what, and in a sentence. */
export interface Alert {
  readonly code: string
  readonly says: string
}
/** What is wrong with the device. */
export function alertsOf(d: StandIn, t_s: number): readonly Alert[] {
  if (!d.powered) return []
  const { LSL, USL } = d.transmitter.make
  const input = inputAt(d, t_s)
  const missing = missingOf(d)
  const is = (code: string, says: string): Alert => ({ code, says })
  return [
    ...(missing.length > 0
      ? [
          is(
            'MEMORY_LOST',
            `Its memory is lost: it measures nothing until it is keyed in: ${missing.join(', ')}.`,
          ),
        ]
      : []),
    ...(d.started
      ? []
      : [is('NOT_STARTED', 'It was not started since its sensors were set: it measures nothing.')]),
    ...(d.sourced_mA === null
      ? []
      : [
          is(
            'SOURCED',
            `The calibrator gives ${d.sourced_mA} mA in its place; the transmitter is out of the loop.`,
          ),
        ]),
    ...(input < LSL || input > USL
      ? [is('INPUT_OUT', 'The input is outside what the sensor measures.')]
      : []),
    ...(d.transmitter.state.fixed_mA === null
      ? []
      : [is('OUTPUT_HELD', 'The output is held; it does not follow.')]),
    ...signalsAt(d, t_s).flatMap((s) =>
      s.low !== undefined && s.value < s.low
        ? [is(s.name, `${s.title} is ${s.value.toPrecision(3)} ${s.unit}, below ${s.low.toPrecision(3)}.`)]
        : s.high !== undefined && s.value > s.high
          ? [is(s.name, `${s.title} is ${s.value.toPrecision(3)} ${s.unit}, above ${s.high.toPrecision(3)}.`)]
          : [],
    ),
  ]
}

/** Whether something was changed that a power cycle would take away. */
export const isStored = (d: StandIn): boolean =>
  JSON.stringify([{ ...d.transmitter.state, fixed_mA: null }, d.applied]) ===
  JSON.stringify([{ ...d.stored.state, fixed_mA: null }, d.stored.settings])
