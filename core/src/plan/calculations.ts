import { z } from 'zod'
import { calculation } from '../calculation.ts'
import { isRefused, refused } from '../refused.ts'
import { brokenRules, RULES } from './check.ts'
import { amountsOf, bottleHolds_nl, UseSchema } from './consumables.ts'
import { costOf, liesInTurns } from './cost.ts'
import { packKit, SHORT_CODES } from './kit.ts'
import { dayOf, minuteOf, PlacingSchema, PlanProblem } from './problem.ts'
import { LIFTS } from './reasons.ts'
import { sightedOf } from './sight.ts'
import { solvePlan } from './solve.ts'
import { chanceOf, usualTime } from './usual-time.ts'

const UNTIMED_STEPS = 5000
const SOURCE = 'the product’s planner: hard rules, cost in whole numbers'
const number = z.number()
const Parts = z.object({
  late: number,
  walk: number,
  setup: number,
  wait: number,
  spread: number,
  otherPerson: number,
  reversed: number,
  later: number,
  dropped: number,
})
const Placings = z.array(PlacingSchema).max(800)
const orNull = z.string().nullable()
const example = {
  now: '2026-11-24T06:00Z',
  areas: ['W', 'X'],
  walk: [
    [0, 5],
    [5, 0],
  ],
  people: [
    {
      id: 'wren',
      abilities: ['gas'],
      turns: [{ from: '2026-11-24T06:00Z', to: '2026-11-24T10:00Z', area: 'W' }],
    },
  ],
  stock: {},
  jobs: [
    { id: 'FT-101', minutes: 60, area: 'X', importance: 3, due: '2026-11-24T18:00Z', abilities: ['gas'] },
  ],
}
const placing = { job: 'FT-101', person: 'wren', start: '2026-11-24T06:05Z' }
const Needs = z.strictObject({
  id: z.string().min(1).max(120),
  kind: z.string().min(1).max(120),
  unit: z.string().max(40),
  lo: number,
  hi: number,
  tolerance: z.number().min(0),
  ratio: z.number().min(0),
  until: PlacingSchema.shape.start,
  wanted: z.string().max(120).nullish(),
})
const { instruments: Instruments } = PlanProblem.shape

