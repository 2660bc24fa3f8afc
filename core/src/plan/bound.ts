import { aloneOf, choicesOf, soonest } from './choices.ts'
import { lateOf } from './cost.ts'
import type { Day } from './problem.ts'

/** Every plan leaves at least this much out, and every one that leaves out no more costs at least these points. */
export interface LowerBound {
  readonly unplaced: number
  readonly points: number
  /** Jobs that nothing places, whatever else is planned. */
  readonly gone: ReadonlySet<number>
}

/** The least end of a job if nothing else were planned; Infinity: it cannot be done. */
export function leastEnd(d: Day, job: number): number {
  const j = d.jobs[job]
  if (!j || Object.entries(j.uses).some(([item, x]) => x > (d.stock[item] ?? 0))) return Infinity
  let least = Infinity
  for (const c of choicesOf(d, job)) {
    const a = aloneOf(d, job, c)
    const turn = d.turns[c.turn]
    if (!turn) continue
    const from = Math.max(turn.start + (d.walk[turn.area]?.[j.area] ?? 0), a.from)
    least = Math.min(least, soonest(a, from, 0, 0) + j.minutes)
  }
  return least
}

/** Lateness of what is due already: filled into one machine as fast as there are people, the heaviest first. */
function filled(d: Day, over: readonly number[]): number {
  const edges = [...new Set(d.turns.flatMap((t) => t.pieces.flatMap((p) => [p.from, p.to])))].sort(
    (a, b) => a - b,
  )
  const speed = edges.slice(0, -1).map((from, i) => ({
    from,
    to: edges[i + 1] ?? from,
    people: d.turns.flatMap((t) => t.pieces).filter((p) => p.from <= from && p.to >= (edges[i + 1] ?? from))
      .length,
  }))
  const work = (j: number) => (d.jobs[j]?.minutes ?? 0) * (d.jobs[j]?.helper?.how === 'throughout' ? 2 : 1)
  const order = [...over].sort(
    (a, b) => (d.jobs[b]?.value ?? 0) / work(b) - (d.jobs[a]?.value ?? 0) / work(a) || a - b,
  )
  let [at, done, sum] = [0, 0, 0]
  for (const j of order) {
    const job = d.jobs[j]
    if (!job) continue
    let [left, moment] = [work(j), 0]
    while (left > 1e-9 && at < speed.length) {
      const piece = speed[at]
      if (!piece) break
      const room = (piece.to - piece.from) * piece.people - done
      const take = Math.min(left, room)
      if (piece.people > 0 && take > 0) moment += take * (piece.from + (done + take / 2) / piece.people)
      left -= take
      done += take
      if (take >= room - 1e-9) {
        at++
        done = 0
      }
    }
    if (left > 1e-9) moment += left * (speed.at(-1)?.to ?? d.now)
    sum += job.value * (moment / work(j) + job.minutes / 2 - d.now)
  }
  return Math.ceil(sum / 15 - 1e-6)
}

/** Ways that every plan walks: into every area where there is work, over the nearest arcs. */
function leastWalk(d: Day, fit: readonly number[], cap: number): number {
  const homes = [...new Set(d.turns.filter((t) => t.pieces.length > 0).map((t) => t.area))]
  const into = (b: number) => Math.min(...d.areas.map((_, x) => (x === b ? Infinity : (d.walk[x]?.[b] ?? 0))))
  const areas = [...new Set(fit.map((j) => d.jobs[j]?.area ?? 0))].flatMap((b) => {
    const here = fit.filter((j) => d.jobs[j]?.area === b)
    const work = here.reduce(
      (n, j) => n + (d.jobs[j]?.minutes ?? 0) * (d.jobs[j]?.helper?.how === 'throughout' ? 2 : 1),
      0,
    )
    const pairs = here.some((j) => d.jobs[j]?.helper?.how === 'throughout') ? 2 : 1
    const blocks = Math.max(1, cap > 0 ? Math.ceil(work / cap) : 1, pairs)
    const v = blocks - d.turns.filter((t) => t.pieces.length > 0 && t.area === b).length
    return v > 0 ? [{ b, v }] : []
  })
  if (areas.length === 0 || homes.length === 0) return 0
  const homeward = Math.min(...homes.map((h) => (d.areas.length > 1 ? into(h) : 0)))
  const visits =
    areas.reduce((n, { b, v }) => n + v * into(b), 0) + Math.max(...areas.map((x) => x.v)) * homeward
  // The least forest that joins these areas to the homes.
  const joined = new Set(homes)
  let forest = homeward
  const left = new Set(areas.map((x) => x.b).filter((b) => !joined.has(b)))
  while (left.size > 0) {
    let [nearest, way] = [-1, Infinity]
    for (const b of left)
      for (const x of joined) {
        const w = Math.min(d.walk[x]?.[b] ?? Infinity, d.walk[b]?.[x] ?? Infinity)
        if (w < way) [nearest, way] = [b, w]
      }
    if (nearest < 0) break
    forest += way
    joined.add(nearest)
    left.delete(nearest)
  }
  const finite = (x: number) => (Number.isFinite(x) ? x : 0)
  return Math.max(finite(visits), finite(forest))
}

/** What no plan of this day can be better than; simple, so that it holds for any size. */
export function lowerBound(d: Day): LowerBound {
  const low = d.jobs.map((_, i) => leastEnd(d, i))
  const gone = new Set(low.flatMap((x, i) => (x === Infinity ? [i] : [])))
  for (let isMore = true; isMore;) {
    isMore = false
    d.jobs.forEach((j, i) => {
      if (!gone.has(i) && j.after.some((a) => gone.has(a))) {
        gone.add(i)
        isMore = true
      }
    })
  }
  const fit = d.jobs.flatMap((_, i) => (gone.has(i) ? [] : [i]))
  const alone = (j: number) => lateOf(d, j, low[j] ?? 0)
  const sum = (jobs: readonly number[], f: (j: number) => number) => jobs.reduce((n, j) => n + f(j), 0)
  const over = fit.filter((j) => (d.jobs[j]?.due ?? 0) <= d.now)
  const late =
    sum(
      fit.filter((j) => !over.includes(j)),
      alone,
    ) + Math.max(sum(over, alone), over.length > 0 ? filled(d, over) : 0)
  const cap = Math.max(0, ...d.turns.map((t) => t.pieces.reduce((n, p) => n + p.to - p.from, 0)))
  const kits = new Set(fit.flatMap((j) => d.jobs[j]?.kit ?? []))
  const setup =
    sum(
      fit.filter((j) => d.jobs[j]?.kit === null),
      (j) => d.jobs[j]?.setup ?? 0,
    ) +
    [...kits].reduce((n, kit) => {
      const own = fit.filter((j) => d.jobs[j]?.kit === kit)
      const times = cap > 0 ? Math.ceil(sum(own, (j) => d.jobs[j]?.minutes ?? 0) / cap) : 1
      return n + Math.min(...own.map((j) => d.jobs[j]?.setup ?? 0)) * times
    }, 0)
  return {
    unplaced: sum([...gone], (j) => d.jobs[j]?.value ?? 0),
    points: late + d.weights.walk * leastWalk(d, fit, cap) + d.weights.setup * setup,
    gone,
  }
}
