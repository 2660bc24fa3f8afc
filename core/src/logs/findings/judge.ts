import { arrived, paceOf, type Arrived, type Channel, type Pace } from '../samples.ts'
import { atFoundLimits, atKnownLimits, outOfRange } from './at-limits.ts'
import { blocksOf } from './blocks.ts'
import { asSteps, type Excursion, excursionsIn, without } from './excursions.ts'
import {
  FEWEST_JUDGED,
  LOG_FINDINGS,
  type JudgeSettings,
  type LogFinding,
  onlyWhere,
  type Values,
} from './finding.ts'
import { frozen } from './frozen.ts'
import { levelsOf } from './levels.ts'
import { noiseChanged } from './noise-changed.ts'
import { findingsOfTime } from './of-time.ts'
import { periodic } from './periodic.ts'
import { quantised } from './quantised.ts'
import { spikes } from './spikes.ts'
import { unitChanged } from './unit-changed.ts'

/** How often a log may change its unit before it is left alone. */
const UNIT_CHANGES = 4

/** What a log has: of its times, its signal, its values; each with the stretch it speaks of, in the order of time. */
export function judgeLog(channel: Channel, s: JudgeSettings): readonly LogFinding[] {
  const a = arrived(channel)
  const pace = paceOf(a, s.gapFactor)
  const values = usableValues(a, pace, s)
  const found = [
    ...findingsOfTime(a, pace, s),
    ...(values.n < FEWEST_JUDGED ? [] : findingsOfValues(values, pace, s)),
  ]
  const order = (f: LogFinding) => LOG_FINDINGS.indexOf(f.code)
  return found.sort((x, y) => x.from - y.from || order(x) - order(y))
}

/** Samples whose signal is good enough, without duplicates; backwards ones in the order of arrival. */
function usableValues(a: Arrived, pace: Pace, s: JudgeSettings): Values {
  const keep = new Uint8Array(a.n)
  const clock = new Float64Array(a.n)
  for (let i = 0; i < a.n; i++) {
    keep[i] = a.arrival[i] === 'duplicate' || (a.q?.[i] ?? NaN) < s.qualityLimit ? 0 : 1
    const step = i === 0 ? 0 : (a.t[i] ?? 0) - (a.t[i - 1] ?? 0)
    const counted = i === 0 || a.arrival[i] === 'duplicate' ? 0 : step > 0 ? step : pace.interval
    clock[i] = (clock[i - 1] ?? 0) + counted / 1000
  }
  return fromZero(onlyWhere({ n: a.n, t: a.t, clock, x: a.v }, keep))
}
const fromZero = (s: Values): Values => ({ ...s, clock: s.clock.map((t) => t - (s.clock[0] ?? 0)) })

function findingsOfValues(all: Values, pace: Pace, s: JudgeSettings): LogFinding[] {
  const known = atKnownLimits(all, s)
  const inside = fromZero(onlyWhere(all, known.keep))
  const found: LogFinding[] = [...outOfRange(all, s), ...known.found]
  if (inside.n < FEWEST_JUDGED) return found
  const piles = atFoundLimits(inside, s.zeroShare)
  const limits = piles.map((f) => Number(f.evidence['limit']))
  const still = frozen(inside, s.minRun, limits)
  found.push(...piles, ...still.found)
  const moving = fromZero(onlyWhere(inside, still.keep))
  if (moving.n < FEWEST_JUDGED) return found
  return [...found, ...findingsOfMovement(moving, pace.interval / 1000, limits, s)]
}

/** Resolution, spikes, waves, noise, levels; judged again behind a change of unit as if it had not been. */
function findingsOfMovement(
  moving: Values,
  interval_s: number,
  limits: readonly number[],
  s: JudgeSettings,
): LogFinding[] {
  const changes: LogFinding[] = []
  let values = moving
  for (;;) {
    const { found, unit } = once(values, interval_s, limits, s)
    if (!unit || changes.length >= UNIT_CHANGES) return [...changes, ...found]
    const at = values.t[unit.sample] ?? 0
    const { factor, offset, ratio } = unit
    changes.push({ code: 'UNIT_CHANGED', from: at, to: at, evidence: { factor, offset, ratio } })
    values = { ...values, x: values.x.map((x, i) => (i < unit.sample ? x : (x - offset) / factor)) }
  }
}

