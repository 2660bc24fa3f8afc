import { z } from 'zod'
import { refused } from '../../refused.ts'
import { maybeSamePerson } from '../authors.ts'
import { defineRunKind } from './verification-kind.ts'

const Payload = z.strictObject({ reason: z.string().trim().min(1, 'Say why it goes back.').max(500) })

export const returned = defineRunKind({
  type: 'returned',
  payload: Payload,
  title: 'Returned',
  says: (p) => `Sent back: ${p.reason}`,
  change: (run, { payload, by, at }) => {
    if (run.state !== 'signed')
      return refused('Only a signed record that is not yet reviewed can be returned.')
    if (run.signatures.some((s) => maybeSamePerson(s.by, by)))
      return refused('The record needs a second person: who signed it cannot review it.')
    // The technician's signature stood for readings that now may change: it is void, the event remains.
    return {
      state: run.leftAsFound ? 'adjust' : 'asLeft',
      leftAsFound: false,
      signatures: [],
      returned: [...run.returned, { reason: payload.reason, by, at }],
    }
  },
})
