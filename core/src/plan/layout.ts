import { type Alone, soonest } from './choices.ts'
import { radioParts } from './occupations.ts'
import { insideOf, lateOf, reversedIn, spreadOf } from './cost.ts'
import type { Day, Interval, JobOf, Placed, Turn } from './problem.ts'

/** What a turn has taken on so far. */
interface TurnLine {
  readonly turn: Turn
  /** When the last block ends, and where; when anything last ends. */
  ends: number
  area: number
  kit: string | null
  last: number
  walk: number
  setup: number
  taken: number
  /** Blocks with their preparation, and radio parts. */
  readonly blocks: Interval[]
  readonly radio: Interval[]
}
interface InstrumentLine {
  readonly home: number
  ends: number
  /** −1: not used yet. */
  person: number
  area: number
}
/** A choice with what it would take on. */
interface Way {
  readonly a: Alone
  readonly own: TurnLine
  readonly other: TurnLine | null
  readonly isWith: boolean
  readonly instruments: readonly InstrumentLine[]
  /** No start is later than this. */
  readonly latest: number
}
interface JobLine {
  readonly job: number
  readonly j: JobOf
  readonly ways: readonly Way[]
  /** Minutes from each area to the job's. */
  readonly from: readonly number[]
  readonly parts: readonly { readonly at: number; readonly minutes: number }[]
  readonly uses: readonly (readonly [string, number])[]
  readonly after: readonly JobLine[]
  /** Least lateness, if nothing else were planned. */
  readonly lateAlone: number
  start: number
  end: number
  way: Way | null
}

/** What is laid out, in which order, by which choice; −1: the best of all. */
export interface Sequence {
  readonly order: readonly number[]
  readonly option: readonly number[]
}
/** What a layout costs: as `costOf` says of the same plan, and how many agreed jobs it misses. */
export interface LaidCost {
  readonly unplaced: number
  readonly points: number
  readonly missed: number
}

/** An agreed job that is missed, and a job left out, in points: only inside a search. */
export const LOCK_MISSED = 1e9
export const LEFT_OUT = 3000
const clashes = (x: Interval, from: number, to: number): boolean => from < x.to && x.from < to

/**
 * A day being filled job by job, each behind the last block of its turn: made once for a search, filled anew for every
 * sequence. Its cost is kept as it is filled, so that one which has grown too dear is left at once.
 */
export class Layout {
  private readonly turns: readonly TurnLine[]
  private readonly instruments: readonly InstrumentLine[]
  private readonly jobs: readonly JobLine[]
  private readonly stock = new Map<string, number>()
  private readonly told: readonly JobLine[]
  private readonly d: Day
  /** Of the last look that found a place. */
  private walk = 0
  private setup = 0
  private helperWalk = 0
  private adds = 0
  /** Of that the part which is waited: not sure to be counted, a break or a call by radio may lie in it. */
  private waits = 0

  /** @param choices - of each job, ready to be asked */
  constructor(d: Day, choices: readonly (readonly Alone[])[]) {
    this.d = d
    this.turns = d.turns.map((turn) => ({
      ...{ turn, ends: 0, area: 0, kit: null, last: 0, walk: 0, setup: 0, taken: 0 },
      blocks: [],
      radio: [],
    }))
    this.instruments = d.instruments.map((x) => ({ home: x.area, ends: 0, person: -1, area: 0 }))
    const jobs: JobLine[] = d.jobs.map((j, job) => {
      const ways = (choices[job] ?? []).flatMap((a): Way[] => {
        const own = this.turns[a.choice.turn]
        const other = this.turns[a.choice.helperTurn] ?? null
        const instruments = a.choice.instruments.flatMap((i) => this.instruments[i] ?? [])
        const ends = (a.pieces.at(-1)?.to ?? -Infinity) - j.minutes
        const latest = Math.min(Math.max(...a.starts.map((x) => x.to)), ends)
        return own ? [{ a, own, other, isWith: a.helperPieces !== null, instruments, latest }] : []
      })
      const least = Math.min(
        ...ways.map((w) => soonest(w.a, Math.max(w.own.turn.start, w.a.from), 0, 0) + j.minutes),
      )
      return {
        ...{ job, j, ways, parts: radioParts(j), uses: Object.entries(j.uses), after: [] },
        from: d.areas.map((_, i) => d.walk[i]?.[j.area] ?? 0),
        lateAlone: least < Infinity ? lateOf(d, job, least) : 0,
        ...{ start: 0, end: 0, way: null },
      }
    })
    const after = (j: JobOf) => j.after.flatMap((a) => jobs[a] ?? [])
    jobs.forEach((x) => Object.assign(x, { after: after(x.j) }))
    this.jobs = jobs
    this.told = jobs.filter((x) => x.j.told)
  }

