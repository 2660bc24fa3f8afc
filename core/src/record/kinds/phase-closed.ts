import { z } from 'zod'
import { refused } from '../../refused.ts'
import { readings } from '../readings.ts'
import { Phase, PHASE_WORDS } from './reading-values.ts'
import { defineRunKind } from './verification-kind.ts'

const Payload = z.strictObject({ phase: Phase })

export const phaseClosed = defineRunKind({
  type: 'phase.closed',
  payload: Payload,
  title: 'Readings closed',
  says: (p) => `The ${PHASE_WORDS[p.phase]} readings were closed.`,
  change: (run, { payload: { phase } }) => {
    const open = phase === 'asFound' ? run.state === 'asFound' : run.state === 'asLeft'
    if (!open) return refused(`There is no open ${phase === 'asFound' ? 'as-found' : 'as-left'} to close.`)
    if (readings(run, phase).every((r) => r.applied === null))
      return refused('Nothing has been read yet. Type at least one applied value and what the loop read.')
    return { state: phase === 'asFound' ? 'adjust' : 'ready' }
  },
})
