import { currentOf, fractionOf, measures } from '../signal/current-range.ts'
import { applyTransfer, LINEAR, type Transfer } from '../signal/transfer.ts'
import { errorComponents, type ErrorComponents } from '../verify/components.ts'
import type { Direction } from '../verify/plan.ts'
import { atMost } from '../verify/tolerance.ts'

/** One as-found point: applied input, direction, digital reading, loop current. */
export interface FoundPoint {
  readonly x: number
  readonly dir: Direction
  readonly pv: number
  readonly mA: number
}
export interface FoundTask {
  readonly points: readonly FoundPoint[]
  /** Documented range, and the one the device was really told. */
  readonly L: number
  readonly U: number
  readonly Ld: number
  readonly Ud: number
  readonly transfer?: Transfer
  /** Tolerances and expanded uncertainties, % of span. */
  readonly T: { readonly sensor: number; readonly output: number; readonly total: number }
  readonly uncertainty: { readonly sensor: number; readonly output: number; readonly total: number }
  readonly absolute?: boolean
  /** Barometric pressure in the input's unit, for an absolute device. */
  readonly atm?: number
}

export interface FoundErrors extends FoundPoint {
  /** Percent of the documented range. */
  readonly p: number
  /** Sensor in the input domain, used for the trim decision. */
  readonly esPv: number
  readonly es: number
  readonly er: number
  readonly eo: number
  readonly et: number
  readonly saturated: boolean
}

/** Each point's error taken apart; sensor, range and output add up to the whole exactly. */
export function decompose(task: FoundTask): FoundErrors[] {
  const { L, U, Ld, Ud } = task
  const G = (u: number) => applyTransfer(task.transfer ?? LINEAR, u)
  const f = (v: number) => G((v - L) / (U - L))
  const fd = (v: number) => G((v - Ld) / (Ud - Ld))
  return task.points.map((pt) => {
    const ideal = currentOf(fd(pt.pv))
    const out = fractionOf(pt.mA)
    return {
      ...pt,
      p: (100 * (pt.x - L)) / (U - L),
      esPv: (100 * (pt.pv - pt.x)) / (U - L),
      es: 100 * (f(pt.pv) - f(pt.x)),
      er: 100 * (fd(pt.pv) - f(pt.pv)),
      eo: 100 * (out - fd(pt.pv)),
      et: 100 * (out - f(pt.x)),
      saturated: !measures(ideal),
    }
  })
}

export type Action = 'none' | 'zeroTrim' | 'sensorTrim' | 'outputTrim' | 'rerange' | 'retest' | 'repair'
interface Option {
  readonly action: Action
  readonly corr: (p: number) => number
}
interface Decided {
  readonly action: Action
  readonly corr: ((p: number) => number) | null
  readonly marginal: boolean
}

/** The least intrusive correction that is enough, or an honest retest or repair. */
function decide(
  e: readonly { e: number; p: number }[],
  T: number,
  U: number,
  options: readonly Option[],
): Decided {
  const plain = (action: Action): Decided => ({ action, corr: null, marginal: false })
  if (T - U <= 0) return plain('retest')
  const largest = (corr: (p: number) => number) => Math.max(...e.map((x) => Math.abs(x.e - corr(x.p))))
  const M0 = largest(() => 0)
  if (atMost(M0, T - U)) return plain('none')
  let best: { M: number; option: Option } | null = null
  for (const option of options) {
    const M = largest(option.corr)
    if (atMost(M, T - U)) return { action: option.action, corr: option.corr, marginal: false }
    if (!best || M < best.M) best = { M, option }
  }
  if (best && best.M <= M0 / 2 && atMost(best.M, T))
    return { action: best.option.action, corr: best.option.corr, marginal: true }
  return plain(Math.min(M0, best?.M ?? Infinity) > T + U ? 'repair' : 'retest')
}

const lineOf = (c: ErrorComponents | null) => (p: number) => (c ? c.zero_pct + (c.span_pct * p) / 100 : 0)

export type Mistake = 'OUTPUT_MASKS_SENSOR' | 'RERANGE_MASKS_SENSOR' | 'ABS_ZEROED' | 'LOW_TUR'
export interface Recommendation {
  readonly errors: readonly FoundErrors[]
  readonly sensor: ErrorComponents | null
  readonly output: ErrorComponents | null
  readonly largestTotal: number
  readonly actions: readonly Action[]
  /** The actions joined, as they are done. */
  readonly action: string
  readonly marginal: boolean
  readonly mistakes: readonly Mistake[]
}

