import { sayNumber } from '../quantity/round.ts'
import { printedUnit } from '../quantity/units.ts'
import { measures, MEASURING_HIGH_MA, MEASURING_LOW_MA } from '../signal/current-range.ts'
import { allowedOf } from './allowed.ts'
import { USUAL_GATES, type GateNumbers } from './gate-numbers.ts'
import { MOST_WINDOW_S, type Seen } from './seen.ts'
import { REST_APART_S, restGate } from './rest-gate.ts'
import { toolGate, toolHasToAct } from './tool-gate.ts'
import { hasDrift, isNoisy, isStill, quietAfter_s } from './still.ts'
import type { ProcedureRun } from './run.ts'
import type { Step, Values } from './step.ts'

/** What may have to be true before a step is done. */
export const GATE_IDS = [
  'asFound',
  'authority',
  'tool',
  'input',
  'held',
  'still',
  'limit',
  'rest',
  'quiet',
  'process',
  'digits',
  'reading',
  'equipment',
] as const
export type GateId = (typeof GATE_IDS)[number]

export interface GateState {
  readonly id: GateId
  readonly title: string
  readonly holds: boolean
  /** What holds, or what it waits for. */
  readonly says: string
}

/** The same reading, typed before. */
export interface TypedBefore {
  readonly at: string
  readonly values: Values
}
/** What a step's gates are looked at with. */
export interface Evidence {
  readonly values: Values
  /** Of a linked device; null where readings are typed, or nothing came from it yet. */
  readonly seen: Seen | null
  readonly again: TypedBefore | null
  /** Now, ISO 8601. */
  readonly at: string
  /** What the run is read with; left out where nobody knows, as when a record is read again. */
  readonly instruments?: readonly Dated[] | undefined
}
/** An instrument and the last day of its certificate. */
export interface Dated {
  readonly name: string
  readonly dueOn: string
}

const TITLES: Readonly<Record<GateId, string>> = {
  asFound: 'As found taken',
  authority: 'Manual and bypass confirmed',
  tool: 'At the sensor',
  input: 'Right input',
  held: 'Current held',
  still: 'Standing still',
  limit: 'Not at a limit',
  rest: 'Temperature at rest',
  quiet: 'Quiet, flow stopped',
  process: 'In the process',
  digits: 'Digit by digit',
  reading: 'As the device shows it',
  equipment: 'Instruments in date',
}
const LEAST_SAMPLES = 10
/** A signal of the device’s own is looked at for so long, s; in what was begun by older rules none was. */
const [LEAST_SIGNAL_S, SIGNALS_SINCE] = [10, 3]
/** Older rules took the coarser digit of two for what the display can show. */
const FINER_SINCE = 3
/** How far the input may be from what was asked for, where that is more than the plant's share of the span. */
const INPUT_TIMES_U = 3
/** A standard that is known no better than this share of the tolerance opens no gate any wider. */
const MOST_INPUT_SHARE = 0.5
/** Samples come so often, s. */
const EVERY_S = 0.25
/** Damping asks for no longer between two typed readings, s. */
const TYPED_MOST_S = 60
/**
 * Two typed readings agree within twice the uncertainty of what they are read with, never asked for closer than the
 * lower share of the tolerance; where nobody knows it, within the upper one.
 */
const [AGREE_LEAST_SHARE, AGREE_SHARE] = [0.1, 0.25]
const AGREE_TIMES_U = 2
/** A flow at rest scatters up to this many times what its zero is good for. */
const REST_TIMES = 3
/** What any meter scatters by at rest, share of its span, where its zero is better than that. */
const REST_SHARE = 2e-4
/** With the flow stopped no meter reads more than this share of its span, where nothing better is known. */
const AT_REST_SHARE = 0.02
/** A value over the link may differ by this share of the tolerance from what the device shows. */
const TAKEN_SHARE = 0.1

/** The name of what has to stand still in a step. */
export const steadyField = (step: Step): string | null =>
  step.steady ??
  step.fields?.find((f) => f.name === (step.holdCurrent_mA == null ? 'pv' : 'mA'))?.name ??
  step.fields?.find((f) => ['pv', 'mA', 'measured'].includes(f.name))?.name ??
  null

/** The signal that a step's steady field is read from; null where that is reading or current. */
function steadySignal(step: Step): string | null {
  const from = step.fields?.find((f) => f.name === steadyField(step))?.readsFrom
  return typeof from === 'object' ? from.signal : null
}

/** What the plant asked of readings when the run was begun. */
const plantAsks = ({ started }: ProcedureRun): GateNumbers => started.gates ?? USUAL_GATES

