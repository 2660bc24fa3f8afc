import { z } from 'zod'
import { defineKind } from './kind.ts'

const Payload = z.strictObject({ as: z.enum(['technician', 'reviewer']), statement: z.string().max(300) })

export const signed = defineKind({
  type: 'signed',
  of: 'verification',
  payload: Payload,
  title: 'Signed',
  says: (p) => `Signed as ${p.as}: ${p.statement}`,
})
