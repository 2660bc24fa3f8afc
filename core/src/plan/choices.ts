import { reaches } from './check.ts'
import { radioParts } from './occupations.ts'
import type { Day, Interval, JobOf } from './problem.ts'

/** Who does a job in which turn, who helps, with which instruments. */
export interface Choice {
  readonly person: number
  readonly turn: number
  readonly helper: number
  readonly helperTurn: number
  readonly instruments: readonly number[]
}

const has = (d: Day, person: number, abilities: readonly string[]) =>
  abilities.every((a) => d.people[person]?.abilities.has(a))

/** Every set of instruments that serves the needs of a job, one each. */
function instrumentSets(d: Day, j: JobOf): number[][] {
  let sets: number[][] = [[]]
  for (const n of j.needs) {
    const serve = d.instruments.flatMap((x, i) =>
      reaches(x, n) && n.tolerance >= n.ratio * x.u && x.free.length > 0 ? [i] : [],
    )
    sets = sets.flatMap((s) => serve.filter((i) => !s.includes(i)).map((i) => [...s, i])).slice(0, 500)
  }
  return sets
}

/** Everybody who may do a job with everybody who may help, in the order of people. */
export function choicesOf(d: Day, job: number): Choice[] {
  const j = d.jobs[job]
  if (!j) return []
  const sets = instrumentSets(d, j)
  const out: Choice[] = []
  d.turns.forEach((t, turn) => {
    if (t.pieces.length === 0 || !has(d, t.person, j.abilities)) return
    if (j.lock && j.lock.person !== t.person) return
    if (!j.helper) {
      for (const instruments of sets)
        out.push({ person: t.person, turn, helper: -1, helperTurn: -1, instruments })
      return
    }
    d.turns.forEach((h, helperTurn) => {
      if (h.person === t.person || h.pieces.length === 0 || h.to <= t.from || t.to <= h.from) return
      if (!has(d, h.person, j.helper?.abilities ?? [])) return
      if (j.lock && j.lock.helper !== null && j.lock.helper !== h.person) return
      for (const instruments of sets)
        out.push({ person: t.person, turn, helper: h.person, helperTurn, instruments })
    })
  })
  return out
}

/** Everything of a job and a choice that does not depend on what else is planned. */
export interface Alone {
  readonly choice: Choice
  readonly minutes: number
  /**
   * First and last starts at which everything holds that has nothing to do with preparation: windows, hold points,
   * instruments, the way home, what was agreed, a radio helper's presence. In their order, both ends possible.
   */
  readonly starts: readonly Interval[]
  /** Pieces of the turn in which preparation and work lie, and those of a helper throughout. */
  readonly pieces: readonly Interval[]
  readonly helperPieces: readonly Interval[] | null
  /** The earliest its instruments can be there. */
  readonly from: number
}

/** Starts at which [s + a, s + b) lies inside one of the pieces. */
const startsIn = (pieces: readonly Interval[], a: number, b: number): Interval[] =>
  pieces.flatMap((p) => (p.from - a <= p.to - b ? [{ from: p.from - a, to: p.to - b }] : []))

/** Starts that are in both lists, in their order. */
function inBoth(one: readonly Interval[], two: readonly Interval[]): Interval[] {
  const both = one.flatMap((x) =>
    two.flatMap((y) => {
      const [from, to] = [Math.max(x.from, y.from), Math.min(x.to, y.to)]
      return from <= to ? [{ from, to }] : []
    }),
  )
  return both.sort((x, y) => x.from - y.from || x.to - y.to)
}

/**
 * @param mustEnd - by when the job must have ended beside what itself asks for, as something agreed waits for it
 */
export function aloneOf(d: Day, job: number, choice: Choice, mustEnd = Infinity): Alone {
  const j = d.jobs[job]
  const turn = d.turns[choice.turn]
  if (!j || !turn) throw new RangeError('no such job or turn')
  const helperTurn = d.turns[choice.helperTurn]
  const home = (t: { readonly area: number }) => d.walk[j.area]?.[t.area] ?? 0
  let starts: Interval[] = [
    { from: j.earliest, to: Math.min(j.latest, mustEnd, turn.to - home(turn)) - j.minutes },
  ]
  const only = (pieces: readonly Interval[], a: number, b: number) => {
    starts = inBoth(starts, startsIn(pieces, a, b))
  }
  if (j.windows) only(j.windows, 0, j.minutes)
  for (const h of j.holds) only(d.holders[h.holder]?.there ?? [], h.at, h.at + h.minutes)
  for (const i of choice.instruments) only(d.instruments[i]?.free ?? [], 0, j.minutes)
  if (j.lock) only([{ from: j.lock.start, to: j.lock.start }], 0, 0)
  const isWith = helperTurn && j.helper?.how === 'throughout'
  if (isWith) only([{ from: -Infinity, to: helperTurn.to - home(helperTurn) }], 0, j.minutes)
  if (helperTurn) for (const r of radioParts(j)) only(helperTurn.pieces, r.at, r.at + r.minutes)
  const from = choice.instruments.reduce(
    (n, i) => Math.max(n, d.now + (d.walk[d.instruments[i]?.area ?? 0]?.[j.area] ?? 0)),
    -Infinity,
  )
  return {
    choice,
    minutes: j.minutes,
    starts,
    pieces: turn.pieces,
    helperPieces: isWith ? helperTurn.pieces : null,
    from,
  }
}

/**
 * The least start ≥ x of a job by a choice, with so many minutes of preparation before it, of its person and of a
 * helper throughout; Infinity: none. The innermost step of every search: no list is made in it.
 */
export function soonest(a: Alone, x: number, prep: number, helperPrep: number): number {
  let s = x
  for (;;) {
    let next = leastIn(a.starts, s, 0, 0)
    next = leastIn(a.pieces, next, prep, a.minutes)
    if (a.helperPieces) next = leastIn(a.helperPieces, next, helperPrep, a.minutes)
    if (next === s || next === Infinity) return next
    s = next
  }
}

/** The least start ≥ s with [s − before, s + after) in a piece. */
function leastIn(pieces: readonly Interval[], s: number, before: number, after: number): number {
  for (const p of pieces) {
    const at = s > p.from + before ? s : p.from + before
    if (at + after <= p.to) return at
  }
  return Infinity
}

/** By when each job must have ended, since what was agreed waits for it: Infinity where nothing does. */
export function mustEndBy(d: Day): number[] {
  const ends = d.jobs.map((j) => (j.lock ? j.lock.start + j.minutes : Infinity))
  for (let isMore = true; isMore;) {
    isMore = false
    d.jobs.forEach((j, i) => {
      const begins = (ends[i] ?? Infinity) - j.minutes
      for (const a of j.after)
        if (begins < (ends[a] ?? Infinity)) {
          ends[a] = begins
          isMore = true
        }
    })
  }
  return ends
}

/** Every choice of every job, ready to be asked; a job that something agreed waits for is over in time for it. */
export function allChoices(d: Day): Alone[][] {
  const ends = mustEndBy(d)
  return d.jobs.map((_, i) => choicesOf(d, i).map((c) => aloneOf(d, i, c, ends[i])))
}
