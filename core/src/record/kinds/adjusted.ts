import { z } from 'zod'
import { defineKind } from './kind.ts'

const Payload = z.strictObject({ note: z.string().trim().min(1, 'Say what was adjusted.').max(500) })

export const adjusted = defineKind({
  type: 'adjusted',
  of: 'verification',
  payload: Payload,
  title: 'Adjusted',
  says: (p) => p.note,
})
