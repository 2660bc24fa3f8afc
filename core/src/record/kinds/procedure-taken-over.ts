import { TakenOver } from '../../procedure/events.ts'
import { defineProcedureKind } from './procedure-kind.ts'

export const procedureTakenOver = defineProcedureKind({
  type: 'procedure.takenOver',
  payload: TakenOver.shape.payload,
  title: 'Taken over',
  says: () => 'Somebody else went on with it.',
  body: (payload) => ({ type: 'procedure.takenOver', payload }),
})
