import { z } from 'zod'
import { refused } from '../../refused.ts'
import { maybeSamePerson } from '../authors.ts'
import type { Signature } from '../run.ts'
import { defineRunKind } from './verification-kind.ts'

const Payload = z.strictObject({ as: z.enum(['technician', 'reviewer']), statement: z.string().max(300) })

export const signed = defineRunKind({
  type: 'signed',
  payload: Payload,
  title: 'Signed',
  says: (p) => `Signed as ${p.as}: ${p.statement}`,
  change: (run, { payload, by, at }) => {
    const signature: Signature = { as: payload.as, by, at, statement: payload.statement }
    const signatures = [...run.signatures, signature]
    if (payload.as === 'technician') {
      if (run.state === 'ready') return { state: 'signed', signatures }
      return refused(
        run.signatures.length > 0
          ? 'This record is signed already. One technician signs; another person reviews it.'
          : 'Close as-left before signing, or say that nothing was adjusted.',
      )
    }
    if (run.state === 'countersigned') return refused('This record is signed and reviewed already.')
    if (run.state !== 'signed') return refused('A reviewer signs after the technician has signed.')
    if (run.signatures.some((s) => maybeSamePerson(s.by, by)))
      return refused('The record needs a second person: who signed it cannot review it.')
    return { state: 'countersigned', signatures }
  },
})
