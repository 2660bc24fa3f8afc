import { z } from 'zod'
import { DriftRow } from '../drift.ts'
import { PastAnswer, PastRequest } from '../past.ts'
import { PlantProof } from '../plant-log.ts'
import { plant } from './addresses.ts'
import { EVERYONE, OVERSEERS, WORKERS, type Endpoint } from './endpoint.ts'

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
    says: 'Proof of the whole plant: every record, every row that follows from one, every signature, and the tree over all',
    allow: OVERSEERS,
    answer: PlantProof,
  },
} as const satisfies Readonly<Record<string, Endpoint>>
