import type { LoopDocument } from '@calm/core/loop/document'
import type { Work } from '../work/work.ts'
import type { CertificateData } from './certificate-data.ts'

const TIME_MS = 30_000
const MEMORY_MB = 256

/** A certificate as PDF. */
export const printCertificate: Work<CertificateData, Uint8Array> = {
  name: 'print-certificate',
  time_ms: TIME_MS,
  memory_MB: MEMORY_MB,
}

/** A pocket card as PDF. */
export const printPocketCard: Work<
  { readonly document: LoopDocument; readonly revision: number; readonly levels: readonly number[] },
  Uint8Array
> = { name: 'print-pocket-card', time_ms: TIME_MS, memory_MB: MEMORY_MB }
