import { procedureOf } from '../../procedure/catalogue.ts'
import { Started } from '../../procedure/events.ts'
import { defineProcedureKind } from './procedure-kind.ts'

export const procedureStarted = defineProcedureKind({
  type: 'procedure.started',
  payload: Started.shape.payload,
  title: 'Procedure begun',
  says: (p) => `${procedureOf(p.procedure)?.title ?? p.procedure} was begun on revision ${p.revision}.`,
  body: (payload) => ({ type: 'procedure.started', payload }),
})
