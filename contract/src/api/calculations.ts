import { z } from 'zod'
import { calculations } from './addresses.ts'
import { EVERYONE, type Endpoint } from './endpoint.ts'

export const calculationsApi = {
  [calculations.list]: {
    says: 'Every calculation by name',
    allow: EVERYONE,
    answer: z.array(
      z.object({ name: z.string(), title: z.string(), source: z.string(), example: z.unknown() }),
    ),
  },
  /** Each calculation has its own schemas in the catalogue: the description lists them one by one. */
  [calculations.compute]: {
    says: 'Compute',
    allow: EVERYONE,
    params: z.object({ name: z.string().max(80) }),
    body: z.unknown(),
    /** A log comes as its samples: twenty thousand are half a megabyte. */
    largest: '5mb',
    answer: z.unknown(),
    problems: ['not-found'],
  },
} as const satisfies Readonly<Record<string, Endpoint>>
