import { sayNumber } from '../quantity/round.ts'
import { printedUnit } from '../quantity/units.ts'
import { packKit, shortOf, type Kit } from '../plan/kit.ts'
import { minuteOf } from '../plan/problem.ts'
import { takenFor, type KeptPlacing, type NamedProblem, type PlannedJob, type Taken } from './day-problem.ts'

export interface KitLine {
  readonly what: string
  readonly for: readonly string[]
  /** The register's instrument; null for what is in no register. */
  readonly instrument: string | null
  readonly certificateEnds: string | null
  /** Others who need it too on these days: it is handed on. */
  readonly shared: readonly string[]
}
export interface PersonKit {
  readonly person: string
  readonly instruments: readonly KitLine[]
  readonly tools: readonly KitLine[]
  readonly uses: readonly {
    readonly item: string
    readonly amount: number
    readonly for: readonly string[]
  }[]
}

const collect = <T>(list: readonly (readonly [T, string])[]): Map<T, string[]> => {
  const out = new Map<T, string[]>()
  for (const [what, job] of list) out.set(what, [...new Set([...(out.get(what) ?? []), job])])
  return out
}

/** What each person packs for the jobs that are planned for them, with what it is for. */
export function kitsOf(
  placings: readonly KeptPlacing[],
  jobs: readonly PlannedJob[],
  instruments: readonly { readonly id: string; readonly label: string; readonly dueOn: string }[],
): PersonKit[] {
  const byKey = new Map(jobs.map((j) => [j.key, j]))
  const label = new Map(instruments.map((x) => [x.id, x]))
  return [...new Set(placings.map((p) => p.person))].map((person) => {
    const own = placings.flatMap((p) => {
      const job = p.person === person ? byKey.get(p.job) : undefined
      return job ? [{ p, job }] : []
    })
    const found = collect(own.flatMap(({ p, job }) => p.instruments.map((i) => [i, job.title] as const)))
    const tools = collect(own.flatMap(({ job }) => job.work.tools.map((t) => [t, job.title] as const)))
    const items = collect(
      own.flatMap(({ job }) => Object.keys(job.work.uses).map((i) => [i, job.title] as const)),
    )
    return {
      person,
      instruments: [...found].map(([id, of]) => ({
        what: label.get(id)?.label ?? 'an instrument that is no more',
        for: of,
        instrument: id,
        certificateEnds: label.get(id)?.dueOn ?? null,
        shared: [...new Set(placings.filter((p) => p.instruments.includes(id)).map((p) => p.person))].filter(
          (other) => other !== person,
        ),
      })),
      tools: [...tools].map(([what, of]) => ({
        ...{ what, for: of, instrument: null, certificateEnds: null, shared: [] },
      })),
      uses: [...items].map(([item, of]) => ({
        item,
        amount: own.reduce((n, { job }) => n + (job.work.uses[item] ?? 0), 0),
        for: of,
      })),
    }
  })
}

const WHY_SHORT = {
  RANGE_SHORT: 'its range is too short',
  RATIO_LOW: 'it is not known well enough',
  CERTIFICATE_ENDED: 'its certificate has ended',
  INSTRUMENT_AWAY: 'it is away',
} as const

/** The plan's instruments as the kit asks for them: until when a certificate holds, in minutes. */
const asPacked = (problem: NamedProblem['problem']) =>
  problem.instruments.map((x) => ({
    ...x,
    certificateEnds: x.certificateEnds === null ? Infinity : minuteOf(x.certificateEnds),
    away: [],
  }))

interface Use {
  readonly job: string
  readonly from: number
  readonly to: number
  readonly taken: readonly Taken[]
}
/**
 * Instruments of a plan that do not serve what they were taken for any more, or that somebody else has then: each with
 * the least good one that still serves in its place.
 */
export function substitutesOf(n: NamedProblem, kept: readonly KeptPlacing[]): string[] {
  const all = asPacked(n.problem)
  const byId = new Map(all.map((x) => [x.id, x]))
  const uses = kept
    .flatMap((k): Use[] => {
      const job = n.problem.jobs.find((j) => n.keyOf.get(j.id) === k.job)
      if (!job) return []
      const from = minuteOf(k.start)
      return [{ job: job.id, from, to: from + job.minutes, taken: takenFor(n, k, job) }]
    })
    .sort((a, b) => a.from - b.from)
  return uses.flatMap((u, at) => {
    const isBeside = (v: Use) => v !== u && v.from < u.to && u.from < v.to
    const inUse = new Set(uses.filter(isBeside).flatMap((v) => v.taken.flatMap((t) => t.used?.id ?? [])))
    const mine = new Set(u.taken.flatMap((t) => t.used?.id ?? []))
    return u.taken.flatMap(({ need, own }, i) => {
      const wanted = { ...need, id: String(i), until: u.to, wanted: own?.id ?? '' }
      const x = own ? byId.get(own.id) : undefined
      const short = x ? shortOf(x, wanted) : null
      // Who begins first has it.
      const holder = uses.slice(0, at).find((v) => isBeside(v) && v.taken.some((t) => t.used?.id === own?.id))
      const why =
        own === null
          ? 'what was planned for it is no more'
          : short !== null
            ? `${own.id} does not serve, ${WHY_SHORT[short]}`
            : holder
              ? `${own.id} is at ${holder.job} then`
              : null
      if (why === null) return []
      const others = all.filter(
        (y) => y.id !== own?.id && !inUse.has(y.id) && (own === null || !mine.has(y.id)),
      )
      const [instead] = packKit([wanted], others).serves
      return [
        instead
          ? `${u.job}: ${why}. ${instead.instrument} serves in its place.`
          : `${u.job}: ${why}. Nothing else that is free serves.`,
      ]
    })
  })
}

/** Needs that no instrument of the plant serves, each with the one that is nearest and what it lacks. */
export function missingOf({ problem }: NamedProblem, jobs: readonly PlannedJob[], until: string): string[] {
  const instruments = asPacked(problem)
  const needs = problem.jobs.flatMap((j) =>
    j.instruments.map((n, i) => ({ ...n, id: `${j.id}\u0000${i}`, until: minuteOf(until), wanted: null })),
  )
  const kit: Kit = packKit(needs, instruments)
  return kit.missing.map((m) => {
    const [job = '', at = '0'] = m.need.split('\u0000')
    const n = jobs.find((j) => j.title === job)?.work.needs[Number(at)]
    const what = n ? `${sayNumber(n.low, 5)} to ${sayNumber(n.high, 5)} ${printedUnit(n.unit)}` : ''
    const within = n ? `, ±${sayNumber(n.allowed, 2)}` : ''
    return m.nearest
      ? `${job}: nothing serves ${what}${within}. Nearest is ${m.nearest.instrument}, but ${WHY_SHORT[m.nearest.code]}.`
      : `${job}: nothing in the register measures ${what}.`
  })
}