/** Seconds between two typed readings: as long as the damping asks, neither a moment nor for ever. */
const typedApart_s = (run: ProcedureRun): number =>
  Math.max(plantAsks(run).apart_s, Math.min(TYPED_MOST_S, 5 * run.started.context.tau_s))

/** How long after the first typed reading of a step the second one may be noted, s; null where one is enough. */
export function readAgainAfter_s(run: ProcedureRun, step: Step): number | null {
  if (step.gates?.includes('rest')) return REST_APART_S
  return !run.started.withDevice && step.gates?.includes('still') ? typedApart_s(run) : null
}

const spanOf = ({ started }: ProcedureRun) => Math.abs(started.context.range.high - started.context.range.low)
const byCurrent = (name: string | null) => name === 'mA' || name === 'measured'
/** What may be wrong of a quantity, in its own unit: the loop's tolerance, or in mA, or what a field says. */
function toleranceOf(run: ProcedureRun, step: Step, name: string | null): number {
  const { pv, mA } = allowedOf(run.started.context)
  const field = step.fields?.find((f) => f.name === name)
  if (field?.within !== undefined && (field.withinSince ?? 0) <= (run.started.rules ?? 0)) return field.within
  return byCurrent(name) ? mA : pv
}
/** The place of the last digit that was typed. */
const lastDigit = (x: number): number => {
  const [, decimals = ''] = String(x).split('.')
  return decimals.includes('e') ? 0 : 10 ** -decimals.length
}
const state = (id: GateId, holds: boolean, says: string): GateState => ({
  id,
  title: TITLES[id],
  holds,
  says,
})
const unitOf = (run: ProcedureRun) => printedUnit(run.started.context.range.unit)

function stillSeen(run: ProcedureRun, step: Step, seen: Seen | null): GateState {
  const wait = (says: string) => state('still', false, `waits for ${says}`)
  if (!seen) return wait('readings from the device')
  if (seen.n < LEAST_SAMPLES) return wait(`${LEAST_SAMPLES} samples since it moved; ${seen.n} are there`)
  if (seen.window_s < seen.least_s - 0.5)
    return wait(
      `${sayNumber(seen.least_s, 3)} s at this input; ${sayNumber(Math.floor(seen.window_s), 3)} s are over`,
    )
  const name = steadyField(step)
  const T = toleranceOf(run, step, byCurrent(name) ? name : 'pv')
  const { n, window_s } = seen
  const [slope, scatter] = byCurrent(name) ? [seen.mASlope, seen.mAScatter] : [seen.pvSlope, seen.pvScatter]
  if (isNoisy({ n, scatter }, T)) {
    const asks_s = quietAfter_s(scatter, T, EVERY_S)
    return wait(
      asks_s > MOST_WINDOW_S
        ? `the noise to average out: ±${sayNumber(2 * scatter, 2)} is too much for any window here; more damping, or find what makes it`
        : `the noise to average out: about ${sayNumber(Math.ceil(asks_s), 3)} s at this input`,
    )
  }
  if (hasDrift({ slope, window_s }, T)) return wait('the drift to end')
  return state('still', true, `${n} samples over ${sayNumber(window_s, 3)} s`)
}
/** What the device says about itself, where a step is read from that: the hand has to be off for as long. */
function stillSignal(run: ProcedureRun, step: Step, seen: Seen | null, signal: string): GateState {
  const wait = (says: string) => state('still', false, `waits for ${says}`)
  const trend = seen?.signals?.[signal]
  const field = step.fields?.find((f) => f.name === steadyField(step))
  if (!trend || !field) return wait('signals from the device')
  const least_s = Math.min(LEAST_SIGNAL_S, seen.least_s)
  if (trend.over_s < least_s - 0.5)
    return wait(
      `${sayNumber(least_s, 3)} s without a hand on it; ${sayNumber(Math.floor(trend.over_s), 3)} s are over`,
    )
  const within = toleranceOf(run, step, field.name)
  return isStill({ n: trend.n, window_s: trend.over_s, scatter: trend.scatter, slope: trend.slope }, within)
    ? state('still', true, `${field.label}: ${trend.n} looks over ${sayNumber(trend.over_s, 3)} s`)
    : wait(`${field.label.toLowerCase()} to stand: it scatters by ±${sayNumber(2 * trend.scatter, 2)}`)
}

