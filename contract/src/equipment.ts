import { readEquipment } from '@calm/core/verify/equipment-spec'
import { z } from 'zod'
import { NotePictures } from './notes.ts'

const words = {
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
}
type Words = z.output<z.ZodObject<typeof words>>
const lasts = (e: Words) => e.dueOn > e.certifiedOn
const LASTS = { path: ['dueOn'], message: 'The certificate ends before it begins. Check both dates.' }
const readable = (e: Words, ctx: z.RefinementCtx) => {
  const read = readEquipment(e)
  if (read.kind === 'refused') ctx.addIssue({ code: 'custom', path: [read.field], message: read.says })
}

export const NewEquipment = z
  .strictObject({ id: z.uuid(), ...words })
  .refine(lasts, LASTS)
  .superRefine(readable)
export type NewEquipment = z.output<typeof NewEquipment>
const reason = z.string().trim().min(1, 'Say why: it stands in the log.').max(300, 'At most 300 characters.')
/** A new certificate, or what was wrong about an instrument; what stood there before is kept. */
export const ChangeEquipment = z
  .strictObject({ ...words, reason })
  .refine(lasts, LASTS)
  .superRefine(readable)
export type ChangeEquipment = z.output<typeof ChangeEquipment>
export const RetireEquipment = z.strictObject({ retired: z.boolean(), reason })
/** What the register once had of an instrument, and who entered it when. */
export const EquipmentPast = z.object({
  ...words,
  at: z.string(),
  byName: z.string(),
  reason: z.string(),
})
export type EquipmentPast = z.output<typeof EquipmentPast>

/** Photographs of an instrument: its plate, what is damaged, how it is connected. */
export const NewInstrumentPictures = z.strictObject({
  shows: z.string().trim().max(200, 'At most 200 characters.').default(''),
  pictures: NotePictures.min(1, 'Add a picture.'),
})
export const InstrumentPictures = z.object({
  shows: z.string(),
  at: z.string(),
  byName: z.string(),
  /** By their SHA-256. */
  pictures: z.array(z.string()),
})
export type InstrumentPictures = z.output<typeof InstrumentPictures>

export const Equipment = z.object({
  ...NewEquipment.shape,
  valid: z.boolean(),
  /** Used for nothing any more; what it measured stays. */
  retired: z.boolean(),
})
export type Equipment = z.output<typeof Equipment>
