import { aloneOf, choicesOf, soonest, type Choice } from './choices.ts'
import { turnAt } from './occupations.ts'
import type { Day, Placed } from './problem.ts'

/** The choice nearest to how a job was placed: the same instruments and helper where they still serve. */
function choiceFor(d: Day, p: Placed, turn: number): Choice | null {
  const able = choicesOf(d, p.job).filter((c) => c.turn === turn)
  const score = (c: Choice) =>
    (c.helper === p.helper ? 2 : 0) + (c.instruments.every((i) => p.instruments.includes(i)) ? 1 : 0)
  return able.reduce<Choice | null>((best, c) => (best && score(best) >= score(c) ? best : c), null)
}

/** The least start of a job in a turn from a minute on, with the way from an area and a kit; where none is right the first after it. */
function startOf(d: Day, p: Placed, turn: number, ends: number, area: number, kit: string | null): Placed {
  const j = d.jobs[p.job]
  if (!j) return p
  const prep = (d.walk[area]?.[j.area] ?? 0) + (j.kit !== null && j.kit === kit ? 0 : j.setup)
  const c = choiceFor(d, p, turn)
  const bare = { ...p, person: d.turns[turn]?.person ?? p.person, start: ends + prep }
  if (!c) return bare
  const start = soonest(aloneOf(d, p.job, c), ends + prep, prep, 0)
  const whose = { person: c.person, helper: c.helper, instruments: c.instruments }
  return { ...p, ...whose, start: start === Infinity ? ends + prep : start }
}

/**
 * A plan with one job moved behind another in a turn, or to its beginning. What lies behind it there is pushed only as
 * far as it has to be; what was agreed stays where it is, and what does not fit is told by the rules.
 * @param after - the job that it comes behind; −1: it is the first
 */
export function movedBehind(
  d: Day,
  placed: readonly Placed[],
  moved: Placed,
  turn: number,
  after: number,
): Placed[] {
  const t = d.turns[turn]
  if (!t) return [...placed]
  const others = placed.filter((p) => p.job !== moved.job)
  const inTurn = (p: Placed) => p.person === t.person && turnAt(d, p.person, p.start) === turn
  const own = others.filter(inTurn).sort((a, b) => a.start - b.start)
  const at = own.findIndex((p) => p.job === after) + 1
  const order = [...own.slice(0, at), moved, ...own.slice(at)]
  let [ends, area, kit]: [number, number, string | null] = [t.start, t.area, null]
  const laid = order.map((p, i) => {
    const j = d.jobs[p.job]
    const next = i < at || !j ? p : i === at ? startOf(d, p, turn, ends, area, kit) : pushed(p)
    function pushed(q: Placed): Placed {
      const prep =
        (d.walk[area]?.[j?.area ?? 0] ?? 0) + (j?.kit !== null && j?.kit === kit ? 0 : (j?.setup ?? 0))
      return j?.lock || q.start - prep >= ends ? q : startOf(d, q, turn, ends, area, kit)
    }
    if (j) [ends, area, kit] = [Math.max(ends, next.start + j.minutes), j.area, j.kit]
    return next
  })
  return [...others.filter((p) => !inTurn(p)), ...laid]
}
