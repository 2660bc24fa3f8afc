import { type Alone, aloneOf, choicesOf, nextOk, withPrep } from './choices.ts'
import { type Cost, costOf, insideOf, isLess, lateOf } from './cost.ts'
import { radioParts } from './occupations.ts'
import type { Day, Placed } from './problem.ts'

export interface Solved {
  readonly placed: readonly Placed[]
  readonly cost: Cost
  /** No plan costs less. */
  readonly proved: boolean
  readonly steps: number
}

/** The job's start is at least another's start and so much. */
interface Inequality {
  readonly job: number
  readonly before: number
  readonly by: number
}
/** Where a turn stands in a list of tokens: its newest occupation, area, kit, and what it took so far. */
interface TurnState {
  /** −1: nothing yet. */
  readonly last: number
  /** When that ends, behind the start of its job. */
  readonly ends: number
  readonly area: number
  readonly hasBlock: boolean
  readonly kit: string | null
  readonly walk: number
  readonly setup: number
  readonly taken: number
}
interface State {
  readonly start: readonly number[]
  readonly choice: readonly (Alone | null)[]
  readonly prep: readonly number[]
  readonly helperPrep: readonly number[]
  readonly rules: readonly Inequality[]
  readonly turns: readonly TurnState[]
  /** The newest user of each instrument, −1: nobody. */
  readonly uses: readonly number[]
  readonly open: readonly number[]
  /** Tokens in their order: a job, and where behind its start it stands. */
  readonly tokens: readonly { readonly job: number; readonly at: number }[]
  readonly stock: Readonly<Record<string, number>>
  readonly placed: number
}
const MOST_KEPT = 40

/**
 * The best plan of all, by branch and bound over the orders in which jobs and the second parts of radio helpers begin.
 * Starts are never tried out: each order has one least layout, and no plan of that order is better.
 * @param begin - a plan to begin with: nothing that costs as much is looked at again
 * @param isOver - asked between nodes; true: gives up, and what was found is not proved
 */
