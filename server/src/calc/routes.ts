import { answer } from '@calm/core/calculation'
import { calculationNamed, CATALOGUE } from '@calm/core/catalogue'
import { z } from 'zod'
import { endpoint, EVERYONE, type Endpoint } from '../http/endpoint.ts'
import { HttpProblem, notFound } from '../http/problems.ts'

export const calcRoutes = (): Endpoint[] => [
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
    handle({ params, body }) {
      const calculation = calculationNamed(params.name)
      if (!calculation) throw notFound('calculation')
      const told = answer(calculation, body)
      if (told.kind === 'refused')
        throw new HttpProblem(422, 'wrong-values', 'Some values cannot be used.', told.problems)
      return told.result
    },
  }),
]
