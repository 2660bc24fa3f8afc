import { sayNumber } from '../quantity/round.ts'
import { measures, MEASURING_HIGH_MA, MEASURING_LOW_MA } from '../signal/current-range.ts'
import { asksFor, spanOf, state, toleranceOf, unitOf, type Evidence, type GateState } from './gate.ts'
import type { ProcedureRun } from './run.ts'
import type { Step } from './step.ts'

/** A flow at rest scatters up to this many times what its zero is good for. */
const REST_TIMES = 3
/** What any meter scatters by at rest, share of its span, where its zero is better than that. */
const REST_SHARE = 2e-4
/** With the flow stopped no meter reads more than this share of its span, where nothing better is known. */
const AT_REST_SHARE = 0.02
/** A value over the link may differ by this share of the tolerance from what the device shows. */
const TAKEN_SHARE = 0.1

export function limitGate(run: ProcedureRun, step: Step, e: Evidence): GateState {
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

export function quietGate(run: ProcedureRun, step: Step, e: Evidence): GateState {
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
export function digitsGate(run: ProcedureRun, step: Step, e: Evidence): GateState {
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
export function readingGate(run: ProcedureRun, step: Step, e: Evidence): GateState {
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