  /**
   * Lays jobs out one after the other; what finds no place stays out.
   * @param dearest - in points as `inPoints` says: what costs more is left as soon as that is sure
   * @returns its cost; null: it costs more than that
   */
  lay(s: Sequence, dearest = Infinity): LaidCost | null {
    this.clear()
    let sum = 0
    for (const x of this.jobs) sum += x.lateAlone
    for (const at of s.order) {
      const x = this.jobs[at]
      if (!x) continue
      const way = this.wayOf(x, x.ways[s.option[at] ?? -1] ?? null)
      sum -= x.lateAlone
      if (way) {
        this.put(x, way, this.look(x, way, Infinity))
        sum += this.adds - this.waits
      } else sum += LEFT_OUT * x.j.value + (x.j.lock ? LOCK_MISSED : 0)
      if (sum > dearest) return null
    }
    const cost = this.cost()
    return inPoints(cost) > dearest ? null : cost
  }

  /** The plan that was laid out last. */
  placed(s: Sequence): Placed[] {
    return s.order.flatMap((at) => {
      const x = this.jobs[at]
      if (!x?.way) return []
      const { person, helper, instruments } = x.way.a.choice
      return [{ job: at, person, helper, instruments, start: x.start }]
    })
  }

  private clear(): void {
    for (const t of this.turns) {
      t.ends = t.turn.start
      t.area = t.turn.area
      t.kit = null
      t.last = -Infinity
      t.walk = t.setup = t.taken = 0
      t.blocks.length = t.radio.length = 0
    }
    for (const x of this.instruments) {
      x.ends = this.d.now
      x.person = -1
      x.area = x.home
    }
    for (const x of this.jobs) {
      x.end = Infinity
      x.way = null
    }
    for (const [item, amount] of Object.entries(this.d.stock)) this.stock.set(item, amount)
  }

  /** The way that is wanted where it can be gone, else the one that adds least; null: there is none. */
  private wayOf(x: JobLine, wanted: Way | null): Way | null {
    for (const [item, amount] of x.uses) if (amount > (this.stock.get(item) ?? 0)) return null
    for (const b of x.after) if (!b.way) return null
    if (wanted && this.look(x, wanted, Infinity) < Infinity) return wanted
    let [best, least]: [Way | null, number] = [null, Infinity]
    for (const w of x.ways)
      if (this.look(x, w, least) < Infinity) {
        best = w
        least = this.adds
      }
    return best
  }

  /**
   * Where a job would begin by a way; what that adds is told beside.
   * @param dearest - a way that adds as much is not looked at further
   * @returns Infinity: nowhere, or too dear
   */
  private look(x: JobLine, w: Way, dearest: number): number {
    const { d } = this
    const { j } = x
    const { own, other, isWith, a } = w
    const walk = x.from[own.area] ?? 0
    const setup = j.kit !== null && j.kit === own.kit ? 0 : j.setup
    const prep = walk + setup
    let from = own.ends + prep
    // A turn that is full is the usual answer of a full day.
    if (from > w.latest) return Infinity
    const helperWalk = isWith && other ? (x.from[other.area] ?? 0) : 0
    if (isWith && other) from = Math.max(from, other.ends + helperWalk)
    for (const b of x.after) from = Math.max(from, b.end)
    for (const i of w.instruments)
      from = Math.max(from, i.ends + (i.person === a.choice.person ? 0 : (x.from[i.area] ?? 0)))
    const fixed =
      d.weights.walk * (walk + helperWalk) +
      d.weights.setup * setup +
      (j.told && j.told.person !== a.choice.person ? d.weights.otherPerson : 0)
    if (from > w.latest || fixed + lateOf(d, x.job, from + j.minutes) >= dearest) return Infinity
    let start = soonest(a, from, prep, helperWalk)
    for (let least = start; start < Infinity; start = soonest(a, least, prep, helperWalk)) {
      for (const r of own.radio)
        if (clashes(r, start - prep, start + j.minutes)) least = Math.max(least, r.to + prep)
      if (isWith && other)
        for (const r of other.radio)
          if (clashes(r, start - helperWalk, start + j.minutes)) least = Math.max(least, r.to + helperWalk)
      if (!isWith && other)
        for (const p of x.parts) {
          const [lo, hi] = [start + p.at, start + p.at + p.minutes]
          for (const b of other.blocks) if (clashes(b, lo, hi)) least = Math.max(least, b.to - p.at)
          for (const b of other.radio) if (clashes(b, lo, hi)) least = Math.max(least, b.to - p.at)
        }
      if (least <= start) break
    }
    if (start === Infinity) return Infinity
    const waits = d.weights.wait * Math.max(0, start - prep - own.ends)
    const adds =
      fixed +
      lateOf(d, x.job, start + j.minutes) +
      waits +
      (j.told ? d.weights.later * Math.max(0, start - j.told.start) : 0)
    if (adds >= dearest) return Infinity
    this.walk = walk
    this.setup = setup
    this.helperWalk = helperWalk
    this.adds = adds
    this.waits = waits
    return start
  }

