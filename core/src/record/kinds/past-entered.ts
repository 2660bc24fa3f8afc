import { z } from 'zod'
import { defineKind } from './kind.ts'

const Errors = z
  .array(z.tuple([z.number().min(-20).max(120), z.number().min(-1000).max(1000)]).readonly())
  .max(61)
  .readonly()

/** A verification from before: its errors by level, % of span. */
export const PastCertificate = z.strictObject({
  on: z.iso.date(),
  number: z.string().trim().max(60).default(''),
  /** Who did it: a person or a laboratory. */
  by: z.string().trim().max(120).default(''),
  found: Errors.refine((e) => e.length > 0, 'At least one point as found.'),
  /** Null where nothing was adjusted: as left is as found. */
  left: Errors.nullable(),
})
export type PastCertificate = z.output<typeof PastCertificate>

/** Certificates from before this record began, entered later and marked as such; the same day and number again replaces. */
export const pastEntered = defineKind({
  type: 'past.entered',
  of: 'loop',
  payload: z.strictObject({
    /** The loop's revision whose ranges they were reckoned by. */
    revision: z.int().min(1),
    /** Allowed error as it is taken for them, % of span. */
    tolerance_pct: z.number().positive().max(100),
    /** The file, or that they were typed. */
    source: z.string().trim().max(200),
    certificates: z.array(PastCertificate).min(1).max(1000),
  }),
  title: 'Earlier certificates',
  says: (p) => {
    const days = p.certificates.map((c) => c.on).sort()
    return `${p.certificates.length} ${p.certificates.length === 1 ? 'certificate' : 'certificates'} from ${days[0] ?? ''} to ${days.at(-1) ?? ''}, entered later${p.source === '' ? '' : `, from ${p.source}`}.`
  },
})
export type PastEntered = z.output<typeof pastEntered.payload>