export const planCalculations = [
  calculation({
    name: 'plan.check',
    title: 'Which rules a plan breaks',
    source: SOURCE,
    input: z.strictObject({ problem: PlanProblem, placings: Placings }),
    output: z.object({ broken: z.array(z.object({ code: z.enum(RULES), job: orNull, other: orNull })) }),
    run: ({ problem, placings }) => {
      const d = dayOf(problem)
      if (isRefused(d)) return refused(d.says, `problem.${d.where}`, d.code)
      return { broken: brokenRules(d, sightedOf(d, placings)).map((b) => ({ ...b })) }
    },
    example: { problem: example, placings: [placing] },
  }),
  calculation({
    name: 'plan.cost',
    title: 'What a plan costs',
    source: SOURCE,
    input: z.strictObject({ problem: PlanProblem, placings: Placings }),
    output: z.object({ unplaced: number, points: number, parts: Parts }),
    run: ({ problem, placings }) => {
      const d = dayOf(problem)
      if (isRefused(d)) return refused(d.says, `problem.${d.where}`, d.code)
      const sighted = sightedOf(d, placings)
      const strange = sighted.findIndex((p) => p.says.unknown.length > 0)
      if (strange >= 0)
        return refused(
          `Nobody knows ${sighted[strange]?.says.unknown.join(', ') ?? ''}.`,
          `placings.${strange}`,
          'UNKNOWN',
        )
      const once = sighted.filter((p, i) => sighted.findIndex((x) => x.job === p.job) === i)
      const outside = once.findIndex((p) => !liesInTurns(d, [p]))
      if (outside >= 0)
        return refused(
          'It lies in no turn of its people: it has no cost.',
          `placings.${outside}`,
          'OUT_OF_SHIFT',
        )
      return costOf(d, once)
    },
    example: { problem: example, placings: [placing] },
  }),
  calculation({
    name: 'plan.solve',
    title: 'Plan a day',
    source: `${SOURCE}; branch and bound over orders with its proof, or a seeded search`,
    isLong: true,
    input: z.strictObject({
      problem: PlanProblem,
      seed: z.int().min(0).default(20_317),
      method: z.enum(['exact', 'search']),
      milliseconds: z.int().min(1).max(15_000).default(2000),
      steps: z.int().min(1).max(10_000_000).optional(),
    }),
    output: z.object({
      placings: z.array(PlacingSchema),
      cost: z.object({ unplaced: number, points: number, parts: Parts }),
      bound: z.object({ unplaced: number, points: number }),
      proved: z.boolean(),
      reasons: z.array(
        z.object({
          job: z.string(),
          placed: z.boolean(),
          why: z.object({ code: z.string(), job: orNull, other: orNull }),
          says: z.string(),
          lift: z.enum([...LIFTS, 'SEVERAL']).optional(),
          lifts: z.array(z.enum(LIFTS)).optional(),
          nearest: z.object({ instrument: z.string(), code: z.enum(SHORT_CODES) }).nullish(),
          missing_min: number.optional(),
          instead: orNull.optional(),
          overtime: z.object({ person: z.string(), minutes: number }).nullish(),
        }),
      ),
      steps: number,
    }),
    run: ({ problem, seed, method, milliseconds, steps }, clock) => {
      const begun = clock?.() ?? 0
      const elapsed = () => (clock?.() ?? 0) - begun
      // Where nobody tells the time a search ends by its steps.
      const most = steps ?? (clock ? undefined : UNTIMED_STEPS)
      const told = solvePlan(problem, seed, method, milliseconds, elapsed, most)
      if (isRefused(told))
        return refused(told.says, told.where === 'method' ? 'method' : `problem.${told.where}`, told.code)
      return {
        ...told,
        placings: [...told.placings],
        reasons: told.reasons.map(({ lifts, ...r }) => ({ ...r, ...(lifts ? { lifts: [...lifts] } : {}) })),
      }
    },
    example: { problem: example, method: 'exact' as const, milliseconds: 1000 },
  }),
  calculation({
    name: 'plan.kit',
    title: 'What to pack',
    source: `${SOURCE}; the fewest instruments that serve every need`,
    input: z.strictObject({
      needs: z.array(Needs).max(100),
      instruments: Instruments,
      uses: z.array(UseSchema).max(200).default([]),
      stock: z.record(z.string().max(60), z.number().min(0)).default({}),
    }),
    output: z.object({
      pack: z.array(z.string()),
      serves: z.array(
        z.object({
          need: z.string(),
          instrument: z.string(),
          ratio: z.number().nullable(),
          substitute: z.boolean(),
        }),
      ),
      missing: z.array(
        z.object({
          need: z.string(),
          nearest: z.object({ instrument: z.string(), code: z.enum(SHORT_CODES) }).nullable(),
        }),
      ),
      amounts: z.record(z.string(), number),
      short: z.record(z.string(), number),
    }),
    run: ({ needs, instruments, uses, stock }) => {
      const kit = packKit(
        needs.map((n) => ({ ...n, until: minuteOf(n.until), wanted: n.wanted ?? null })),
        instruments.map((x) => ({
          ...x,
          certificateEnds: x.certificateEnds === null ? Infinity : minuteOf(x.certificateEnds),
          away: x.away.map((a) => ({ from: minuteOf(a.from), to: minuteOf(a.to) })),
        })),
      )
      return {
        pack: [...kit.pack],
        serves: [...kit.serves],
        missing: [...kit.missing],
        ...amountsOf(uses, stock),
      }
    },
    example: {
      needs: [
        {
          id: 'PT-202',
          kind: 'pressure',
          unit: 'bar',
          lo: 0,
          hi: 40,
          tolerance: 0.1,
          ratio: 4,
          until: '2026-11-24T12:00Z',
        },
      ],
      instruments: [
        {
          id: 'pump',
          kind: 'pressure',
          unit: 'bar',
          lo: 0,
          hi: 60,
          u: 0.02,
          certificateEnds: null,
          area: 'W',
        },
      ],
    },
  }),
  calculation({
    name: 'plan.bottle',
    title: 'What a bottle of nitrogen gives',
    source: `${SOURCE}; as an ideal gas: at 150 bar and more the real content is a little less`,
    input: z.strictObject({
      volume_l: z.number().positive().max(1000).describe('water volume'),
      p: z.number().min(0).max(400).describe('bar gauge'),
      rest: z.number().min(0).max(400).default(5).describe('bar gauge that stays in it'),
      t_C: z.number().min(-40).max(60).default(20),
    }),
    output: z.object({ nl: number.describe('litres at 0 °C and 101.325 kPa') }),
    run: ({ volume_l, p, rest, t_C }) =>
      p <= rest
        ? refused('The pressure is not above what stays in the bottle.', 'p', 'EMPTY')
        : { nl: bottleHolds_nl(volume_l, p, rest, t_C) },
    example: { volume_l: 10, p: 150 },
  }),
  calculation({
    name: 'plan.usualTime',
    title: 'How long it usually takes',
    source: `${SOURCE}; medians drawn towards the standard, log-normal scatter`,
    input: z.strictObject({
      standard: z.number().positive().max(100_000),
      others: z.array(z.number().min(1).max(100_000)).max(10_000).default([]),
      own: z.array(z.number().min(1).max(100_000)).max(10_000).default([]),
      chance: z
        .strictObject({
          left: z.number().min(0),
          fixed: z.number().min(0).default(0),
          jobs: z
            .array(z.strictObject({ usual: z.number().positive(), spread: z.number().min(0).max(5) }))
            .max(100),
        })
        .nullish(),
    }),
    output: z.object({
      procedure: number,
      ownMedian: z.number().nullable(),
      usual: number,
      spread: number,
      minutes: number,
      p90: number,
      n: number,
      chance: number.optional(),
    }),
    run: ({ standard, others, own, chance }) => ({
      ...usualTime(standard, others, own),
      ...(chance ? { chance: chanceOf(chance.left, chance.fixed, chance.jobs) } : {}),
    }),
    example: { standard: 60, own: [42, 55, 48], others: [60, 65, 58, 70] },
  }),
]
