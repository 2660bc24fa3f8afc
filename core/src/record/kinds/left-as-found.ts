import { z } from 'zod'
import { refused } from '../../refused.ts'
import { defineRunKind } from './verification-kind.ts'

const Payload = z.strictObject({})

/** Nothing was adjusted: the as-found readings are the as-left ones, by reference. */
export const leftAsFound = defineRunKind({
  type: 'left.asFound',
  payload: Payload,
  title: 'Left as found',
  says: () => 'Nothing was adjusted.',
  change: (run) => {
    if (run.state !== 'adjust') return refused('Only after as-found is closed and before as-left is taken.')
    if (run.adjustments.length > 0)
      return refused('Something was adjusted, so as-left has to be read; it cannot refer to as-found.')
    return { state: 'ready', leftAsFound: true }
  },
})
