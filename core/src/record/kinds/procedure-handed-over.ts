import { procedureOf } from '../../procedure/catalogue.ts'
import { HandedOver } from '../../procedure/events.ts'
import { defineKind } from './kind.ts'

export const procedureHandedOver = defineKind({
  type: 'procedure.handedOver',
  of: 'procedure',
  payload: HandedOver.shape.payload,
  title: 'Went on by another procedure',
  says: (p) =>
    `The work goes on by ${procedureOf(p.to)?.title ?? 'another procedure'}: the loop stays as it is, the operators need not be called again.`,
})
