import { z } from 'zod'
import { KeptComparison, NewComparison } from '../comparisons.ts'
import { InputVerification, InputVerified, LiveInput } from '../inputs.ts'
import { comparisons, inputs } from './addresses.ts'
import { EVERYONE, WORKERS, type Endpoint } from './endpoint.ts'
import { ofLoop } from './of-loop.ts'

const LONGEST_S = 4 * 3600

export const comparisonsApi = {
  [comparisons.list]: {
    says: 'Comparisons with a reference, the baseline first',
    allow: EVERYONE,
    params: ofLoop,
    answer: z.array(KeptComparison),
    problems: ['not-found'],
  },
  [comparisons.keep]: {
    says: 'Compare readings with a reference and keep it; sending twice is harmless',
    allow: WORKERS,
    params: ofLoop,
    body: NewComparison,
    answer: KeptComparison,
    status: 201,
    problems: ['not-found', 'conflict'],
  },
} as const satisfies Readonly<Record<string, Endpoint>>

export const inputsApi = {
  [inputs.look]: {
    says: 'A discrete input as it is now, with its raw edges',
    allow: EVERYONE,
    params: ofLoop,
    query: z.object({ seconds: z.coerce.number().min(1).max(LONGEST_S).default(60) }),
    answer: LiveInput,
    problems: ['not-found', 'conflict'],
  },
  [inputs.verify]: {
    says: 'Judge and record what was looked at of an input; sending twice is harmless',
    allow: WORKERS,
    params: ofLoop,
    body: InputVerification,
    answer: InputVerified,
    status: 201,
    problems: ['not-found', 'conflict'],
  },
} as const satisfies Readonly<Record<string, Endpoint>>