/** Reading or current, or what the step is read from; both where it is read from both. */
function stillLinked(run: ProcedureRun, step: Step, seen: Seen | null): GateState {
  const signal = (run.started.rules ?? 0) >= SIGNALS_SINCE ? steadySignal(step) : null
  if (signal === null) return stillSeen(run, step, seen)
  const reading = step.fields?.some((f) => f.name === 'pv') ? stillSeen(run, step, seen) : null
  return reading?.holds === false ? reading : stillSignal(run, step, seen, signal)
}

function stillTyped(run: ProcedureRun, step: Step, { values, again, at }: Evidence): GateState {
  const name = steadyField(step)
  const now = name === null ? undefined : values[name]
  const before = name === null ? undefined : again?.values[name]
  const apart = typedApart_s(run)
  if (!again || before === undefined)
    return state('still', false, `waits for a first reading, noted ${apart} s before the one that counts`)
  const last = run.done.at(-1)?.at
  if (last !== undefined && again.at < last && last < at)
    return state('still', false, 'waits for a first reading of this step: that one was noted before it')
  const since = (Date.parse(at) - Date.parse(again.at)) / 1000
  if (since < apart)
    return state('still', false, `waits for ${Math.ceil(apart - since)} s since the first reading`)
  if (now === undefined) return state('still', false, 'waits for the second reading')
  const T = toleranceOf(run, step, name)
  const u = byCurrent(name) ? run.started.knownTo?.current : undefined
  const agree = u === undefined ? AGREE_SHARE * T : Math.max(AGREE_LEAST_SHARE * T, AGREE_TIMES_U * u)
  const digits = [lastDigit(now), lastDigit(before)]
  // A nought at the end is not typed: both were read from the same display, so the finer one tells its step.
  const shows =
    (run.started.rules ?? 0) >= FINER_SINCE ? Math.min(...digits, AGREE_SHARE * T) : Math.max(...digits)
  const may = agree + shows
  const field = step.fields?.find((f) => f.name === name)
  const unit = printedUnit(field?.unit ?? '')
  return Math.abs(now - before) <= may * (1 + 1e-9)
    ? state('still', true, `two readings ${sayNumber(since, 3)} s apart agree`)
    : state(
        'still',
        false,
        `waits for two readings that agree: ${sayNumber(before, 6)} and ${sayNumber(now, 6)} ${unit} are more than ${sayNumber(may, 2)} apart`,
      )
}

/** What was set by hand, against what the readings before ask for. */
function setGate(run: ProcedureRun, step: Step, e: Evidence): GateState | null {
  const field = step.fields?.find((f) => f.wanted)
  const wanted = field?.wanted?.(run)
  if (!field || !wanted) return null
  const unit = printedUnit(field.unit ?? '')
  const asked = `${sayNumber(wanted.value, 5)} ${unit}`
  const value = e.values[field.name]
  if (value === undefined) return state('input', false, `waits for what is set: ${asked}`)
  return Math.abs(value - wanted.value) <= wanted.within * (1 + 1e-9)
    ? state('input', true, `${sayNumber(value, 5)} ${unit} is set`)
    : state('input', false, `waits for ${asked}; ${sayNumber(value, 5)} ${unit} is set`)
}

/** How far the input may be from what a step asks for, in the unit of the range. */
export function inputWithin(run: ProcedureRun): number {
  const u = run.started.withDevice ? 0 : (run.started.knownTo?.applied ?? 0)
  const most = MOST_INPUT_SHARE * allowedOf(run.started.context).pv
  return Math.max((plantAsks(run).input_pct / 100) * spanOf(run), Math.min(INPUT_TIMES_U * u, most))
}

function inputGate(run: ProcedureRun, step: Step, e: Evidence): GateState {
  const set = setGate(run, step, e)
  if (set) return set
  const asked = step.apply ?? 0
  const unit = unitOf(run)
  const linked = run.started.withDevice
  const applied = linked ? (e.seen?.standard ?? undefined) : e.values['applied']
  const wanted = `${sayNumber(asked, 6)} ${unit}`
  if (applied === undefined)
    return state(
      'input',
      false,
      linked && e.seen
        ? `waits for ${wanted}: the process is still on the sensor`
        : `waits for what the standard shows at ${wanted}`,
    )
  const may = inputWithin(run)
  return Math.abs(applied - asked) <= may * (1 + 1e-9)
    ? state('input', true, `the standard shows ${sayNumber(applied, 6)} ${unit}`)
    : state(
        'input',
        false,
        `waits for ${wanted}: the standard shows ${sayNumber(applied, 6)} ${unit}, more than ${sayNumber(may, 2)} away`,
      )
}

