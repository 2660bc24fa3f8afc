import { z } from 'zod'
import { OwnParts } from '@calm/core/part/own-part'
import { TakeOwnParts } from '../own-parts.ts'
import { ownParts } from './addresses.ts'
import { EVERYONE, WORKERS, type Endpoint } from './endpoint.ts'

export const ownPartsApi = {
  [ownParts.list]: {
    says: 'Parts of the plant’s own, typed from their nameplates',
    allow: EVERYONE,
    answer: OwnParts,
  },
  [ownParts.take]: {
    says: 'Add parts of the plant’s own, or replace those of the same name',
    allow: WORKERS,
    body: TakeOwnParts,
    answer: OwnParts,
  },
  [ownParts.letGo]: {
    says: 'Take a part out of the plant’s own; wirings that have it keep it',
    allow: WORKERS,
    params: z.object({ title: z.string().max(60) }),
    answer: OwnParts,
  },
} as const satisfies Readonly<Record<string, Endpoint>>
