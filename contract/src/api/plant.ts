import { z } from 'zod'
import { DriftRow } from '../drift.ts'
import { ChainProofSchema } from '../events.ts'
import { PastAnswer, PastRequest } from '../past.ts'
import { plant } from './addresses.ts'
import { EVERYONE, WORKERS, type Endpoint } from './endpoint.ts'

export const plantApi = {
  [plant.drift]: {
    says: 'Who drifts, those that leave their tolerance first at the top',
    allow: EVERYONE,
    answer: z.array(DriftRow),
  },
  [plant.enterPast]: {
    says: 'Earlier certificates into the records of their loops; looked at only, or kept. Sending twice is harmless',
    allow: WORKERS,
    body: PastRequest,
    largest: '5mb',
    answer: PastAnswer,
    problems: ['conflict'],
  },
  [plant.proof]: {
    says: 'Proof of every record of the plant',
    allow: ['reviewer'],
    answer: z.object({
      loops: z.int(),
      broken: z.array(z.object({ tag: z.string(), proof: ChainProofSchema })),
    }),
  },
} as const satisfies Readonly<Record<string, Endpoint>>
