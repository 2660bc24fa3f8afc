import { sayNumber } from '../quantity/round.ts'
import { printedUnit } from '../quantity/units.ts'
import {
  byCurrent,
  plantAsks,
  state,
  steadyField,
  toleranceOf,
  type Evidence,
  type GateState,
} from './gate.ts'
import { MOST_WINDOW_S, type Seen } from './seen.ts'
import { REST_APART_S } from './rest-gate.ts'
import { hasDrift, isNoisy, isStill, quietAfter_s } from './still.ts'
import type { ProcedureRun } from './run.ts'
import type { Step } from './step.ts'

const LEAST_SAMPLES = 10
/** A signal of the device’s own is looked at for so long, s; in what was begun by older rules none was. */
const [LEAST_SIGNAL_S, SIGNALS_SINCE] = [10, 3]
/** Older rules took the coarser digit of two for what the display can show. */
const FINER_SINCE = 3
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
/** The signal that a step's steady field is read from; null where that is reading or current. */
function steadySignal(step: Step): string | null {
  const from = step.fields?.find((f) => f.name === steadyField(step))?.readsFrom
  return typeof from === 'object' ? from.signal : null
}

/** Seconds between two typed readings: as long as the damping asks, neither a moment nor for ever. */
const typedApart_s = (run: ProcedureRun): number =>
  Math.max(plantAsks(run).apart_s, Math.min(TYPED_MOST_S, 5 * run.started.context.tau_s))

/** How long after the first typed reading of a step the second one may be noted, s; null where one is enough. */
export function readAgainAfter_s(run: ProcedureRun, step: Step): number | null {
  if (step.gates?.includes('rest')) return REST_APART_S
  return !run.started.withDevice && step.gates?.includes('still') ? typedApart_s(run) : null
}

/** The place of the last digit that was typed. */
const lastDigit = (x: number): number => {
  const [, decimals = ''] = String(x).split('.')
  return decimals.includes('e') ? 0 : 10 ** -decimals.length
}
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
export function stillLinked(run: ProcedureRun, step: Step, seen: Seen | null): GateState {
  const signal = (run.started.rules ?? 0) >= SIGNALS_SINCE ? steadySignal(step) : null
  if (signal === null) return stillSeen(run, step, seen)
  const reading = step.fields?.some((f) => f.name === 'pv') ? stillSeen(run, step, seen) : null
  return reading?.holds === false ? reading : stillSignal(run, step, seen, signal)
}

export function stillTyped(run: ProcedureRun, step: Step, { values, again, at }: Evidence): GateState {
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
