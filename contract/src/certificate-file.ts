import { z } from 'zod'
import { ProofOfEvent } from './plant-log.ts'

const Range = z.strictObject({ low: z.number(), high: z.number(), unit: z.string() })
const Value = z.strictObject({ value: z.number(), asTyped: z.string() }).nullable()
const Point = z.strictObject({
  point: z.int(),
  direction: z.enum(['up', 'down']),
  applied: Value,
  transmitter: Value,
  current_mA: Value,
  controller: Value,
  error_pctSpan: z.number().nullable(),
  tolerance_pctSpan: z.number().nullable(),
})
const Phase = z.strictObject({ says: z.string(), points: z.array(Point) }).nullable()

/** What stands on a certificate, as data: embedded in its PDF. Numbers have a decimal point, units their symbols. */
export const CertificateFile = z.strictObject({
  format: z.literal('calm-loop-certificate'),
  version: z.literal(1),
  number: z.string(),
  plant: z.strictObject({ name: z.string(), address: z.string(), country: z.string() }),
  loop: z.strictObject({ tag: z.string(), service: z.string(), area: z.string(), type: z.string() }),
  device: z.strictObject({ maker: z.string(), model: z.string(), serial: z.string() }),
  circumstances: z.strictObject({
    order: z.string(),
    place: z.string(),
    ambient: z.string(),
    procedure: z.string(),
  }),
  begun: z.string(),
  by: z.string(),
  ranges: z.strictObject({ input: Range, output: Range }),
  plan: z.string(),
  appliedAs: z.string(),
  tolerance: z.string(),
  rule: z.string(),
  overall: z.strictObject({
    verdict: z.string().nullable(),
    says: z.string(),
    nextDue: z.string().nullable(),
  }),
  asFound: Phase,
  adjustments: z.array(z.strictObject({ note: z.string(), by: z.string(), at: z.string() })),
  asLeft: Phase,
  uncertainty_pctSpan: z.number().nullable(),
  instruments: z.array(
    z.strictObject({
      name: z.string(),
      serial: z.string(),
      uncertainty: z.string(),
      certificate: z.string(),
      certifiedOn: z.string(),
      dueOn: z.string(),
    }),
  ),
  signatures: z.array(
    z.strictObject({ as: z.string(), by: z.string(), at: z.string(), statement: z.string() }),
  ),
  record: z.strictObject({
    run: z.string(),
    seq: z.int(),
    sha256: z.string(),
    /** That it stands in the plant's record; null where it was not sealed yet. */
    proof: ProofOfEvent.nullable(),
  }),
})
export type CertificateFile = z.output<typeof CertificateFile>
