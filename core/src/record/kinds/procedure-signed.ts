import { ProcedureSigned } from '../../procedure/events.ts'
import { saySigned } from '../../signing/signing.ts'
import { defineKind } from './kind.ts'

export const procedureSigned = defineKind({
  type: 'procedure.signed',
  of: 'procedure',
  payload: ProcedureSigned.shape.payload,
  title: 'Signed',
  says: saySigned,
})
