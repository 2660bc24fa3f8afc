import { printedUnit } from '../quantity/units.ts'
import { sayNumber } from '../quantity/round.ts'
import { ACTION_SAYS, MISTAKE_SAYS, recommend, type Action, type Recommendation } from '../trim/recommend.ts'
import { phResult } from './buffer-check.ts'
import { readingsOf, type ProcedureRun } from './engine.ts'

/** What the closed readings tell about the decision to adjust. */
export interface Advice {
  readonly choice: 'adjust' | 'leave'
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

/** Advice for the decision of a running procedure. */
export function adviceFor(
  run: ProcedureRun,
  deviceRange: { readonly LRV: number; readonly URV: number } | null = null,
): Advice | null {
  const { procedure, context } = run.started
  if (procedure === 'flow-zero') return flowAdvice(run)
  if (procedure === 'ph-buffers') return phAdvice(run)
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
