import { z } from 'zod'
import { Phase, PHASE_WORDS } from './reading-values.ts'
import { defineKind } from './kind.ts'

const Payload = z.strictObject({ phase: Phase })

export const phaseClosed = defineKind({
  type: 'phase.closed',
  of: 'verification',
  payload: Payload,
  title: 'Readings closed',
  says: (p) => `The ${PHASE_WORDS[p.phase]} readings were closed.`,
})
