import { z } from 'zod'
import { calculation } from '../calculation.ts'
import { Chain, computeChain, stagesOfChain } from '../signal/chain.ts'
import { shownValue } from '../signal/path.ts'
import { guessFamily } from '../family/guess.ts'
import { familyOf } from '../family/index.ts'
import { auditPath } from './audit.ts'
import { predictedErrors } from './predicted-errors.ts'

export const scaleCalculations = [
  calculation({
    name: 'scale.audit',
    title: 'Check ranges, units and functions against each other',
    source: 'Static audit of the signal path, ranges compared to 1e-4 of span',
    input: z.strictObject({
      chain: Chain,
      type: z.string().default(''),
      tolerance_pct: z
        .number()
        .positive()
        .max(100)
        .optional()
        .describe('allowed error of the loop, % of span'),
    }),
    output: z.object({
      codes: z.array(z.string()),
      findings: z.array(z.looseObject({ code: z.string() })),
      errors: z.record(z.string(), z.array(z.number())).describe('% of span at 0, 25, 50, 75, 100 %'),
    }),
    run: ({ chain, type, tolerance_pct }) => {
      const stages = stagesOfChain(chain)
      const needsRoot = familyOf(guessFamily(type, '').family)?.needsRoot === true
      const findings = auditPath(
        stages,
        needsRoot,
        tolerance_pct === undefined ? null : { mode: 'max', pctSpan: tolerance_pct, pctReading: 0, abs: 0 },
      )
      const root = needsRoot || chain.transfer === 'sqrt'
      return {
        codes: findings.map((f) => f.code),
        findings: findings.map((f) => ({ ...f })),
        errors: Object.fromEntries(predictedErrors(stages, root).map((p) => [p.at, [...p.errors_pct]])),
      }
    },
    example: { chain: { lrv: 0, urv: 6, inUnit: 'bar', lo: 0, hi: 600, unit: 'kPa' }, type: 'pressure' },
  }),
  calculation({
    name: 'scale.pocketCard',
    title: 'All stations at chosen points',
    source: 'The signal path computed forward at each point',
    input: z.strictObject({
      chain: Chain,
      levels: z.array(z.number().min(-10).max(110)).min(1).max(50).default([0, 25, 50, 75, 100]),
    }),
    output: z.object({ rows: z.array(z.record(z.string(), z.number().nullable())) }),
    run: ({ chain, levels }) => ({
      rows: levels.map((level) => {
        const values = computeChain(chain, 'IN', chain.lrv + ((chain.urv - chain.lrv) * level) / 100) ?? {}
        return {
          level,
          ...Object.fromEntries(Object.entries(values).map(([id, v]) => [id, shownValue(v)])),
        }
      }),
    }),
    example: { chain: { lrv: 0, urv: 80, inUnit: 'bar', lo: 0, hi: 80, unit: 'bar' } },
  }),
]
