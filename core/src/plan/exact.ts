import { allChoices } from './choices.ts'
import { type Cost, costOf, isLess } from './cost.ts'
import { NodeBound } from './exact-bound.ts'
import { endOf, nothingPlaced, type State, takenOf } from './exact-state.ts'
import { Steps } from './exact-steps.ts'
import type { Day, Placed } from './problem.ts'

export interface Solved {
  readonly placed: readonly Placed[]
  readonly cost: Cost
  /** No plan costs less. */
  readonly proved: boolean
  readonly steps: number
}

const MOST_KEPT = 40

/**
 * The best plan of all, by branch and bound over the orders in which jobs and the second parts of radio helpers begin.
 * Starts are never tried out: each order has one least layout, and no plan of that order is better.
 * @param begin - a plan to begin with: nothing that costs as much is looked at again
 * @param isOver - asked between nodes, every sixteenth; true: gives up, and what was found is not proved
 */
export function solveExactly(d: Day, begin: readonly Placed[], isOver: (steps: number) => boolean): Solved {
  const n = d.jobs.length
  const choices = allChoices(d)
  let best: { placed: readonly Placed[]; cost: Cost } = { placed: begin, cost: costOf(d, begin) }
  let [nodes, isStopped] = [0, false]
  const kept = new Map<string, number[][]>()
  const bounds = new NodeBound(d, choices)
  const steps = new Steps(d)
  const all = (1 << n) - 1
  const hasTold = d.jobs.some((j) => j.told)
  const value = (mask: number) => d.jobs.reduce((sum, j, i) => (mask & (1 << i) ? sum : sum + j.value), 0)

  const placedOf = (s: State): Placed[] =>
    s.start.flatMap((start, job) => {
      const a = s.choice[job]
      return start < 0 || !a
        ? []
        : [
            {
              job,
              person: a.choice.person,
              helper: a.choice.helper,
              instruments: a.choice.instruments,
              start,
            },
          ]
    })

  /** Whether a kept node with the same jobs in the same places is nowhere worse. */
  function isDominated(s: State): boolean {
    const turns = s.turns.map((t) => `${t.last < 0 ? -1 : t.area} ${t.kit ?? ''} ${takenOf(t)}`)
    const uses = s.uses.map((j) =>
      j < 0 ? '' : `${s.choice[j]?.choice.person ?? -1} ${d.jobs[j]?.area ?? -1}`,
    )
    const key = `${s.placed};${turns.join()};${uses.join()};${hasTold ? toldSoFar(s).join() : ''}`
    const waited = new Set<number>()
    d.jobs.forEach((j, i) => {
      if (!(s.placed & (1 << i))) for (const a of j.after) waited.add(a)
    })
    const token = s.tokens.at(-1)
    const vector = [
      ...s.turns.map((t) => endOf(s, t)),
      ...s.uses.map((j) => (j < 0 ? -Infinity : (s.start[j] ?? 0) + (d.jobs[j]?.minutes ?? 0))),
      token ? (s.start[token.job] ?? 0) + token.at : -Infinity,
      s.start.reduce((a, b) => (b < 0 ? a : a + b), 0),
      // Of the same key, so with the same ways home.
      bounds.keptCost(s),
      ...[...waited]
        .sort((a, b) => a - b)
        .map((j) => ((s.start[j] ?? -1) < 0 ? -Infinity : (s.start[j] ?? 0) + (d.jobs[j]?.minutes ?? 0))),
    ]
    const same = kept.get(key)
    if (!same) {
      kept.set(key, [vector])
      return false
    }
    if (same.some((v) => v.every((x, i) => x <= (vector[i] ?? 0)))) return true
    if (same.length < MOST_KEPT) same.push(vector)
    return false
  }
  const toldSoFar = (s: State) => {
    const his = d.jobs.flatMap((j, i) =>
      j.told && (s.start[i] ?? -1) >= 0 && s.choice[i]?.choice.person === j.told.person ? [i] : [],
    )
    const order = [...his].sort((a, b) => (s.start[a] ?? 0) - (s.start[b] ?? 0))
    return order
  }
  const isCut = (unplaced: number, points: number): boolean =>
    unplaced > best.cost.unplaced || (unplaced === best.cost.unplaced && points >= best.cost.points)

  function look(s: State): void {
    if (isStopped) return
    if (nodes % 16 === 0 && isOver(nodes)) {
      isStopped = true
      return
    }
    nodes++
    const isClosed = s.open.length === 0
    const b = bounds.of(s, isCut)
    if (isCut(b.unplaced, b.points)) return
    if (isClosed) {
      if (s.placed !== 0 && isDominated(s)) return
      if (value(s.placed) <= best.cost.unplaced && lockedAreIn(s)) {
        const placed = placedOf(s)
        const cost = costOf(d, placed)
        if (isLess(cost, best.cost)) best = { placed, cost }
      }
      if (s.placed === all) return
    }
    const next: { s: State; begins: number }[] = []
    const append = (t: State | null, job: number) => {
      if (t) next.push({ s: t, begins: (t.start[job] ?? 0) + (t.tokens.at(-1)?.at ?? 0) })
    }
    for (let job = 0; job < n; job++) {
      if (s.placed & (1 << job)) continue
      const modes = steps.canHaveGap(s, job) ? [false, true] : [false]
      for (const a of choices[job] ?? [])
        for (const hasGap of modes) append(steps.begun(s, job, a, hasGap), job)
    }
    for (const o of s.open) append(steps.ended(s, o), o.job)
    next.sort((x, y) => x.begins - y.begins)
    for (const x of next) look(x.s)
  }
  const lockedAreIn = (s: State) => d.jobs.every((j, i) => !j.lock || (s.placed & (1 << i)) !== 0)

  look(nothingPlaced(d))
  return { ...best, proved: !isStopped, steps: nodes }
}
