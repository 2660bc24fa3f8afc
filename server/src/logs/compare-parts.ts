import type { Progress } from '@calm/contract/api/news'
import type { LogComparison } from '@calm/contract/logs'
import { BLOCK } from '@calm/core/logs/blocks'
import { type ClocksApart, clocksApart, lagAt } from '@calm/core/logs/compare/clocks'
import {
  type Base,
  baseOf,
  comparedOf,
  lagsOf,
  MOST_STEPS,
  type NotCompared,
  tooLong,
} from '@calm/core/logs/compare/compare'
import { lagOf } from '@calm/core/logs/compare/lag'
import { lagSumsAdded, MOST_LAG, type Origin } from '@calm/core/logs/compare/lag-sums'
import type { OwnTime } from '@calm/core/logs/compare/parts'
import { partsOfTwo } from '@calm/core/logs/compare/seams'
import { heldBy, type HeldBy } from '@calm/core/logs/usable'
import type pg from 'pg'
import { conflict } from '../http/problems.ts'
import { inItsTurn } from '../work/patient.ts'
import type { Pool } from '../work/pool.ts'
import { askedFor, ofLog, toldOf } from './compared.ts'
import type { HeldAgainst } from './held-against.ts'
import { type Judged, type JudgeLogs, MOST_JUDGED } from './judgement.ts'
import { qualityBetween, samplesBetween, spansBetween } from './samples.ts'
import { type CompareTwo, inUnit, type Side } from './two.ts'
import { lagOfPart, pairsOfPart, type PartToCompare } from './work.ts'

/** Steps that a part sees beyond the lag: what lies between two samples is a straight line. */
const STEPS_BEYOND = 10

const within = ({ from, to }: OwnTime, asked: OwnTime, more_ms = 0): OwnTime => ({
  from: Math.max(asked.from, from - more_ms),
  to: Math.min(asked.to, to + more_ms),
})

/** Cuts two stretches into parts. @param beyond_ms - how far a part looks beyond its own */
async function partsOf(
  clients: pg.Pool,
  two: CompareTwo,
  { step_ms }: Base,
  beyond_ms: number,
): Promise<readonly OwnTime[]> {
  const spans = ({ log, channel }: Side) => spansBetween(clients, { log: log.id, channel }, two.from, two.to)
  const parts = partsOfTwo(await spans(two.a), await spans(two.b), beyond_ms, MOST_JUDGED - BLOCK)
  if (!parts)
    throw conflict(
      'Too many samples of one of these logs lie within one time: its clock went back, it is recorded far more densely than the other one, or the lag may be too long. Choose a shorter stretch.',
    )
  const points = (own: OwnTime) => {
    const { from, to } = within(own, two, beyond_ms)
    return (to - from) / step_ms
  }
  if (parts.some((own) => points(own) > MOST_STEPS))
    throw conflict('A gap in these logs is too long to be compared over: choose a stretch on one side of it.')
  return parts
}

/** Values near the middle of both, in the unit of the first. */
function originOf({ a, b }: CompareTwo, ja: Judged, jb: Judged): Origin {
  const mean = (j: Judged) => Float64Array.of(0, j.statistics?.mean ?? 0)
  return { a: mean(ja)[1] ?? 0, b: inUnit(mean(jb), b.unit, a.unit)[1] ?? 0 }
}

/** The longest lag within a part, ms: two clocks may go farther apart than a lag was looked for. */
const farthest = (own: OwnTime, two: OwnTime, clocks: ClocksApart | null): number => {
  const { from, to } = within(own, two)
  return clocks ? Math.max(...[from, to].map((time) => Math.abs(lagAt(time, 0, clocks)))) : 0
}

