import { type Alone, soonest } from './choices.ts'
import { type Inequality, latestToken, type State, takenOf } from './exact-state.ts'
import { radioParts } from './occupations.ts'
import type { Day } from './problem.ts'

/** Pushes that go round and round end here: such a list has no layout. */
const MOST_PUSHES = 5000
const replace = <T>(list: readonly T[], i: number, x: T): T[] => {
  const out = list.slice()
  out[i] = x
  return out
}

/** What can be appended to a list of tokens: a job that begins, by a choice, or a radio helper's second part. */
export class Steps {
  private readonly d: Day
  /** Minutes between a radio helper's parts; without a first part he is free until the second. 0: there is no gap. */
  private readonly gaps: readonly number[]
  /** The shortest that a job takes of somebody. */
  private readonly shortest: readonly number[]

  constructor(d: Day) {
    this.d = d
    this.gaps = d.jobs.map(({ helper, minutes }) =>
      helper?.how !== 'radio' || helper.end === 0
        ? 0
        : helper.begin === 0
          ? Infinity
          : minutes - helper.begin - helper.end,
    )
    this.shortest = d.jobs.map((j) => Math.min(j.minutes, ...radioParts(j).map((p) => p.minutes)))
  }

  /** Whether something can lie between a helper's parts: another job that is left, or the second part of an open one. */
  canHaveGap(s: State, job: number): boolean {
    const gap = this.gaps[job] ?? 0
    if (gap <= 0) return false
    return this.shortest.some(
      (least, i) => least <= gap && i !== job && (!(s.placed & (1 << i)) || s.open.some((o) => o.job === i)),
    )
  }

  /**
   * A job begins.
   * @param hasGap - its helper by radio does something else between his parts; else he is his until the end
   * @returns null: it cannot, or the same plan comes in another list
   */
  begun(s: State, job: number, a: Alone, hasGap: boolean): State | null {
    const { d } = this
    const j = d.jobs[job]
    const { turn, helperTurn, person, instruments } = a.choice
    const own = s.turns[turn]
    const other = s.turns[helperTurn]
    if (!j || !own) return null
    for (const b of j.after) if ((s.start[b] ?? -1) < 0) return null
    const helps = j.helper
    const isWith = other && helps?.how === 'throughout'
    const walk = d.walk[own.area]?.[j.area] ?? 0
    const setup = j.kit !== null && j.kit === own.kit ? 0 : j.setup
    const prep = walk + setup
    const helperWalk = isWith ? (d.walk[other.area]?.[j.area] ?? 0) : 0
    const rules: Inequality[] = []
    let from = d.turns[turn]?.start ?? 0
    const waits = (before: number, by: number) => {
      rules.push({ job, before, by })
      from = Math.max(from, (s.start[before] ?? 0) + by)
    }
    if (own.last >= 0) waits(own.last, own.ends + prep)
    if (other && other.last >= 0) {
      if (isWith) waits(other.last, other.ends + helperWalk)
      if (helps?.how === 'radio' && helps.begin > 0) waits(other.last, other.ends)
      if (helps?.how === 'radio' && helps.begin === 0 && !hasGap)
        waits(other.last, other.ends - (j.minutes - helps.end))
    }
    for (const b of j.after) waits(b, d.jobs[b]?.minutes ?? 0)
    for (const i of instruments) {
      const b = s.uses[i] ?? -1
      const at = d.jobs[b]
      // The first use counts from where the instrument lies; later ones from where it was used.
      if (!at) from = Math.max(from, d.now + (d.walk[d.instruments[i]?.area ?? 0]?.[j.area] ?? 0))
      else
        waits(b, at.minutes + (s.choice[b]?.choice.person === person ? 0 : (d.walk[at.area]?.[j.area] ?? 0)))
    }
    const start = soonest(a, from, prep, helperWalk)
    if (start === Infinity) return null
    // Where nothing can be pushed any more, what begins before the last token comes in its own order too.
    if (!hasGap && s.open.length === 0 && start < latestToken(s)) return null
    const uses = Object.entries(j.uses)
    const stock = uses.length === 0 ? s.stock : { ...s.stock }
    for (const [item, x] of uses)
      if (((stock as Record<string, number>)[item] = (stock[item] ?? 0) - x) < 0) return null
    const turns = replace(s.turns, turn, {
      last: job,
      ends: j.minutes,
      area: j.area,
      hasBlock: true,
      kit: j.kit,
      walk: own.walk + walk,
      setup: own.setup + setup,
      taken: own.taken + j.minutes,
    })
    const isOpening = hasGap && helps?.how === 'radio'
    if (isWith)
      turns[helperTurn] = {
        ...other,
        last: job,
        ends: j.minutes,
        area: j.area,
        hasBlock: true,
        walk: other.walk + helperWalk,
        taken: other.taken + j.minutes,
      }
    else if (other && helps?.how === 'radio') {
      const part = helps.begin + (isOpening ? 0 : helps.end)
      const ends = isOpening || helps.end === 0 ? helps.begin : j.minutes
      if (part > 0) turns[helperTurn] = { ...other, last: job, ends, taken: other.taken + part }
    }
    // What a helper has begun between his parts must be done in time: a gap grows for nobody.
    for (const o of s.open) if (takenOf(turns[o.turn]) - o.taken > (this.gaps[o.job] ?? 0)) return null
    return {
      start: replace(s.start, job, start),
      choice: replace(s.choice, job, a),
      prep: replace(s.prep, job, prep),
      helperPrep: replace(s.helperPrep, job, helperWalk),
      rules: rules.length === 0 ? s.rules : [...s.rules, ...rules],
      turns,
      uses: instruments.length === 0 ? s.uses : s.uses.map((u, i) => (instruments.includes(i) ? job : u)),
      open: isOpening ? [...s.open, { job, turn: helperTurn, taken: takenOf(turns[helperTurn]) }] : s.open,
      tokens: [...s.tokens, { job, at: 0 }],
      stock,
      placed: s.placed | (1 << job),
    }
  }

