import { readEquipment } from '@calm/core/verify/equipment-spec'
import { z } from 'zod'

export const NewEquipment = z
  .strictObject({
    id: z.uuid(),
    name: z.string().trim().min(1, 'Give the instrument a name.').max(80),
    serial: z.string().trim().max(60),
    range: z.string().trim().max(120),
    /** Expanded uncertainty (k = 2) as the certificate states it, in words. */
    uncertainty: z.string().trim().max(120),
    /** How far it may have moved since the certificate. */
    drift: z.string().trim().max(80).default(''),
    /** Smallest step it shows. */
    resolution: z.string().trim().max(80).default(''),
    certificate: z.string().trim().max(60),
    certifiedOn: z.iso.date('Write the date as 2026-11-23.'),
    dueOn: z.iso.date('Write the date as 2026-11-23.'),
  })
  .refine((e) => e.dueOn > e.certifiedOn, {
    path: ['dueOn'],
    message: 'The certificate ends before it begins. Check both dates.',
  })
  .superRefine((e, ctx) => {
    const read = readEquipment(e)
    if (read.kind === 'refused') ctx.addIssue({ code: 'custom', path: [read.field], message: read.says })
  })
export type NewEquipment = z.output<typeof NewEquipment>

export const Equipment = z.object({ ...NewEquipment.shape, valid: z.boolean() })
export type Equipment = z.output<typeof Equipment>
