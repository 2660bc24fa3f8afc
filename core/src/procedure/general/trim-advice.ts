import { sayNumber } from '../../quantity/round.ts'
import {
  ACTION_SAYS,
  MISTAKE_SAYS,
  recommend,
  type Action,
  type Recommendation,
} from '../../trim/recommend.ts'
import { readingsOf, type ProcedureRun } from '../run.ts'
import type { Advice } from '../step.ts'
import { PROCEDURE_OF_ACTION } from './right-one.ts'

const BY_ACTION: Partial<Record<Action, string>> = {
  zeroTrim: 'zero trim',
  sensorTrim: 'lower and upper sensor trim',
  outputTrim: 'output trim',
  rerange: 're-range',
}

/** Of an instrument nobody has told the uncertainty of, a quarter of the tolerance is taken. */
const USUAL_SHARE = 0.25

/** The smallest right action for a phase of a procedure; null without readings that tell pv and current. */
export function recommendationOf(run: ProcedureRun, phase: 'asFound' | 'asLeft'): Recommendation | null {
  const { range, tolerance_pct: T, kind, transfer } = run.started.context
  const deviceRange = run.done.findLast((d) => d.seen?.range)?.seen?.range ?? null
  const readings = readingsOf(run, phase)
  const points = readings.flatMap((r, i) => {
    const falling = i > 0 && r.applied < (readings[i - 1]?.applied ?? r.applied)
    return r.mA === null
      ? []
      : [{ x: r.applied, dir: falling ? ('down' as const) : ('up' as const), pv: r.pv, mA: r.mA }]
  })
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
    ...(transfer ? { transfer } : {}),
  })
}

/** Advice of a procedure that can carry out these actions: do it, or leave it alone and do the right one. */
export const trimAdvice =
  (...does: readonly Action[]) =>
  (run: ProcedureRun): Advice | null => {
    const r = recommendationOf(run, 'asFound')
    if (!r) return null
    const largest = `Largest error ${sayNumber(r.largestTotal, 3)} % of span, allowed ±${sayNumber(run.started.context.tolerance_pct, 3)} %.`
    const mistakes = r.mistakes.map((m) => MISTAKE_SAYS[m])
    // Range before sensor, sensor before output: only the first of them may be done now.
    const first = r.actions[0]
    const fits = first !== undefined && does.includes(first)
    const actions = r.actions.length > 0 ? r.actions : (['none'] as const)
    const says = [largest, ...mistakes, ...actions.map((x) => ACTION_SAYS[x])]
    const other = actions.flatMap((x) => BY_ACTION[x] ?? [])
    if (!fits && other.length > 0)
      says.push(`This procedure is not the right one: leave it alone here, then do ${other.join(' and ')}.`)
    const instead = fits ? [] : actions.flatMap((x) => PROCEDURE_OF_ACTION[x] ?? [])
    return { choice: fits ? 'adjust' : 'leave', says, ...(instead.length > 0 ? { instead } : {}) }
  }