function heldGate(step: Step, e: Evidence, linked: boolean): GateState {
  const asked = step.holdCurrent_mA ?? 0
  if (!linked) return state('held', true, 'told to hold it in the step before')
  return e.seen?.held_mA === asked
    ? state('held', true, `the output holds ${asked} mA`)
    : state('held', false, `waits for the output to hold ${asked} mA`)
}

/** Whether a step is done with one of these numbers: before it is there, nothing is proved by it. */
const asksFor = (step: Step, ...names: readonly string[]): boolean =>
  (step.fields ?? []).some((f) => names.includes(f.name))

function limitGate(run: ProcedureRun, step: Step, e: Evidence): GateState {
  const { limits } = run.started.context
  const pv = e.seen?.pv ?? e.values['pv']
  const mA = step.fields?.some((f) => f.name === 'mA') ? (e.values['mA'] ?? e.seen?.mA) : undefined
  const room = 1e-6 * (limits.high - limits.low)
  if (pv !== undefined && (pv <= limits.low + room || pv >= limits.high - room))
    return state('limit', false, `the sensor is at its end, ${sayNumber(pv, 5)} ${unitOf(run)}`)
  const edge = 0.005
  if (mA !== undefined && (!measures(mA) || mA - MEASURING_LOW_MA < edge || MEASURING_HIGH_MA - mA < edge))
    return state(
      'limit',
      false,
      `the current is at its end, ${sayNumber(mA, 5)} mA: it only says “so much or more”`,
    )
  if (pv === undefined && mA === undefined && asksFor(step, 'pv', 'mA'))
    return state('limit', false, 'waits for a reading')
  return state('limit', true, 'inside what device and current can say')
}

function quietGate(run: ProcedureRun, step: Step, e: Evidence): GateState {
  const { zero } = run.started.context
  const stopped = run.done.some((d) => d.step.stopsFlow === true)
  if (!stopped) return state('quiet', false, 'waits for the flow to be stopped by two named valves')
  const pv = e.seen?.pv ?? e.values['pv']
  if (pv === undefined && asksFor(step, 'pv')) return state('quiet', false, 'waits for the residual')
  const most = zero?.most ?? AT_REST_SHARE * spanOf(run)
  if (pv !== undefined && Math.abs(pv) > most)
    return state(
      'quiet',
      false,
      `waits for the flow to stop: it reads ${sayNumber(pv, 4)} ${unitOf(run)}, at rest within ±${sayNumber(most, 3)}`,
    )
  const scatter = e.seen ? 2 * e.seen.pvScatter : e.values['noise']
  const rest = zero ? REST_TIMES * Math.max(zero.least, REST_SHARE * spanOf(run)) : null
  if (rest !== null && rest > 0 && scatter !== undefined && scatter > rest)
    return state(
      'quiet',
      false,
      `waits for the scatter to calm: ±${sayNumber(scatter, 3)} ${unitOf(run)}, at rest up to ±${sayNumber(rest, 3)}`,
    )
  return state(
    'quiet',
    true,
    pv === undefined ? 'stopped by named valves' : 'stopped by named valves, the reading at rest',
  )
}

/** Figures that have to be the same to the last digit. */
function digitsGate(run: ProcedureRun, step: Step, e: Evidence): GateState {
  const untold = (step.fields ?? []).filter((f) => f.wanted?.(run) && e.values[f.name] === undefined)
  if (untold.length > 0)
    return state('digits', false, `waits for ${untold.map((f) => f.label.toLowerCase()).join(', ')}`)
  const wrong = (step.fields ?? []).flatMap((f) => {
    const wanted = f.wanted?.(run)
    const value = e.values[f.name]
    return wanted && value !== undefined && Math.abs(value - wanted.value) > wanted.within
      ? [`${f.label} ${sayNumber(value, 12)}, not ${sayNumber(wanted.value, 12)}`]
      : []
  })
  return wrong.length > 0
    ? state('digits', false, `waits for the same figures: ${wrong.join('; ')}`)
    : state('digits', true, 'as it has to be, to the last decimal')
}

/** Over the link a value is what the device shows; what is typed over it is told. */
function readingGate(run: ProcedureRun, step: Step, e: Evidence): GateState {
  const seen = e.seen
  if (!seen) return state('reading', false, 'waits for readings from the device')
  const shown: Readonly<Record<string, number | null>> = {
    pv: seen.pv,
    current: seen.mA,
    standard: seen.standard,
  }
  for (const f of step.fields ?? []) {
    const from = typeof f.readsFrom === 'string' ? shown[f.readsFrom] : undefined
    const value = e.values[f.name]
    if (from === undefined || from === null || value === undefined) continue
    const may = TAKEN_SHARE * toleranceOf(run, step, f.readsFrom === 'current' ? 'mA' : 'pv')
    if (Math.abs(value - from) > may)
      return state(
        'reading',
        false,
        `waits for what the device shows: ${f.label} ${sayNumber(from, 6)}, not ${sayNumber(value, 6)}`,
      )
  }
  return state('reading', true, 'taken from the device')
}

