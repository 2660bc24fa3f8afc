import { AbortAsked } from '../../procedure/events.ts'
import { defineKind } from './kind.ts'

export const procedureAbortAsked = defineKind({
  type: 'procedure.abortAsked',
  of: 'procedure',
  payload: AbortAsked.shape.payload,
  title: 'Stopped',
  says: (p) => `The way back was asked for: ${p.reason}`,
})
