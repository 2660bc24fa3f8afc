import { nozzleFlow, nozzleVerdict, type NozzlePoint } from '../instrument/thermal/nozzle.ts'
import { convert, printedUnit } from '../quantity/units.ts'
import { sayNumber } from '../quantity/round.ts'
import { ACTION_SAYS, MISTAKE_SAYS, recommend, type Action, type Recommendation } from '../trim/recommend.ts'
import { judgePoints } from '../verify/input-verdict.ts'
import { phResult } from './buffer-check.ts'
import { readingsOf, type ProcedureRun } from './engine.ts'

/** What the closed readings tell about the decision to adjust. */
export interface Advice {
  readonly choice: 'adjust' | 'leave' | 'accept' | 'report'
  readonly says: readonly string[]
}

/** Of an instrument nobody has told the uncertainty of, a quarter of the tolerance is taken. */
const USUAL_SHARE = 0.25

/** The actions that a procedure can carry out. */
const DOES: Readonly<Record<string, readonly Action[]>> = {
  'zero-trim': ['zeroTrim'],
  'sensor-trim': ['sensorTrim', 'zeroTrim'],
  'output-trim': ['outputTrim'],
  're-range': ['rerange'],
}
const BY_ACTION: Partial<Record<Action, string>> = {
  zeroTrim: 'zero trim',
  sensorTrim: 'lower and upper sensor trim',
  outputTrim: 'output trim',
  rerange: 're-range',
}

/**
 * The smallest right action for a phase of a procedure; null without readings that tell pv and current.
 * @param deviceRange - the range the transmitter was really told, where that is known.
 */
export function recommendationOf(
  run: ProcedureRun,
  phase: 'asFound' | 'asLeft',
  deviceRange: { readonly LRV: number; readonly URV: number } | null = null,
): Recommendation | null {
  const { range, tolerance_pct: T, kind } = run.started.context
  const points = readingsOf(run, phase).flatMap((r) =>
    r.mA === null ? [] : [{ x: r.applied, dir: 'up' as const, pv: r.pv, mA: r.mA }],
  )
  if (points.length === 0) return null
  const each = (x: number) => ({ sensor: x, output: x, total: x })
  return recommend({
    points,
    L: range.low,
    U: range.high,
    Ld: deviceRange?.LRV ?? range.low,
    Ud: deviceRange?.URV ?? range.high,
    T: each(T),
    uncertainty: each(T * USUAL_SHARE),
    absolute: kind === 'absolute',
  })
}

function flowAdvice(run: ProcedureRun): Advice {
  const found = run.done.find((d) => d.step.id === 'asFound-1-read')?.values ?? {}
  const [residual, noise] = [Math.abs(found['pv'] ?? 0), Math.abs(found['noise'] ?? 0)]
  const unit = printedUnit(run.started.context.range.unit)
  const worth = residual > noise
  return {
    choice: worth ? 'adjust' : 'leave',
    says: [
      `Residual ${sayNumber(residual, 4)} ${unit}, noise ±${sayNumber(noise, 3)} ${unit}.`,
      worth
        ? 'It is larger than its noise: setting the zero is worth it.'
        : 'It is lost in its noise: a new zero would only be another one. Leave it alone.',
    ],
  }
}

function phAdvice(run: ProcedureRun): Advice {
  const result = phResult(run.done.filter((d) => d.step.id.startsWith('buffer-')).map((d) => d.values))
  if (!result) return { choice: 'leave', says: ['The buffers give no line: read them again.'] }
  const { offset_mV, slope_pct } = result.electrode
  const says = [`Offset ${sayNumber(offset_mV, 3)} mV, slope ${sayNumber(slope_pct, 4)} % of the ideal.`]
  if (result.warnings.includes('TEMPERATURES_APART'))
    says.push('The two were read at different temperatures: let them come to the same.')
  if (result.warnings.includes('SUSPECT_BUFFER'))
    says.push(
      `One of them lies ${sayNumber(result.maxResidual_mV, 3)} mV off the line: an old bottle, or not the one on the label?`,
    )
  if (result.state === 'REJECTED')
    return { choice: 'leave', says: [...says, 'No sound electrode is like that: clean it, else replace it.'] }
  return {
    choice: 'adjust',
    says: [
      ...says,
      result.state === 'GOOD'
        ? 'The electrode is good.'
        : 'The electrode is near its end: have a new one ready.',
    ],
  }
}