function once(values: Values, interval_s: number, limits: readonly number[], s: JudgeSettings) {
  const coarse = quantised(values, s.zeroShare, limits)
  const step = coarse ? Number(coarse.evidence['step']) : 0
  const dust = DUST * spreadOf(values.x)
  const calm = spikes(values, s.spikeK, Math.max(step / 2, dust / s.spikeK), limits)
  const all = excursionsIn(calm.values.x, Math.max(2 * step, dust))
  // Two steps nearer than two blocks of the whole are beyond the rule of steps; it judges the longer ones itself.
  const { m } = blocksOf(values.n)
  const short = all.filter((e) => e.to - e.from < APART_BLOCKS * m)
  const long = all.filter((e) => !short.includes(e))
  const out = { ...calm.values, x: without(calm.values.x, short) }
  const isReal = (w: ReturnType<typeof periodic>) =>
    w && Number(w.found.evidence['amplitude']) > dust ? w : null
  const wave = isReal(periodic(out, interval_s, s.cPeriodic))
  const rest = wave?.values ?? out
  const first = levelled(rest, limits, coarse !== null, s, dust, long)
  // A step spreads over the spectrum and can hide a wave: looked for again once the steps are out.
  const later =
    wave || first.steps.length === 0 ? null : isReal(periodic(first.withoutSteps, interval_s, s.cPeriodic))
  const end = later
    ? levelled(withoutWave(rest, first.withoutSteps, later.values), limits, coarse !== null, s, dust, long)
    : first
  return {
    unit: unitChanged(out, end.terms),
    found: [
      ...(coarse ? [coarse] : []),
      ...calm.found,
      ...asSteps(values, short),
      ...(wave ? [wave.found] : later ? [later.found] : []),
      ...end.found,
    ],
  }
}

const withoutWave = (rest: Values, flat: Values, flatter: Values): Values => ({
  ...rest,
  x: rest.x.map((x, i) => x - ((flat.x[i] ?? 0) - (flatter.x[i] ?? 0))),
})

/** Fewest blocks between two steps of the whole. */
const APART_BLOCKS = 2
/** Of the spread of a log: what is smaller is left by taking waves out, and no movement. */
const DUST = 1e-5
function spreadOf(x: Float64Array): number {
  let [lo, hi] = [Infinity, -Infinity]
  for (const v of x) {
    if (v < lo) lo = v
    if (v > hi) hi = v
  }
  return hi > lo ? hi - lo : 0
}

function levelled(
  s: Values,
  limits: readonly number[],
  isQuantised: boolean,
  o: JudgeSettings,
  dust: number,
  /** Both ends of one of these lie in blocks next to each other: that is no other scatter. */
  excursions: readonly Excursion[],
) {
  const blocks = blocksOf(s.n)
  const noise = isQuantised
    ? { found: [], profile: new Float64Array(blocks.N).fill(1) }
    : noiseChanged({ ...s, x: without(s.x, excursions) }, blocks, limits, o, dust)
  const levels = levelsOf(s, blocks, noise.profile, isQuantised, o.c)
  const [from, to] = [s.t[0] ?? 0, s.t[s.n - 1] ?? 0]
  const hours = ((s.clock[s.n - 1] ?? 0) - (s.clock[0] ?? 0)) / 3600
  const least = Math.max(levels.noise / 2, dust)
  const steps = levels.terms.filter((t) => t.kind === 'step')
  const found: LogFinding[] = [...noise.found]
  for (const t of levels.terms) {
    const size = t.kind === 'line' ? 2 * t.coefficient : t.coefficient
    if (Math.abs(size) < least) continue
    const at = s.t[t.sample] ?? 0
    found.push(
      t.kind === 'line'
        ? { code: 'DRIFT', from, to, evidence: { total: size, perHour: size / hours } }
        : { code: 'STEP', from: at, to: at, evidence: { size } },
    )
  }
  const withoutSteps: Values = {
    ...s,
    x: s.x.map((x, i) => steps.reduce((left, t) => (i >= t.sample ? left - t.coefficient : left), x)),
  }
  return { found, terms: levels.terms, steps, withoutSteps }
}
