import { StepDone } from '../../procedure/events.ts'
import { defineKind } from './kind.ts'

export const procedureStep = defineKind({
  type: 'procedure.step',
  of: 'procedure',
  payload: StepDone.shape.payload,
  title: 'Step done',
  says: (p) => (p.note === '' ? 'A step was done.' : p.note),
})
