import { TakenOver } from '../../procedure/events.ts'
import { defineKind } from './kind.ts'

export const procedureTakenOver = defineKind({
  type: 'procedure.takenOver',
  of: 'procedure',
  payload: TakenOver.shape.payload,
  title: 'Taken over',
  says: () => 'Somebody else took it over.',
})