/** Reads what is seen of both in a part. */
function reader(clients: pg.Pool, two: CompareTwo, left: Readonly<Record<'a' | 'b', HeldBy>>) {
  const { a, b } = two
  return async (own: OwnTime, beyond_ms: number): Promise<Omit<PartToCompare, 'step_ms' | 'origin'>> => {
    const seen = within(own, two, beyond_ms)
    const { from, to } = seen
    const samples = ({ log, channel }: Side) => samplesBetween(clients, { log: log.id, channel }, from, to)
    const quality = ({ log, channel }: Side) => qualityBetween(clients, log, channel, from, to)
    const here = ({ leftOut }: HeldBy) =>
      leftOut
        .filter((f) => f.to >= from && f.from <= to)
        .map(({ code, from: f, to: t }) => ({ code, from: f, to: t }))
    return {
      a: await samples(a),
      b: inUnit(await samples(b), b.unit, a.unit),
      qualityOfA: await quality(a),
      qualityOfB: await quality(b),
      ...seen,
      leftOut: { a: here(left.a), b: here(left.b) },
      own,
    }
  }
}

/** Both are judged, then their lag is looked for, then it is taken out: one way of a hundred parts. */
const PHASES = 4
const inPhase =
  (phase: number, tell: (p: Progress) => void) =>
  ({ done, of }: Progress) => {
    tell({ done: Math.round((100 * (phase + done / of)) / PHASES), of: 100 })
  }

function whole<Out>(part: Out | null): Out {
  if (part === null)
    throw conflict('A part of these stretches cannot be compared in a minute: choose shorter ones.')
  return part
}

/**
 * Compares two logs that are too long to be compared at once, part by part: what of them measures, then their lag over
 * all parts, then their pairs with it taken out. The numbers are those of the whole.
 */
export function comparerByParts(clients: pg.Pool, pool: Pool, judge: JudgeLogs) {
  return async (
    loopId: string,
    two: CompareTwo,
    against: HeldAgainst | null,
    gone: AbortSignal,
    tell: (p: Progress) => void,
  ): Promise<Omit<LogComparison, 'unit'> | NotCompared> => {
    const o = askedFor({ ...two, against })
    const judged = (s: Side, phase: number) =>
      judge(loopId, s.log, { ...two, channel: s.channel }, gone, inPhase(phase, tell))
    const [ja, jb] = [await judged(two.a, 0), await judged(two.b, 1)]
    if (!ja.findings || !jb.findings)
      throw conflict('These stretches could not be judged: choose shorter ones.')
    const [a, b] = [heldBy(ja.findings), heldBy(jb.findings)]
    if ('says' in a) return ofLog('a', a.says)
    if ('says' in b) return ofLog('b', b.says)
    if (!ja.interval_ms || !jb.interval_ms)
      return ofLog(ja.interval_ms ? 'b' : 'a', 'has fewer than two samples in this stretch.')

    const base = baseOf([ja.interval_ms, jb.interval_ms], o)
    const { step_ms, most } = base
    if (most > MOST_LAG) return tooLong(most)
    const beyond = (lag_ms: number) => Math.max(1000 * o.maxLag_s, lag_ms) + STEPS_BEYOND * step_ms
    const parts = await partsOf(clients, two, base, beyond(0))
    const read = reader(clients, two, { a, b })
    const both = { step_ms, origin: originOf(two, ja, jb) }
    const of = parts.length

    const lagged = []
    for (const own of parts) {
      inPhase(2, tell)({ done: lagged.length, of })
      const part = { ...(await read(own, beyond(0))), ...both, most }
      const mine = within(own, two)
      lagged.push({
        at: (mine.from + mine.to) / 2,
        sums: whole(await inItsTurn(pool, lagOfPart, part, gone)),
      })
    }
    const lag = lagOf(lagSumsAdded(lagged.map((p) => p.sums)))
    const clocks = clocksApart(lagsOf(lagged, step_ms), step_ms / 1000)
    const pairs = []
    for (const own of parts) {
      inPhase(3, tell)({ done: pairs.length, of })
      const seen = await read(own, beyond(farthest(own, two, clocks)))
      const part = { ...seen, ...both, ...o, clocks, lag_ms: lag.steps * step_ms }
      pairs.push(whole(await inItsTurn(pool, pairsOfPart, part, gone)))
    }
    const told = comparedOf(pairs, lag, clocks, base, o)
    return 'says' in told ? told : { ...toldOf(told, a, b, o), parts: parts.length }
  }
}
