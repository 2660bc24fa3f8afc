import { procedureOf } from '../../procedure/catalogue.ts'
import { Started } from '../../procedure/events.ts'
import { defineKind } from './kind.ts'

export const procedureStarted = defineKind({
  type: 'procedure.started',
  of: 'procedure',
  payload: Started.shape.payload,
  title: 'Procedure begun',
  says: (p) =>
    `${procedureOf(p.procedure)?.title ?? 'A procedure'} was begun on revision ${p.revision}${p.withDevice ? ', with the stand-in: its readings are simulated' : ''}.${p.notInServiceBy ? ` Not in service, says ${p.notInServiceBy}.` : ''}${p.after ? ' It goes on where the procedure before left the loop: nobody was called again.' : ''}${p.withoutInstrument ? ` Done without an instrument that covers it: ${p.withoutInstrument}` : ''}`,
})
