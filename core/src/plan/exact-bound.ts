import { type Alone, soonest } from './choices.ts'
import { insideOf, lateOf } from './cost.ts'
import { endOf, latestToken, type State } from './exact-state.ts'
import { LeastWays, type Whereabouts } from './least-ways.ts'
import type { Day, JobOf } from './problem.ts'

const QUARTER = 15

/** A job that is left, as a node's bound sees it. */
interface Left {
  readonly job: number
  readonly j: JobOf
  /** The least end that anything leaves it. */
  end: number
  /** The least minutes of somebody's time that it takes, with what must come before it. */
  work: number
  alone: number
}

/**
 * What is certain of the cost of every plan that begins with a node's list of tokens. Each part holds by itself:
 * starts only rise and sums only grow when more is placed, and ways are closed under shortest paths, so whoever goes
 * to a job over others goes no shorter than straight.
 */
export class NodeBound {
  private readonly d: Day
  private readonly choices: readonly (readonly Alone[])[]
  /** Jobs in an order in which each comes behind those that it waits for. */
  private readonly order: readonly number[]
  /** Jobs that use something of the stock. */
  private readonly using: number
  private readonly ways: LeastWays
  /** The bit of each job's area. */
  private readonly bits: readonly number[]
  private readonly legs = new Map<number, number[]>()
  private readonly sets = new Map<number, readonly { readonly mask: number; readonly value: number }[]>()

  constructor(d: Day, choices: readonly (readonly Alone[])[]) {
    this.d = d
    this.choices = choices
    const order: number[] = []
    const put = (i: number): void => {
      if (order.includes(i)) return
      for (const a of d.jobs[i]?.after ?? []) put(a)
      order.push(i)
    }
    d.jobs.forEach((_, i) => {
      put(i)
    })
    this.order = order
    this.ways = new LeastWays(d)
    this.bits = d.jobs.map((j) => this.ways.bitOf(j.area))
    this.using = d.jobs.reduce((n, j, i) => (Object.keys(j.uses).length > 0 ? n | (1 << i) : n), 0)
  }

  /** @param isCut - whether a bound is enough to leave the node: what costs more to know is not asked then */
  of(
    s: State,
    isCut: (unplaced: number, points: number) => boolean,
  ): { readonly unplaced: number; readonly points: number } {
    const { d } = this
    const free = s.turns.map((t, i) => Math.max(d.turns[i]?.start ?? 0, endOf(s, t)))
    const kept = this.keptCost(s)
    const left: Left[] = []
    let unplaced = 0
    const ends = s.start.map((x, i) => (x < 0 ? Infinity : x + (d.jobs[i]?.minutes ?? 0)))
    for (const job of this.order) {
      const j = d.jobs[job]
      if (!j || s.placed & (1 << job)) continue
      const x = this.least(s, job, j, free, ends)
      ends[job] = x.end
      if (x.end < Infinity) left.push(x)
      else if (j.lock) return { unplaced: Infinity, points: Infinity }
      else unplaced += j.value
    }
    const out = this.leftOut(s, free, left)
    unplaced += out.value
    let least = Infinity
    for (const mask of out.sets) {
      const rest = mask === 0 ? left : left.filter((x) => !(mask & (1 << x.job)))
      const isEnough = (points: number) => isCut(unplaced, points)
      least = Math.min(least, this.points(s, kept, free, rest, isEnough))
      if (!isCut(unplaced, least)) break
    }
    return { unplaced, points: least }
  }

  /** What every plan costs that places all of what is left. */
  private points(
    s: State,
    kept: number,
    free: readonly number[],
    left: readonly Left[],
    isEnough: (points: number) => boolean,
  ): number {
    const w = this.d.weights
    let points = kept
    for (const { j, alone, end } of left)
      points += alone + (j.told ? w.later * Math.max(0, end - j.minutes - j.told.start) : 0)
    if (left.length === 0 || isEnough(points)) return points
    points += w.walk * this.detour(s, left) + w.setup * this.setups(s, left)
    if (isEnough(points)) return points
    points += w.spread * this.spread(s, left)
    return isEnough(points) ? points : points + this.shared(free, left)
  }

