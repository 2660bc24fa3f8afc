import { outputFraction } from '../signal/path.ts'
import { stageOf, type Range, type Stage } from '../signal/stage.ts'
import type { Direction } from './plan.ts'
import { shouldShow } from './should-show.ts'
import { atMost, toleranceAt, type Tolerance } from './tolerance.ts'

/** What was read at one point; a quantity that was not read is null. */
export interface Reading {
  readonly index: number
  readonly direction: Direction
  /** Applied input, in the unit of the transmitter's range. */
  readonly applied: number | null
  /** The transmitter's own reading, in the same unit. */
  readonly pv: number | null
  readonly loopCurrent_mA: number | null
  /** The controller's value, in the unit of its range. */
  readonly controller: number | null
}

/** Which part of the loop an error belongs to. */
export type ErrorKind = 'sensor' | 'output' | 'receiver' | 'loop'

export const ERROR_KINDS: Readonly<Record<ErrorKind, string>> = {
  sensor: 'Sensor',
  output: 'Output',
  receiver: 'Receiver',
  loop: 'Whole loop',
}

/** Errors of one point in percent of span, indicated minus true; null where a reading is missing. */
export interface PointErrors {
  readonly index: number
  readonly direction: Direction
  /** Percent of the output span that the applied input calls for. */
  readonly level_pct: number
  /** Sensor in the input's own scale: 100 (PV - applied) / span. The trim decision uses this one. */
  readonly sensorInput_pct: number | null
  /** Sensor as seen at the output, after the transfer function. */
  readonly sensor_pct: number | null
  /** Current against what the transmitter's own reading calls for. Null where the output is saturated. */
  readonly output_pct: number | null
  /** Current against what the applied input calls for; null where the output is saturated. */
  readonly current_pct: number | null
  /** Controller against what the current calls for. */
  readonly receiver_pct: number | null
  /** The furthest value that was read against the applied input. */
  readonly loop_pct: number | null
  /** The same in the unit of what was read last. */
  readonly loop: {
    readonly error: number
    readonly value: number
    readonly expected: number
    readonly unit: string
  } | null
  /** Allowed error of the whole loop here, in percent of span. */
  readonly allowed_pct: number
  /** Null where nothing was read, or below 10 % flow behind a square root. */
  readonly withinTolerance: boolean | null
  readonly applied: number
  readonly saturated: boolean
}

export interface LoopScale {
  readonly input: Range
  readonly output: Range
  readonly stages: readonly Stage[]
}

/**
 * The ranges a verification is judged against: the transmitter's, and what the receiver should show.
 *
 * The transmitter's range is the documented one. A receiver of the same quantity should show it in its
 * own unit, whatever it is scaled to: a receiver left behind must come out as an error here. Only a
 * receiver that shows another quantity (percent, tonnes for metres) is taken at its own scale.
 */
export function loopScale(stages: readonly Stage[]): LoopScale | null {
  const transmitter = stageOf(stages, 'transmitter')
  if (!transmitter) return null
  const documented = transmitter.shows ?? transmitter.range
  const receiver = stageOf(stages, 'controller')?.range
  return {
    input: transmitter.range,
    output: receiver ? shouldShow(documented, receiver) : documented,
    stages,
  }
}

const fraction = (r: Range, v: number) => (v - r.low) / (r.high - r.low)

/** Below this output a square root enlarges the smallest dp error without limit: no verdict there. */
const LOWEST_JUDGED_FLOW = 0.1

const hasRoot = (stages: readonly Stage[]) =>
  stages.some((s) => (s.kind === 'transmitter' || s.kind === 'controller') && s.transfer.kind === 'sqrt')

/**
 * What to apply for a level of the output: behind a square root the levels are those of flow, so the
 * dp to apply is its square (25 % flow is 6.25 % dp).
 */
export function appliedAt(scale: LoopScale, level_pct: number): number {
  const { low, high } = scale.input
  const q = level_pct / 100
  return low + (high - low) * (hasRoot(scale.stages) ? q * q : q)
}

/**
 * Errors at one point, each part of the loop on its own.
 *
 * Sensor, output and receiver add up to the whole loop exactly when everything was read. A current that
 * the transmitter had to limit says nothing about the output and is left out of it.
 */
export function pointErrors(scale: LoopScale, tolerance: Tolerance, r: Reading): PointErrors | null {
  if (r.applied === null) return null
  const { input, output, stages } = scale
  const transmitter = stageOf(stages, 'transmitter')
  const out = stageOf(stages, 'output')
  const atTransmitter = stages.filter((s) => s.kind === 'transmitter')
  // A root taken in the transmitter is not taken again, whatever the controller is set to.
  const atController = hasRoot(atTransmitter) ? [] : stages.filter((s) => s.kind === 'controller')
  const u = fraction(input, r.applied)
  const expectedMa = outputFraction(atTransmitter, u)
  const expectedEu = outputFraction(atController, expectedMa)
  const uPv = r.pv === null ? null : fraction(input, r.pv)
  const pvMa = uPv === null ? null : outputFraction(atTransmitter, uPv)
  const live = out?.signal === '0-20' ? { zero: 0, span: 20 } : { zero: 4, span: 16 }
  const ma = r.loopCurrent_mA === null ? null : (r.loopCurrent_mA - live.zero) / live.span
  const ideal_mA = live.zero + live.span * (pvMa ?? expectedMa)
  const saturated = ideal_mA < (out?.satLow_mA ?? 3.8) || ideal_mA > (out?.satHigh_mA ?? 20.5)
  const eu = r.controller === null ? null : fraction(output, r.controller)
  const shows = transmitter?.shows ?? input
  const value = (range: Range, phi: number) => range.low + phi * (range.high - range.low)
  const last =
    eu !== null && r.controller !== null
      ? {
          pct: 100 * (eu - expectedEu),
          value: r.controller,
          expected: value(output, expectedEu),
          range: output,
        }
      : ma !== null && r.loopCurrent_mA !== null
        ? {
            pct: 100 * (ma - expectedMa),
            value: r.loopCurrent_mA,
            expected: live.zero + live.span * expectedMa,
            range: { low: live.zero, high: live.zero + live.span, unit: 'mA' },
          }
        : pvMa !== null && r.pv !== null
          ? { pct: 100 * (pvMa - expectedMa), value: r.pv, expected: r.applied, range: input }
          : null
  const span = shows.high - shows.low
  const belowJudged = hasRoot(stages) && expectedEu < LOWEST_JUDGED_FLOW
  const allowed_pct = (100 * toleranceAt(tolerance, span, value(shows, expectedMa))) / Math.abs(span)
  return {
    index: r.index,
    direction: r.direction,
    applied: r.applied,
    level_pct: 100 * expectedEu,
    sensorInput_pct: uPv === null ? null : 100 * (uPv - u),
    sensor_pct: pvMa === null ? null : 100 * (pvMa - expectedMa),
    output_pct: ma === null || pvMa === null || saturated ? null : 100 * (ma - pvMa),
    current_pct: ma === null || saturated ? null : 100 * (ma - expectedMa),
    receiver_pct: eu === null || ma === null ? null : 100 * (eu - outputFraction(atController, ma)),
    loop_pct: last?.pct ?? null,
    loop: last && {
      error: last.value - last.expected,
      value: last.value,
      expected: last.expected,
      unit: last.range.unit,
    },
    allowed_pct,
    withinTolerance: last && !belowJudged ? atMost(Math.abs(last.pct), allowed_pct) : null,
    saturated,
  }
}
