import type { JobTold } from '@calm/contract/today'
import {
  dayChance,
  sayChance,
  type ChanceJob,
  type ChanceTurn,
  type DayChance,
} from '@calm/core/today/day-chance'
import type { KeptPlacing, NamedProblem } from '@calm/core/today/day-problem'
import { sayPlace } from '@calm/core/today/place'
import { minuteIso } from '@calm/core/today/wall-time'
import type { Situation } from './day.ts'
import type { Times } from './usual-times.ts'

const MINUTE_MS = 60_000

/** How long a job usually takes somebody: as it was said, else as this person, or anybody here, needed. */
function usualFor(j: JobTold, person: string | null, times: Times) {
  const { usual, spread } = times(j.work.procedure, j.work.standard_min, person)
  return { usual: j.wish.minutes ?? usual, spread }
}

/** Way from an area to where a turn ends, minutes. */
function wayHome({ problem }: NamedProblem, area: string, home: string): number {
  const [from, to] = [problem.areas.indexOf(area), problem.areas.indexOf(home)]
  return problem.walk[from]?.[to] ?? 0
}

/**
 * Chance that what is left of somebody's turn ends within it; null where nothing is left.
 * @param leaves - when the way to a job begins, by its title
 */
function chanceOfTurn(
  s: Situation,
  n: NamedProblem,
  leaves: Readonly<Record<string, string>>,
  person: string,
  turn: ChanceTurn & { readonly area: string },
): DayChance | null {
  const byKey = new Map(s.jobs.map((j) => [j.key, j]))
  const isIn = (p: KeptPlacing) => Date.parse(p.start) >= turn.from && Date.parse(p.start) < turn.to
  const own = s.standing.placings
    .filter((p) => isIn(p) && (p.person === person || p.helper === person))
    .sort((a, b) => a.start.localeCompare(b.start))
    .flatMap((p): (ChanceJob & { area: string })[] => {
      const job = byKey.get(p.job)
      const progress = s.progress.get(p.job)
      const state = progress?.state ?? 'open'
      // Who helps by radio is busy for minutes only.
      const isHelping = p.person !== person
      if (!job || (state !== 'open' && state !== 'begun')) return []
      if (isHelping && (job.wish.helper ?? job.work.helper) !== 'throughout') return []
      const begun = state === 'begun'
      const start = Date.parse(begun && progress?.at ? progress.at : p.start)
      return [
        {
          leaves: begun || isHelping ? start : Date.parse(leaves[job.title] ?? p.start),
          start,
          end: start + job.minutes * MINUTE_MS,
          begun,
          area: sayPlace(job),
          // The work takes as long as whoever does it needs.
          ...usualFor(job, p.person, s.times),
        },
      ]
    })
  const last = own.at(-1)
  return last ? dayChance(turn, own, s.now.getTime(), wayHome(n, last.area, turn.area)) : null
}

/** A day that ends in time less often than this is too full. */
const RISKY = 0.5
interface Spoken {
  readonly from: string
  readonly to: string
}
/** The chance of a turn, as it is said. */
export function chanceTold(
  s: Situation,
  named: NamedProblem,
  leaves: Readonly<Record<string, string>>,
  person: string,
  t: Spoken & { readonly breaks: readonly Spoken[] },
) {
  const span = (x: Spoken) => ({ from: Date.parse(x.from), to: Date.parse(x.to) })
  const turn = { ...span(t), breaks: t.breaks.map(span), area: s.plant.home }
  const told = chanceOfTurn(s, named, leaves, person, turn)
  return told && { says: sayChance(told.chance), low: told.chance < RISKY, ends: minuteIso(told.ends) }
}

/** What somebody has done before takes as long as it took them; of the rest nothing is said. */
export const usualTold = (s: Situation, jobs: readonly JobTold[], person: string) =>
  jobs.flatMap((j) => {
    const { n, minutes, p90 } = s.times(j.work.procedure, j.work.standard_min, person)
    return n > 0 ? [{ job: j.key, minutes, slow: Math.round(p90), runs: n }] : []
  })
