import { z } from 'zod'
import { calculation } from '../calculation.ts'
import { combine, DISTRIBUTIONS } from './budget.ts'
import { Generator } from './generator.ts'
import { runMonteCarlo } from './monte-carlo.ts'
import { coverageFactor, studentQuantile } from './student-t.ts'

const Line = z.strictObject({
  name: z.string().max(80).optional(),
  value: z.number().min(0),
  distribution: z.enum(DISTRIBUTIONS),
  c: z.number().default(1).describe('sensitivity'),
  nu: z.number().positive().optional(),
})
const Lines = z.array(Line).min(1).max(100)

export const statisticsCalculations = [
  calculation({
    name: 'uncertainty.budget',
    title: 'Uncertainty budget',
    source: 'JCGM 100; k from Student’s distribution at 95.45 %',
    input: z.strictObject({
      lines: Lines,
      correlations: z.array(z.tuple([z.int(), z.int(), z.number().min(-1).max(1)])).default([]),
    }),
    output: z.object({
      u: z.array(z.number()),
      uc: z.number(),
      nuEff: z.number().nullable().describe('null: infinite'),
      k: z.number(),
      U: z.number(),
    }),
    run: ({ lines, correlations }) => {
      const b = combine(lines, correlations)
      return { ...b, u: [...b.u], nuEff: Number.isFinite(b.nuEff) ? b.nuEff : null }
    },
    example: {
      lines: [
        { value: 0.06, distribution: 'rect' as const },
        { value: 0.012, distribution: 'normal1' as const, nu: 4 },
      ],
    },
  }),
  calculation({
    name: 'uncertainty.monteCarlo',
    title: 'The same by trials',
    source: 'JCGM 101, adaptive in blocks of 10 000; linear in its inputs; seeded',
    input: z.strictObject({
      y: z.number().default(0),
      lines: Lines,
      seed: z.int().min(0).default(20_317),
      ndig: z.int().min(1).max(3).default(2),
    }),
    output: z.object({
      y: z.number(),
      u: z.number(),
      low: z.number(),
      high: z.number(),
      blocks: z.number(),
      delta: z.number(),
      state: z.string(),
      validated: z.boolean().describe('the budget’s interval agrees within delta'),
    }),
    run: ({ y, lines, seed, ndig }) => {
      const r = runMonteCarlo({
        seed,
        digits: ndig,
        inputs: lines.map((l) => ({ value: 0, spread: l.value, distribution: l.distribution, nu: l.nu })),
        model: (x) => lines.reduce((sum, l, i) => sum + l.c * (x[i] ?? 0), y),
      })
      const b = combine(lines)
      const U95 =
        b.uc * studentQuantile(0.975, Number.isFinite(b.nuEff) ? Math.max(1, Math.floor(b.nuEff)) : Infinity)
      return {
        y: r.y,
        u: r.u,
        low: r.low,
        high: r.high,
        blocks: r.blocks,
        delta: r.delta,
        state: r.converged ? 'CONVERGED' : 'NOT_CONVERGED',
        validated: Math.abs(y - U95 - r.low) <= r.delta && Math.abs(y + U95 - r.high) <= r.delta,
      }
    },
    example: { lines: [{ value: 0.06, distribution: 'rect' as const }] },
  }),
  calculation({
    name: 'uncertainty.coverage',
    title: 'Coverage factor',
    source: 'Student’s distribution at 95.45 %',
    input: z.strictObject({ nu: z.number().positive().nullable().default(null) }),
    output: z.object({ k: z.number() }),
    run: ({ nu }) => ({ k: coverageFactor(nu ?? Infinity) }),
    example: { nu: 4 },
  }),
  calculation({
    name: 'uncertainty.generator',
    title: 'Seeded random numbers',
    source: 'xoshiro128**, seeded by SplitMix64; Box-Muller',
    input: z.strictObject({
      seed: z.int().min(0),
      n: z.int().min(1).max(1000).default(4),
      kind: z.enum(['u32', 'uniform', 'normal']).default('u32'),
    }),
    output: z.object({ values: z.array(z.number()) }),
    run: ({ seed, n, kind }) => {
      const g = new Generator(seed)
      return { values: Array.from({ length: n }, () => g[kind]()) }
    },
    example: { seed: 20_317 },
  }),
]
