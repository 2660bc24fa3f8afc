import { z } from 'zod'
import { refused } from '../../refused.ts'
import { defineRunKind } from './verification-kind.ts'

const Payload = z.strictObject({ note: z.string().trim().min(1, 'Say what was adjusted.').max(500) })

export const adjusted = defineRunKind({
  type: 'adjusted',
  payload: Payload,
  title: 'Adjusted',
  says: (p) => p.note,
  change: (run, { payload, by, at }) => {
    if (run.state === 'asFound') return refused('Record and close as-found before anything is adjusted.')
    if (run.state !== 'adjust' && run.state !== 'asLeft') return refused('The record is closed.')
    return { adjustments: [...run.adjustments, { note: payload.note, by, at }] }
  },
})
