import { Generator } from '../statistics/generator.ts'
import { brokenRules } from './check.ts'
import { aloneOf, choicesOf, nextOk, withPrep } from './choices.ts'
import { type Cost, costOf, isLess } from './cost.ts'
import { laidOut, type Sequence } from './layout.ts'
import type { Day, Placed } from './problem.ts'
import { known } from './sight.ts'
import { insertions, placingBeside } from './insert.ts'

export interface Searched {
  readonly placed: readonly Placed[]
  readonly cost: Cost
  readonly steps: number
}

const UNPLACED = 3000
const LOCK_MISSED = 1e9
const LEAST_TEMPERATURE = 30

/** Locks that a plan misses. */
const missed = (d: Day, placed: readonly Placed[]): number =>
  d.jobs.filter((j, i) => {
    if (!j.lock) return false
    const p = placed.find((x) => x.job === i)
    return p?.start !== j.lock.start || p.person !== j.lock.person
  }).length

/** Jobs in an order in which each comes behind those that it waits for. */
function behind(d: Day, order: readonly number[]): number[] {
  const out: number[] = []
  const put = (i: number): void => {
    if (out.includes(i)) return
    for (const a of d.jobs[i]?.after ?? []) put(a)
    out.push(i)
  }
  order.forEach(put)
  return out
}

/**
 * A good plan of a day of any size: several first plans, then the best one changed at random, worse ones taken less and
 * less often. The same seed and number of steps give the same plan.
 * @param isOver - asked every sixteenth step
 */
export function searchPlan(
  d: Day,
  seed: number,
  mostSteps: number,
  isOver: (steps: number) => boolean,
  share: (steps: number) => number,
): Searched {
  const g = new Generator(seed)
  const choices = d.jobs.map((_, i) => choicesOf(d, i).map((c) => aloneOf(d, i, c)))
  const soonest = d.jobs.map((_, i) =>
    Math.min(
      ...(choices[i] ?? []).map((a) =>
        nextOk(Math.max(d.turns[a.choice.turn]?.start ?? 0, a.from), withPrep(d, i, a, 0, 0)),
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
    by((i) => (soonest[i] ?? 0) - 0.2 * value(i)),
    by((i) => (soonest[i] ?? 0) + ((d.jobs[i]?.due ?? 0) - d.now) / 30 - value(i) / 4),
    by((i) => d.now - value(i) / (d.jobs[i]?.minutes ?? 1)),
    by((i) => (soonest[i] ?? 0) + (d.jobs[i]?.minutes ?? 0)),
  ]
  const scalar = (c: Cost, placed: readonly Placed[]) =>
    LOCK_MISSED * missed(d, placed) + UNPLACED * c.unplaced + c.points
  let best: { placed: readonly Placed[]; cost: Cost; missed: number } | null = null
  const keep = (placed: readonly Placed[], cost: Cost) => {
    const misses = missed(d, placed)
    const isBetter = !best || misses < best.missed || (misses === best.missed && isLess(cost, best.cost))
    // Whatever leaves here was held against every rule.
    if (isBetter && (misses > 0 || brokenRules(d, known(d, placed)).length === 0))
      best = { placed, cost, missed: misses }
  }
  let now: { s: Sequence; at: number } = { s: { order: [], option: d.jobs.map(() => -1) }, at: Infinity }
  for (const order of orders) {
    const s: Sequence = { order, option: d.jobs.map(() => -1) }
    const placed = laidOut(d, choices, s)
    const cost = costOf(d, placed)
    keep(placed, cost)
    const at = scalar(cost, placed)
    if (at < now.at) now = { s, at }
  }
  const hot = Math.max(LEAST_TEMPERATURE, 0.006 * Math.min(now.at, 1e6))
  const n = d.jobs.length
  let steps = 0
  const pick = (k: number) => Math.floor(g.uniform() * k)
  while (steps < mostSteps && n > 0) {
    steps++
    if (steps % 16 === 0 && isOver(steps)) break
    const heat = hot ** (1 - Math.min(1, share(steps)))
    const changed = anotherSequence(d, now.s, choices, pick, g)
    const placed = laidOut(d, choices, changed)
    const cost = costOf(d, placed)
    const at = scalar(cost, placed)
    if (at <= now.at || g.uniform() < Math.exp((now.at - at) / heat)) now = { s: changed, at }
    keep(placed, cost)
  }
  const found = best as { placed: readonly Placed[]; cost: Cost; missed: number } | null
  // However little time there was: what was agreed stands where it can, and the rest beside it.
  const agreed = found && found.missed === 0 ? null : agreedAlone(d)
  const begin = agreed ?? found?.placed
  if (!begin) return { placed: [], cost: costOf(d, []), steps }
  const whole = insertions(d, begin)
  return { placed: whole, cost: costOf(d, whole), steps }
}

/**
 * What was agreed, each with the first helper and instruments that serve, and before it what it waits for; null where
 * some of it breaks a rule.
 */
function agreedAlone(d: Day): Placed[] | null {
  const locked = d.jobs.flatMap((j, i) => (j.lock ? [i] : []))
  const waits = (i: number) => (d.jobs[i]?.after.length ?? 0) > 0
  const placed: Placed[] = []
  for (const job of behind(d, [...locked.filter((i) => !waits(i)), ...locked.filter(waits)])) {
    const lock = d.jobs[job]?.lock
    const serves = lock
      ? choicesOf(d, job)
          .filter((c) => c.person === lock.person)
          .map((c): Placed => {
            const { person, helper, instruments } = c
            return { job, person, helper, instruments, start: lock.start }
          })
          .find((p) => brokenRules(d, known(d, [...placed, p])).length === 0)
      : placingBeside(d, placed, job)
    if (!serves) return null
    placed.push(serves)
  }
  return placed
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
