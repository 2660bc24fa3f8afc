import { Generator } from '../statistics/generator.ts'
import { brokenRules } from './check.ts'
import { allChoices, choicesOf, mustEndBy, soonest } from './choices.ts'
import { type Cost, costOf, isLess } from './cost.ts'
import { inPoints, type LaidCost, Layout, type Sequence } from './layout.ts'
import type { Day, Placed } from './problem.ts'
import { known } from './sight.ts'
import { insertions, placingBeside } from './insert.ts'

export interface Searched {
  readonly placed: readonly Placed[]
  readonly cost: Cost
  readonly steps: number
}

const LEAST_TEMPERATURE = 30
/** Steps of the first round; each one is longer than the last. */
const FIRST_ROUND = 500
const LONGER = 1.5
/** Every second round begins so much warmer: what is left out changes only over plans that are much worse. */
const WARMER = 5

/** Jobs in an order in which each comes behind those that it waits for. */
function behind(d: Day, order: readonly number[]): readonly number[] {
  const isIn = new Uint8Array(d.jobs.length)
  const isBehind = order.every((i) => {
    isIn[i] = 1
    return d.jobs[i]?.after.every((a) => isIn[a] === 1)
  })
  if (isBehind) return order
  isIn.fill(0)
  const out: number[] = []
  const put = (i: number): void => {
    if (isIn[i] === 1) return
    isIn[i] = 1
    for (const a of d.jobs[i]?.after ?? []) put(a)
    out.push(i)
  }
  order.forEach(put)
  return out
}

/**
 * A good plan of a day of any size: several first plans, then the best one changed at random, worse ones taken less and
 * less often, in rounds of which each is longer than the last. Nothing but the number of a step decides what is done in
 * it: the same seed and number of steps give the same plan, also where the clock ended them.
 * @param isOver - asked every sixteenth step
 */
export function searchPlan(d: Day, seed: number, mostSteps: number, isOver: () => boolean): Searched {
  const g = new Generator(seed)
  const choices = allChoices(d)
  const line = new Layout(d, choices)
  const least = d.jobs.map((_, i) =>
    Math.min(
      ...(choices[i] ?? []).map((a) =>
        soonest(a, Math.max(d.turns[a.choice.turn]?.start ?? 0, a.from), 0, 0),
      ),
      Number.MAX_SAFE_INTEGER,
    ),
  )
  const value = (i: number) => d.jobs[i]?.value ?? 0
  /** What is agreed comes into the line when its time has come. */
  const early = (i: number): number | null => {
    const lock = d.jobs[i]?.lock
    return lock ? lock.start - 30 : null
  }
  const by = (key: (i: number) => number) =>
    behind(
      d,
      d.jobs.map((_, i) => i).sort((a, b) => (early(a) ?? key(a)) - (early(b) ?? key(b)) || a - b),
    )
  const orders = [
    by((i) => (least[i] ?? 0) - 0.2 * value(i)),
    by((i) => (least[i] ?? 0) + ((d.jobs[i]?.due ?? 0) - d.now) / 30 - value(i) / 4),
    by((i) => d.now - value(i) / (d.jobs[i]?.minutes ?? 1)),
    by((i) => (least[i] ?? 0) + (d.jobs[i]?.minutes ?? 0)),
  ]
  type Best = LaidCost & { readonly placed: readonly Placed[]; readonly s: Sequence }
  let best = null as Best | null
  const keep = (s: Sequence, c: LaidCost) => {
    const isBetter = !best || c.missed < best.missed || (c.missed === best.missed && isLess(c, best))
    if (!isBetter) return
    const placed = line.placed(s)
    // Whatever leaves here was held against every rule.
    if (c.missed > 0 || brokenRules(d, known(d, placed)).length === 0) best = { ...c, placed, s }
  }
  let now: { s: Sequence; at: number } = { s: { order: [], option: d.jobs.map(() => -1) }, at: Infinity }
  for (const order of orders) {
    const s: Sequence = { order, option: d.jobs.map(() => -1) }
    const cost = line.lay(s)
    if (!cost) continue
    keep(s, cost)
    if (inPoints(cost) < now.at) now = { s, at: inPoints(cost) }
  }
  const hot = Math.max(LEAST_TEMPERATURE, 0.006 * Math.min(now.at, 1e6))
  const n = d.jobs.length
  let [steps, inRound, round, rounds] = [0, 0, FIRST_ROUND, 0]
  const pick = (k: number) => Math.floor(g.uniform() * k)
  while (steps < mostSteps && n > 0) {
    if (steps % 16 === 15 && isOver()) break
    steps++
    if (++inRound > round) {
      inRound = 1
      rounds++
      round = Math.round(round * LONGER)
      if (best) now = { s: best.s, at: inPoints(best) }
    }
    const heat = (rounds % 2 === 1 ? WARMER * hot : hot) ** (1 - inRound / round)
    const changed = anotherSequence(d, now.s, choices, pick, g)
    // How much dearer it may be is thrown before it is laid out: what is dearer is left in the middle.
    const cost = line.lay(changed, now.at - heat * Math.log(Math.max(g.uniform(), Number.MIN_VALUE)))
    if (!cost) continue
    const at = inPoints(cost)
    now = { s: changed, at }
    keep(changed, cost)
  }
  const found = best
  // However little time there was: what was agreed stands where it can, and the rest beside it.
  const agreed = found && found.missed === 0 ? null : agreedAlone(d)
  const begin = agreed ?? found?.placed
  if (!begin) return { placed: [], cost: costOf(d, []), steps }
  const whole = insertions(d, begin)
  return { placed: whole, cost: costOf(d, whole), steps }
}

