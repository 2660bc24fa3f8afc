import { Generator } from '../../statistics/generator.ts'
import { isRefused } from '../../refused.ts'
import { dayOf, PlanProblem, type Day } from '../problem.ts'
import type { z } from 'zod'

export type Given = z.input<typeof PlanProblem>
type GivenJob = Given['jobs'][number]
export const at = (clock: string, day = '2026-11-24'): string => `${day}T${clock}:00Z`
export const job = (id: string, minutes: number, area: string, more: Partial<GivenJob> = {}): GivenJob => ({
  id,
  minutes,
  area,
  importance: 3,
  due: at('18:00'),
  ...more,
})
const A = {
  id: 'a',
  abilities: [],
  turns: [
    { from: at('06:00'), to: at('10:00'), area: 'W', breaks: [{ from: at('08:00'), to: at('08:30') }] },
  ],
}
/** Three areas, one person for four hours with a break. */
export const day = (jobs: GivenJob[], more: Partial<Given> = {}): PlanProblem =>
  PlanProblem.parse({
    now: at('06:00'),
    areas: ['W', 'X', 'Y'],
    walk: [
      [0, 5, 8],
      [5, 0, 4],
      [8, 4, 0],
    ],
    people: [A],
    stock: {},
    jobs,
    ...more,
  } satisfies Given)
export const a = A
export const ready = (p: PlanProblem): Day => {
  const d = dayOf(p)
  if (isRefused(d)) throw new Error(`${d.where}: ${d.says}`)
  return d
}

/** A day made up at random: some people, jobs with windows, helpers, kits, instruments, orders. */
export function randomDay(seed: number, jobs: number, people: number): PlanProblem {
  const g = new Generator(seed)
  const pick = <T>(xs: readonly T[]): T => xs[Math.floor(g.uniform() * xs.length)] as T
  const between = (lo: number, hi: number) => lo + Math.floor(g.uniform() * (hi - lo + 1))
  const areas = ['W', 'X', 'Y', 'Z']
  const start = Date.parse('2026-11-24T06:00:00Z')
  const iso = (minute: number) => new Date(start + minute * 60_000).toISOString()
  const walk = areas.map((_, i) => areas.map((__, j) => (i === j ? 0 : between(3, 12))))
  const team = Array.from({ length: people }, (_, i) => {
    const from = between(0, 4) * 15
    const to = from + between(16, 28) * 15
    const lunch = from + between(8, 12) * 15
    return {
      id: `p${i}`,
      abilities: ['gas', 'ph'].filter(() => g.uniform() < 0.8),
      turns: [
        {
          from: iso(from),
          to: iso(to),
          area: pick(areas),
          breaks: [{ from: iso(lunch), to: iso(lunch + 30) }],
        },
      ],
    }
  })
  return PlanProblem.parse({
    now: iso(0),
    areas,
    walk,
    people: team,
    holders: [{ id: 'op', role: 'operations', there: [{ from: iso(0), to: iso(300) }] }],
    instruments: [
      {
        id: 'pump',
        kind: 'pressure',
        unit: 'bar',
        lo: 0,
        hi: 60,
        u: 0.02,
        certificateEnds: iso(600),
        area: 'W',
      },
      {
        id: 'gauge',
        kind: 'pressure',
        unit: 'bar',
        lo: 0,
        hi: 20,
        u: 0.01,
        certificateEnds: null,
        area: 'X',
      },
    ],
    stock: { film: 3 },
    jobs: Array.from({ length: jobs }, (_, i) => {
      const minutes = between(2, 14) * 5
      const dice = g.uniform()
      return {
        id: `j${i}`,
        minutes,
        area: pick(areas),
        importance: between(1, 5),
        due: iso(between(-3000, 900)),
        ...(g.uniform() < 0.2
          ? { windows: [{ from: iso(between(0, 180)), to: iso(between(240, 420)) }] }
          : {}),
        abilities: g.uniform() < 0.3 ? [pick(['gas', 'ph'])] : [],
        ...(dice < 0.15 && people > 1
          ? { helper: { how: 'throughout' as const, abilities: [] } }
          : dice < 0.3 && people > 1
            ? { helper: { how: 'radio' as const, abilities: [], begin: 5, end: minutes > 10 ? 5 : 0 } }
            : {}),
        instruments:
          g.uniform() < 0.3
            ? [{ kind: 'pressure', unit: 'bar', lo: 0, hi: 10, tolerance: 0.1, ratio: 4 }]
            : [],
        uses: g.uniform() < 0.2 ? { film: 1 } : {},
        kit: g.uniform() < 0.3 ? 'gas' : null,
        setup: g.uniform() < 0.4 ? between(1, 4) * 5 : 0,
        after: i > 0 && g.uniform() < 0.15 ? [`j${between(0, i - 1)}`] : [],
        holds: g.uniform() < 0.15 ? [{ at: 0, minutes: 5, person: 'op' }] : [],
      }
    }),
  })
}
