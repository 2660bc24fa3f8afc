import { ProofOfEvent } from '@calm/contract/plant-log'
import { PlantRules } from '@calm/contract/settings'
import { z } from 'zod'
import type { CertificateData } from '../reports/certificate-data.ts'

const text = z.string().max(2_000)
/**
 * What stands on a certificate besides the record: the plant's forms and letterhead, its register of that day, its
 * tree. Lies beside each certificate of a package, so that the certificate is printed again there and compared.
 */
export const PrintedWith = z.strictObject({
  printedAt: z.iso.datetime(),
  stationery: z.strictObject({
    paper: PlantRules.shape.paper,
    dates: PlantRules.shape.dates,
    sign: PlantRules.shape.decimalSign,
    letterhead: PlantRules.shape.letterhead,
    logo: z.string().max(2_000_000).nullable(),
  }),
  signaturesAsked: z.int().min(0).max(9),
  equipment: z
    .array(
      z.object({
        id: z.uuid(),
        name: text,
        serial: text,
        range: text,
        uncertainty: text,
        drift: text,
        resolution: text,
        certificate: text,
        certifiedOn: text,
        dueOn: text,
      }),
    )
    .max(100),
  proof: ProofOfEvent.nullable(),
})
export type PrintedWith = z.output<typeof PrintedWith>

/** Out of what a certificate is printed from; what the record tells is left out. */
export const printedWith = (data: CertificateData, printedAt: string): PrintedWith =>
  PrintedWith.parse({
    printedAt,
    stationery: data.stationery,
    signaturesAsked: data.signaturesAsked,
    equipment: data.equipment,
    proof: data.proof,
  })
