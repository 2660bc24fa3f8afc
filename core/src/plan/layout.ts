import { type Alone, nextOk, withPrep } from './choices.ts'
import { lateOf } from './cost.ts'
import { radioParts } from './occupations.ts'
import type { Day, Interval, Placed } from './problem.ts'

/** What a turn has taken on so far. */
interface TurnLine {
  /** When the last block ends, and where. */
  ends: number
  area: number
  kit: string | null
  /** Blocks with their preparation, and radio parts. */
  readonly blocks: Interval[]
  readonly radio: Interval[]
}
interface InstrumentLine {
  ends: number
  person: number
  area: number
  isUsed: boolean
}

/** A day being filled, job by job, each behind the last block of its turn. */
export class Layout {
  readonly placed: Placed[] = []
  private readonly turns: TurnLine[]
  private readonly instruments: InstrumentLine[]
  private readonly ends: number[]
  private readonly stock: Record<string, number>
  private readonly d: Day

  constructor(d: Day) {
    this.d = d
    this.turns = d.turns.map((t) => ({ ends: t.start, area: t.area, kit: null, blocks: [], radio: [] }))
    this.instruments = d.instruments.map((x) => ({ ends: d.now, person: -1, area: x.area, isUsed: false }))
    this.ends = d.jobs.map(() => Infinity)
    this.stock = { ...d.stock }
  }

  /** Where a job would lie by a choice: its start and what that adds to the cost; null: nowhere. */
  look(
    job: number,
    a: Alone,
  ): { start: number; adds: number; walk: number; setup: number; helperWalk: number } | null {
    const d = this.d
    const j = d.jobs[job]
    const own = this.turns[a.choice.turn]
    const other = this.turns[a.choice.helperTurn]
    if (!j || !own) return null
    for (const [item, x] of Object.entries(j.uses)) if (x > (this.stock[item] ?? 0)) return null
    const walk = d.walk[own.area]?.[j.area] ?? 0
    const setup = j.kit !== null && j.kit === own.kit ? 0 : j.setup
    const prep = walk + setup
    const isWith = other && j.helper?.how === 'throughout'
    const helperWalk = isWith ? (d.walk[other.area]?.[j.area] ?? 0) : 0
    let from = own.ends + prep
    if (isWith) from = Math.max(from, other.ends + helperWalk)
    for (const b of j.after) from = Math.max(from, this.ends[b] ?? Infinity)
    for (const i of a.choice.instruments) {
      const x = this.instruments[i]
      if (!x) return null
      const way = x.isUsed && x.person === a.choice.person ? 0 : (d.walk[x.area]?.[j.area] ?? 0)
      from = Math.max(from, x.ends + way)
    }
    if (from === Infinity) return null
    const conditions = withPrep(d, job, a, prep, helperWalk)
    const parts = radioParts(j)
    let start = nextOk(from, conditions)
    for (let isMoved = true; isMoved && start < Infinity;) {
      isMoved = false
      const clear = (x: Interval, lo: number, hi: number): boolean => lo < x.to && x.from < hi
      let least = start
      for (const r of own.radio)
        if (clear(r, start - prep, start + j.minutes)) least = Math.max(least, r.to + prep)
      if (isWith)
        for (const r of other.radio)
          if (clear(r, start - helperWalk, start + j.minutes)) least = Math.max(least, r.to + helperWalk)
      if (other && !isWith)
        for (const p of parts)
          for (const b of [...other.blocks, ...other.radio])
            if (clear(b, start + p.at, start + p.at + p.minutes)) least = Math.max(least, b.to - p.at)
      if (least > start) {
        start = nextOk(least, conditions)
        isMoved = true
      }
    }
    if (start === Infinity) return null
    const w = d.weights
    const adds =
      lateOf(d, job, start + j.minutes) +
      w.walk * (walk + helperWalk) +
      w.setup * setup +
      w.wait * Math.max(0, start - prep - own.ends) +
      (j.told && j.told.person !== a.choice.person ? w.otherPerson : 0) +
      (j.told ? w.later * Math.max(0, start - j.told.start) : 0)
    return { start, adds, walk, setup, helperWalk }
  }

  put(job: number, a: Alone, at: { start: number; walk: number; setup: number; helperWalk: number }): void {
    const j = this.d.jobs[job]
    const own = this.turns[a.choice.turn]
    const other = this.turns[a.choice.helperTurn]
    if (!j || !own) return
    const end = at.start + j.minutes
    own.blocks.push({ from: at.start - at.walk - at.setup, to: end })
    own.ends = end
    own.area = j.area
    own.kit = j.kit
    if (other && j.helper?.how === 'throughout') {
      other.blocks.push({ from: at.start - at.helperWalk, to: end })
      other.ends = end
      other.area = j.area
    }
    if (other && j.helper?.how === 'radio')
      for (const p of radioParts(j))
        other.radio.push({ from: at.start + p.at, to: at.start + p.at + p.minutes })
    for (const i of a.choice.instruments) {
      const x = this.instruments[i]
      if (x) Object.assign(x, { ends: end, person: a.choice.person, area: j.area, isUsed: true })
    }
    for (const [item, x] of Object.entries(j.uses)) this.stock[item] = (this.stock[item] ?? 0) - x
    this.ends[job] = end
    const { person, helper, instruments } = a.choice
    this.placed.push({ job, person, helper, instruments, start: at.start })
  }
}

/** What is laid out, in which order, by which choice; −1: the best of all. */
export interface Sequence {
  readonly order: readonly number[]
  readonly option: readonly number[]
}

/** Lays jobs out one after the other; what finds no place stays out. */
export function laidOut(d: Day, choices: readonly (readonly Alone[])[], s: Sequence): Placed[] {
  const line = new Layout(d)
  for (const job of s.order) {
    const all = choices[job] ?? []
    const wanted = all[s.option[job] ?? -1]
    let best = wanted ? { a: wanted, at: line.look(job, wanted) } : null
    if (!best?.at)
      for (const a of all) {
        const at = line.look(job, a)
        if (at && (!best?.at || at.adds < best.at.adds)) best = { a, at }
      }
    if (best?.at) line.put(job, best.a, best.at)
  }
  return line.placed
}
