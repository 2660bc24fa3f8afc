// npm run bench planner: plans against the exact method, and larger days against their bound.
import { isRefused } from '@calm/core/refused'
import { lowerBound } from '@calm/core/plan/bound'
import { brokenRules } from '@calm/core/plan/check'
import { sightedOf } from '@calm/core/plan/sight'
import { workOut, type WorkedOut } from '@calm/core/plan/solve'
import { randomDay, ready } from '@calm/core/plan/test/days'
import { median, percentile, print, type Figure } from './report.ts'

const SEED = 20_317
type Problem = ReturnType<typeof randomDay>
function planned(p: Problem, method: 'exact' | 'search', ms: number): WorkedOut & { ms: number } {
  const begun = performance.now()
  const told = workOut(p, SEED, method, ms, () => performance.now() - begun)
  if (isRefused(told)) throw new Error(told.says)
  return { ...told, ms: performance.now() - begun }
}
const share = (title: string, part: number, of: number, wanted: number): Figure => ({
  title,
  measured: `${part} of ${of}`,
  against: `${100 * wanted} % wanted`,
  ratio: part / Math.max(1, of) / wanted,
  wanted: 'at least 1',
})

function exactFigures(jobs: number, people: number, days: number, wanted: number): Figure[] {
  let [proved, near, compared] = [0, 0, 0]
  const times: number[] = []
  for (let i = 0; i < days; i++) {
    const p = randomDay(1000 * jobs + 100 * people + i, jobs, people)
    const exact = planned(p, 'exact', 8000)
    times.push(exact.ms)
    if (!exact.proved) continue
    proved++
    compared++
    const quick = planned(p, 'search', 150)
    const isNear =
      quick.cost.unplaced === exact.cost.unplaced && quick.cost.points <= 1.01 * exact.cost.points
    if (isNear) near++
  }
  return [
    {
      ...share(`${jobs} jobs, ${people} people: proved in 8 s`, proved, days, wanted),
      measured: `${proved} of ${days}, median ${median(times).toFixed(0)} ms, p90 ${percentile(times, 90).toFixed(0)} ms`,
    },
    share(
      `${jobs} jobs, ${people} people: the search of 150 ms within 1 % of the best`,
      near,
      compared,
      0.99,
    ),
  ]
}

function largeFigures(days: number): Figure[] {
  const ratios: number[] = []
  let [broken, first] = [0, 0]
  for (let i = 0; i < days; i++) {
    const p = randomDay(60_000 + i, 60, 6)
    const d = ready(p)
    const begun = performance.now()
    planned(p, 'search', 1)
    first = Math.max(first, performance.now() - begun)
    const plan = planned(p, 'search', 5000)
    broken += brokenRules(d, sightedOf(d, plan.placings)).length
    const low = lowerBound(d)
    if (plan.cost.unplaced === low.unplaced) ratios.push(plan.cost.points / Math.max(1, low.points))
    console.log(
      `    day ${i}: left out ${plan.cost.unplaced} (bound ${low.unplaced}), ${plan.cost.points} points (bound ${low.points}), ${plan.steps} layouts`,
    )
  }
  return [
    {
      title: '60 jobs, 6 people: rules broken',
      measured: String(broken),
      against: '0',
      ratio: broken,
      wanted: '0',
    },
    {
      title: '60 jobs, 6 people: a first plan',
      measured: `${first.toFixed(0)} ms`,
      against: '300 ms',
      ratio: first / 300,
      wanted: 'at most 1',
    },
    {
      title: '60 jobs, 6 people, 5 s: cost by its lower bound, where as little is left out',
      measured: `${ratios.length} of ${days} days, median ${median(ratios).toFixed(2)}`,
      against: 'the bound',
      ratio: median(ratios),
      wanted: '1.2 to 1.7 is what good plans reach',
    },
  ]
}

print([
  ...exactFigures(8, 2, 40, 1),
  ...exactFigures(7, 2, 60, 1),
  ...exactFigures(6, 2, 60, 1),
  ...exactFigures(5, 2, 40, 1),
  ...exactFigures(8, 3, 20, 0.9),
  // What the plain method of the reference proves of these is 6 of 20.
  ...exactFigures(9, 3, 20, 0.3),
  ...largeFigures(6),
])