  private put(x: JobLine, w: Way, start: number): void {
    const { j } = x
    const { own, other, isWith } = w
    const end = start + j.minutes
    own.blocks.push({ from: start - this.walk - this.setup, to: end })
    this.takes(own, this.walk, j.minutes, end)
    own.setup += this.setup
    own.ends = end
    own.area = j.area
    own.kit = j.kit
    if (other && isWith) {
      other.blocks.push({ from: start - this.helperWalk, to: end })
      this.takes(other, this.helperWalk, j.minutes, end)
      other.ends = end
      other.area = j.area
    }
    if (other && !isWith)
      for (const p of x.parts) {
        other.radio.push({ from: start + p.at, to: start + p.at + p.minutes })
        this.takes(other, 0, p.minutes, start + p.at + p.minutes)
      }
    for (const i of w.instruments) {
      i.ends = end
      i.person = w.a.choice.person
      i.area = j.area
    }
    for (const [item, amount] of x.uses) this.stock.set(item, (this.stock.get(item) ?? 0) - amount)
    x.start = start
    x.end = end
    x.way = w
  }

  private takes(t: TurnLine, walk: number, minutes: number, end: number): void {
    t.walk += walk
    t.taken += minutes
    t.last = Math.max(t.last, end)
  }

  /** As `costOf` has it, from what was kept while it was filled. */
  private cost(): LaidCost {
    const { d } = this
    const w = d.weights
    let [unplaced, points, missed] = [0, 0, 0]
    for (const x of this.jobs) {
      const { lock, told } = x.j
      if (lock && (x.way?.a.choice.person !== lock.person || x.start !== lock.start)) missed++
      if (!x.way) {
        unplaced += x.j.value
        if (told) points += w.dropped
        continue
      }
      points += lateOf(d, x.job, x.end)
      if (!told) continue
      if (told.person !== x.way.a.choice.person) points += w.otherPerson
      points += w.later * Math.max(0, x.start - told.start)
    }
    const busy = d.people.map(() => 0)
    for (const t of this.turns) {
      if (t.last === -Infinity) continue
      const back = t.blocks.length > 0 ? (d.walk[t.area]?.[t.turn.area] ?? 0) : 0
      const inside = insideOf(t.turn.breaks, t.turn.start, t.last)
      points += w.walk * (t.walk + back) + w.setup * t.setup
      points += w.wait * (t.last - t.turn.start - inside - t.walk - t.setup - t.taken)
      busy[t.turn.person] = (busy[t.turn.person] ?? 0) + t.walk + t.setup + t.taken + back
    }
    points += w.spread * spreadOf(d, busy)
    if (this.told.length > 1)
      points +=
        w.reversed *
        reversedIn(
          this.told.flatMap((x) =>
            x.way && x.j.told && x.way.a.choice.person === x.j.told.person
              ? [{ person: x.j.told.person, told: x.j.told.start, now: x.start }]
              : [],
          ),
        )
    return { unplaced, points, missed }
  }
}

/** One number of a cost, for a search that may pass through what is worse. */
export const inPoints = (c: LaidCost): number => LOCK_MISSED * c.missed + LEFT_OUT * c.unplaced + c.points