/** The smallest right action for a set of as-found readings, and the mistakes that hide in them. */
export function recommend(task: FoundTask): Recommendation {
  const { L, U, Ld, Ud, T, uncertainty } = task
  const errors = decompose(task)
  const series = (pick: (x: FoundErrors) => number, list: readonly FoundErrors[]) =>
    errorComponents(list.map((x) => ({ level_pct: x.p, direction: x.dir, error_pct: pick(x) })))
  const open = errors.filter((x) => !x.saturated)
  const sensor = series((x) => x.esPv, errors)
  const output = series((x) => x.eo, open)
  const levels = errors.map((x) => x.p)
  const p0 = (100 * (0 - L)) / (U - L)
  const zeroRead = p0 >= Math.min(...levels) - 5 && p0 <= Math.max(...levels) + 5
  const atZero = lineOf(sensor)(p0)
  const zeroTrim: Option = { action: 'zeroTrim', corr: () => atZero }
  const sensorTrim: Option = { action: 'sensorTrim', corr: lineOf(sensor) }
  const outputTrim: Option = { action: 'outputTrim', corr: lineOf(output) }
  const mayZero = zeroRead && !task.absolute
  const byPv = errors.map((x) => ({ e: x.esPv, p: x.p }))
  const byOut = open.map((x) => ({ e: x.eo, p: x.p }))
  const s = decide(byPv, T.sensor, uncertainty.sensor, [...(mayZero ? [zeroTrim] : []), sensorTrim])
  const o = byOut.length > 0 ? decide(byOut, T.output, uncertainty.output, [outputTrim]) : null
  const rerange = Math.max(Math.abs(Ld - L), Math.abs(Ud - U)) > 1e-4 * Math.abs(U - L)
  let actions: Action[] = [
    ...(rerange ? (['rerange'] as const) : []),
    ...(s.action === 'none' ? [] : [s.action]),
    ...(o && o.action !== 'none' ? [o.action] : []),
  ]
  const largestTotal = Math.max(...errors.map((x) => Math.abs(x.et)))
  const [Tt, Ut] = [T.total, uncertainty.total]
  if (actions.length === 0 && !atMost(largestTotal, Tt - Ut))
    actions = totalActions(open, Tt, Ut, mayZero ? zeroTrim : null, sensorTrim, outputTrim)
  const mistakes = mistakesOf(task, errors, sensor, rerange)
  return {
    errors,
    sensor,
    output,
    largestTotal,
    actions,
    action: actions.length > 0 ? actions.join('+') : 'none',
    marginal: s.marginal || (o?.marginal ?? false),
    mistakes,
  }
}

/** Every part passes and the whole does not: the smallest set of corrections that brings it inside. */
function totalActions(
  open: readonly FoundErrors[],
  T: number,
  U: number,
  zeroTrim: Option | null,
  sensorTrim: Option,
  outputTrim: Option,
): Action[] {
  const tries: Option[][] = [
    ...(zeroTrim ? [[zeroTrim]] : []),
    [outputTrim],
    [sensorTrim],
    ...(zeroTrim ? [[zeroTrim, outputTrim]] : []),
    [sensorTrim, outputTrim],
  ]
  let best: { M: number; set: Option[] } | null = null
  for (const set of tries) {
    const M = Math.max(...open.map((x) => Math.abs(x.et - set.reduce((sum, o) => sum + o.corr(x.p), 0))))
    if (atMost(M, T - U)) return set.map((o) => o.action)
    if (!best || M < best.M) best = { M, set }
  }
  if (best && atMost(best.M, T)) return best.set.map((o) => o.action)
  return [best && atMost(best.M, T + U) ? 'retest' : 'repair']
}

function mistakesOf(
  task: FoundTask,
  errors: readonly FoundErrors[],
  sensor: ErrorComponents | null,
  rerange: boolean,
): Mistake[] {
  const { T, uncertainty } = task
  const most = (pick: (x: FoundErrors) => number) => Math.max(...errors.map((x) => Math.abs(pick(x))))
  const [es, eo, er] = [most((x) => x.es), most((x) => x.eo), most((x) => x.er)]
  const out: Mistake[] = []
  if (es > T.sensor && eo > T.output && most((x) => x.es + x.eo) <= 0.5 * Math.min(es, eo))
    out.push('OUTPUT_MASKS_SENSOR')
  if (rerange && es > T.sensor && most((x) => x.es + x.er) <= 0.5 * Math.min(es, er))
    out.push('RERANGE_MASKS_SENSOR')
  if (task.absolute && task.atm !== undefined && sensor) {
    const zero = (sensor.zero_pct * (task.U - task.L)) / 100
    const constant = most((x) => x.esPv - sensor.zero_pct) <= 10 * T.sensor
    if (Math.abs(zero + task.atm) <= 0.1 * task.atm && constant) out.push('ABS_ZEROED')
  }
  if (T.sensor - uncertainty.sensor <= 0 || T.output - uncertainty.output <= 0) out.push('LOW_TUR')
  return out
}

export const ACTION_SAYS: Readonly<Record<Action, string>> = {
  none: 'Leave it alone.',
  zeroTrim: 'Zero trim: the error is the same everywhere. Somebody must be there, with no input applied.',
  sensorTrim: 'Lower, then upper sensor trim: zero and span are off. A known input must be applied.',
  outputTrim:
    'Output trim at 4, then 20 mA: the current does not follow the digital reading. It must be measured.',
  rerange: 'Set the range as documented first, then judge again.',
  retest: 'Read again with a smaller uncertainty: this cannot be decided.',
  repair: 'Repair or replace: no trim removes a bent or sticking sensor.',
}
export const MISTAKE_SAYS: Readonly<Record<Mistake, string>> = {
  OUTPUT_MASKS_SENSOR:
    'The output was trimmed to hide a sensor error: the current looks right and the digital reading is wrong.',
  RERANGE_MASKS_SENSOR:
    'The range was moved to hide a zero shift: the current looks right and the reading is wrong.',
  ABS_ZEROED:
    'An absolute transmitter was zeroed in open air: restore the factory trim, then trim against an absolute standard.',
  LOW_TUR: 'The uncertainty is as large as the tolerance: nothing can be judged with these instruments.',
}