export function solveExactly(d: Day, begin: readonly Placed[], isOver: () => boolean): Solved {
  const n = d.jobs.length
  const choices = d.jobs.map((_, i) => choicesOf(d, i).map((c) => aloneOf(d, i, c)))
  let best: { placed: readonly Placed[]; cost: Cost } = { placed: begin, cost: costOf(d, begin) }
  let [steps, isStopped] = [0, false]
  const kept = new Map<string, number[][]>()
  const soonest = new Map<string, number>()
  const all = (1 << n) - 1
  const value = (mask: number) => d.jobs.reduce((sum, j, i) => (mask & (1 << i) ? sum : sum + j.value), 0)

  /** The least end of a job that is begun after a time, whatever else is planned. */
  const soonestStart = (job: number, last: number): number => {
    const key = `${job} ${last}`
    const known = soonest.get(key)
    if (known !== undefined) return known
    let least = Infinity
    for (const a of choices[job] ?? []) {
      const from = Math.max(last, d.turns[a.choice.turn]?.start ?? 0, a.from)
      least = Math.min(least, nextOk(from, withPrep(d, job, a, 0, 0)))
    }
    soonest.set(key, least)
    return least
  }

  /** Pushes starts until every inequality holds; null: it cannot. */
  function settled(s: State, start: number[], pushed: number): boolean {
    const queue = [pushed]
    for (let at = 0; at < queue.length; at++) {
      const b = queue[at] ?? 0
      for (const r of s.rules) {
        if (r.before !== b) continue
        const least = (start[b] ?? 0) + r.by
        if ((start[r.job] ?? -1) < 0 || (start[r.job] ?? 0) >= least) continue
        const a = s.choice[r.job]
        if (!a) continue
        const next = nextOk(least, withPrep(d, r.job, a, s.prep[r.job] ?? 0, s.helperPrep[r.job] ?? 0))
        if (next === Infinity) return false
        start[r.job] = next
        if (queue.length > 5000) return false
        queue.push(r.job)
      }
    }
    return true
  }

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

  const endOf = (s: State, t: TurnState) => (t.last < 0 ? -Infinity : (s.start[t.last] ?? 0) + t.ends)

  /** What is certain of the cost: what is placed, the ways home, and the soonest end of every job that is left. */
  function bound(s: State): { unplaced: number; points: number } {
    let [unplaced, points] = [0, 0]
    const isOpen = s.open.length > 0
    const token = s.tokens.at(-1)
    const last = isOpen || !token ? -Infinity : (s.start[token.job] ?? 0) + token.at
    for (let j = 0; j < n; j++) {
      const job = d.jobs[j]
      if (!job) continue
      const start = s.start[j] ?? -1
      if (start >= 0) {
        points += lateOf(d, j, start + job.minutes)
        if (job.told)
          points +=
            (s.choice[j]?.choice.person === job.told.person ? 0 : d.weights.otherPerson) +
            d.weights.later * Math.max(0, start - job.told.start)
        continue
      }
      const isShort = Object.entries(job.uses).some(([item, x]) => x > (s.stock[item] ?? 0))
      const at = isShort ? Infinity : soonestStart(j, last)
      if (at === Infinity) {
        if (job.lock) return { unplaced: Infinity, points: Infinity }
        unplaced += job.value
      } else points += lateOf(d, j, at + job.minutes)
    }
    s.turns.forEach((t, i) => {
      const turn = d.turns[i]
      if (!turn || t.last < 0) return
      const back = t.hasBlock ? (d.walk[t.area]?.[turn.area] ?? 0) : 0
      points += d.weights.walk * (t.walk + back) + d.weights.setup * t.setup
      if (isOpen) return
      const end = endOf(s, t)
      points +=
        d.weights.wait *
        (end - turn.start - insideOf(turn.breaks, turn.start, end) - t.walk - t.setup - t.taken)
    })
    return { unplaced, points }
  }

  /** Whether a kept node with the same jobs in the same places is nowhere worse. */
  function isDominated(s: State): boolean {
    const key = JSON.stringify([
      s.placed,
      s.turns.map((t) => [t.last < 0 ? -1 : t.area, t.kit, t.walk + t.setup + t.taken]),
      s.uses.map((j) => (j < 0 ? -1 : [s.choice[j]?.choice.person, d.jobs[j]?.area])),
      toldSoFar(s),
    ])
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
      soFar(s),
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
  /** Cost so far that starts and sequences have settled. */
  function soFar(s: State): number {
    let points = 0
    d.jobs.forEach((j, i) => {
      const start = s.start[i] ?? -1
      if (start < 0) return
      points += lateOf(d, i, start + j.minutes)
      if (j.told)
        points +=
          (s.choice[i]?.choice.person === j.told.person ? 0 : d.weights.otherPerson) +
          d.weights.later * Math.max(0, start - j.told.start)
    })
    s.turns.forEach((t, i) => {
      const turn = d.turns[i]
      if (!turn || t.last < 0) return
      const end = endOf(s, t)
      points += d.weights.walk * t.walk + d.weights.setup * t.setup
      points +=
        d.weights.wait *
        (end - turn.start - insideOf(turn.breaks, turn.start, end) - t.walk - t.setup - t.taken)
    })
    return points
  }

  /** The first token of a job, by a choice. */
  function begun(s: State, job: number, a: Alone): State | null {
    const j = d.jobs[job]
    const { turn, helperTurn, person } = a.choice
    const own = s.turns[turn]
    const with_ = s.turns[helperTurn]
    const helps = j?.helper ?? null
    if (!j || !own) return null
    const walk = d.walk[own.area]?.[j.area] ?? 0
    const setup = j.kit !== null && j.kit === own.kit ? 0 : j.setup
    const prep = walk + setup
    const helperWalk = with_ && helps?.how === 'throughout' ? (d.walk[with_.area]?.[j.area] ?? 0) : 0
    const rules: Inequality[] = []
    if (own.last >= 0) rules.push({ job, before: own.last, by: own.ends + prep })
    if (with_ && with_.last >= 0) {
      if (helps?.how === 'throughout') rules.push({ job, before: with_.last, by: with_.ends + helperWalk })
      if (helps?.how === 'radio' && helps.begin > 0) rules.push({ job, before: with_.last, by: with_.ends })
    }
    for (const b of j.after) {
      if ((s.start[b] ?? -1) < 0) return null
      rules.push({ job, before: b, by: d.jobs[b]?.minutes ?? 0 })
    }
    for (const i of a.choice.instruments) {
      const b = s.uses[i] ?? -1
      if (b < 0) continue
      const way = s.choice[b]?.choice.person === person ? 0 : (d.walk[d.jobs[b]?.area ?? 0]?.[j.area] ?? 0)
      rules.push({ job, before: b, by: (d.jobs[b]?.minutes ?? 0) + way })
    }
    // The first use counts from where the instrument lies; later ones from where it was used.
    const from = a.choice.instruments.reduce(
      (x, i) =>
        (s.uses[i] ?? -1) >= 0
          ? x
          : Math.max(x, d.now + (d.walk[d.instruments[i]?.area ?? 0]?.[j.area] ?? 0)),
      -Infinity,
    )
    let least = Math.max(from, d.turns[turn]?.start ?? 0)
    for (const r of rules) least = Math.max(least, (s.start[r.before] ?? 0) + r.by)
    const at = nextOk(least, withPrep(d, job, a, prep, helperWalk))
    if (at === Infinity) return null
    const replace = <T>(list: readonly T[], i: number, x: T): T[] => list.map((y, k) => (k === i ? x : y))
    let turns = replace(s.turns, turn, {
      last: job,
      ends: j.minutes,
      area: j.area,
      hasBlock: true,
      kit: j.kit,
      walk: own.walk + walk,
      setup: own.setup + setup,
      taken: own.taken + j.minutes,
    })
    if (with_ && helps?.how === 'throughout')
      turns = replace(turns, helperTurn, {
        ...with_,
        last: job,
        ends: j.minutes,
        area: j.area,
        hasBlock: true,
        walk: with_.walk + helperWalk,
        taken: with_.taken + j.minutes,
      })
    const parts = radioParts(j)
    const isOpening = helps?.how === 'radio' && helps.end > 0
    if (with_ && helps?.how === 'radio' && helps.begin > 0)
      turns = replace(turns, helperTurn, {
        ...with_,
        last: job,
        ends: helps.begin,
        taken: with_.taken + helps.begin,
      })
    const uses = s.uses.map((u, i) => (a.choice.instruments.includes(i) ? job : u))
    const stock = { ...s.stock }
    for (const [item, x] of Object.entries(j.uses)) {
      stock[item] = (stock[item] ?? 0) - x
      if ((stock[item] ?? 0) < 0) return null
    }
    return {
      start: replace(s.start, job, at),
      choice: replace(s.choice, job, a),
      prep: replace(s.prep, job, prep),
      helperPrep: replace(s.helperPrep, job, helperWalk),
      rules: [...s.rules, ...rules],
      turns,
      uses,
      open: isOpening && parts.length > 0 ? [...s.open, job] : s.open,
      tokens: [...s.tokens, { job, at: 0 }],
      stock,
      placed: s.placed | (1 << job),
    }
  }

  /** The helper's second part of a job that is open: it may push the start, and all that follows. */
  function ended(s: State, job: number): State | null {
    const j = d.jobs[job]
    const helperTurn = s.choice[job]?.choice.helperTurn ?? -1
    const t = s.turns[helperTurn]
    if (!j || !t || j.helper?.how !== 'radio') return null
    const offset = j.minutes - j.helper.end
    const rule: Inequality | null =
      t.last >= 0 && t.last !== job ? { job, before: t.last, by: t.ends - offset } : null
    const next: State = {
      ...s,
      rules: rule ? [...s.rules, rule] : s.rules,
      turns: s.turns.map((x, i) =>
        i === helperTurn
          ? {
              ...x,
              last: job,
              ends: j.minutes,
              taken: x.taken + (j.helper?.how === 'radio' ? j.helper.end : 0),
            }
          : x,
      ),
      open: s.open.filter((x) => x !== job),
      tokens: [...s.tokens, { job, at: offset }],
    }
    if (!rule) return next
    const start = [...s.start]
    return settled(next, start, rule.before) ? { ...next, start } : null
  }

  /** Times of tokens may not fall once no radio job is open: the same plan comes in its order too. */
  const isInOrder = (s: State): boolean =>
    s.tokens.every((t, i) => {
      const before = s.tokens[i - 1]
      return !before || (s.start[before.job] ?? 0) + before.at <= (s.start[t.job] ?? 0) + t.at
    })

  function look(s: State): void {
    if (isStopped) return
    steps++
    if (steps % 16 === 0 && isOver()) {
      isStopped = true
      return
    }
    const isClosed = s.open.length === 0
    if (isClosed && !isInOrder(s)) return
    const b = bound(s)
    if (
      b.unplaced > best.cost.unplaced ||
      (b.unplaced === best.cost.unplaced && b.points >= best.cost.points)
    )
      return
    if (isClosed) {
      if (s.placed !== 0 && isDominated(s)) return
      if (value(s.placed) <= best.cost.unplaced && lockedAreIn(s)) {
        const placed = placedOf(s)
        const cost = costOf(d, placed)
        if (isLess(cost, best.cost)) best = { placed, cost }
      }
      if (s.placed === all) return
    }
    const next: { s: State; points: number }[] = []
    for (let job = 0; job < n; job++) {
      if (s.placed & (1 << job)) continue
      for (const a of choices[job] ?? []) {
        const t = begun(s, job, a)
        if (t) next.push({ s: t, points: t.start[job] ?? 0 })
      }
    }
    for (const job of s.open) {
      const t = ended(s, job)
      if (t) next.push({ s: t, points: (t.start[job] ?? 0) + (t.tokens.at(-1)?.at ?? 0) })
    }
    next.sort((x, y) => x.points - y.points)
    for (const x of next) look(x.s)
  }
  const lockedAreIn = (s: State) => d.jobs.every((j, i) => !j.lock || (s.placed & (1 << i)) !== 0)

  look({
    start: d.jobs.map(() => -1),
    choice: d.jobs.map(() => null),
    prep: d.jobs.map(() => 0),
    helperPrep: d.jobs.map(() => 0),
    rules: [],
    turns: d.turns.map((t) => ({
      last: -1,
      ends: 0,
      area: t.area,
      hasBlock: false,
      kit: null,
      walk: 0,
      setup: 0,
      taken: 0,
    })),
    uses: d.instruments.map(() => -1),
    open: [],
    tokens: [],
    stock: d.stock,
    placed: 0,
  })
  return { ...best, proved: !isStopped, steps }
}