  /**
   * The least worth that cannot be placed beside the rest, since the stock or everybody's time does not suffice for
   * all, and every set of jobs of that worth without which they do. Who waits for a job of it is in it too.
   */
  private leftOut(
    s: State,
    free: readonly number[],
    left: readonly Left[],
  ): { readonly value: number; readonly sets: readonly number[] } {
    const { d } = this
    let room = 0
    d.turns.forEach((t, i) => {
      for (const p of t.pieces) room += Math.max(0, p.to - Math.max(p.from, free[i] ?? t.start))
    })
    let work = 0
    let mask = 0
    for (const x of left) {
      work += workOf(x)
      mask |= 1 << x.job
    }
    if (work <= room && this.suffices(s, mask)) return { value: 0, sets: [0] }
    const sets: number[] = []
    let value = Infinity
    for (const x of this.dispensable(s, mask)) {
      if (x.value > value) break
      if (left.reduce((n, y) => (x.mask & (1 << y.job) ? n - workOf(y) : n), work) > room) continue
      value = x.value
      sets.push(x.mask)
    }
    return { value, sets }
  }

  /** Whether the stock that is left suffices for these jobs. */
  private suffices(s: State, mask: number): boolean {
    if (!(mask & this.using)) return true
    const uses: Record<string, number> = {}
    this.d.jobs.forEach((j, i) => {
      if (mask & (1 << i)) for (const [item, x] of Object.entries(j.uses)) uses[item] = (uses[item] ?? 0) + x
    })
    return Object.entries(uses).every(([item, x]) => x <= (s.stock[item] ?? 0))
  }

  /** Sets of what is left without which the stock suffices, by their worth: the same wherever the same is placed. */
  private dispensable(s: State, left: number): readonly { readonly mask: number; readonly value: number }[] {
    const key = s.placed * 2 ** this.d.jobs.length + left
    const known = this.sets.get(key)
    if (known) return known
    const { jobs } = this.d
    const out: { mask: number; value: number }[] = []
    for (let mask = left; ; mask = (mask - 1) & left) {
      const isIn = (i: number) => (mask & (1 << i)) !== 0
      const isClosed = jobs.every(
        (j, i) => !(left & (1 << i)) || (isIn(i) ? !j.lock : !j.after.some((a) => isIn(a))),
      )
      if (isClosed && this.suffices(s, left & ~mask))
        out.push({ mask, value: jobs.reduce((n, j, i) => (isIn(i) ? n + j.value : n), 0) })
      if (mask === 0) break
    }
    out.sort((a, b) => a.value - b.value)
    this.sets.set(key, out)
    return out
  }

  /** Cost of what is placed: lateness, ways with the way home, set-ups, and what was waited where nothing is open. */
  keptCost(s: State): number {
    const { d } = this
    const w = d.weights
    let points = 0
    s.start.forEach((start, i) => {
      const j = d.jobs[i]
      if (start < 0 || !j) return
      points += lateOf(d, i, start + j.minutes)
      if (j.told)
        points +=
          (s.choice[i]?.choice.person === j.told.person ? 0 : w.otherPerson) +
          w.later * Math.max(0, start - j.told.start)
    })
    s.turns.forEach((t, i) => {
      const turn = d.turns[i]
      if (!turn || t.last < 0) return
      const back = t.hasBlock ? (d.walk[t.area]?.[turn.area] ?? 0) : 0
      points += w.walk * (t.walk + back) + w.setup * t.setup
      if (s.open.length > 0) return
      const end = endOf(s, t)
      const inside = insideOf(turn.breaks, turn.start, end)
      points += w.wait * (end - turn.start - inside - t.walk - t.setup - t.taken)
    })
    return points
  }

