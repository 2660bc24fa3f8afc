import { brokenRules } from './check.ts'
import { aloneOf, choicesOf, nextOk, withPrep } from './choices.ts'
import { turnPlans } from './occupations.ts'
import type { Day, Placed } from './problem.ts'
import { known } from './sight.ts'

/** Some placing of a job that breaks no rule with all others where they are; null: there is none. */
export function placingBeside(d: Day, placed: readonly Placed[], job: number): Placed | null {
  const j = d.jobs[job]
  if (!j) return null
  const plans = turnPlans(d, placed)
  for (const c of choicesOf(d, job)) {
    const a = aloneOf(d, job, c)
    const turn = d.turns[c.turn]
    const own = plans[c.turn]
    if (!turn || !own) continue
    // It can begin where the turn begins, or once somebody or something is free again.
    const free = new Set<number>([turn.start, a.from])
    for (const o of [...own.occupations, ...(plans[c.helperTurn]?.occupations ?? [])]) free.add(o.to)
    for (const p of placed)
      if (j.after.includes(p.job) || p.instruments.some((i) => c.instruments.includes(i))) {
        const end = p.start + (d.jobs[p.job]?.minutes ?? 0)
        free.add(end).add(end + (d.walk[d.jobs[p.job]?.area ?? 0]?.[j.area] ?? 0))
      }
    const end = (start: number) => start + j.minutes
    const others = placed.filter((p) => p.instruments.some((i) => c.instruments.includes(i)))
    /** Somebody or something is taken while it would last: no need to ask all the rules. */
    const isTaken = (start: number): boolean =>
      end(start) > turn.to ||
      own.occupations.some((o) => o.from < end(start) && start < o.to) ||
      others.some((p) => p.start < end(start) && start < p.start + (d.jobs[p.job]?.minutes ?? 0))
    const areas = new Set([turn.area, ...own.blocks.map((b) => d.jobs[b.job]?.area ?? 0)])
    const tried = new Set<number>()
    for (const x of free) {
      const preps = [...areas].flatMap((area) => {
        const walk = d.walk[area]?.[j.area] ?? 0
        return [walk, walk + j.setup]
      })
      // The shortest way first: where that is the right one nothing earlier is possible.
      for (const prep of new Set(preps.sort((p, q) => p - q))) {
        const start = nextOk(Math.max(x + prep, turn.start + prep), withPrep(d, job, a, prep, 0))
        if (start === Infinity || tried.has(start)) continue
        tried.add(start)
        if (isTaken(start)) continue
        const p: Placed = { job, person: c.person, helper: c.helper, instruments: c.instruments, start }
        if (brokenRules(d, known(d, [...placed, p])).length === 0) return p
      }
    }
  }
  return null
}

/** A plan with everything put in that still finds a place, the most valuable first. */
export function insertions(d: Day, placed: readonly Placed[]): Placed[] {
  let out = [...placed]
  const isBroken = brokenRules(d, known(d, out)).length > 0
  if (isBroken) return out
  const left = d.jobs
    .map((j, i) => ({ i, value: j.value }))
    .filter(({ i }) => !out.some((p) => p.job === i))
    .sort((a, b) => b.value - a.value || a.i - b.i)
  for (const { i } of left) {
    const p = placingBeside(d, out, i)
    if (p) out = [...out, p]
  }
  return out
}
