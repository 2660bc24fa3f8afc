import { calculationNamed, CATALOGUE } from '@calm/core/catalogue'
import { z } from 'zod'
import { endpoint, EVERYONE, type Endpoint } from '../http/endpoint.ts'
import { busy, HttpProblem, notFound } from '../http/problems.ts'
import type { Pool } from '../work/pool.ts'
import { outOfReason } from './out-of-reason.ts'

export const calcRoutes = (pool: Pool): Endpoint[] => [
  endpoint({
    method: 'get',
    path: '/api/calc',
    summary: 'Every calculation by name',
    allow: EVERYONE,
    response: z.array(
      z.object({ name: z.string(), title: z.string(), source: z.string(), example: z.unknown() }),
    ),
    handle: () => CATALOGUE.map(({ name, title, source, example }) => ({ name, title, source, example })),
  }),
  endpoint({
    method: 'post',
    path: '/api/calc/:name',
    summary: 'Compute',
    allow: EVERYONE,
    params: z.object({ name: z.string().max(80) }),
    body: z.unknown(),
    response: z.unknown(),
    async handle({ params, body }) {
      if (!calculationNamed(params.name)) throw notFound('calculation')
      const outcome = await pool.run({ kind: 'calculate', name: params.name, input: body })
      if (outcome.kind === 'busy') throw busy()
      const told =
        outcome.kind === 'done' ? outcome.result : { kind: 'refused' as const, problems: [outOfReason(body)] }
      if (told.kind === 'refused')
        throw new HttpProblem(
          422,
          'wrong-values',
          'Some values cannot be used.',
          told.problems.map(({ where, says, code }) => ({ path: where, says, code })),
        )
      return told.result
    },
  }),
]