/** At most so many ways of keeping what was agreed are looked at. */
const MOST_TRIES = 2000

/**
 * What was agreed, each where it was agreed with helpers and instruments that serve all of it, and before it what it
 * waits for; null where nothing like that was found.
 */
function agreedAlone(d: Day): Placed[] | null {
  const locked = d.jobs.flatMap((j, i) => (j.lock ? [i] : []))
  const ends = mustEndBy(d)
  let tries = 0
  /** As long as not all is there some of it is missing, and waits for something. */
  const isRightSoFar = (_: Day, placed: readonly Placed[]): boolean =>
    ++tries <= MOST_TRIES &&
    brokenRules(d, known(d, placed)).every((b) => b.code === 'LOCK_MOVED' || b.code === 'BEFORE_AFTER')
  const order = behind(d, locked)
  const first = order.filter((i) => !d.jobs[i]?.lock)
  const withRest = (placed: readonly Placed[]): Placed[] | null => {
    const out = [...placed]
    for (const job of first) {
      const p = placingBeside(d, out, job, ends[job], isRightSoFar)
      if (!p) return null
      out.push(p)
    }
    return brokenRules(d, known(d, out)).length === 0 ? out : null
  }
  const go = (placed: readonly Placed[], at: number): Placed[] | null => {
    const job = locked[at]
    const lock = d.jobs[job ?? -1]?.lock
    if (job === undefined || !lock) return withRest(placed)
    for (const { person, helper, instruments } of choicesOf(d, job)) {
      const next = [...placed, { job, person, helper, instruments, start: lock.start }]
      if (!isRightSoFar(d, next)) continue
      const whole = go(next, at + 1)
      if (whole) return whole
    }
    return null
  }
  return go([], 0)
}

/** A neighbour of a sequence: a job elsewhere, otherwise, beside its like; two exchanged; a few taken out and put back. */
function anotherSequence(
  d: Day,
  s: Sequence,
  choices: readonly (readonly unknown[])[],
  pick: (n: number) => number,
  g: Generator,
): Sequence {
  const order = [...s.order]
  const option = [...s.option]
  const n = order.length
  const choose = (job: number) => {
    const k = choices[job]?.length ?? 0
    option[job] = k === 0 || g.uniform() < 0.3 ? -1 : pick(k)
  }
  const kind = g.uniform()
  const from = pick(n)
  const job = order[from] ?? 0
  if (kind < 0.4) {
    order.splice(from, 1)
    const to = g.uniform() < 0.5 ? pick(n) : Math.max(0, Math.min(n - 1, from + pick(7) - 3))
    order.splice(to, 0, job)
    if (g.uniform() < 0.5) choose(job)
  } else if (kind < 0.55) choose(job)
  else if (kind < 0.7) {
    const j = d.jobs[job]
    const like = order.findIndex(
      (x) => x !== job && (d.jobs[x]?.area === j?.area || (j?.kit !== null && d.jobs[x]?.kit === j?.kit)),
    )
    if (like >= 0) {
      const beside = order[like] ?? 0
      order.splice(from, 1)
      order.splice(order.indexOf(beside) + (g.uniform() < 0.5 ? 0 : 1), 0, job)
      option[job] = -1
    }
  } else if (kind < 0.85) {
    const to = pick(n)
    order[from] = order[to] ?? job
    order[to] = job
  } else {
    const count = 2 + pick(5)
    for (let k = 0; k < Math.min(count, n); k++) {
      const out = order.splice(pick(order.length), 1)[0] ?? 0
      option[out] = -1
      order.splice(pick(order.length + 1), 0, out)
    }
  }
  return { order: behind(d, order), option }
}