const LEAST_SIGNAL_PCT = 40
/** Speed of sound off by more than this: wall, liner, liquid or temperature is not what was keyed in. */
const SOUND_SPEED_OFF = 0.03

function clampOnAdvice(run: ProcedureRun): Advice {
  const scans = run.done.filter((d) => d.step.id.startsWith('scan-'))
  const says = scans.flatMap(({ values }, i) => {
    const { signal_pct = 0, soundSpeed_m_s: c = NaN, expected_m_s: expected = NaN } = values
    const off = (c - expected) / expected
    return [
      ...(signal_pct < LEAST_SIGNAL_PCT
        ? [
            `Path ${i + 1}: the signal is ${sayNumber(signal_pct, 3)} %, below ${LEAST_SIGNAL_PCT} %: couplant, paint, or spacing.`,
          ]
        : []),
      ...(Math.abs(off) > SOUND_SPEED_OFF
        ? [
            `Path ${i + 1}: the speed of sound is ${sayNumber(100 * off, 2)} % off: wall, liner, liquid or temperature is not as keyed in. Mend that before any zero.`,
          ]
        : []),
    ]
  })
  const flow = flowAdvice(run)
  return says.length > 0 ? { choice: 'leave', says } : flow
}

/** Largest deviation of a gas verification that is accepted, of reading and of full scale, %. */
const GAS_LIMITS = { reading_pct: 1, fullScale_pct: 0.2 } as const

function gasAdvice(run: ProcedureRun): Advice {
  const { throat_mm = NaN, Cd = 0 } = run.done.find((d) => d.step.id === 'nozzle')?.values ?? {}
  const { range } = run.started.context
  const readings = run.done.filter((d) => d.step.id.startsWith('gas-')).map((d) => d.values)
  const says: string[] = []
  const points: NozzlePoint[] = []
  for (const v of readings) {
    const { p0_kPa = NaN, t0_C = NaN, after_kPa = NaN, pv = NaN, baseline_pct = 0 } = v
    const flow = nozzleFlow(throat_mm, p0_kPa, t0_C, after_kPa, Cd > 0 ? Cd : null)
    if (!flow)
      says.push(`${sayNumber(p0_kPa)} kPa at ${sayNumber(t0_C)} °C is outside what is known of nitrogen.`)
    else if (!flow.choked)
      says.push(`At ${sayNumber(p0_kPa)} kPa the nozzle was not sonic: the pressure behind it is too high.`)
    else {
      const told = convert(flow.massFlow_g_s * 3.6, 'kg/h', range.unit)
      if (told.kind === 'value')
        points.push({
          reference: told.value,
          indicated: pv,
          baseline_pct: baseline_pct === 0 ? null : baseline_pct,
        })
      else
        says.push(`The nozzle tells kg/h and the meter ${printedUnit(range.unit)}: read it in a mass flow.`)
    }
  }
  const judged = nozzleVerdict(
    points,
    GAS_LIMITS.reading_pct,
    GAS_LIMITS.fullScale_pct,
    Math.abs(range.high - range.low),
  )
  points.forEach((p, i) => {
    const j = judged[i]
    says.push(
      `Nozzle ${sayNumber(p.reference, 5)}, meter ${sayNumber(p.indicated, 5)} ${printedUnit(range.unit)}: ${sayNumber((100 * (p.indicated - p.reference)) / p.reference, 3)} %${j?.verdict === 'PASS' ? '' : ', too much'}.`,
    )
  })
  const good = points.length === readings.length && judged.every((j) => j.verdict === 'PASS')
  return { choice: good ? 'accept' : 'report', says }
}

