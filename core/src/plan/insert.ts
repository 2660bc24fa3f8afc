import { brokenRules } from './check.ts'
import { aloneOf, choicesOf, soonest } from './choices.ts'
import { type TurnPlan, turnPlans } from './occupations.ts'
import type { Day, JobOf, Placed } from './problem.ts'
import { known } from './sight.ts'

const isSound = (d: Day, placed: readonly Placed[]): boolean => brokenRules(d, known(d, placed)).length === 0

/**
 * Some placing of a job that breaks no rule with all others where they are; null: there is none.
 * @param mustEnd - by when it must have ended, as what was agreed waits for it
 * @param isRight - whether a plan will do; else it may break no rule at all
 */
export function placingBeside(
  d: Day,
  placed: readonly Placed[],
  job: number,
  mustEnd = Infinity,
  isRight: (d: Day, placed: readonly Placed[]) => boolean = isSound,
): Placed | null {
  const j = d.jobs[job]
  if (!j) return null
  const plans = turnPlans(d, placed)
  const minutesOf = (p: Placed) => d.jobs[p.job]?.minutes ?? 0
  for (const c of choicesOf(d, job)) {
    const a = aloneOf(d, job, c, mustEnd)
    const own = plans[c.turn]
    if (!own || a.starts.length === 0) continue
    const others = placed.filter((p) => p.instruments.some((i) => c.instruments.includes(i)))
    // It can begin where a gap begins, or once somebody or something is free again.
    const free = new Set<number>([a.from])
    for (const o of [...own.occupations, ...(plans[c.helperTurn]?.occupations ?? [])]) free.add(o.to)
    for (const p of [...others, ...placed.filter((x) => j.after.includes(x.job))]) {
      const end = p.start + minutesOf(p)
      free.add(end).add(end + (d.walk[d.jobs[p.job]?.area ?? 0]?.[j.area] ?? 0))
    }
    const tried = new Set<number>()
    for (const gap of gapsFor(d, own, j)) {
      const { prep, opens, closes } = gap
      /** Somebody or something is taken while it would last: no need to ask all the rules. */
      const isTaken = (start: number): boolean =>
        own.occupations.some((o) => o.from < start + j.minutes && start - prep < o.to) ||
        others.some((p) => p.start < start + j.minutes && start < p.start + minutesOf(p))
      for (const x of [opens, ...free].flatMap((f) => [f, f + prep])) {
        const start = soonest(a, Math.max(x, opens + prep), prep, 0)
        if (start + j.minutes > closes || start === Infinity || tried.has(start)) continue
        tried.add(start)
        if (isTaken(start)) continue
        const p: Placed = { job, person: c.person, helper: c.helper, instruments: c.instruments, start }
        if (isRight(d, [...placed, p])) return p
      }
    }
  }
  return null
}

/** Where in a turn a job could come: the preparation it needs there, and by when it must have ended for what follows. */
function gapsFor(
  d: Day,
  own: TurnPlan,
  j: JobOf,
): { readonly prep: number; readonly opens: number; readonly closes: number }[] {
  const out: { prep: number; opens: number; closes: number }[] = []
  let [area, kit, opens]: [number, string | null, number] = [own.turn.area, null, own.turn.start]
  for (const next of [...own.blocks, null]) {
    const prep = (d.walk[area]?.[j.area] ?? 0) + (j.kit !== null && j.kit === kit ? 0 : j.setup)
    const n = next && d.jobs[next.job]
    const itsSetup = next?.kind !== 'main' || (n?.kit !== null && n?.kit === j.kit) ? 0 : (n?.setup ?? 0)
    const closes = n ? next.from - (d.walk[j.area]?.[n.area] ?? 0) - itsSetup : own.turn.to
    out.push({ prep, opens, closes })
    if (!n) break
    area = n.area
    if (next.kind === 'main') kit = n.kit
    opens = next.to
  }
  return out
}

/** A plan with everything put in that still finds a place, the most valuable first. */
export function insertions(d: Day, placed: readonly Placed[]): Placed[] {
  let out = [...placed]
  if (!isSound(d, out)) return out
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
