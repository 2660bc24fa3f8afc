import { z } from 'zod'
import { refused } from '../../refused.ts'
import { defineRunKind, isSigned } from './verification-kind.ts'

const Payload = z.strictObject({ equipment: z.array(z.uuid()).min(1, 'Name an instrument.').max(10) })

/** Instruments that were used and not named at the beginning. */
export const equipmentNamed = defineRunKind({
  type: 'equipment.named',
  payload: Payload,
  title: 'Instruments named',
  says: (p) =>
    `${p.equipment.length === 1 ? 'One instrument was' : `${p.equipment.length} instruments were`} named afterwards.`,
  change: (run, { payload }) =>
    isSigned(run)
      ? refused('The record is signed: its instruments stand as they are.')
      : { equipment: [...new Set([...run.equipment, ...payload.equipment])] },
})