/** A change of this much since the first check is worth a report, %. */
const HEALTH_CHANGE_PCT = 5
function healthAdvice(run: ProcedureRun): Advice {
  const { change_pct = 0, alerts = 0 } = run.done.find((d) => d.step.id === 'result')?.values ?? {}
  const good = alerts === 0 && Math.abs(change_pct) <= HEALTH_CHANGE_PCT
  return {
    choice: good ? 'accept' : 'report',
    says: [
      `Largest change ${sayNumber(change_pct, 3)} %, usual up to ${HEALTH_CHANGE_PCT} %. ${alerts === 0 ? 'No alert stands.' : `${sayNumber(alerts)} alerts stand.`}`,
    ],
  }
}

function relayAdvice(run: ProcedureRun): Advice {
  const {
    setpoint = NaN,
    allowed = NaN,
    rate = 0,
    latency_s = 0,
  } = run.done.find((d) => d.step.id === 'point')?.values ?? {}
  const readings = run.done.filter((d) => d.step.id.startsWith('trip-')).map((d) => d.values)
  const v = judgePoints({
    setpoint,
    rate,
    latency_s,
    trips: readings.map((r) => r['trip'] ?? NaN),
    resets: readings.map((r) => r['reset'] ?? NaN),
    T: allowed,
    unit: run.started.context.range.unit,
  })
  return { choice: v.passes ? 'accept' : 'report', says: v.says }
}

function guidedWaveAdvice(run: ProcedureRun): Advice {
  const { applied = NaN, pv = NaN } = run.done.find((d) => d.step.id === 'asFound-1-read')?.values ?? {}
  const {
    mark_pct = 0,
    surface_pct = 0,
    end_pct = 0,
  } = run.done.find((d) => d.step.id === 'echoes')?.values ?? {}
  const { range, tolerance_pct } = run.started.context
  const off = (100 * (pv - applied)) / Math.abs(range.high - range.low)
  const weak = [
    ...(mark_pct < 80 ? ['The reference mark is weak: moisture or a loose joint at the top.'] : []),
    ...(surface_pct < 25 ? ['The surface echo is weak: foam, or a liquid that reflects little.'] : []),
    ...(end_pct < 3 && surface_pct < 25
      ? ['Neither surface nor end of the probe answers: look at the probe.']
      : []),
  ]
  const worth = Math.abs(off) > tolerance_pct && weak.length === 0
  return {
    choice: worth ? 'adjust' : 'leave',
    says: [
      `It reads ${sayNumber(off, 3)} % of span off the tape, allowed ±${sayNumber(tolerance_pct, 3)} %.`,
      ...weak,
    ],
  }
}

/** Procedures whose decision is not about trims. */
const OWN_ADVICE: Readonly<Record<string, (run: ProcedureRun) => Advice>> = {
  'flow-zero': flowAdvice,
  'ph-buffers': phAdvice,
  'clamp-on-start-up': clampOnAdvice,
  'gas-verification': gasAdvice,
  'health-check': healthAdvice,
  'guided-wave-set-up': guidedWaveAdvice,
  'relay-trip': relayAdvice,
}

/** Advice for the decision of a running procedure. */
export function adviceFor(
  run: ProcedureRun,
  deviceRange: { readonly LRV: number; readonly URV: number } | null = null,
): Advice | null {
  const { procedure, context } = run.started
  const own = OWN_ADVICE[procedure]
  if (own) return own(run)
  const r = recommendationOf(run, 'asFound', deviceRange)
  if (!r) return null
  const largest = `Largest error ${sayNumber(r.largestTotal, 3)} % of span, allowed ±${sayNumber(context.tolerance_pct, 3)} %.`
  const mistakes = r.mistakes.map((m) => MISTAKE_SAYS[m])
  // Range before sensor, sensor before output: only the first of them may be done now.
  const first = r.actions[0]
  const fits = first !== undefined && (DOES[procedure]?.includes(first) ?? false)
  const actions = r.actions.length > 0 ? r.actions : (['none'] as const)
  const says = [largest, ...mistakes, ...actions.map((a) => ACTION_SAYS[a])]
  const other = actions.flatMap((a) => BY_ACTION[a] ?? [])
  if (!fits && other.length > 0)
    says.push(`This procedure is not the right one: leave it alone here, then do ${other.join(' and ')}.`)
  return { choice: fits ? 'adjust' : 'leave', says }
}