const isNotInService = ({ started }: ProcedureRun): boolean =>
  started.way !== undefined && started.way !== 'inService'
/** Whether the loop may be moved: in manual by name, or not in service by name. */
export const isReleased = (run: ProcedureRun): boolean =>
  isNotInService(run) ||
  run.started.after?.did.includes('manual') === true ||
  run.done.some((d) => d.step.work === 'manual' || d.step.confirmsManual === true)

/** What a device that measures nothing cannot show; its current can be held and read all the same. */
const NEEDS_A_READING: ReadonlySet<GateId> = new Set<GateId>([
  'still',
  'limit',
  'quiet',
  'process',
  'reading',
])
function isSilent(id: GateId, step: Step, e: Evidence): boolean {
  if (!e.seen?.silent || !NEEDS_A_READING.has(id)) return false
  const reads = (step.fields ?? []).some((f) => !byCurrent(f.name))
  return id === 'still' || id === 'reading' ? !byCurrent(steadyField(step)) || reads : true
}

function gate(id: GateId, run: ProcedureRun, step: Step, e: Evidence): GateState {
  const linked = run.started.withDevice
  if (linked && isSilent(id, step, e))
    return state(id, false, 'waits for a reading: the device measures nothing yet')
  switch (id) {
    case 'asFound': {
      const taken = run.done.some((d) => d.step.phase === 'asFound' && d.step.kind === 'read')
      return state(id, taken, taken ? 'read and kept' : 'waits for the as-found readings')
    }
    case 'authority': {
      const byWay = isNotInService(run)
      return state(
        id,
        isReleased(run),
        byWay
          ? `not in service: ${run.started.notInServiceBy ?? 'named at the beginning'}`
          : isReleased(run)
            ? 'confirmed by name'
            : 'waits for manual and bypass, confirmed by name',
      )
    }
    case 'tool':
      return state(id, ...toolGate(run, step, e))
    case 'input':
      return inputGate(run, step, e)
    case 'held':
      return heldGate(step, e, linked)
    case 'still':
      return linked ? stillLinked(run, step, e.seen) : stillTyped(run, step, e)
    case 'limit':
      return limitGate(run, step, e)
    case 'rest':
      return state(id, ...restGate(run, e))
    case 'quiet':
      return quietGate(run, step, e)
    case 'digits':
      return digitsGate(run, step, e)
    case 'process':
      return linked && e.seen?.standard != null
        ? state(id, false, 'waits for the process: it still stands in what was applied')
        : state(id, true, 'nothing else is applied')
    case 'reading':
      return readingGate(run, step, e)
    case 'equipment': {
      const ended = e.instruments?.find((i) => i.dueOn < e.at.slice(0, 10))
      return state(
        id,
        !ended,
        ended
          ? `waits for an instrument in date: the certificate of ${ended.name} ended on ${ended.dueOn}`
          : e.instruments?.length === 0
            ? 'none is named: why, stands in the record'
            : 'every certificate is in date',
      )
    }
  }
}

/**
 * The gates of a step as they stand: a form for readings over the link and a form for typed ones, never none.
 * A value that only the device can have told is held against it where there is a link.
 */
export function gatesOf(run: ProcedureRun, step: Step, e: Evidence): readonly GateState[] {
  const ids =
    step.gatesSince === undefined || (run.started.rules ?? 0) >= step.gatesSince ? (step.gates ?? []) : []
  const reads = run.started.withDevice && (step.fields ?? []).some((f) => typeof f.readsFrom === 'string')
  // A certificate may end between the first step and this one; over the link of a stand-in the tool is simulated.
  const withInstruments =
    !run.started.withDevice &&
    ids.length > 0 &&
    !ids.includes('equipment') &&
    (e.instruments ?? []).length > 0
  return [
    ...(toolHasToAct(run, step) ? (['tool'] as const) : []),
    ...ids,
    ...(reads && ids.length > 0 ? (['reading'] as const) : []),
    ...(withInstruments ? (['equipment'] as const) : []),
  ].map((id) => gate(id, run, step, e))
}

/** One sentence for all gates that are shut. */
export const sayShut = (shut: readonly GateState[]): string =>
  shut.map((g) => `${g.title}: ${g.says}.`).join(' ')
