import { calculationNamed, CATALOGUE } from '@calm/core/catalogue'
import { calculations } from '@calm/contract/api/addresses'
import { bind, type Bound } from '../http/endpoint.ts'
import { HttpProblem, notFound } from '../http/problems.ts'
import type { Pool } from '../work/pool.ts'
import { resultOf } from '../work/result.ts'
import { outOfReason } from './out-of-reason.ts'
import { calculate } from './work.ts'

export const calcHandlers = (pool: Pool): Bound[] => [
  bind(calculations.list, () =>
    CATALOGUE.map(({ name, title, source, example }) => ({ name, title, source, example })),
  ),
  bind(calculations.compute, async ({ params, body, gone }) => {
    if (!calculationNamed(params.name)) throw notFound('calculation')
    const told = resultOf(
      await pool.run(calculate, { calculation: params.name, input: body }, { signal: gone }),
    ) ?? { kind: 'refused' as const, problems: [outOfReason(body)] }
    if (told.kind === 'refused')
      throw new HttpProblem(
        'wrong-values',
        'Some values cannot be used.',
        told.problems.map(({ where, says, code }) => ({ path: where, says, code })),
      )
    return told.result
  }),
]
