import { AbortAsked } from '../../procedure/events.ts'
import { defineProcedureKind } from './procedure-kind.ts'

export const procedureAbortAsked = defineProcedureKind({
  type: 'procedure.abortAsked',
  payload: AbortAsked.shape.payload,
  title: 'Stopped',
  says: (p) => `The way back was asked for: ${p.reason}`,
  body: (payload) => ({ type: 'procedure.abortAsked', payload }),
})
