import { z } from 'zod'
import { calculation } from '../calculation.ts'
import { errorComponents } from './components.ts'
import { namedPlan, PLAN_NAMES } from './plan.ts'
import { toleranceAt } from './tolerance.ts'
import { classify, VERDICT_WORDS } from './verdict.ts'

const Direction = z.enum(['up', 'down'])

export const verifyCalculations = [
  calculation({
    name: 'verify.plan',
    title: 'Points of a test plan',
    source: 'IEC 61298-2',
    input: z.strictObject({
      plan: z.enum(PLAN_NAMES),
      lrv: z.number().default(0),
      urv: z.number().default(100),
    }),
    output: z.object({
      points: z.array(
        z.object({ index: z.number(), level_pct: z.number(), direction: Direction, applied: z.number() }),
      ),
    }),
    run: ({ plan, lrv, urv }) => ({
      points: namedPlan(plan).map((p) => ({ ...p, applied: lrv + ((urv - lrv) * p.level_pct) / 100 })),
    }),
    example: { plan: 'P5UD' as const, lrv: 0, urv: 80 },
  }),
  calculation({
    name: 'verify.tolerance',
    title: 'Allowed error at a value',
    source: 'Largest, sum or smallest of percent of span, percent of reading and an absolute amount',
    input: z.strictObject({
      mode: z.enum(['max', 'sum', 'min']),
      pctSpan: z.number().min(0).default(0),
      pctReading: z.number().min(0).default(0),
      abs: z.number().min(0).default(0),
      span: z.number(),
      x: z.number(),
    }),
    output: z.object({ T: z.number() }),
    run: ({ span, x, ...tolerance }) => ({ T: toleranceAt(tolerance, span, x) }),
    example: { mode: 'max' as const, pctSpan: 0.1, pctReading: 0.25, abs: 0.02, span: 80, x: 20 },
  }),
  calculation({
    name: 'verify.components',
    title: 'Zero, span, linearity and hysteresis of an error curve',
    source: 'IEC 61298-2 terms; independent linearity by the narrowest band',
    input: z.strictObject({
      points: z
        .array(
          z.strictObject({
            p: z.number().describe('% of range'),
            dir: Direction,
            e: z.number().describe('% of span'),
          }),
        )
        .min(2)
        .max(200),
    }),
    output: z.object({
      zero: z.number(),
      span: z.number(),
      terminalLinearity: z.number(),
      independentLinearity: z.number(),
      hysteresis: z.number().nullable(),
      repeatability: z.number().nullable(),
    }),
    run: ({ points }) => {
      const c = errorComponents(points.map((x) => ({ level_pct: x.p, direction: x.dir, error_pct: x.e })))
      return {
        zero: c?.zero_pct ?? 0,
        span: c?.span_pct ?? 0,
        terminalLinearity: c?.terminalLinearity_pct ?? 0,
        independentLinearity: c?.independentLinearity_pct ?? 0,
        hysteresis: c?.hysteresis_pct ?? null,
        repeatability: c?.repeatability_pct ?? null,
      }
    },
    example: {
      points: [
        { p: 0, dir: 'up' as const, e: 0.4 },
        { p: 100, dir: 'up' as const, e: 0.55 },
      ],
    },
  }),
  calculation({
    name: 'verify.classify',
    title: 'Class of an error against its tolerance',
    source: 'ILAC-G8, guard band equal to the expanded uncertainty',
    input: z.strictObject({ e: z.number(), T: z.number().positive(), U: z.number().min(0).default(0) }),
    output: z.object({ class: z.string(), says: z.string(), TUR: z.number().nullable() }),
    run: ({ e, T, U }) => {
      const c = classify(e, T, U)
      return { class: c, says: VERDICT_WORDS[c], TUR: U > 0 ? T / U : null }
    },
    example: { e: 0.21, T: 0.25, U: 0.06 },
  }),
]