  /**
   * The helper's second part of a job that is open: it may push the start, and all that follows.
   * @returns null: he has done nothing in between, it cannot, or the same plan comes in another list
   */
  ended(s: State, o: State['open'][number]): State | null {
    const { job, turn } = o
    const j = this.d.jobs[job]
    const t = s.turns[turn]
    if (!j || !t || j.helper?.how !== 'radio' || takenOf(t) === o.taken) return null
    const offset = j.minutes - j.helper.end
    const rule: Inequality | null =
      t.last >= 0 && t.last !== job ? { job, before: t.last, by: t.ends - offset } : null
    const next: State = {
      ...s,
      rules: rule ? [...s.rules, rule] : s.rules,
      turns: replace(s.turns, turn, {
        ...t,
        last: job,
        ends: j.minutes,
        taken: t.taken + j.helper.end,
      }),
      open: s.open.filter((x) => x !== o),
      tokens: [...s.tokens, { job, at: offset }],
    }
    const start = [...s.start]
    if (rule && !this.settled(next, start, rule.before)) return null
    const pushed = { ...next, start }
    return pushed.open.length > 0 || isInOrder(pushed) ? pushed : null
  }

  /** Pushes starts until every inequality holds. @returns whether they can */
  private settled(s: State, start: number[], pushed: number): boolean {
    const queue = [pushed]
    for (let at = 0; at < queue.length; at++) {
      const b = queue[at] ?? 0
      for (const r of s.rules) {
        if (r.before !== b) continue
        const least = (start[b] ?? 0) + r.by
        if ((start[r.job] ?? -1) < 0 || (start[r.job] ?? 0) >= least) continue
        const a = s.choice[r.job]
        if (!a) continue
        const next = soonest(a, least, s.prep[r.job] ?? 0, s.helperPrep[r.job] ?? 0)
        if (next === Infinity || queue.length > MOST_PUSHES) return false
        start[r.job] = next
        queue.push(r.job)
      }
    }
    return true
  }
}

/** Times of tokens may not fall once no radio job is open: the same plan comes in its order too. */
const isInOrder = (s: State): boolean =>
  s.tokens.every((t, i) => {
    const before = s.tokens[i - 1]
    return !before || (s.start[before.job] ?? 0) + before.at <= (s.start[t.job] ?? 0) + t.at
  })
