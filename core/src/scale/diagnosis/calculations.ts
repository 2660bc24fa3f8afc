import { z } from 'zod'
import { calculation } from '../../calculation.ts'
import { refused } from '../../refused.ts'
import { Chain, StationIdSchema } from '../../signal/chain.ts'
import { explain, toldShapes, type Explanation } from './explain.ts'
import { fractionAt, LINKS, segmentOf, spanAt } from './links.ts'
import { locate, pointOf, type SegmentResult } from './locate.ts'
import { nextReading } from './next-reading.ts'
import { nextMeasurement } from './next-measurement.ts'
import { causesOf, shapeName } from './told.ts'

const Direction = z.union([z.literal(1), z.literal(-1)]).default(1)
const ByStation = z.partialRecord(StationIdSchema, z.number())
const Answer = z.object({
  state: z.string(),
  answer: z.string().nullable(),
  shape: z.string().nullable(),
  ranked: z.array(
    z.object({
      shape: z.string(),
      name: z.string(),
      P: z.number(),
      quantities: z.record(z.string(), z.number()),
      causes: z.array(z.string()),
    }),
  ),
  lookNext: z.array(z.object({ u: z.number(), S: z.number() })),
})
function told(e: Explanation, links: SegmentResult['links']): z.input<typeof Answer> {
  const listed = new Set(toldShapes(e).map((r) => r.shape))
  return {
    state: e.state,
    answer: e.answer,
    // What nobody knows has no name.
    shape: e.state === 'NONE' ? 'NONE' : e.answer === 'unknown' ? null : (e.ranked[0]?.shape ?? null),
    ranked: e.ranked
      .filter((r) => listed.has(r.shape) || r.P > 1e-6)
      .map((r) => ({
        shape: r.shape,
        name: shapeName(r.shape),
        P: r.P,
        quantities: Object.fromEntries(r.quantities.map((q) => [q.label, q.value])),
        causes: causesOf(links, r.shape),
      })),
    lookNext: e.lookNext.map((x) => ({ ...x })),
  }
}
const EXAMPLE_CHAIN = { lrv: 0, urv: 80, inUnit: 'bar', lo: 0, hi: 80, unit: 'bar' }

