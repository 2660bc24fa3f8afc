import { StepDone } from '../../procedure/events.ts'
import { defineProcedureKind } from './procedure-kind.ts'

export const procedureStep = defineProcedureKind({
  type: 'procedure.step',
  payload: StepDone.shape.payload,
  title: 'Step done',
  says: (p) => (p.note === '' ? `Step “${p.step}” was done.` : `Step “${p.step}”: ${p.note}`),
  body: (payload) => ({ type: 'procedure.step', payload }),
})
