import { z } from 'zod'
import { Grown, HeadShown, LogFilter, LogPage, SignedHead } from '../plant-log.ts'
import { plantLog } from './addresses.ts'
import { OVERSEERS, type Endpoint } from './endpoint.ts'

export const plantLogApi = {
  [plantLog.page]: {
    says: 'Everything that happened outside the loops, the newest first',
    allow: OVERSEERS,
    query: LogFilter,
    answer: LogPage,
  },
  [plantLog.table]: { says: 'The same as CSV', allow: OVERSEERS, query: LogFilter, answer: 'text/csv' },
  [plantLog.review]: {
    says: 'Note that the log was looked through up to an entry',
    allow: OVERSEERS,
    body: z.strictObject({ position: z.int().min(1) }),
    answer: LogPage.shape.reviewed,
    problems: ['not-found'],
  },
  [plantLog.head]: {
    says: 'How far the record has come, with the plant’s signature',
    allow: OVERSEERS,
    answer: HeadShown,
  },
  [plantLog.heads]: {
    says: 'Every head, one a line, to be kept where this database is not',
    allow: OVERSEERS,
    answer: 'application/jsonl',
  },
  [plantLog.grown]: {
    says: 'Whether the record of now grew out of a head that was kept elsewhere, with the proof of it',
    allow: OVERSEERS,
    body: SignedHead,
    answer: Grown,
  },
} as const satisfies Readonly<Record<string, Endpoint>>