  /** The least way into each job from another one that is left: Infinity where there is none. */
  private legsOf(placed: number): readonly number[] {
    const known = this.legs.get(placed)
    if (known) return known
    const { d } = this
    const legs = d.jobs.map((j, i) =>
      d.jobs.reduce(
        (n, k, x) => (x === i || placed & (1 << x) ? n : Math.min(n, d.walk[k.area]?.[j.area] ?? 0)),
        Infinity,
      ),
    )
    this.legs.set(placed, legs)
    return legs
  }

  /** Whether somebody may have the kit of a job on when its turn comes: another job that is left leaves it to him. */
  private isShared(s: State, job: number, kit: string): boolean {
    return this.d.jobs.some((k, x) => x !== job && k.kit === kit && !(s.placed & (1 << x)))
  }

  /** The least end of a job behind all that is placed, over every choice; and the least time it takes of somebody. */
  private least(s: State, job: number, j: JobOf, free: readonly number[], ends: readonly number[]): Left {
    const { d } = this
    const never: Left = { job, j, end: Infinity, work: j.minutes, alone: 0 }
    if (this.using & (1 << job))
      for (const [item, x] of Object.entries(j.uses)) if (x > (s.stock[item] ?? 0)) return never
    let before = latestToken(s)
    for (const a of j.after) before = Math.max(before, ends[a] ?? Infinity)
    if (before === Infinity) return never
    const leg = this.legsOf(s.placed)[job] ?? Infinity
    const isShared = j.kit !== null && this.isShared(s, job, j.kit)
    let [start, least] = [Infinity, Infinity]
    for (const a of this.choices[job] ?? []) {
      const { turn, helperTurn, instruments } = a.choice
      const own = s.turns[turn]
      if (!own) continue
      const setup = j.kit !== null && (isShared || j.kit === own.kit) ? 0 : j.setup
      const way = d.walk[own.area]?.[j.area] ?? 0
      const prep = Math.min(way, leg) + setup
      if (prep < least) least = prep
      let from = Math.max(before, (free[turn] ?? 0) + way + setup)
      if (from >= start) continue
      let helperPrep = 0
      const other = s.turns[helperTurn]
      if (other && a.helperPieces) {
        const helperWay = d.walk[other.area]?.[j.area] ?? 0
        helperPrep = Math.min(helperWay, leg)
        from = Math.max(from, (free[helperTurn] ?? 0) + helperWay)
      } else if (other && j.helper?.how === 'radio')
        from = Math.max(from, (free[helperTurn] ?? 0) - (j.helper.begin > 0 ? 0 : j.minutes - j.helper.end))
      for (const i of instruments) {
        const user = s.uses[i] ?? -1
        if (user < 0) from = Math.max(from, d.now + (d.walk[d.instruments[i]?.area ?? 0]?.[j.area] ?? 0))
        else from = Math.max(from, (s.start[user] ?? 0) + (d.jobs[user]?.minutes ?? 0))
      }
      if (from < start) start = Math.min(start, soonest(a, from, prep, helperPrep))
    }
    if (start === Infinity) return never
    const end = start + j.minutes
    return { job, j, end, work: j.minutes + least, alone: lateOf(d, job, end) }
  }

  /** Minutes that must be gone beside the ways home, to come to everything that is left. */
  private detour(s: State, left: readonly Left[]): number {
    let mask = 0
    for (const x of left) mask |= this.bits[x.job] ?? 0
    let straight = 0
    const turns: Whereabouts[] = []
    s.turns.forEach((t, i) => {
      const home = this.d.turns[i]?.area ?? 0
      // Of turns that are at one place and end at one place a single one need go round: ways for two are no shorter.
      if (turns.some((x) => x.area === t.area && x.home === home)) return
      turns.push({ area: t.area, home })
      straight += this.d.walk[t.area]?.[home] ?? 0
    })
    return this.ways.minutes(turns, mask) - straight
  }

