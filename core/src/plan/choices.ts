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

/** [s + a, s + b) lies inside one of the pieces. */
export interface Condition {
  readonly a: number
  readonly b: number
  readonly pieces: readonly Interval[]
}

/** The least start ≥ x at which every condition holds; Infinity: none. */
export function nextOk(x: number, conditions: readonly Condition[]): number {
  let s = x
  for (let isMoved = true; isMoved;) {
    isMoved = false
    for (const c of conditions) {
      let found = Infinity
      for (const p of c.pieces) {
        const at = s > p.from - c.a ? s : p.from - c.a
        if (at + c.b <= p.to) {
          found = at
          break
        }
      }
      if (found === Infinity) return Infinity
      if (found > s) {
        s = found
        isMoved = true
      }
    }
  }
  return s
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
  readonly fixed: readonly Condition[]
  /** The earliest its instruments can be there. */
  readonly from: number
  /** Minutes home from it, for its person and for a helper throughout. */
  readonly back: number
}

export function aloneOf(d: Day, job: number, choice: Choice): Alone {
  const j = d.jobs[job]
  const turn = d.turns[choice.turn]
  if (!j || !turn) throw new RangeError('no such job or turn')
  const helperTurn = d.turns[choice.helperTurn]
  const home = (t: { readonly area: number }) => d.walk[j.area]?.[t.area] ?? 0
  const before = (t: Interval, back: number): Condition => ({
    a: 0,
    b: j.minutes + back,
    pieces: [{ from: -Infinity, to: t.to }],
  })
  const fixed: Condition[] = [before(turn, home(turn))]
  if (j.windows) fixed.push({ a: 0, b: j.minutes, pieces: j.windows })
  if (j.earliest > -Infinity || j.latest < Infinity)
    fixed.push({ a: 0, b: j.minutes, pieces: [{ from: j.earliest, to: j.latest }] })
  for (const h of j.holds)
    fixed.push({ a: h.at, b: h.at + h.minutes, pieces: d.holders[h.holder]?.there ?? [] })
  for (const i of choice.instruments) fixed.push({ a: 0, b: j.minutes, pieces: d.instruments[i]?.free ?? [] })
  if (j.lock) fixed.push({ a: 0, b: 0, pieces: [{ from: j.lock.start, to: j.lock.start }] })
  if (helperTurn && j.helper?.how === 'throughout') fixed.push(before(helperTurn, home(helperTurn)))
  if (helperTurn)
    for (const r of radioParts(j)) fixed.push({ a: r.at, b: r.at + r.minutes, pieces: helperTurn.pieces })
  const from = choice.instruments.reduce(
    (n, i) => Math.max(n, d.now + (d.walk[d.instruments[i]?.area ?? 0]?.[j.area] ?? 0)),
    -Infinity,
  )
  return { choice, fixed, from, back: home(turn) }
}

/** The conditions of a choice once its preparation is known. */
export function withPrep(d: Day, job: number, a: Alone, prep: number, helperPrep: number): Condition[] {
  const j = d.jobs[job]
  const turn = d.turns[a.choice.turn]
  const helperTurn = d.turns[a.choice.helperTurn]
  const minutes = j?.minutes ?? 0
  const out = [{ a: -prep, b: minutes, pieces: turn?.pieces ?? [] }, ...a.fixed]
  if (helperTurn && j?.helper?.how === 'throughout')
    out.push({ a: -helperPrep, b: minutes, pieces: helperTurn.pieces })
  return out
}
