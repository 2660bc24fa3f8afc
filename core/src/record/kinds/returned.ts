import { z } from 'zod'
import { defineKind } from './kind.ts'

const Payload = z.strictObject({ reason: z.string().trim().min(1, 'Say why it goes back.').max(500) })

export const returned = defineKind({
  type: 'returned',
  of: 'verification',
  payload: Payload,
  title: 'Returned',
  says: (p) => `Sent back: ${p.reason}`,
})