export const diagnosisCalculations = [
  calculation({
    name: 'scale.explain',
    title: 'Name the mistake from pairs of readings',
    source:
      'Shapes with priors, one marginal likelihood each; benign errors inside the tolerance allowed for',
    input: z.strictObject({
      chain: Chain,
      from: StationIdSchema.default('IN'),
      to: StationIdSchema.default('EU'),
      points: z
        .array(
          z.strictObject({
            in: z.number().describe('value at the upstream station'),
            out: z.number().describe('value at the downstream station'),
            dir: Direction,
          }),
        )
        .max(20),
      u: z.number().min(0).default(0).describe('standard uncertainty downstream, in its unit'),
      uIn: z.number().min(0).default(0).describe('standard uncertainty upstream, in its unit'),
      T: z.number().min(0).describe('tolerance of the segment, % of span'),
    }),
    output: Answer,
    run: ({ chain, from, to, points, u, uIn, T }) => {
      const segment = segmentOf(chain, from, to)
      if (!segment) return refused(`${to} does not follow from ${from} on this chain.`, 'to')
      const [ua, ub] = [Math.abs(uIn / spanAt(chain, from)), Math.abs(u / spanAt(chain, to))]
      const e = explain(
        {
          chain,
          segment,
          points: points.map((p) => {
            const [phi, r] = [fractionAt(chain, from, p.in), fractionAt(chain, to, p.out)]
            // Nobody told how the tolerance is shared: all of it counts behind the bend.
            return pointOf(segment, { phi, r, ua, ub, dir: p.dir }, { T: T / 100, Tin: 0 })
          }),
        },
        T / 100,
      )
      return told(e, segment.links)
    },
    example: {
      chain: EXAMPLE_CHAIN,
      points: [
        { in: 20, out: 32.1 },
        { in: 60, out: 63.9 },
      ],
      u: 0.03,
      T: 0.5,
    },
  }),
  calculation({
    name: 'scale.locate',
    title: 'Where along the chain the error comes in',
    source: 'Residual per segment from the value measured before it, with its uncertainty',
    input: z.strictObject({
      chain: Chain,
      levels: z
        .array(
          z.strictObject({
            values: ByStation,
            dir: Direction,
            fedAt: StationIdSchema.optional().describe(
              'where a known signal was fed in instead of the process',
            ),
          }),
        )
        .min(1)
        .max(20),
      u: ByStation.default({}).describe('standard uncertainty by station, in its unit'),
      tol: ByStation.default({}).describe('tolerance by station, % of span'),
      readable: z
        .array(StationIdSchema)
        .default(['IN', 'PV', 'PCT', 'MA', 'V', 'CNT', 'EU'])
        .describe('stations that can be read there'),
    }),
    output: z.object({
      segments: z.array(
        z.object({
          from: z.string(),
          to: z.string(),
          state: z.string(),
          residuals: z.array(z.number()).describe('% of span'),
          U: z.array(z.number()),
          T: z.number(),
          neededU: z.number().nullable(),
          links: z.array(z.string()),
          seesOneValue: z.boolean(),
          comesAndGoes: z
            .object({ at_pct: z.number(), spread_pct: z.number() })
            .nullable()
            .describe('one level read otherwise each time'),
          explanation: Answer.nullable(),
        }),
      ),
      firstOut: z.string().nullable(),
      addedUp: z.boolean(),
      next: z
        .object({
          kind: z.enum(['station', 'level', 'feed']),
          at: z.string().nullable(),
          at_pct: z.number().nullable(),
        })
        .nullable()
        .describe('the one reading that tells most now'),
    }),
    run: ({ levels, readable, ...rest }) => {
      const l = locate({
        ...rest,
        levels: levels.map(({ fedAt, ...level }) => (fedAt ? { ...level, fedAt } : level)),
      })
      if (l.segments.length === 0)
        return refused('Two stations at least must have been read at every level.', 'levels')
      const next = nextReading(l, readable)
      return {
        segments: l.segments.map((s) => ({
          from: s.from,
          to: s.to,
          state: s.state,
          residuals: [...s.residuals_pct],
          U: [...s.U_pct],
          T: s.T_pct,
          neededU: s.neededU_pct,
          links: [...s.links],
          seesOneValue: s.seesOneValue,
          comesAndGoes: s.comesAndGoes && { ...s.comesAndGoes },
          explanation: s.explanation && told(s.explanation, s.links),
        })),
        firstOut: l.firstOut ? `${l.firstOut.from}>${l.firstOut.to}` : null,
        addedUp: l.addedUp,
        next: next && {
          kind: next.kind,
          at: next.kind === 'level' ? null : next.at,
          at_pct: next.kind === 'level' ? next.at_pct : null,
        },
      }
    },
    example: {
      chain: { lrv: 0, urv: 6.5, inUnit: 'm', lo: 0, hi: 6.5, unit: 'm' },
      levels: [
        { values: { IN: 0.65, MA: 5.6, V: 1.3956, EU: 0.6428 } },
        { values: { IN: 5.85, MA: 18.401, V: 4.5855, EU: 5.8264 } },
      ],
      u: { IN: 0.001, MA: 0.002, V: 0.0005, EU: 0.0005 },
      tol: { PV: 0.15, MA: 0.1, V: 0.05, CNT: 0.05, EU: 0.05 },
    },
  }),
  calculation({
    name: 'scale.nextMeasurement',
    title: 'Which measurement would tell most',
    source: 'Information gained about one fault, and per minute',
    input: z.strictObject({
      weights: z.partialRecord(z.enum(LINKS), z.number().min(0)).optional(),
      links: z.array(z.enum(LINKS)).min(2).optional(),
      readings: z.array(z.strictObject({ at: StationIdSchema, good: z.boolean() })).default([]),
      miss: z.number().min(0).max(0.5).default(0.05),
      falseAlarm: z.number().min(0).max(0.5).default(0.02),
    }),
    output: z.object({
      H: z.number(),
      posterior: z.record(z.string(), z.number()),
      gain: z.record(z.string(), z.number()),
      perMinute: z.record(z.string(), z.number()),
      pGood: z.record(z.string(), z.number()),
      bestByGain: z.string().nullable(),
      bestPerMinute: z.string().nullable(),
      found: z.string().nullable(),
    }),
    run: ({ weights, links, ...rest }) => {
      const n = nextMeasurement({ ...rest, ...(weights ? { weights } : {}), ...(links ? { links } : {}) })
      const by = (value: (g: (typeof n.gains)[number]) => number) =>
        Object.fromEntries(n.gains.map((g) => [g.at, value(g)]))
      return {
        H: n.entropy_bit,
        posterior: { ...n.posterior },
        gain: by((g) => g.gain_bit),
        perMinute: by((g) => g.perMinute),
        pGood: by((g) => g.pGood),
        bestByGain: n.bestByGain,
        bestPerMinute: n.bestPerMinute,
        found: n.found,
      }
    },
    example: {},
  }),
]