  /** Minutes of setting up that are left: each job without a kit, and each kit once that nobody holds. */
  private setups(s: State, left: readonly Left[]): number {
    const kits = new Map<string, number>()
    let minutes = 0
    for (const { j } of left)
      if (j.kit === null) minutes += j.setup
      else kits.set(j.kit, Math.min(kits.get(j.kit) ?? Infinity, j.setup))
    for (const [kit, setup] of kits) if (!s.turns.some((t) => t.kit === kit)) minutes += setup
    return minutes
  }

  /** How far apart the fullest and the emptiest day stay, even if all that is left fell to the emptiest. */
  private spread(s: State, left: readonly Left[]): number {
    const { d } = this
    const farthest = Math.max(...d.walk.map((r) => Math.max(...r)))
    const more = left.reduce((n, x) => n + x.j.minutes + x.j.setup + farthest, 0)
    let [most, least] = [0, Infinity]
    d.people.forEach((p, person) => {
      if (p.capacity <= 0) return
      let busy = 0
      let turns = 0
      s.turns.forEach((t, i) => {
        const turn = d.turns[i]
        if (turn?.person !== person) return
        turns++
        const back = t.hasBlock ? (d.walk[t.area]?.[turn.area] ?? 0) : 0
        busy += t.walk + t.setup + t.taken + back
      })
      // A radio helper's second part that has not begun takes his time too.
      const open = s.open.reduce((n, x) => n + (d.jobs[x.job]?.minutes ?? 0), 0)
      most = Math.max(most, Math.floor((100 * busy) / p.capacity))
      least = Math.min(least, Math.floor((100 * (busy + open + more + turns * farthest)) / p.capacity))
    })
    return Math.max(0, most - least)
  }

  /**
   * Lateness that comes of everybody's free time being shared. All the work done by any moment is at most that of one
   * machine as fast as there are people; it is least late when the most valuable per minute goes first, and a job that
   * runs in one piece ends half its length behind its mean.
   */
  private shared(free: readonly number[], left: readonly Left[]): number {
    const { d } = this
    const late = left.filter((x) => x.end >= Math.max(x.j.due, d.now))
    if (late.length < 2) return 0
    const edges: { at: number; by: number }[] = []
    d.turns.forEach((t, i) => {
      const begins = free[i] ?? t.start
      for (const p of t.pieces) {
        const from = p.from > begins ? p.from : begins
        if (from < p.to) edges.push({ at: from, by: 1 }, { at: p.to, by: -1 })
      }
    })
    edges.sort((a, b) => a.at - b.at)
    late.sort((a, b) => b.j.value / workOf(b) - a.j.value / workOf(a))
    let [edge, people, at] = [0, 0, -Infinity]
    let [sum, alone] = [0, 0]
    for (const x of late) {
      const work = workOf(x)
      alone += x.alone
      let [rest, moment] = [work, 0]
      while (rest > 1e-9) {
        while (edge < edges.length && (edges[edge]?.at ?? 0) <= at) people += edges[edge++]?.by ?? 0
        const next = edges[edge]?.at ?? Infinity
        if (people === 0) {
          if (next === Infinity) break
          at = next
          continue
        }
        const take = Math.min(rest, (next - at) * people)
        moment += take * (at + take / people / 2)
        at += take / people
        rest -= take
      }
      const half = (x.j.helper?.how === 'throughout' ? x.j.minutes : work) / 2
      sum += x.j.value * (moment / work + half - Math.max(x.j.due, d.now))
    }
    return Math.max(0, Math.ceil(sum / QUARTER - 1e-6) - alone)
  }
}

/** Minutes of people's time that a job takes: of both with a helper throughout. */
const workOf = (x: Left): number => (x.j.helper?.how === 'throughout' ? 2 * x.j.minutes : x.work)
