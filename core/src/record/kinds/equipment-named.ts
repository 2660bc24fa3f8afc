import { z } from 'zod'
import { defineKind } from './kind.ts'

const Payload = z.strictObject({ equipment: z.array(z.uuid()).min(1, 'Name an instrument.').max(10) })

/** Instruments that were used and not named at the beginning. */
export const equipmentNamed = defineKind({
  type: 'equipment.named',
  of: 'verification',
  payload: Payload,
  title: 'Instruments named',
  says: (p) =>
    `${p.equipment.length === 1 ? 'One instrument was' : `${p.equipment.length} instruments were`} named afterwards.`,
})
